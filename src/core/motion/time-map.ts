import type { Seconds } from '../units';
import { NO_LIMITS, type SpeedLimits, type SpeedSpan, solveSpeed, sourceInSpan, speedInSpan } from './speed-map';

/** How a take runs from a point to the next: at one speed, through the next point's second; smoothly; or not at all. */
export const WAYS = ['even', 'smooth', 'freeze'] as const;
export type Way = (typeof WAYS)[number];

/** A point of a take on the film: at output second `at` its source second, null where the run from the points around it decides. */
export interface TimeRemapPoint {
  at: Seconds;
  source: Seconds | null;
  /** Speed at the point in a smooth run, or of the run that begins here when the next point's second is left open; 1 as filmed. */
  speed: number;
  way: Way;
}

/** Output second to source second and speed; before the first point and after the last the take runs at their speeds. */
export interface TimeMap {
  sourceAt(at: Seconds): Seconds;
  speedAt(at: Seconds): number;
}

/** Source seconds at all points: open ones follow from their neighbours at the speeds in between. The first given second holds; all open begins at 0. */
function sourcesOf(points: readonly TimeRemapPoint[]): Seconds[] {
  const out = points.map((p) => p.source);
  const anchor = Math.max(
    0,
    out.findIndex((s) => s !== null),
  );
  const run = (i: number) => (points[i].way === 'freeze' ? 0 : points[i].speed) * (points[i + 1].at - points[i].at);
  out[anchor] ??= 0;
  for (let i = anchor - 1; i >= 0; i--) out[i] = (out[i + 1] as number) - run(i);
  for (let i = anchor + 1; i < out.length; i++) out[i] ??= (out[i - 1] as number) + run(i - 1);
  return out as Seconds[];
}

/** Where smooth runs begin and end, as ranges of point numbers. */
function smoothRuns(points: readonly TimeRemapPoint[]): [number, number][] {
  const runs: [number, number][] = [];
  for (let i = 0; i < points.length - 1; i++) {
    if (points[i].way !== 'smooth') continue;
    let end = i + 1;
    while (end < points.length - 1 && points[end].way === 'smooth') end++;
    runs.push([i, end]);
    i = end - 1;
  }
  return runs;
}

/**
 * The time map of a take through its points (one or more; taken in order of `at`, of two at one second the later stands).
 * Smooth runs, forwards or backwards, are solved by `solveSpeed` within `limits`; one whose seconds would turn on the way runs evenly instead.
 */
export function timeMap(given: readonly TimeRemapPoint[], limits: SpeedLimits = NO_LIMITS): TimeMap {
  const points = given.toSorted((a, b) => a.at - b.at).filter((p, i, all) => i === all.length - 1 || all[i + 1].at > p.at);
  const sources = sourcesOf(points);
  const smooth: ({ span: SpeedSpan; sense: 1 | -1 } | null)[] = points.map(() => null);
  for (const [first, last] of smoothRuns(points)) {
    // A run backwards is one forwards through a source turned round.
    const sense = sources[last] < sources[first] ? -1 : 1;
    const poses = points
      .slice(first, last + 1)
      .map(({ at, speed }, i) => ({ at, source: sense * sources[first + i], speed: Math.max(0, sense * speed) }));
    if (poses.some((p, i) => i > 0 && p.source < poses[i - 1].source)) continue;
    solveSpeed(poses, limits).spans.forEach((span, i) => {
      smooth[first + i] = { span, sense };
    });
  }
  const end = points.length - 1;
  /** The point before an instant, -1 before the first. */
  const before = (at: Seconds) => {
    let [low, high] = [0, points.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (points[middle].at <= at + 1e-9) low = middle + 1;
      else high = middle;
    }
    return low - 1;
  };
  const evenSpeed = (i: number) => (sources[i + 1] - sources[i]) / (points[i + 1].at - points[i].at);
  return {
    sourceAt(at) {
      const i = before(at);
      if (i < 0) return sources[0] + points[0].speed * (at - points[0].at);
      if (points[i].way === 'freeze') return sources[i];
      if (i === end) return sources[i] + points[i].speed * (at - points[i].at);
      const run = smooth[i];
      return run ? run.sense * sourceInSpan(run.span, at) : sources[i] + evenSpeed(i) * (at - points[i].at);
    },
    speedAt(at) {
      const i = before(at);
      if (i < 0) return points[0].speed;
      if (points[i].way === 'freeze') return 0;
      if (i === end) return points[i].speed;
      const run = smooth[i];
      return run ? run.sense * speedInSpan(run.span, at) : evenSpeed(i);
    },
  };
}
