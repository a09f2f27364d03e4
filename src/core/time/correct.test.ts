import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { constantBeatMap } from './beatmap';
import { nearestBeat, tappedBeats, tempoCurve, withBeatAt, withLocks, withStretch } from './correct';

const map = constantBeatMap(120, 0, 40);
const gapsOf = (beats: readonly number[]) => beats.slice(1).map((t, i) => t - beats[i]);

describe('one beat dragged', () => {
  it('goes where it is put and is locked; its neighbours follow, ever less, up to locked ones', () => {
    const locked = withLocks(withLocks(map, 10, 10, true), 20, 20, true);
    const next = withBeatAt(locked, 15, 7.56);
    expect(next.beats[15]).toBeCloseTo(7.56, 9);
    expect(next.locked).toEqual([10, 15, 20]);
    const moves = next.beats.map((t, i) => t - map.beats[i]);
    expect(moves.slice(0, 11).every((d) => d === 0)).toBe(true);
    expect(moves.slice(20).every((d) => d === 0)).toBe(true);
    for (let i = 11; i < 15; i++) expect(moves[i + 1]).toBeGreaterThan(moves[i]);
    expect(moves[14]).toBeCloseTo(moves[16], 9);
  });

  it('reaches eight beats to each side where nothing is locked', () => {
    const moves = withBeatAt(map, 20, 10.1).beats.map((t, i) => t - map.beats[i]);
    expect(moves.filter((d) => d !== 0)).toHaveLength(17);
  });

  it('never turns time round or tears a gap', () => {
    for (const time of [0, 3, 9.9, 30]) {
      const { beats } = withBeatAt(withLocks(map, 18, 19, true), 20, time);
      for (const gap of gapsOf(beats)) expect(gap).toBeGreaterThanOrEqual(0.2 - 1e-9);
    }
    expect(gapsOf(withBeatAt(map, 0, -0.2).beats).every((gap) => gap > 0.19)).toBe(true);
  });
});

describe('a stretch set by taps', () => {
  const truth = Array.from({ length: 12 }, (_, k) => 8 + k * 0.53);
  const random = randomSource(5);
  const taps = truth.map((t) => t + 0.05 * (random() - 0.5));

  it('is drawn to the strokes under it', () => {
    const strokes = truth.map((time) => ({ time, strength: 0.8 }));
    const beats = tappedBeats(taps, strokes);
    beats?.forEach((t, i) => {
      expect(t).toBeCloseTo(truth[i], 6);
    });
    expect(beats).toHaveLength(12);
  });

  it('is evened out where there are none; a missed tap is filled in, a double one left out', () => {
    const holes = [...taps.filter((_, i) => i !== 4), taps[7] + 0.03];
    const beats = tappedBeats(holes) as number[];
    expect(beats).toHaveLength(12);
    for (const [i, t] of beats.entries()) expect(Math.abs(t - truth[i])).toBeLessThan(0.03);
    expect(tappedBeats([1, 2, 3])).toBeNull();
  });

  it('takes the place of what was there; bars before it go on being counted', () => {
    const next = withStretch(map, truth, true);
    expect(next.beats.slice(0, 16)).toEqual(map.beats.slice(0, 16));
    expect(next.beats.slice(16, 28)).toEqual(truth);
    expect(next.locked).toEqual(Array.from({ length: 12 }, (_, k) => 16 + k));
    expect(next.bar1).toBe(0);
    for (const gap of gapsOf(next.beats)) expect(gap).toBeGreaterThan(0.25);
  });

  it('shifts what is counted and locked after it by what was put in or left out', () => {
    const late = withLocks({ ...map, bar1: 36 }, 38, 38, true);
    const fewer = withStretch(late, [8, 9, 10, 11], true);
    expect(fewer.beats).toHaveLength(40 - 9 + 4);
    expect(fewer.beats[fewer.bar1]).toBe(map.beats[36]);
    expect(fewer.locked?.at(-1)).toBe(33);
  });
});

describe('reading a map', () => {
  it('tells the nearest beat and the tempo at each', () => {
    expect(nearestBeat(map, 3.2)).toBe(6);
    expect(tempoCurve(map)[7]).toEqual({ time: 3.5, bpm: expect.closeTo(120, 9) });
    const faster = { ...map, beats: [...map.beats.slice(0, 20), ...Array.from({ length: 20 }, (_, k) => 9.5 + (k + 1) * 0.4)] };
    expect(tempoCurve(faster)[30].bpm).toBeCloseTo(150, 9);
  });
});
