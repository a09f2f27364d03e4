import type { Project, Shot } from '../document';
import { correctionAt, layerMove, layerSecond, perspectiveAt, sceneOf } from '../evaluate';
import { type Key, keyAt, type Layer, layerFrames, layerNumber, type Mask, maskNumberAt, type Scene } from '../layer';
import { simplify, type Track } from '../motion';
import { type Affine, applied, inverted, type Point, through, undone } from '../picture';
import { fillFrame } from '../sources';
import { beatOfFrame } from '../time';
import type { Degrees, Frames, Percent, Pixels, Seconds } from '../units';

/** Where a place is at seconds of a take, ascending: pixels of its picture as filmed, its turn and size against where it was marked. */
export interface Followed {
  times: readonly Seconds[];
  points: readonly { x: Pixels; y: Pixels; turn: Degrees; scale: number }[];
}

/** A place with its turn and size. */
interface Pose extends Point {
  turn: Degrees;
  scale: number;
}

/** What of it is followed beside its place. */
export interface FollowHow {
  turn: boolean;
  scale: boolean;
}

/** Where a held place comes to lie: where it is on a film frame, in the frame's middle, or along its own way, evened over so many seconds. */
export type HoldAt = { kind: 'stay'; frame: Frames } | { kind: 'middle' } | { kind: 'smooth'; seconds: Seconds };

/** How far keys may stray from what was followed: per cent of the frame, degrees, and per cent of size. */
const STRAY = 0.02;

/** The pose at a second, between two frames linear; at the ends, as at the end. */
function poseAt({ times, points }: Followed, second: Seconds): Pose {
  const after = times.findIndex((t) => t > second);
  if (after <= 0) return points[after === 0 ? 0 : points.length - 1];
  const [a, b] = [points[after - 1], points[after]];
  const k = (second - times[after - 1]) / (times[after] - times[after - 1]);
  const mix = (pick: (p: Pose) => number) => pick(a) + k * (pick(b) - pick(a));
  return { x: mix((p) => p.x), y: mix((p) => p.y), turn: mix((p) => p.turn), scale: mix((p) => p.scale) };
}

/** How a layer's picture lies at rest at a second: from frame pixels to pixels of the take as it is shown. */
function restMap(
  project: Project,
  shot: Shot,
  layer: Layer,
  second: Seconds,
): { map: Affine; width: Pixels; height: Pixels; pose: (p: Pose) => Pose } {
  const { source } = layer;
  const take = source.kind === 'take' ? project.takes.find((t) => t.id === source.takeId) : undefined;
  const media = project.media.find((m) => m.id === take?.mediaId);
  if (!take || !media) throw new Error('The layer shows no take to follow something in.');
  const { width, height } = media;
  const perspective = perspectiveAt(take.correction, second);
  const move = perspective ? null : correctionAt(take.correction, second);
  const map = fillFrame(project.frame, media, shot.overscan, move);
  const pose = (p: Pose): Pose => {
    if (!perspective) return { ...p, turn: p.turn - (move?.turn ?? 0), scale: p.scale / (move?.scale ?? 1) };
    const [x, y] = through(undone(perspective), p.x - width / 2, p.y - height / 2);
    return { ...p, x: x + width / 2, y: y + height / 2 };
  };
  return { map, width, height, pose };
}

/** Where a followed place lies on the frame at a film frame while the layer is at rest. */
function onRest(project: Project, shot: Shot, scene: Scene, layer: Layer, course: Followed, frame: Frames): Pose {
  const second = layerSecond(project, scene, layer, frame);
  const { map, pose } = restMap(project, shot, layer, second);
  const seen = pose(poseAt(course, second));
  return { ...seen, ...applied(inverted(map), seen) };
}

/** A place of the shot that is this frame and keeps its share of the beat at any tempo. */
const placed = (scene: Scene, frame: Frames) => beatOfFrame(scene.map, frame, scene.rate) - scene.beat;

/** Keys through values of frames, as few as stay close to them. */
function keysOf(scene: Scene, frames: readonly Frames[], values: readonly number[]): Key[] {
  const track: Track = frames.map((frame, i) => ({ frame, value: values[i], easing: 'linear' }));
  return simplify(track, STRAY).map(({ frame, value }) => keyAt(placed(scene, frame), 0, Math.round(1000 * value) / 1000));
}

