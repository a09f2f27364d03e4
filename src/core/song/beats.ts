import { parabola } from '../correlate';
import { median, type Seconds } from '../units';
import { type HeardOnsets, hopAt } from './onset';

/** What beats are looked for in: what begins, and the more the louder it is. */
export const accents = (onsets: HeardOnsets): Float32Array => onsets.all.map((v, i) => 0.5 * v + 0.5 * onsets.loud[i]);

/**
 * Beat times by dynamic programming: the chain of instants with the most onset strength and the least
 * departure from the period (squared log ratio, weight `tightness`). Ellis 2007, section 4.
 * `period` is the expected beat length at each hop, seconds. Times are refined to a fraction of a hop. Empty for under two beats of sound.
 */
export function trackBeats(onsets: HeardOnsets, period: Float32Array, tightness = 400): Seconds[] {
  const { rate, start } = onsets;
  const n = period.length;
  const usual = n ? median(period) * rate : 1;
  const local = smoothed(accents(onsets), usual / 32);
  if (n < 2 * usual) return [];
  const score = new Float64Array(n);
  const from = new Int32Array(n).fill(-1);
  // Not by Math.max(...): a long mix has more hops than a call takes arguments.
  const longest = period.reduce((most, p) => Math.max(most, p), 0);
  const logs = Float64Array.from({ length: Math.ceil(2 * rate * longest) + 1 }, (_, gap) => Math.log(Math.max(1, gap)));
  for (let i = 0; i < n; i++) {
    const expected = period[i] * rate;
    const log = Math.log(expected);
    const farthest = Math.round(expected * 2);
    let best = Number.NEGATIVE_INFINITY;
    let at = -1;
    for (let gap = Math.round(expected * 0.5); gap <= farthest && gap <= i; gap++) {
      const value = score[i - gap] - tightness * (logs[gap] - log) ** 2;
      if (value > best) {
        best = value;
        at = i - gap;
      }
    }
    // A chain may begin anywhere in the first two periods; later it must continue.
    if (at < 0 || (i < farthest && best < 0)) score[i] = local[i];
    else {
      score[i] = local[i] + best;
      from[i] = at;
    }
  }
  let end = n - 1;
  for (let i = Math.max(0, n - Math.round(usual * 1.5)); i < n; i++) if (score[i] > score[end]) end = i;
  const chain: number[] = [];
  for (let i = end; i >= 0; i = from[i]) chain.push(i);
  const fine = smoothed(onsets.all, usual / 32);
  return chain.reverse().map((i) => start + (i + parabola(fine[i - 1] ?? 0, fine[i], fine[i + 1] ?? 0)) / rate);
}

/** Gaussian smoothing of about `sigma` values. */
function smoothed(values: Float32Array, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(sigma * 3));
  const kernel = Float32Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-0.5 * ((i - reach) / sigma) ** 2));
  const out = new Float32Array(values.length);
  for (let i = 0; i < values.length; i++) {
    let sum = 0;
    for (let k = -reach; k <= reach; k++) sum += kernel[k + reach] * (values[i + k] ?? 0);
    out[i] = sum;
  }
  return out;
}

/**
 * A programmed song is a grid, and the grid is nearer the truth than any single onset: when at least 70 % of the beats
 * lie within `tolerance` seconds of one constant tempo (least squares on inliers), and the sound agrees with the grid
 * about as well as with the other beats where they part, the grid is returned; otherwise the beats as found.
 */
export function steadied(beats: readonly Seconds[], onsets: HeardOnsets, tolerance: Seconds = 0.035): Seconds[] {
  const n = beats.length;
  if (n < 16) return [...beats];
  const gaps = beats.slice(1).map((t, i) => t - beats[i]);
  let period = median(gaps);
  let first = median(beats.map((t, i) => t - i * period));
  for (let round = 0; round < 6; round++) {
    const number = beats.map((t) => Math.round((t - first) / period));
    const use = beats.map((_, i) => i).filter((i) => Math.abs(beats[i] - first - number[i] * period) < tolerance);
    if (use.length < n * 0.7) return [...beats];
    const mi = use.reduce((a, i) => a + number[i], 0) / use.length;
    const mt = use.reduce((a, i) => a + beats[i], 0) / use.length;
    period = use.reduce((a, i) => a + (number[i] - mi) * (beats[i] - mt), 0) / use.reduce((a, i) => a + (number[i] - mi) ** 2, 0);
    first = mt - mi * period;
  }
  const grid: Seconds[] = [];
  for (let k = Math.round((beats[0] - first) / period); first + k * period <= beats[n - 1] + period / 2; k++) grid.push(first + k * period);
  const apart = (list: readonly Seconds[], others: readonly Seconds[]) =>
    list.filter((t) => !others.some((o) => Math.abs(o - t) < 2 * tolerance));
  const strength = (times: readonly Seconds[]) => times.reduce((sum, t) => sum + peakAround(onsets, t), 0);
  return strength(apart(grid, beats)) >= 0.6 * strength(apart(beats, grid)) ? grid : [...beats];
}

/** Strongest onset within 32 ms of `time`, of all or of a part of the sound. */
export function peakAround(onsets: HeardOnsets, time: Seconds, curve = onsets.all): number {
  const i = hopAt(onsets, time);
  let best = 0;
  for (let k = Math.max(0, i - 4); k <= Math.min(curve.length - 1, i + 4); k++) best = Math.max(best, curve[k]);
  return best;
}
