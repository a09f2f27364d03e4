import { type Key, keyAt, type Layer, layerTime, type Scene } from '../layer';
import { simplify } from '../motion';
import { beatOfFrame, frameToSeconds } from '../time';
import { clamp, type Frames, type Percent, type Seconds } from '../units';
import type { Course } from './fields';
import type { OnFrame } from './kind';

/** A reading at a second of the take, between two of them linear in each of its numbers; at the ends, as at the end. */
export function readingAt<R extends Record<keyof R, number> & { source: Seconds }>(course: readonly R[], second: Seconds): R {
  const after = course.findIndex((p) => p.source > second);
  if (after <= 0) return course[after === 0 ? 0 : course.length - 1];
  const [a, b] = [course[after - 1], course[after]];
  const k = (second - a.source) / (b.source - a.source);
  return Object.fromEntries((Object.keys(a) as (keyof R)[]).map((of) => [of, a[of] + k * (b[of] - a[of])])) as unknown as R;
}

/** A place of the shot that is this frame and keeps its share of the beat at any tempo. */
const placed = (scene: Scene, frame: Frames) => beatOfFrame(scene.map, frame, scene.rate) - scene.beat;

/** Keys for a number that is known on each frame from one on, as few as keep it within `stray`; to a hundredth. */
export const thinned = (scene: Scene, from: Frames, values: readonly number[], stray: number): Key[] =>
  simplify(
    values.map((value, k) => ({ frame: from + k, value, easing: 'linear' as const })),
    stray,
  ).map(({ frame, value }) => keyAt(placed(scene, frame), 0, Math.round(100 * value) / 100));

/** How much a followed place may stray from what is keyed, per cent of the frame. */
const STRAY = 0.2;

/**
 * Keys of a layer's position that hold whoever is followed at a point of the frame, as far as the picture reaches: `scale` gives the
 * layer's size at a frame and `window` how much of the frame it must fill, both per cent. `at` is the point they are held at.
 */
export function followed(
  scene: Scene,
  layer: Layer,
  course: Course,
  onFrame: OnFrame,
  [from, end]: [Frames, Frames],
  at: { x: Percent; y: Percent },
  window: { width: Percent; height: Percent },
  scale: (frame: Frames) => Percent,
): { x: Key[]; y: Key[] } {
  const time = layerTime(scene, layer);
  const [across, down]: [Percent[], Percent[]] = [[], []];
  for (let frame = from; frame < Math.max(end, from + 1); frame++) {
    const seen = onFrame(readingAt(course, time.sourceAt(frameToSeconds(frame, scene.rate))));
    const size = scale(frame);
    const shift = (place: Percent, wide: Percent) => {
      const room = Math.max(0, (size - wide) / 2);
      return clamp((-size / 100) * (place - 50), -room, room);
    };
    across.push(at.x - 50 + shift(seen.x, window.width));
    down.push(at.y - 50 + shift(seen.y, window.height));
  }
  return { x: thinned(scene, from, across, STRAY), y: thinned(scene, from, down, STRAY) };
}

/** Keys of a place of the frame, per cent, that goes with whoever is followed in a layer's take from one frame to another. */
export function courseKeys(
  scene: Scene,
  layer: Layer,
  course: Course,
  onFrame: OnFrame,
  [from, end]: [Frames, Frames],
): { x: Key[]; y: Key[] } {
  const time = layerTime(scene, layer);
  const places = Array.from({ length: Math.max(1, end - from + 1) }, (_, k) =>
    onFrame(readingAt(course, time.sourceAt(frameToSeconds(from + k, scene.rate)))),
  );
  const keys = (of: 'x' | 'y') =>
    thinned(
      scene,
      from,
      places.map((p) => p[of]),
      STRAY,
    );
  return { x: keys('x'), y: keys('y') };
}

/** Readings of where somebody is, evened out over `reach` seconds to either side and thinned to what says something. */
export function smoothPath(course: Course, reach: Seconds): Course {
  const mean = course.map(({ source }, i) => {
    let [x, y, n] = [0, 0, 0];
    for (let k = i; k >= 0 && source - course[k].source <= reach; k--, n++) [x, y] = [x + course[k].x, y + course[k].y];
    for (let k = i + 1; k < course.length && course[k].source - source <= reach; k++, n++) [x, y] = [x + course[k].x, y + course[k].y];
    return { source, x: x / n, y: y / n };
  });
  const index = (pick: (p: Course[number]) => number) =>
    new Set(
      simplify(
        mean.map((p, frame) => ({ frame, value: pick(p), easing: 'linear' as const })),
        STRAY,
      ).map((k) => k.frame),
    );
  const [xs, ys] = [index((p) => p.x), index((p) => p.y)];
  return mean.filter((_, i) => xs.has(i) || ys.has(i));
}
