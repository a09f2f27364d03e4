import type { Seconds } from '../units';
import { NO_LIMITS, type SpeedLimits, type SpeedSpan, solveSpeed, sourceInSpan, speedInSpan } from './speed-map';

/** How a take runs from a pin to the next: at one speed, through the next pin's second; smoothly; or not at all. */
export const WAYS = ['even', 'smooth', 'freeze'] as const;
export type Way = (typeof WAYS)[number];

/** A pin of a take on the film: at output second `at` its source second, null where the run from the pins around it decides. */
export interface TimePin {
  at: Seconds;
  source: Seconds | null;
  /** Speed at the pin in a smooth run, or of the run that begins here when the next pin's second is left open; 1 as filmed. */
  speed: number;
  way: Way;
}

/** Output second to source second and speed; before the first pin and after the last the take runs at their speeds. */
export interface TimeMap {
  sourceAt(at: Seconds): Seconds;
  speedAt(at: Seconds): number;
}

/** Source seconds at all pins: open ones follow from their neighbours at the speeds in between. The first given second holds; all open begins at 0. */
function sourcesOf(pins: readonly TimePin[]): Seconds[] {
  const out = pins.map((p) => p.source);
  const anchor = Math.max(
    0,
    out.findIndex((s) => s !== null),
  );
  const run = (i: number) => (pins[i].way === 'freeze' ? 0 : pins[i].speed) * (pins[i + 1].at - pins[i].at);
  out[anchor] ??= 0;
  for (let i = anchor - 1; i >= 0; i--) out[i] = (out[i + 1] as number) - run(i);
  for (let i = anchor + 1; i < out.length; i++) out[i] ??= (out[i - 1] as number) + run(i - 1);
  return out as Seconds[];
}

/** Where smooth runs begin and end, as ranges of pin numbers. */
function smoothRuns(pins: readonly TimePin[]): [number, number][] {
  const runs: [number, number][] = [];
  for (let i = 0; i < pins.length - 1; i++) {
    if (pins[i].way !== 'smooth') continue;
    let end = i + 1;
    while (end < pins.length - 1 && pins[end].way === 'smooth') end++;
    runs.push([i, end]);
    i = end - 1;
  }
  return runs;
}

/**
 * The time map of a take through its pins (one or more; taken in order of `at`, of two at one second the later stands).
 * Smooth runs are solved by `solveSpeed` within `limits`; a run whose seconds would go back runs evenly instead.
 */
export function timeMap(given: readonly TimePin[], limits: SpeedLimits = NO_LIMITS): TimeMap {
  const pins = given.toSorted((a, b) => a.at - b.at).filter((p, i, all) => i === all.length - 1 || all[i + 1].at > p.at);
  const sources = sourcesOf(pins);
  const smooth: (SpeedSpan | null)[] = pins.map(() => null);
  for (const [first, last] of smoothRuns(pins)) {
    const poses = pins.slice(first, last + 1).map(({ at, speed }, i) => ({ at, source: sources[first + i], speed }));
    if (poses.some((p, i) => i > 0 && p.source < poses[i - 1].source)) continue;
    solveSpeed(poses, limits).spans.forEach((span, i) => {
      smooth[first + i] = span;
    });
  }
  const end = pins.length - 1;
  /** The pin before an instant, -1 before the first. */
  const before = (at: Seconds) => {
    let [low, high] = [0, pins.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (pins[middle].at <= at + 1e-9) low = middle + 1;
      else high = middle;
    }
    return low - 1;
  };
  const evenSpeed = (i: number) => (sources[i + 1] - sources[i]) / (pins[i + 1].at - pins[i].at);
  return {
    sourceAt(at) {
      const i = before(at);
      if (i < 0) return sources[0] + pins[0].speed * (at - pins[0].at);
      if (pins[i].way === 'freeze') return sources[i];
      if (i === end) return sources[i] + pins[i].speed * (at - pins[i].at);
      const span = smooth[i];
      return span ? sourceInSpan(span, at) : sources[i] + evenSpeed(i) * (at - pins[i].at);
    },
    speedAt(at) {
      const i = before(at);
      if (i < 0) return pins[0].speed;
      if (pins[i].way === 'freeze') return 0;
      if (i === end) return pins[i].speed;
      const span = smooth[i];
      return span ? speedInSpan(span, at) : evenSpeed(i);
    },
  };
}
