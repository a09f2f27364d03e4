import { describe, expect, it } from 'vitest';
import { randomSource, synthesiseSong } from '../room';
import { constantBeatMap, withBeatAt, withLocks, withStretch } from '../time';
import { analyseSong, type SongAnalysis } from './analyse';
import { beatFMeasure } from './fmeasure';
import { columnsOf, PEAK_SAMPLES, PeaksBuilder } from './peaks';
import { solveAgain } from './resolve';

const RATE = 22050;
const analysed = (channels: readonly Float32Array[]): SongAnalysis => analyseSong(channels, RATE);
const song = synthesiseSong({ sampleRate: RATE });
const found = analysed(song.channels);

describe('parts, against those the made-up song was built from', () => {
  it('begin on the bar lines where the arrangement changes; what comes again is known again', () => {
    const starts = found.parts.map((p) => p.beat / 4);
    expect(starts).toEqual([0, 4, 12, 20, 24, 32]);
    const letters = found.parts.map((p) => p.letter);
    // The last chorus is the chorus.
    expect(letters[4]).toBe(letters[2]);
    expect(new Set(letters.slice(0, 4)).size).toBe(4);
  });
});

describe('hits', () => {
  /** Bursts of noise that die away, on a quiet bed. */
  function struck(times: readonly { at: number; gain: number }[], seconds: number, bed: (t: number) => number): Float32Array {
    const random = randomSource(8);
    const out = Float32Array.from({ length: seconds * RATE }, (_, i) => bed(i / RATE) * (random() - 0.5));
    for (const { at, gain } of times)
      for (let i = 0; i < 0.05 * RATE; i++) out[Math.round(at * RATE) + i] += gain * (random() - 0.5) * Math.exp(-i / (0.01 * RATE));
    return out;
  }

  it('are where something is struck, to 6 ms, stronger where it is struck harder', () => {
    const truth = Array.from({ length: 30 }, (_, k) => ({ at: 0.7 + 0.613 * k, gain: k % 3 ? 0.9 : 1.8 }));
    const { hits } = analysed([struck(truth, 20, () => 0.002)]);
    for (const { at } of truth) expect(Math.min(...hits.map((h) => Math.abs(h.time - at)))).toBeLessThan(0.006);
    const strength = (k: number) => hits.find((h) => Math.abs(h.time - truth[k].at) < 0.01)?.strength ?? 0;
    expect(strength(3)).toBeGreaterThan(strength(4));
    expect(hits.filter((h) => !truth.some((t) => Math.abs(t.at - h.time) < 0.02)).length).toBeLessThan(3);
  });

  it('tell where the sound breaks off, and where it comes in', () => {
    const beat = Array.from({ length: 38 }, (_, k) => ({ at: 0.5 + k / 2, gain: k >= 16 && k < 24 ? 0 : 1.2 }));
    const { hits } = analysed([struck(beat, 20, (t) => (t > 8.3 && t < 12.4 ? 0.0004 : t > 12.4 ? 0.5 : 0.12))]);
    const stop = hits.find((h) => h.kind === 'stop');
    expect(Math.abs((stop?.time ?? 0) - 8.3)).toBeLessThan(0.05);
    const drop = hits.find((h) => h.kind === 'drop');
    expect(Math.abs((drop?.time ?? 0) - 12.4)).toBeLessThan(0.15);
  });
});

describe('swing', () => {
  it.each([
    [0.5, 0.5],
    [2 / 3, 0.667],
  ])('off beats at %f of a beat', (share, expected) => {
    const random = randomSource(2);
    const out = new Float32Array(24 * RATE);
    for (let k = 0; k < 44; k++)
      for (const [at, gain] of [
        [0.3 + k * 0.52, 1],
        [0.3 + (k + share) * 0.52, 0.5],
      ])
        for (let i = 0; i < 0.03 * RATE; i++) out[Math.round(at * RATE) + i] += gain * (random() - 0.5) * Math.exp(-i / (0.006 * RATE));
    expect(Math.abs((analysed([out]).swing ?? 0) - expected)).toBeLessThan(0.02);
  });
});

