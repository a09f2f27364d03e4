import { FLUX_RATE } from './band-flux';
import { mean, peakNear } from './curves';
import type { Heard, Reading } from './readings';

/** How much the places of every other beat differ from those between. */
function alternation(values: readonly number[]): number {
  const sums = [0, 0];
  values.forEach((v, i) => {
    sums[i & 1] += v;
  });
  return Math.abs(sums[0] - sums[1]) / (sums[0] + sums[1] + 0.15 * values.length);
}

/** How far the best of every `m`th place stands above the mean of all. */
function standsOut(values: readonly number[], m: number): number {
  const sums = new Float64Array(m);
  const counts = new Float64Array(m);
  values.forEach((v, i) => {
    sums[i % m] += v;
    counts[i % m]++;
  });
  const means = sums.map((s, i) => s / (counts[i] || 1));
  return means.reduce((a, b) => Math.max(a, b), 0) - mean(means);
}

const ratio = (a: number, b: number) => Math.log((a + 0.08) / (b + 0.08));
/** Places of a beat, and ranges, at which its pattern over two beats is read. */
const PLACES = [0, 0.25, 1 / 3, 0.5, 2 / 3, 0.75];
const RANGES = [0, 1, 3, 4];

/** Strokes at six places of each of two beats, by range, as logarithms over their mean; the beat that the low ranges lead on comes first. */
function pattern({ accents }: Heard, beats: readonly number[]): number[] {
  const counts = [0, 0];
  const sums = RANGES.map(() => [new Float64Array(PLACES.length), new Float64Array(PLACES.length)]);
  for (let i = 0; i + 1 < beats.length; i++) {
    counts[i & 1]++;
    PLACES.forEach((place, j) => {
      const at = beats[i] + place * (beats[i + 1] - beats[i]);
      RANGES.forEach((range, b) => {
        sums[b][i & 1][j] += peakNear(accents.bands[range], at, 2);
      });
    });
  }
  const means = sums.map((pair) => pair.map((s, k) => s.map((v) => v / (counts[k] || 1))));
  const lead = (k: number) => means[0][k][0] + 0.5 * means[1][k][0];
  const first = lead(0) < lead(1) ? 1 : 0;
  return means.flatMap((pair) => {
    const usual = mean([...pair[0], ...pair[1]]);
    return [...pair[first], ...pair[1 - first]].map((v) => Math.log((v + 0.1) / (usual + 0.1)));
  });
}

/** What is heard on a reading's beats and between them; compared between readings in `figuresOf`. */
function strokes(heard: Heard, { beats, period }: Reading) {
  const { accents, turn } = heard;
  const [kick, toms, , snare, cymbals] = accents.bands;
  const span = 0.9 * mean(period);
  const between = beats.slice(0, -1);
  const places = (share: number) => between.map((t, i) => t + share * (beats[i + 1] - t));
  const on = places(0);
  const half = places(0.5);
  const peaks = (curve: Float32Array, at: readonly number[]) => at.map((t) => peakNear(curve, t, 2));
  const at = (curve: Float32Array, share: number) => mean(peaks(curve, places(share)));
  const turns = on.map((t) => turn(t, span));
  const halfTurns = half.map((t) => turn(t, span));
  return {
    all: at(accents.all, 0),
    half: at(accents.all, 0.5),
    thirds: (at(accents.all, 1 / 3) + at(accents.all, 2 / 3)) / 2,
    quarters: (at(accents.all, 0.25) + at(accents.all, 0.75)) / 2,
    low: at(kick, 0) + at(toms, 0),
    lowHalf: at(kick, 0.5) + at(toms, 0.5),
    snare: at(snare, 0),
    snareHalf: at(snare, 0.5),
    cymbals: at(cymbals, 0),
    cymbalsHalf: at(cymbals, 0.5),
    turn: mean(turns),
    turnHalf: mean(halfTurns),
    alternates: alternation(peaks(accents.all, on)),
    lowAlternates: alternation(peaks(kick, on)),
    leads: RANGES.map((r) => alternation(peaks(accents.bands[r], on)) - alternation(peaks(accents.bands[r], half))),
    turnsIn: [turns, halfTurns].flatMap((series) => [2, 3, 4, 8].map((m) => standsOut(series, m))),
    pattern: pattern(heard, beats),
    bpm: (60 * FLUX_RATE) / mean(period),
  };
}

/** The figures each reading of a song is judged by, in one order (see `choose.ts`); some compare it with the others. */
export function figuresOf(heard: Heard): number[][] {
  const all = heard.readings.map((reading) => strokes(heard, reading));
  const most = all.reduce((best, s) => Math.max(best, s.all), 0);
  return all.map((s) => {
    const tempo = Math.log2(s.bpm / 118);
    return [
      tempo * tempo,
      tempo,
      ratio(s.all, s.half),
      ratio(s.all, s.thirds),
      ratio(s.all, s.quarters),
      ratio(s.all, most),
      ratio(s.low, s.lowHalf),
      ratio(s.snare, s.snareHalf),
      ratio(s.cymbals, s.cymbalsHalf),
      10 * (s.turn - s.turnHalf),
      10 * s.turn,
      s.alternates,
      s.lowAlternates,
      ratio(s.low, 2 * most),
      ratio(s.half, most),
      ...s.leads,
      ...s.turnsIn.map((v) => 20 * v),
      ...s.pattern,
    ];
  });
}
