import { describe, expect, it } from 'vitest';
import { randomSource, synthesiseSong } from '../room';
import { analyseSong } from './analyse';
import { beatFMeasure } from './fmeasure';
import { estimateTempo } from './tempo';

/** Clicks at given times: short decaying noise, mono. */
function clicks(times: readonly number[], duration: number, rate = 22050): Float32Array {
  const random = randomSource(3);
  const out = new Float32Array(Math.round(duration * rate));
  for (const t of times)
    for (let i = 0; i < 0.03 * rate; i++) out[Math.round(t * rate) + i] += (random() * 2 - 1) * Math.exp(-i / (0.006 * rate));
  return out;
}

describe('beats against exact truth', () => {
  it.each([
    [112, 0.25],
    [96, 0.71],
    [104.3, 1.2],
  ])('the synthesised song at %f BPM, led in by %f s', (bpm, leadIn) => {
    const song = synthesiseSong({ bpm, leadIn, sampleRate: 22050 });
    const found = analyseSong(song.channels, song.sampleRate);
    const map = found?.map;
    expect(map).toBeTruthy();
    if (!found || !map) return;
    expect(Math.abs(found.bpm / bpm - 1)).toBeLessThan(0.002);
    expect(beatFMeasure(map.beats, song.beats)).toBeGreaterThan(0.97);
    const downbeats = map.beats.filter((_, i) => (i - map.bar1) % 4 === 0);
    expect(beatFMeasure(downbeats, song.downbeats)).toBeGreaterThan(0.95);
    const errors = song.beats.map((t) => Math.min(...map.beats.map((b) => Math.abs(b - t)))).sort((a, b) => a - b);
    expect(errors[errors.length >> 1]).toBeLessThan(0.008);
  });

  it('follows a tempo that rises from 100 to 116', () => {
    const times: number[] = [];
    for (let t = 0.5; t < 59; ) {
      times.push(t);
      t += 60 / (100 + (16 * t) / 60);
    }
    const found = analyseSong([clicks(times, 60)], 22050);
    expect(beatFMeasure(found?.map?.beats ?? [], times)).toBeGreaterThan(0.95);
  });

  it('says so when there is no beat: silence, a short sound, steady noise', () => {
    expect(analyseSong([new Float32Array(22050 * 10)], 22050)?.reason).toMatch(/silent/);
    expect(analyseSong([clicks([0.5, 1], 2)], 22050)?.reason).toMatch(/too short/);
    const random = randomSource(9);
    const noise = Float32Array.from({ length: 22050 * 20 }, () => random() - 0.5);
    expect(analyseSong([noise], 22050)?.map).toBeNull();
  });

  it('stops when told to', () => {
    expect(analyseSong([clicks([1, 2, 3], 20)], 22050, () => false)).toBeNull();
  });
});

describe('tempo', () => {
  it('finds the spacing of an impulse train to 0.1 %', () => {
    for (const bpm of [93.7, 120, 131.2]) {
      const curve = new Float32Array(7500);
      for (let t = 0; t < 60; t += 60 / bpm) {
        const at = t * 125;
        for (let k = -3; k <= 3; k++) {
          const i = Math.round(at) + k;
          if (i >= 0 && i < 7500) curve[i] += Math.exp(-0.5 * ((i - at) / 1.2) ** 2);
        }
      }
      expect(Math.abs(estimateTempo(curve, 125).bpm / bpm - 1)).toBeLessThan(0.001);
    }
  });
});

describe('F-measure, Davies, Degara & Plumbley 2009', () => {
  it('counts hits within 70 ms, one to one, after the first 5 s', () => {
    const truth = [1, 6, 7, 8, 9];
    expect(beatFMeasure(truth, truth)).toBe(1);
    expect(beatFMeasure([6.069, 7.071, 8, 9], truth)).toBeCloseTo(0.75, 9);
    expect(beatFMeasure([6, 6.01, 7, 8, 9], truth)).toBeCloseTo(8 / 9, 9);
    expect(beatFMeasure([], truth)).toBe(0);
  });
});