describe('sureness', () => {
  it('is high where beats are struck and low where nothing is', () => {
    const random = randomSource(6);
    const out = Float32Array.from({ length: 40 * RATE }, () => 0.02 * (random() - 0.5));
    for (let k = 0; k < 80; k++)
      if (k < 30 || k > 50)
        for (let i = 0; i < 0.03 * RATE; i++)
          out[Math.round((0.25 + k / 2) * RATE) + i] += (random() - 0.5) * Math.exp(-i / (0.006 * RATE));
    const { map, sureness } = analysed([out]);
    const at = (time: number) => sureness[map?.beats.findIndex((t) => t > time) ?? 0];
    expect(at(8)).toBeGreaterThan(0.7);
    expect(at(20)).toBeLessThan(0.4);
    expect(at(34)).toBeGreaterThan(0.7);
  });
});

describe('solving again around locked beats', () => {
  it('leaves a map without locked beats as it is', () => {
    const map = constantBeatMap(112, 0.25, 140);
    expect(solveAgain(map, found.onsets, found.duration)).toBe(map);
  });

  it('puts a map right from one stretch: at another tempo altogether, and off by a third of a beat', () => {
    const wrong = constantBeatMap(84, 0.42, 108);
    const tapped = withStretch(wrong, song.beats.slice(40, 52), true);
    const solved = solveAgain(tapped, found.onsets, found.duration);
    expect(beatFMeasure(wrong.beats, song.beats)).toBeLessThan(0.5);
    expect(beatFMeasure(solved.beats, song.beats)).toBeGreaterThan(0.97);
    for (const i of solved.locked ?? []) expect(song.beats).toContain(solved.beats[i]);
    for (const [i, t] of solved.beats.entries()) if (i) expect(t).toBeGreaterThan(solved.beats[i - 1] + 0.2);
  });

  it('keeps the bars counted from the locked beats', () => {
    const map = { ...constantBeatMap(112, 0.25, 140), bar1: 0 };
    const solved = solveAgain(withLocks(map, 60, 64, true), found.onsets, found.duration);
    const first = solved.locked?.[0] ?? 0;
    expect((first - solved.bar1) % 4).toBe(0);
    expect(solved.beats[first]).toBe(map.beats[60]);
  });

  it('goes through a beat that was dragged, without tearing a gap', () => {
    const map = constantBeatMap(112, 0.25, 140);
    const dragged = withBeatAt(map, 70, map.beats[70] + 0.05);
    const solved = solveAgain(dragged, found.onsets, found.duration);
    expect(solved.beats).toContain(dragged.beats[70]);
    for (const [i, t] of solved.beats.entries()) if (i) expect(t - solved.beats[i - 1]).toBeGreaterThan(0.3);
  });
});

describe('a waveform in little', () => {
  it('has the extremes of each stretch, whatever pieces it came in', () => {
    const [left, right] = song.channels;
    const builder = new PeaksBuilder(RATE);
    for (let at = 0; at < left.length; at += 7777) builder.push([left.subarray(at, at + 7777), right.subarray(at, at + 7777)]);
    const peaks = builder.read();
    for (const k of [0, 10, 500]) {
      const all = [left, right].flatMap((c) => [...c.subarray(k * PEAK_SAMPLES, (k + 1) * PEAK_SAMPLES)]);
      expect(peaks.high[k] / 32767).toBeCloseTo(Math.max(0, ...all), 3);
      expect(peaks.low[k] / 32767).toBeCloseTo(Math.min(0, ...all), 3);
    }
    const { high } = columnsOf(peaks, 0, left.length / RATE, 10);
    expect(Math.max(...high)).toBeCloseTo(
      [left, right].reduce((most, c) => c.reduce((m, v) => Math.max(m, v), most), 0),
      3,
    );
    expect(columnsOf(peaks, -5, -1, 4).high).toEqual(new Float32Array(4));
  });
});
