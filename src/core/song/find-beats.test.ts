import { describe, expect, it } from 'vitest';
import { randomSource, synthesiseSong } from '../room';
import { accentCurves } from './accent-curves';
import { type BandFlux, FluxMeter } from './band-flux';
import WEIGHTS from './beat-net.json' with { type: 'json' };
import { settled } from './beats';
import { bestChain, bestGrid } from './chains';
import { chosenReadings } from './choose';
import { smoothed, valueAt } from './curves';
import { findBeats } from './find-beats';
import { beatFMeasure } from './fmeasure';
import { onsetStrength, toAnalysisRate } from './onset';
import { pulsePath } from './pulse-path';
import { readingsOf } from './readings';

const RATE = 22050;

/** Short strokes of noise at the given seconds. */
function strokes(times: readonly number[], seconds: number, seed = 4): Float32Array {
  const random = randomSource(seed);
  const out = Float32Array.from({ length: seconds * RATE }, () => 0.0005 * (random() - 0.5));
  for (const t of times)
    for (let i = 0; i < 0.03 * RATE; i++) out[Math.round(t * RATE) + i] += (random() - 0.5) * Math.exp(-i / (0.006 * RATE));
  return out;
}

function fluxOf(channels: readonly Float32Array[], rate = RATE, piece = 1e9): BandFlux {
  const meter = new FluxMeter(rate);
  for (let at = 0; at < channels[0].length; at += piece) meter.push(channels.map((c) => c.subarray(at, at + piece)));
  return meter.read();
}

const every = (gap: number, from: number, to: number) => Array.from({ length: Math.floor((to - from) / gap) }, (_, k) => from + k * gap);

describe('what begins in a sound, by range', () => {
  const times = every(0.61, 0.5, 11);
  const sound = strokes(times, 12);

  it('is the same in whatever pieces the sound comes, and from two like channels', () => {
    const whole = fluxOf([sound]);
    for (const piece of [777, 22050]) expect(fluxOf([sound, sound], RATE, piece)).toEqual(whole);
    expect(whole.length).toBe(1201);
  });

  it('peaks on the strokes, to two hundredths of a second, at any rate of the sound', () => {
    for (const [channel, rate] of [
      [sound, RATE],
      [Float32Array.from({ length: 2 * sound.length }, (_, i) => valueAt(sound, i / 2)), 2 * RATE],
    ] as const) {
      const { all } = accentCurves(fluxOf([channel], rate));
      for (const t of times) {
        const near = Array.from({ length: 21 }, (_, k) => Math.round(100 * t) - 10 + k);
        const peak = near.reduce((a, b) => (all[b] > all[a] ? b : a));
        expect(Math.abs(peak - 100 * t)).toBeLessThanOrEqual(2);
      }
    }
  });

  it('tells a kick from cymbals', () => {
    const tone = (hertz: number) =>
      Float32Array.from({ length: 3 * RATE }, (_, i) =>
        i > RATE ? 0.4 * Math.sin((2 * Math.PI * hertz * i) / RATE) * Math.exp(-(i - RATE) / 2000) : 0,
      );
    const sums = (hertz: number) => fluxOf([tone(hertz)]).flux.map((c) => c.subarray(98, 106).reduce((a, b) => a + b, 0));
    const [low, high] = [sums(60), sums(7000)];
    expect(low[0] / low[4]).toBeGreaterThan(5 * (high[0] / high[4]));
  });
});

describe('chains and grids', () => {
  const places = every(48.37, 33.2, 5000);
  const accents = new Float32Array(5100);
  for (const p of places) accents[Math.round(p)] += 1;
  const soft = smoothed(accents, 1.3);

  it('a grid finds period and place of even strokes from a period a hundredth off', () => {
    const grid = bestGrid(soft, 48.37 * 1.009, 0, 5000);
    expect(Math.abs(grid.period / 48.37 - 1)).toBeLessThan(3e-4);
    expect(Math.abs(grid.phases[0].at - 33.2)).toBeLessThan(1);
    expect(grid.value).toBeGreaterThan(4 * grid.usual);
  });

  it('a chain goes along with a tempo that changes', () => {
    const uneven: number[] = [];
    for (let t = 20, gap = 60; t < 4900; t += gap, gap *= 0.995) uneven.push(t);
    const marks = new Float32Array(5000);
    for (const t of uneven) marks[Math.round(t)] = 1;
    const period = Float32Array.from({ length: 5000 }, (_, t) => {
      const next = uneven.findIndex((u) => u > t);
      return next < 1 ? 60 : uneven[next] - uneven[next - 1];
    });
    const found = bestChain(smoothed(marks, 1.3), period);
    const missed = uneven.filter((t) => !found.some((f) => Math.abs(f - t) <= 2));
    expect(missed.length).toBeLessThanOrEqual(2);
  });

  it('beats settle on the strokes near them, and a grid on the line through them', () => {
    const times = every(0.5, 0.4, 29);
    const onsets = onsetStrength(toAnalysisRate([strokes(times, 30)], RATE));
    const off = times.map((t, i) => t + 0.012 + 0.0002 * i);
    const grid = settled(off, onsets, true);
    for (const [i, t] of times.entries()) expect(Math.abs(grid[i] - t)).toBeLessThan(0.005);
    const free = settled(off, onsets, false);
    expect(free[30] - free[0]).toBeCloseTo(off[30] - off[0], 9);
    // Nothing near to settle on: as they were.
    expect(settled([1.25, 2.25], onsets, true)).toEqual([1.25, 2.25]);
  });
});

