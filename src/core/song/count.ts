import type { Seconds, Unit } from '../units';
import { barFigures, figureCount, hearBeats } from './bar-figures';
import WEIGHTS from './bar-weights.json' with { type: 'json' };
import { accents, steadied, trackBeats } from './beats';
import { confidenceOf } from './confidence';
import type { OnsetStrength } from './onset';
import { faster, tempoPath } from './tempo-path';

/** A way of counting a song: its beats, how many make a bar, and which of the first opens one. */
export interface Count {
  beats: Seconds[];
  beatsPerBar: number;
  phase: number;
  /** 0..1: how clearly this beat opens the bar, among the others it might be. */
  sure: Unit;
  /** 0..1: how clearly a beat is heard at all. */
  strength: Unit;
}

/** Ways to hear a pulse beside the clearest: twice or half as fast, and in threes. */
const TIMES = [1, 2, 1 / 2, 3 / 2, 2 / 3, 3, 1 / 3];
const SLOWEST = 48;
const FASTEST = 190;
/** How far what begins on the beats must stand above what begins between them. */
export const FALLS_ON = 0.25;
/** Beats a bar may have. */
export const BAR_LENGTHS = [3, 4];

/** Where the figures of a bar of so many beats stand in the network's input. */
export const inputAt = (beatsPerBar: number) =>
  BAR_LENGTHS.slice(0, BAR_LENGTHS.indexOf(beatsPerBar)).reduce((sum, m) => sum + figureCount(m), 0);

/** A pulse in bars of so many beats: the figures it is judged by when each of its first beats opens a bar. */
export interface Counting {
  beats: Seconds[];
  beatsPerBar: number;
  /** 0..1: how far what begins on the beats stands above what begins between them. */
  confidence: Unit;
  figures: number[][];
}

/** All ways a song may be counted: by the clearest pulse, those that go with it and the off beats of each, in bars of three and of four. */
export function countings(onsets: OnsetStrength): { countings: Counting[]; strength: Unit } {
  const path = tempoPath(accents(onsets), onsets.rate);
  const usual = path.period.toSorted()[path.period.length >> 1];
  const pulses = TIMES.flatMap((times) => {
    const bpm = (60 / usual) * times;
    if (bpm < SLOWEST || bpm > FASTEST) return [];
    const beats = steadied(trackBeats(onsets, faster(path, times).period), onsets);
    return beats.length < 9 ? [] : [beats, beats.slice(1).map((t, i) => (t + beats[i]) / 2)];
  });
  const found = pulses.flatMap((beats) => {
    const heard = hearBeats(beats, onsets);
    const { all: confidence } = confidenceOf(beats, onsets);
    return BAR_LENGTHS.map((beatsPerBar) => ({ beats, beatsPerBar, confidence, figures: barFigures(heard, beatsPerBar) }));
  });
  return { countings: found, strength: path.strength };
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

/**
 * The likeliest way of counting. Every one is judged by what is struck at each half beat of its bar, where the harmony turns, and its tempo;
 * the weights were fitted to accompaniment patterns.
 */
export function bestCount(onsets: OnsetStrength): Count {
  const { countings: found, strength } = countings(onsets);
  // A pulse that what begins does not fall on is none, however its bars might look.
  const falls = found.filter(({ confidence }) => confidence >= FALLS_ON);
  const all = falls.length ? falls : found;
  let best: (Count & { score: number }) | null = null;
  for (const { beats, beatsPerBar, figures } of all) {
    const scores = figures.map((f) => likelihood(f, beatsPerBar));
    const score = Math.max(...scores);
    if (best && score <= best.score) continue;
    const share = 1 / scores.reduce((sum, s) => sum + Math.exp(s - score), 0);
    const even = 1 / beatsPerBar;
    best = { beats, beatsPerBar, phase: scores.indexOf(score), sure: Math.max(0, (share - even) / (1 - even)), strength, score };
  }
  return best ?? { beats: [], beatsPerBar: 4, phase: 0, sure: 0, strength };
}
