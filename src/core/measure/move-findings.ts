import { median, type Pixels, type Seconds } from '../units';
import { say } from '../words';
import type { TakeLock } from './verdict';

/** Slow movement of the camera that is no knock: between the frames of the longest stretch without one. */
export interface SlowMove {
  from: Seconds;
  to: Seconds;
  /** How far the middle of the picture goes from the stretch's beginning to its end, pixels of the take. */
  drift: Pixels;
  /** How far a corner goes in and out as the picture grows and shrinks, to each side, and how long once takes; null where it does not. */
  breathing: { size: Pixels; period: Seconds } | null;
}

/** What a corner must move before it is told. */
const LEAST: Pixels = 0.3;
/** Frames after a knock until the picture rests. */
const RING = 9;

/** Half of what a series swings by, its outermost twentieths left out, about a straight line through it; and how often it comes back. */
function swingOf(values: readonly number[]): { size: number; turns: number } {
  const n = values.length;
  const mean = values.reduce((sum, v) => sum + v, 0) / n;
  const middle = (n - 1) / 2;
  const slope = values.reduce((sum, v, i) => sum + (i - middle) * (v - mean), 0) / ((n * (n * n - 1)) / 12);
  const left = values.map((v, i) => v - mean - slope * (i - middle));
  const smooth = left.map((_, i) => median(left.slice(Math.max(0, i - 2), i + 3)));
  const ordered = [...smooth].sort((p, q) => p - q);
  const [low, high] = [ordered[Math.floor(0.05 * n)], ordered[Math.floor(0.95 * n)]];
  // A turn is counted where the upper third is reached after the lower one, and the other way round.
  let [side, turns] = [0, 0];
  for (const v of smooth) {
    const now = v > low + (2 / 3) * (high - low) ? 1 : v < low + (high - low) / 3 ? -1 : side;
    if (side !== 0 && now !== side) turns++;
    side = now;
  }
  return { size: (high - low) / 2, turns };
}

/** Drift and breathing of a take in the longest stretch between knocks; null where less than two seconds of it can be followed. */
export function slowMove({ times, readings, bumps }: TakeLock, width: Pixels, height: Pixels): SlowMove | null {
  const edges = [0, ...bumps.flatMap((b) => [b.frame - 1, b.frame + RING]), times.length];
  let stretch: [number, number] = [0, 0];
  for (let k = 0; k + 1 < edges.length; k += 2) if (edges[k + 1] - edges[k] > stretch[1] - stretch[0]) stretch = [edges[k], edges[k + 1]];
  const known = readings.map((r, i) => ({ ...r, time: times[i] })).filter((r, i) => r.trusted && i >= stretch[0] && i < stretch[1]);
  if (known.length < 24 || known[known.length - 1].time - known[0].time < 2) return null;
  const fifth = Math.ceil(known.length / 5);
  const [first, last] = [known.slice(0, fifth), known.slice(-fifth)];
  const between = (pick: (r: (typeof known)[number]) => number) => median(last.map(pick)) - median(first.map(pick));
  // The medians of the outer fifths lie four fifths apart.
  const drift =
    1.25 *
    Math.hypot(
      between((r) => r.dx),
      between((r) => r.dy),
    );
  const { size, turns } = swingOf(known.map((r) => r.scale));
  const [from, to] = [known[0].time, known[known.length - 1].time];
  const corner = (size * Math.hypot(width, height)) / 2;
  return { from, to, drift, breathing: turns >= 2 && corner >= LEAST ? { size: corner, period: (2 * (to - from)) / turns } : null };
}

/** Sentences about slow movement of the camera; none where it stands. */
export function moveFindings(lock: TakeLock, width: Pixels, height: Pixels): string[] {
  const slow = lock.travel ? null : slowMove(lock, width, height);
  if (!slow) return [];
  const { from, to, drift, breathing } = slow;
  const out: string[] = [];
  if (drift >= LEAST)
    out.push(
      say`The picture drifts by ${drift.toFixed(1)} px from ${from.toFixed(1)} to ${to.toFixed(1)} s: the stand gives way, or the phone slides in it. The correction follows it.`,
    );
  if (breathing)
    out.push(
      say`The picture breathes: its corner goes in and out by ${breathing.size.toFixed(1)} px about every ${breathing.period.toFixed(1)} s. The focus hunts, or the stabiliser works: lock both.`,
    );
  return out;
}