const framesOf = (scene: Scene, layer: Layer): Frames[] => {
  const [from, end] = layerFrames(scene, layer);
  return Array.from({ length: Math.max(1, end - from) }, (_, i) => from + i);
};

const turned = ({ x, y }: Point, degrees: Degrees, scale: number): Point => {
  const a = (degrees * Math.PI) / 180;
  return { x: scale * (Math.cos(a) * x - Math.sin(a) * y), y: scale * (Math.sin(a) * x + Math.cos(a) * y) };
};

/** Mean of values over `reach` frames to either side of each; at the ends over as many to both sides as there are. */
function evened(values: readonly number[], reach: number): number[] {
  return values.map((_, i) => {
    const half = Math.min(reach, i, values.length - 1 - i);
    let sum = 0;
    for (let k = i - half; k <= i + half; k++) sum += values[k];
    return sum / (2 * half + 1);
  });
}

/** Enlargement beyond which a hold is given up: too little of the picture is left. */
const MOST = 4;

interface Held {
  x: number[];
  y: number[];
  turn: number[];
  scale: number[];
}

/** A layer with a followed place held, and how much it is enlarged so that no edge shows: 100 for not at all, null where that is beyond four times. */
export interface HeldLayer {
  layer: Layer;
  enlarged: Percent | null;
}

/**
 * Holds a followed place of a layer's take: keys of its position, and of its turn and size where they are followed too. `enlarge` makes
 * the layer as much larger as hides every edge; otherwise its size stays. Throws a sentence where the layer shows no take.
 */
export function holdPoint(
  project: Project,
  shot: Shot,
  layer: Layer,
  course: Followed,
  at: HoldAt,
  how: FollowHow,
  enlarge: boolean,
): HeldLayer {
  const scene = sceneOf(project, shot);
  const { width, height } = project.frame;
  const frames = framesOf(scene, layer);
  const rest = frames.map((frame) => onRest(project, shot, scene, layer, course, frame));
  const number = (name: 'scale' | 'turn' | 'pivotX' | 'pivotY', i: number) => layerNumber(scene, layer, name, frames[i]);
  const pivots = frames.map(
    (_, i): Point => ({ x: width * (0.5 + number('pivotX', i) / 100), y: height * (0.5 + number('pivotY', i) / 100) }),
  );
  const seen = frames.map((frame, i): Pose => ({ ...rest[i], ...applied(layerMove(scene, layer, frame, project.frame), rest[i]) }));
  const near = (frame: Frames) => frames.reduce((best, f, i) => (Math.abs(f - frame) < Math.abs(frames[best] - frame) ? i : best), 0);
  const still = at.kind === 'stay' ? near(at.frame) : 0;
  const reach = at.kind === 'smooth' ? Math.round((at.seconds * scene.rate.num) / scene.rate.den) : 0;
  const path = (pick: (p: Pose) => number) => (at.kind === 'smooth' ? evened(seen.map(pick), reach) : seen.map(() => pick(seen[still])));
  const target = { x: path((p) => p.x), y: path((p) => p.y), turn: path((p) => p.turn), scale: path((p) => p.scale) };
  if (at.kind === 'middle') {
    target.x.fill(width / 2);
    target.y.fill(height / 2);
  }
  const held = (by: number): Held => {
    const out: Held = { x: [], y: [], turn: [], scale: [] };
    for (const [i, r] of rest.entries()) {
      const turn = number('turn', i) + (how.turn ? target.turn[i] - r.turn : 0);
      const scale = (number('scale', i) / 100) * by * (how.scale ? target.scale[i] / r.scale : 1);
      const p = pivots[i];
      const to = turned({ x: r.x - p.x, y: r.y - p.y }, turn, scale);
      // The middle of what is enlarged stays where it is.
      const goal = { x: width / 2 + by * (target.x[i] - width / 2), y: height / 2 + by * (target.y[i] - height / 2) };
      const wanted = at.kind === 'middle' ? { x: target.x[i], y: target.y[i] } : goal;
      out.x.push((100 * (wanted.x - p.x - to.x)) / width);
      out.y.push((100 * (wanted.y - p.y - to.y)) / height);
      out.turn.push(turn);
      out.scale.push(100 * scale);
    }
    return out;
  };
  const whole = (by: number) => {
    const now = held(by);
    return frames.every((frame, i) => covers(project, shot, scene, layer, frame, pivots[i], now, i));
  };
  let by = 1;
  let enlarged: Percent | null = 100;
  if (enlarge && !whole(1)) {
    if (!whole(MOST)) enlarged = null;
    else {
      let [low, high] = [1, MOST];
      while (high - low > 5e-4) {
        const middle = (low + high) / 2;
        if (whole(middle)) high = middle;
        else low = middle;
      }
      by = high;
      enlarged = 100 * high;
    }
  }
  const now = held(by);
  const numbers = { ...layer.numbers, x: keysOf(scene, frames, now.x), y: keysOf(scene, frames, now.y) };
  if (how.turn) numbers.turn = keysOf(scene, frames, now.turn);
  if (how.scale || by > 1) numbers.scale = keysOf(scene, frames, now.scale);
  return { layer: { ...layer, numbers }, enlarged };
}

