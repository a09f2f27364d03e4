import { parabola } from '../correlate';
import { median, type Seconds } from '../units';
import { gathered } from './curves';
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
  const local = gathered(accents(onsets), usual / 32);
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
  const fine = gathered(onsets.all, usual / 32);
  return chain.reverse().map((i) => start + (i + parabola(fine[i - 1] ?? 0, fine[i], fine[i + 1] ?? 0)) / rate);
}

/** How far from a beat its stroke may be, and how many strokes must be found for the beats to be moved. */
const STROKE: Seconds = 0.035;
const ENOUGH = 8;

/**
 * Beats moved onto the strokes near them: all by what most are off, and where they are a grid onto the line that fits the strokes best
 * (least squares on those within `STROKE`). The shape of a tempo that changes stays.
 */
export function settled(beats: readonly Seconds[], onsets: HeardOnsets, rigid: boolean): Seconds[] {
  const { all, rate, start } = onsets;
  const strokes = beats.flatMap((beat, i) => {
    let at = hopAt(onsets, beat);
    const reach = Math.round(STROKE * rate);
    for (let k = at - reach, middle = at; k <= middle + reach; k++) if ((all[k] ?? 0) > (all[at] ?? 0)) at = k;
    // Of what hardly begins nothing is to be learned.
    if (!(all[at] > 1)) return [];
    return [{ i, time: start + (at + parabola(all[at - 1] ?? 0, all[at], all[at + 1] ?? 0)) / rate }];
  });
  if (strokes.length < ENOUGH) return [...beats];
  const off = median(strokes.map(({ i, time }) => time - beats[i]));
  const moved = beats.map((t) => t + off);
  if (!rigid) return moved;
  const near = strokes.filter(({ i, time }) => Math.abs(time - moved[i]) < STROKE / 2);
  if (near.length < ENOUGH) return moved;
  const mean = (pick: (s: (typeof near)[number]) => number) => near.reduce((sum, s) => sum + pick(s), 0) / near.length;
  const [mi, mt] = [mean((s) => s.i), mean((s) => s.time)];
  const period = mean((s) => (s.i - mi) * (s.time - mt)) / mean((s) => (s.i - mi) ** 2);
  return beats.map((_, i) => mt + (i - mi) * period);
}

/** Strongest onset within 32 ms of `time`, of all or of a part of the sound. */
export function peakAround(onsets: HeardOnsets, time: Seconds, curve = onsets.all): number {
  const i = hopAt(onsets, time);
  let best = 0;
  for (let k = Math.max(0, i - 4); k <= Math.min(curve.length - 1, i + 4); k++) best = Math.max(best, curve[k]);
  return best;
}
