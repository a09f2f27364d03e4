import type { Unit } from '../units';
import { figuresOf } from './reading-figures';
import WEIGHTS from './reading-weights.json' with { type: 'json' };
import type { Heard, Reading } from './readings';

export interface JudgedReading extends Reading {
  /** How likely it is the one that is meant, among the readings of the song. */
  likely: Unit;
}

interface Net {
  hidden: readonly (readonly number[])[];
  bias: readonly number[];
  out: readonly number[];
  straight: readonly number[];
}

/** How well figures speak for a reading: mean of small networks with one hidden layer each (see `bench/fit-readings.ts`). */
export function scoreOf(
  figures: readonly number[],
  { mean, deviation, nets }: { mean: number[]; deviation: number[]; nets: Net[] },
): number {
  const x = figures.map((v, k) => ((Number.isFinite(v) ? v : 0) - mean[k]) / deviation[k]);
  const dot = (row: readonly number[], from = 0) => row.reduce((sum, w, k) => sum + w * x[k], from);
  const one = ({ hidden, bias, out, straight }: Net) =>
    hidden.reduce((sum, row, h) => sum + out[h] * Math.tanh(dot(row, bias[h])), dot(straight));
  return nets.reduce((sum, net) => sum + one(net), 0) / nets.length;
}

/** The readings of a song, the likeliest first. */
export function chosenReadings(heard: Heard): JudgedReading[] {
  const scores = figuresOf(heard).map((figures) => scoreOf(figures, WEIGHTS));
  const best = scores.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  const weights = scores.map((s) => Math.exp(s - best));
  const whole = weights.reduce((a, b) => a + b, 0);
  return heard.readings.map((reading, i) => ({ ...reading, likely: weights[i] / whole })).sort((a, b) => b.likely - a.likely);
}
