import { describe, expect, it } from 'vitest';
import { type BeatNet, heardBy, WAYS } from './beat-net';
import WEIGHTS from './beat-net.json' with { type: 'json' };
import { BEAT_WIDTH } from './beat-rows';
import { barsBy } from './count';

/** A small network that passes on what it sees: the first number of a beat, through its near and far layers. */
function passing(near: number[], far: number[]): BeatNet {
  return {
    beat: [Array.from({ length: BEAT_WIDTH }, (_, i) => (i === 0 ? 1 : 0))],
    beatBias: [0],
    near: [[near]],
    nearBias: [0],
    far: [[far]],
    farBias: [0],
    out: [[1], [2], [2], [0]],
    outBias: [0.5, 0, 0, -0.1],
    gain: 3,
    hidden: [[1, 0]],
    hiddenBias: [0],
    figures: [2],
    straight: [0, 1],
    opens: [0.3, 0.9],
  };
}

/** A song whose first sound lies between its beats. */
const BETWEEN = { beat: null, atOnce: false };

/** Rows whose first numbers are given. */
function rowsOf(values: readonly number[]): Float64Array {
  const rows = new Float64Array(values.length * BEAT_WIDTH);
  values.forEach((v, b) => {
    rows[b * BEAT_WIDTH] = v;
  });
  return rows;
}

const ALONE = [0, 0, 1, 0, 0];

describe('networks along the beats of a reading', () => {
  it('say what its beats say in the mean, and add what the figures say', () => {
    const { score } = heardBy(passing(ALONE, [0, 1, 0]), rowsOf([0.2, 0.4, 0.1]), [0.7, 0.25], BETWEEN);
    const seen = [0.2, 0.4, 0.1].map((v) => Math.tanh(v));
    expect(score).toBeCloseTo(3 * (seen.reduce((a, b) => a + b, 0) / 3 + 0.5) + 2 * Math.tanh(0.7) + 0.25, 6);
  });

  it('hear beats two to each side, and four away from those; nothing beyond the ends', () => {
    const one = rowsOf([0, 0, 0, 0, 0, 0, 0, 0, 1, 0]);
    // Where the stroke is heard: at the first of four whose score is not nought.
    const heard = (near: number[], far: number[]) =>
      heardBy(passing(near, far), one, [0, 0], BETWEEN)
        .ways.slice(3)
        .map((v) => Math.round((100 * v) / 6 / Math.tanh(1)));
    expect(heard(ALONE, [0, 1, 0])).toEqual([33, 0, 0, 0]);
    expect(heard([0, 0, 0, 0, 1], [0, 1, 0])).toEqual([0, 0, 50, 0]);
    expect(heard([1, 0, 0, 0, 0], [0, 1, 0])).toEqual([0, 0, 0, 0]);
    expect(heard(ALONE, [0, 0, 1])).toEqual([33, 0, 0, 0]);
    expect(heard(ALONE, [1, 0, 0])).toEqual([0, 0, 0, 0]);
  });

  it.each(WAYS)('bars of $beatsPerBar from beat $phase on', ({ beatsPerBar, phase }) => {
    const song = rowsOf(Array.from({ length: 48 }, (_, i) => (i % beatsPerBar === phase ? 1 : 0)));
    const bars = barsBy(heardBy(passing(ALONE, [0, 1, 0]), song, [0, 0], BETWEEN).ways, 0);
    expect(bars).toMatchObject({ beatsPerBar, phase });
    expect(bars.sure).toBeGreaterThan(0.75);
  });

  it('the beat of the first sound opens bars, however they are counted and also before the first that is heard', () => {
    const by = (beat: number | null, atOnce: boolean) =>
      heardBy(passing(ALONE, [0, 1, 0]), rowsOf([0.2, 0.2]), [0, 0], { beat, atOnce }).ways;
    const more = (beat: number, atOnce: boolean) => by(beat, atOnce).map((v, i) => Math.round(100 * (v - by(null, atOnce)[i])) / 100);
    expect(more(5, false)).toEqual([0, 0, 0.9, 0, 0.9, 0, 0]);
    expect(more(-1, true)).toEqual([0, 0, 0.3, 0, 0, 0, 0.3]);
  });

  // What PyTorch makes of the same rows and figures with the same weights (written by `bench/fit-beats.py`).
  it('come to what they came to where they were fitted', () => {
    const { count, score, ways } = WEIGHTS.check;
    const rows = Float64Array.from({ length: count * BEAT_WIDTH }, (_, i) => Math.abs(Math.sin(1 + 0.37 * i)));
    const figures = WEIGHTS.nets[0].straight.map((_, k) => Math.cos(k));
    const found = heardBy(WEIGHTS.nets[0], rows, figures, { beat: 2, atOnce: false });
    expect(found.score).toBeCloseTo(score, 2);
    expect(found.ways.length).toBe(ways.length);
    ways.forEach((v, i) => {
      expect(found.ways[i]).toBeCloseTo(v, 2);
    });
  });
});

describe('bars', () => {
  const scores = (at: number) => WAYS.map((_, i) => (i === at ? 4 : 0));

  it('begin later by what comes before the first beat that was heard, earlier by what was left out', () => {
    expect(barsBy(scores(4), 0)).toMatchObject({ beatsPerBar: 4, phase: 1 });
    expect(barsBy(scores(4), 2)).toMatchObject({ beatsPerBar: 4, phase: 3 });
    expect(barsBy(scores(4), 7)).toMatchObject({ beatsPerBar: 4, phase: 0 });
    expect(barsBy(scores(4), -2)).toMatchObject({ beatsPerBar: 4, phase: 3 });
    expect(barsBy(scores(2), 2)).toMatchObject({ beatsPerBar: 3, phase: 1 });
  });

  it('are as sure as they stand out', () => {
    expect(barsBy(scores(0), 0).sure).toBeCloseTo(Math.exp(4) / (Math.exp(4) + 6), 9);
    expect(barsBy(new Array(7).fill(-1), 0).sure).toBeCloseTo(1 / 7, 9);
  });
});
