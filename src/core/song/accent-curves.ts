import type { BandFlux } from './band-flux';
import { boxMean } from './curves';

/** How much each range counts where all are heard together. */
const WEIGHTS = [1.2, 0.8, 0.7, 0.9, 0.5];
const TOTAL = WEIGHTS.reduce((a, b) => a + b, 0);
/** Values to each side over which a curve's usual is taken, and over which its strength. */
const NEAR = 40;
const WIDE = 400;
/** No stroke counts more than so many times the usual one. */
const MOST = 5;

/** What stands out of each range, in units of its own usual strength, and of all together. */
export interface AccentCurves {
  all: Float32Array;
  bands: readonly Float32Array[];
}

/** Brings each range of a flux to one scale, wherever in the song: a quiet part's strokes count as much as a loud one's. */
export function accentCurves({ flux, length }: BandFlux): AccentCurves {
  const all = new Float32Array(length);
  const bands = flux.map((curve, g) => {
    const usual = boxMean(curve, NEAR);
    const above = curve.map((v, t) => Math.max(0, v - usual[t]));
    const squares = above.map((v) => v * v);
    const whole = squares.reduce((a, b) => a + b, 0) / Math.max(1, length);
    const local = boxMean(squares, WIDE);
    const scaled = above.map((v, t) => Math.min(MOST, v / Math.sqrt(0.5 * local[t] + 0.5 * whole + 1e-7)));
    for (let t = 0; t < length; t++) all[t] += (scaled[t] * WEIGHTS[g]) / TOTAL;
    return scaled;
  });
  return { all, bands };
}
