import type { Seconds, Unit } from '../units';
import { barEvidence } from './bar-evidence';
import { barFigures, figureCount, hearBeats } from './bar-figures';
import WEIGHTS from './bar-weights.json' with { type: 'json' };
import { mean } from './curves';
import type { OnsetStrength } from './onset';
import type { Heard } from './readings';

/** Beats a bar may have. */
export const BAR_LENGTHS = [3, 4];

/** How much what each beat sounds like by itself counts beside the figures; what both are softened by to be a likelihood. */
const EVIDENCE = 4;
const TEMPERATURE = 2;

/** Where the figures of a bar of so many beats stand in the network's input. */
export const inputAt = (beatsPerBar: number) =>
  BAR_LENGTHS.slice(0, BAR_LENGTHS.indexOf(beatsPerBar)).reduce((sum, m) => sum + figureCount(m), 0);

/** Beats in bars of so many: the figures it is judged by when each of the first beats opens a bar. */
export interface Counting {
  beatsPerBar: number;
  figures: number[][];
}

/** All ways beats may be counted: in bars of three and of four. */
export function countings(beats: readonly Seconds[], onsets: OnsetStrength): Counting[] {
  const heard = hearBeats(beats, onsets);
  return BAR_LENGTHS.map((beatsPerBar) => ({ beatsPerBar, figures: barFigures(heard, beatsPerBar) }));
}

/** How likely a counting is, by its figures: a network with one hidden layer (see `bench/fit-bars.ts`). */
function likelihood(figures: readonly number[], beatsPerBar: number): number {
  const { scale, hidden, bias, out, straight } = WEIGHTS;
  const at = inputAt(beatsPerBar);
  const x = figures.map((v, k) => v * scale[at + k]);
  let sum = x.reduce((all, v, k) => all + v * straight[at + k], 0);
  hidden.forEach((row, h) => {
    sum += out[h] * Math.tanh(x.reduce((all, v, k) => all + v * row[at + k], bias[h]));
  });
  return sum;
}

/** How beats are counted: how many make a bar, and which of the first opens one. */
export interface Bars {
  beatsPerBar: number;
  phase: number;
  /** 0..1: how likely this is, among all ways to count them. */
  sure: Unit;
}

/**
 * The likeliest bars of beats. Each way to count is judged by what is struck at each half beat of its bar, where the harmony turns,
 * and its tempo (a network fitted to accompaniment patterns), and by how much its firsts sound like firsts.
 */
export function bestBars(beats: readonly Seconds[], onsets: OnsetStrength, heard: Heard): Bars {
  const evidence = barEvidence(beats, heard);
  const ways = countings(beats, onsets).flatMap(({ beatsPerBar, figures }) =>
    figures.map((f, phase) => {
      const firsts = mean(evidence.filter((_, i) => i % beatsPerBar === phase));
      // The best of a few is the higher the fewer beats it is the mean of.
      const seen = EVIDENCE * firsts * (beatsPerBar === 3 ? 0.8 : 1);
      return { beatsPerBar, phase, score: (likelihood(f, beatsPerBar) + seen) / TEMPERATURE };
    }),
  );
  const best = ways.reduce((a, b) => (b.score > a.score ? b : a));
  const whole = ways.reduce((sum, { score }) => sum + Math.exp(score - best.score), 0);
  return { beatsPerBar: best.beatsPerBar, phase: best.phase, sure: 1 / whole };
}
