import type { Project, Shot } from '../document';
import { correctionAt, layerSecond, perspectiveAt } from '../evaluate';
import { type Key, keyAt, type Layer, layerFrames, type Scene } from '../layer';
import { simplify, type Track } from '../motion';
import { type Affine, applied, inverted, type Point, through, undone } from '../picture';
import { fillFrame } from '../sources';
import { beatOfFrame } from '../time';
import type { Degrees, Frames, Pixels, Seconds } from '../units';
import { say } from '../words';

/** Where a place is at seconds of a take, ascending: pixels of its picture as filmed, its turn and size against where it was marked. */
export interface Followed {
  times: readonly Seconds[];
  points: readonly { x: Pixels; y: Pixels; turn: Degrees; scale: number }[];
}

/** A place with its turn and size. */
export interface Pose extends Point {
  turn: Degrees;
  scale: number;
}

/** What of it is followed beside its place. */
export interface FollowHow {
  turn: boolean;
  scale: boolean;
}

/** How far keys may stray from what was followed: per cent of the frame, degrees, and per cent of size. */
const STRAY = 0.02;

/** The pose at a second, between two frames linear; at the ends, as at the end. */
export function poseAt({ times, points }: Followed, second: Seconds): Pose {
  const after = times.findIndex((t) => t > second);
  if (after <= 0) return points[after === 0 ? 0 : points.length - 1];
  const [a, b] = [points[after - 1], points[after]];
  const k = (second - times[after - 1]) / (times[after] - times[after - 1]);
  const mix = (pick: (p: Pose) => number) => pick(a) + k * (pick(b) - pick(a));
  return { x: mix((p) => p.x), y: mix((p) => p.y), turn: mix((p) => p.turn), scale: mix((p) => p.scale) };
}

/** How a layer's picture lies at rest. */
export interface Rest {
  /** From frame pixels to pixels of the take as it is shown. */
  map: Affine;
  width: Pixels;
  height: Pixels;
  /** A pose of the take as filmed, as it is shown. */
  pose: (p: Pose) => Pose;
}

/** How a layer's picture lies at rest at a second. Throws a sentence where it shows no take. */
export function restMap(project: Project, shot: Shot, layer: Layer, second: Seconds): Rest {
  const { source } = layer;
  const take = source.kind === 'take' ? project.takes.find((t) => t.id === source.takeId) : undefined;
  const media = project.media.find((m) => m.id === take?.mediaId);
  if (!take || !media) throw new Error(say`The layer shows no take to follow something in.`);
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
export function onRest(project: Project, shot: Shot, scene: Scene, layer: Layer, course: Followed, frame: Frames): Pose {
  const second = layerSecond(project, scene, layer, frame);
  const { map, pose } = restMap(project, shot, layer, second);
  const seen = pose(poseAt(course, second));
  return { ...seen, ...applied(inverted(map), seen) };
}

/** A place of the shot that is this frame and keeps its share of the beat at any tempo. */
const placed = (scene: Scene, frame: Frames) => beatOfFrame(scene.map, frame, scene.rate) - scene.beat;

/** Keys through values of frames, as few as stay close to them. */
export function keysOf(scene: Scene, frames: readonly Frames[], values: readonly number[]): Key[] {
  const track: Track = frames.map((frame, i) => ({ frame, value: values[i], easing: 'linear' }));
  return simplify(track, STRAY).map(({ frame, value }) => keyAt(placed(scene, frame), 0, Math.round(1000 * value) / 1000));
}

export const framesOf = (scene: Scene, layer: Layer): Frames[] => {
  const [from, end] = layerFrames(scene, layer);
  return Array.from({ length: Math.max(1, end - from) }, (_, i) => from + i);
};

export const turned = ({ x, y }: Point, degrees: Degrees, scale: number): Point => {
  const a = (degrees * Math.PI) / 180;
  return { x: scale * (Math.cos(a) * x - Math.sin(a) * y), y: scale * (Math.sin(a) * x + Math.cos(a) * y) };
};

/** Which of some frames is nearest to one. */
export const nearestTo = (frames: readonly Frames[], frame: Frames): number =>
  frames.reduce((best, f, i) => (Math.abs(f - frame) < Math.abs(frames[best] - frame) ? i : best), 0);
