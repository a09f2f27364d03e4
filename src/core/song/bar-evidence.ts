import type { Seconds } from '../units';
import { FLUX_RATE } from './band-flux';
import { mean, peakNear } from './curves';
import { harmonyTurn } from './reading-figures';
import type { Heard } from './readings';

/** How much each range speaks for a beat that opens a bar: kick and bass do, the snare speaks against it. */
const RANGES = [0.5, 0.3, 0, -0.5, 0.1];
/** No stroke counts more than this. */
const MOST = 3;

function standard(values: readonly number[]): number[] {
  const usual = mean(values);
  const spread = Math.sqrt(mean(values.map((v) => (v - usual) ** 2))) + 1e-9;
  return values.map((v) => (v - usual) / spread);
}

/**
 * How much each beat by itself sounds like the first of a bar, in standard deviations: the harmony turns there, over a beat and over two,
 * the low ranges strike and the snare does not (common practice of popular music).
 */
export function barEvidence(beats: readonly Seconds[], { flux, accents: { bands } }: Heard): number[] {
  const places = beats.map((t) => t * FLUX_RATE);
  const period = (places[places.length - 1] - places[0]) / Math.max(1, places.length - 1);
  const turns = [0.9, 1.9].map((span) => standard(places.map((at) => harmonyTurn(flux, at, span * period))));
  const strokes = bands.map((band) => standard(places.map((at) => Math.min(MOST, peakNear(band, at, 2)))));
  return beats.map((_, i) => turns[0][i] + turns[1][i] + strokes.reduce((sum, s, g) => sum + RANGES[g] * s[i], 0));
}
