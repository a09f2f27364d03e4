import { median, type Seconds, type Unit } from '../units';
import { type HeardOnsets, hopAt } from './onset';

/** Where between two beats the off beat is looked for. */
const [EARLIEST, LATEST] = [0.42, 0.74];
const BINS = 96;

/**
 * Where the off beats fall between the beats: 0.5 straight, 0.67 in triplets (shuffle, swing), by the onset curve folded over all beats.
 * Null where nothing stands out between them, or where it is nearer to sixteenths.
 */
export function swingOf(beats: readonly Seconds[], onsets: HeardOnsets): Unit | null {
  if (beats.length < 8) return null;
  const folded = new Float64Array(BINS);
  for (let i = 0; i + 1 < beats.length; i++)
    for (let k = 0; k < BINS; k++) {
      const at = hopAt(onsets, beats[i] + ((beats[i + 1] - beats[i]) * k) / BINS);
      folded[k] += onsets.all[at] ?? 0;
    }
  let best = Math.round(EARLIEST * BINS);
  for (let k = best; k <= LATEST * BINS; k++) if (folded[k] > folded[best]) best = k;
  const usual = median(folded) || 1e-9;
  const edge = best <= Math.ceil(EARLIEST * BINS) || best >= Math.floor(LATEST * BINS);
  if (edge || folded[best] < 2 * usual) return null;
  let [sum, weight] = [0, 0];
  for (let k = best - 3; k <= best + 3; k++) {
    const over = Math.max(0, folded[k] - usual);
    sum += over * k;
    weight += over;
  }
  return sum / weight / BINS;
}