/** Whether a layer that lies as said hides the whole frame. */
function covers(
  project: Project,
  shot: Shot,
  scene: Scene,
  layer: Layer,
  frame: Frames,
  pivot: Point,
  { x, y, turn, scale }: Held,
  i: number,
): boolean {
  const { width, height } = project.frame;
  const { map, width: w, height: h } = restMap(project, shot, layer, layerSecond(project, scene, layer, frame));
  const [mx, my] = [pivot.x + (x[i] / 100) * width, pivot.y + (y[i] / 100) * height];
  return [0, width].every((cx) =>
    [0, height].every((cy) => {
      const back = turned({ x: cx - mx, y: cy - my }, -turn[i], 100 / scale[i]);
      const { x: u, y: v } = applied(map, { x: pivot.x + back.x, y: pivot.y + back.y });
      return u >= -0.5 && v >= -0.5 && u <= w + 0.5 && v <= h + 0.5;
    }),
  );
}

/** How a followed place is seen on each film frame of a stretch; `on` is the layer it is followed in. */
function seenIn(project: Project, shot: Shot, on: Layer, course: Followed, frames: readonly Frames[]): Pose[] {
  const scene = sceneOf(project, shot);
  return frames.map((frame) => {
    const rest = onRest(project, shot, scene, on, course, frame);
    const turn = rest.turn + layerNumber(scene, on, 'turn', frame);
    const scale = (rest.scale * layerNumber(scene, on, 'scale', frame)) / 100;
    return { turn, scale, ...applied(layerMove(scene, on, frame, project.frame), rest) };
  });
}

/**
 * Attaches a layer to a place that is followed in another layer of its shot: from a film frame on which it lies as it is now it goes along
 * with it, by its turn and size too where that is wished.
 */
export function attachLayer(project: Project, shot: Shot, layer: Layer, on: Layer, course: Followed, from: Frames, how: FollowHow): Layer {
  const scene = sceneOf(project, shot);
  const { width, height } = project.frame;
  const frames = framesOf(scene, layer);
  const seen = seenIn(project, shot, on, course, frames);
  const still = frames.reduce((best, f, i) => (Math.abs(f - from) < Math.abs(frames[best] - from) ? i : best), 0);
  const begin = seen[still];
  const lies = layerMove(scene, layer, frames[still], project.frame);
  // It turns and grows about the place itself.
  const pivot = applied(inverted(lies), begin);
  const [turn, scale] = [layerNumber(scene, layer, 'turn', frames[still]), layerNumber(scene, layer, 'scale', frames[still])];
  const still1 = (value: number): Key[] => [keyAt(0, 0, Math.round(1000 * value) / 1000)];
  const numbers: Layer['numbers'] = {
    ...layer.numbers,
    pivotX: still1((100 * pivot.x) / width - 50),
    pivotY: still1((100 * pivot.y) / height - 50),
    x: keysOf(
      scene,
      frames,
      seen.map((p) => (100 * (p.x - pivot.x)) / width),
    ),
    y: keysOf(
      scene,
      frames,
      seen.map((p) => (100 * (p.y - pivot.y)) / height),
    ),
  };
  if (how.turn)
    numbers.turn = keysOf(
      scene,
      frames,
      seen.map((p) => turn + p.turn - begin.turn),
    );
  if (how.scale)
    numbers.scale = keysOf(
      scene,
      frames,
      seen.map((p) => (scale * p.scale) / begin.scale),
    );
  return { ...layer, numbers };
}