describe('the ways a song may be heard', () => {
  it.each([62, 96, 131, 188, 209])('hold the right one at %i BPM, and most often put it first', (bpm) => {
    const song = synthesiseSong({ sampleRate: RATE, bpm });
    const flux = fluxOf(song.channels);
    const all = readingsOf(flux).readings.map(({ beats }) =>
      beatFMeasure(
        beats.map((b) => b / 100),
        song.beats,
      ),
    );
    expect(Math.max(...all)).toBeGreaterThan(0.97);
    const { found, clarity } = findBeats(flux);
    expect(clarity).toBeGreaterThan(-1.4);
    expect(found.reduce((sum, f) => sum + f.likely, 0)).toBeCloseTo(1, 6);
    expect(Math.max(...found.slice(0, 3).map((f) => beatFMeasure(f.beats, song.beats)))).toBeGreaterThan(0.97);
  });

  const bestOf = (sound: Float32Array, beats: readonly number[]) =>
    Math.max(
      ...readingsOf(fluxOf([sound])).readings.map((r) =>
        beatFMeasure(
          r.beats.map((b) => b / 100),
          beats,
        ),
      ),
    );

  it('hold the one tempo of a song that is played in dotted notes for half of it', () => {
    const beats = every(0.6, 0.3, 59);
    const sound = strokes([...every(0.45, 0.3, 30), ...every(0.3, 30.3, 59)], 60);
    const { period, held } = pulsePath(accentCurves(fluxOf([sound])).all);
    const spread = (p: Float32Array | null) => (p ? Math.max(...p) / Math.min(...p) : 0);
    expect(spread(period)).toBeGreaterThan(1.2);
    expect(spread(held)).toBeLessThan(1.02);
    expect(bestOf(sound, beats)).toBeGreaterThan(0.97);
  });

  it('hold the right one before a long silence, and after one', () => {
    const times = every(0.47, 0.3, 40);
    expect(bestOf(strokes(times, 80), times)).toBeGreaterThan(0.97);
    const late = times.map((t) => t + 30);
    expect(bestOf(strokes(late, 72), late)).toBeGreaterThan(0.97);
  });

  it('are none in a sound too short or empty', () => {
    expect(findBeats(fluxOf([new Float32Array(100)])).found.length).toBeLessThanOrEqual(2);
    expect(findBeats(fluxOf([new Float32Array(RATE * 8)])).clarity).toBeLessThan(-1.85);
  });

  describe('judged by several networks', () => {
    const heard = readingsOf(fluxOf(synthesiseSong({ sampleRate: RATE, bpm: 100 }).channels));
    const { mean, deviation, nets } = WEIGHTS;
    type Judged = ReturnType<typeof chosenReadings>;
    const alone = nets.map((net) => chosenReadings(heard, { mean, deviation, nets: [net] }));
    const likelyOf = (list: Judged, { beats }: Judged[number]) => list.find((r) => r.beats === beats)?.likely ?? 0;
    /** How much more speaks for one reading than for another, as a logarithm. */
    const oddsOf = (list: Judged, one: Judged[number], other: Judged[number]) => Math.log(likelyOf(list, one) / likelyOf(list, other));
    const meanOf = (lists: Judged[], one: Judged[number], other: Judged[number]) =>
      lists.reduce((sum, list) => sum + oddsOf(list, one, other), 0) / lists.length;

    it('count what each of them says alike', () => {
      const two = chosenReadings(heard, { mean, deviation, nets: nets.slice(0, 2) });
      expect(oddsOf(two, two[0], two[1])).toBeCloseTo(meanOf(alone.slice(0, 2), two[0], two[1]), 6);
      expect(two[0].ways.length).toBe(7);
    });

    it('come to the same reading where those that fell behind are asked about no further', () => {
      const all = chosenReadings(heard);
      for (const other of all.slice(1)) expect(meanOf(alone, all[0], other)).toBeGreaterThan(0);
    });
  });
});
