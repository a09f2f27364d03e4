import { clamp, type Unit } from '../units';
import { type BeatNet, heardBy, type Verdict } from './beat-net';
import WEIGHTS from './beat-net.json' with { type: 'json' };
import { beatRows } from './beat-rows';
import { mean, sharesOf } from './curves';
import { firstSound } from './first-sound';
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

/** Readings that the first network finds less likely than the best by this, as a logarithm, the others are not asked about. */
const HOPELESS = 8;
/** The same for what some networks say together, and how many. */
const [SETTLED, SOME] = [5, 3];

const usual = (all: readonly Verdict[]): Verdict => ({
  score: mean(all.map((v) => v.score)),
  ways: all[0].ways.map((_, i) => mean(all.map((v) => v.ways[i]))),
});

/** The readings of a song, the likeliest first. */
export function chosenReadings(heard: Heard, { mean: means, deviation, nets }: Judges = WEIGHTS): JudgedReading[] {
  const scaled = (v: number, k: number) => clamp(((Number.isFinite(v) ? v : 0) - means[k]) / deviation[k], -FURTHEST, FURTHEST);
  const given = figuresOf(heard).map((figures, i) => {
    const first = firstSound(heard, heard.readings[i]);
    return { rows: beatRows(heard, heard.readings[i]), figures: [...figures.map(scaled), ...first.figures], first };
  });
  const said: Verdict[][] = given.map(() => []);
  nets.forEach((net, n) => {
    const together = n ? said.map(usual) : [];
    const best = together.reduce((most, { score }) => Math.max(most, score), Number.NEGATIVE_INFINITY);
    const least = best - (n < SOME ? HOPELESS : SETTLED);
    given.forEach(({ rows, figures, first }, i) => {
      if (n === 0 || (said[i].length === n && together[i].score >= least)) said[i].push(heardBy(net, rows, figures, first));
    });
  });
  const verdicts = said.map(usual);
  const likely = sharesOf(verdicts.map(({ score }) => score));
  return heard.readings
    .map((reading, i) => ({ ...reading, ways: verdicts[i].ways, likely: likely[i] }))
    .sort((a, b) => b.likely - a.likely);
}
