import { clamp, type Unit } from '../units';
import { type BeatNet, heardBy, type Verdict } from './beat-net';
import WEIGHTS from './beat-net.json' with { type: 'json' };
import { beatRows } from './beat-rows';
import { sharesOf } from './curves';
import { figuresOf } from './reading-figures';
import type { Heard, Reading } from './readings';

export interface JudgedReading extends Reading {
  /** How likely it is the one that is meant, among the readings of the song. */
  likely: Unit;
  /** How much speaks for each of the `WAYS` to count its bars, from its first beat on: logarithms. */
  ways: number[];
}

/** Networks, and what brings figures to one scale (see `bench/fit-beats.py`). */
export interface Judges {
  mean: number[];
  deviation: number[];
  nets: BeatNet[];
}
/** No figure is further from the usual, in deviations. */
const FURTHEST = 5;

/** What the networks say of a reading's beats and figures, their mean. */
function judged({ mean, deviation, nets }: Judges, rows: Float64Array, figures: readonly number[]): Verdict {
  const x = figures.map((v, k) => clamp(((Number.isFinite(v) ? v : 0) - mean[k]) / deviation[k], -FURTHEST, FURTHEST));
  const all = nets.map((net) => heardBy(net, rows, x));
  const usual = (pick: (v: Verdict) => number) => all.reduce((sum, v) => sum + pick(v), 0) / nets.length;
  return { score: usual((v) => v.score), ways: all[0].ways.map((_, i) => usual((v) => v.ways[i])) };
}

/** The readings of a song, the likeliest first. */
export function chosenReadings(heard: Heard, judges: Judges = WEIGHTS): JudgedReading[] {
  const figures = figuresOf(heard);
  const all = heard.readings.map((reading, i) => judged(judges, beatRows(heard, reading), figures[i]));
  const likely = sharesOf(all.map(({ score }) => score));
  return heard.readings.map((reading, i) => ({ ...reading, ways: all[i].ways, likely: likely[i] })).sort((a, b) => b.likely - a.likely);
}
