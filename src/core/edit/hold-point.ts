import type { Project, Shot } from '../document';
import { layerMove, layerSecond, sceneOf } from '../evaluate';
import { type Layer, layerNumber } from '../layer';
import { applied, type Point } from '../picture';
import type { Frames, Percent, Pixels, Seconds } from '../units';
import {
  type Followed,
  type FollowHow,
  framesOf,
  keysOf,
  nearestTo,
  onRest,
  type Pose,
  poseAt,
  type Rest,
  restMap,
  turned,
} from './followed';

/** Where a held place comes to lie: where it is on a film frame, in the frame's middle, or along its own way, evened over so many seconds. */
export type HoldAt = { kind: 'stay'; frame: Frames } | { kind: 'middle' } | { kind: 'smooth'; seconds: Seconds };

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
  const still = at.kind === 'stay' ? nearestTo(frames, at.frame) : 0;
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
  const rests = frames.map((frame) => restMap(project, shot, layer, layerSecond(project, scene, layer, frame)));
  const by = enlarge ? enlargement((k) => covers(project.frame, rests, pivots, held(k))) : 1;
  const now = held(by ?? 1);
  const numbers = { ...layer.numbers, x: keysOf(scene, frames, now.x), y: keysOf(scene, frames, now.y) };
  if (how.turn) numbers.turn = keysOf(scene, frames, now.turn);
  if (how.scale || (by ?? 1) > 1) numbers.scale = keysOf(scene, frames, now.scale);
  return { layer: { ...layer, numbers }, enlarged: by && 100 * by };
}

/** Whether a layer that lies as said on each of its frames hides the whole of every one. */
function covers(
  { width, height }: Project['frame'],
  rests: readonly Rest[],
  pivots: readonly Point[],
  { x, y, turn, scale }: Held,
): boolean {
  return rests.every(({ map, width: w, height: h }, i) => {
    const pivot = pivots[i];
    const [mx, my] = [pivot.x + (x[i] / 100) * width, pivot.y + (y[i] / 100) * height];
    return [0, width].every((cx) =>
      [0, height].every((cy) => {
        const back = turned({ x: cx - mx, y: cy - my }, -turn[i], 100 / scale[i]);
        const { x: u, y: v } = applied(map, { x: pivot.x + back.x, y: pivot.y + back.y });
        return u >= -0.5 && v >= -0.5 && u <= w + 0.5 && v <= h + 0.5;
      }),
    );
  });
}

/** The least enlargement (1 for none) with which a layer hides the whole frame; null where that is beyond the most. */
function enlargement(whole: (by: number) => boolean): number | null {
  if (whole(1)) return 1;
  if (!whole(MOST)) return null;
  let [low, high] = [1, MOST];
  while (high - low > 5e-4) {
    const middle = (low + high) / 2;
    if (whole(middle)) high = middle;
    else low = middle;
  }
  return high;
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
  const middle = { x: width / 2, y: project.frame.height / 2 };
  const rests = layer.source.kind === 'take' ? frames.map((f) => restMap(project, shot, layer, layerSecond(project, scene, layer, f))) : [];
  const pivots = frames.map(() => middle);
  // What is not a take has no edge that could show.
  const by = enlargement((k) => covers(project.frame, rests, pivots, laid(k)));
  const now = laid(by ?? 1);
  const numbers = Object.fromEntries((['x', 'y', 'turn', 'scale'] as const).map((name) => [name, keysOf(scene, frames, now[name])]));
  return { layer: { ...layer, numbers: { ...layer.numbers, ...numbers } }, enlarged: by && 100 * by };
}