/** Attaches a drawn mask of a layer to a place that is followed in a layer of the shot, as `attachLayer` does. */
export function attachMask(
  project: Project,
  shot: Shot,
  layer: Layer,
  mask: Mask,
  on: Layer,
  course: Followed,
  from: Frames,
  how: FollowHow,
): Mask {
  const scene = sceneOf(project, shot);
  const { width, height } = project.frame;
  const frames = framesOf(scene, layer);
  const seen = seenIn(project, shot, on, course, frames).map((p, i): Pose => {
    // A mask that rides on its layer lies where the layer is at rest.
    return mask.attachedToLayer ? { ...p, ...applied(inverted(layerMove(scene, layer, frames[i], project.frame)), p) } : p;
  });
  const still = frames.reduce((best, f, i) => (Math.abs(f - from) < Math.abs(frames[best] - from) ? i : best), 0);
  const begin = seen[still];
  const number = (name: string) => maskNumberAt(scene, mask, name, frames[still]);
  const goes = (nx: string, ny: string) => {
    const [x, y] = [(number(nx) / 100) * width - begin.x, (number(ny) / 100) * height - begin.y];
    const at = seen.map((p) => turned({ x, y }, how.turn ? p.turn - begin.turn : 0, how.scale ? p.scale / begin.scale : 1));
    return {
      [nx]: keysOf(
        scene,
        frames,
        at.map((q, i) => (100 * (seen[i].x + q.x)) / width),
      ),
      [ny]: keysOf(
        scene,
        frames,
        at.map((q, i) => (100 * (seen[i].y + q.y)) / height),
      ),
    };
  };
  const points = Object.keys(mask.numbers).flatMap((name) => (/^x\d*$/.test(name) ? [name.slice(1)] : []));
  if (points.length === 0) throw new Error('Only a mask that is drawn about a place or through points can be attached to one.');
  const numbers = Object.assign({ ...mask.numbers }, ...points.map((n) => goes(`x${n}`, `y${n}`))) as Mask['numbers'];
  if (how.turn && mask.numbers.turn)
    numbers.turn = keysOf(
      scene,
      frames,
      seen.map((p) => number('turn') + p.turn - begin.turn),
    );
  if (how.scale)
    for (const name of ['width', 'height'])
      if (mask.numbers[name])
        numbers[name] = keysOf(
          scene,
          frames,
          seen.map((p) => (number(name) * p.scale) / begin.scale),
        );
  return { ...mask, numbers };
}

/**
 * Lays a camera's motion on a layer: how the picture of a take moved, from its first frame on, is how this layer moves from its own first
 * on, enlarged by as much as hides every edge. `size` is the take's picture; seconds run as filmed.
 */
export function handHeld(project: Project, shot: Shot, layer: Layer, course: Followed, size: { width: Pixels; height: Pixels }): HeldLayer {
  const scene = sceneOf(project, shot);
  const { width } = project.frame;
  const frames = framesOf(scene, layer);
  const begin = course.points[0];
  const poses = frames.map((frame, i) => {
    const p = poseAt(course, course.times[0] + (i * scene.rate.den) / scene.rate.num);
    const k = width / size.width;
    return { frame, x: k * (p.x - begin.x), y: k * (p.y - begin.y), turn: p.turn - begin.turn, scale: p.scale / begin.scale };
  });
  const own = (name: 'x' | 'y' | 'turn' | 'scale', frame: Frames) => layerNumber(scene, layer, name, frame);
  const laid = (by: number): Held => ({
    x: poses.map((p) => own('x', p.frame) + (100 * by * p.x) / width),
    y: poses.map((p) => own('y', p.frame) + (100 * by * p.y) / project.frame.height),
    turn: poses.map((p) => own('turn', p.frame) + p.turn),
    scale: poses.map((p) => own('scale', p.frame) * by * p.scale),
  });
  const pivot = { x: width / 2, y: project.frame.height / 2 };
  const whole = (by: number) => {
    const now = laid(by);
    return frames.every((frame, i) => layer.source.kind !== 'take' || covers(project, shot, scene, layer, frame, pivot, now, i));
  };
  let [low, high] = [1, MOST];
  const possible = whole(MOST);
  if (whole(1)) high = 1;
  else while (high - low > 5e-4) [low, high] = whole((low + high) / 2) ? [low, (low + high) / 2] : [(low + high) / 2, high];
  const now = laid(possible ? high : 1);
  const numbers = Object.fromEntries((['x', 'y', 'turn', 'scale'] as const).map((name) => [name, keysOf(scene, frames, now[name])]));
  return { layer: { ...layer, numbers: { ...layer.numbers, ...numbers } }, enlarged: possible ? 100 * high : null };
}
