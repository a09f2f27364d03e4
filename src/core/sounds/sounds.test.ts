import FFT from 'fft.js';
import { describe, expect, it } from 'vitest';
import { filter, oscillator } from './filter';
import { makeSound } from './make';
import { SOUND_KINDS, type SoundKind, VOICES } from './voices';

const RATE = 48_000;
const decibels = (v: number) => 20 * Math.log10(v);
/** Level (RMS) of windows of 30 ms, one every 10. */
function levels(samples: Float32Array): number[] {
  const n = RATE / 100;
  return Array.from({ length: Math.floor(samples.length / n) }, (_, k) => {
    let sum = 0;
    for (let i = k * n; i < Math.min(samples.length, (k + 3) * n); i++) sum += samples[i] ** 2;
    return Math.sqrt(sum / n);
  });
}
/** Middle of the power spectrum, Hz, over stretches of 4096 samples from a second on. */
function centroid(samples: Float32Array, from: number, to: number): number {
  const fft = new FFT(4096);
  let [weighted, whole] = [0, 0];
  for (let at = Math.round(from * RATE); at + 4096 <= Math.round(to * RATE); at += 2048) {
    const window = Array.from({ length: 4096 }, (_, i) => samples[at + i] * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / 4096)));
    const out = fft.createComplexArray();
    fft.realTransform(out, window);
    for (let k = 1; k < 2048; k++) {
      const power = out[2 * k] ** 2 + out[2 * k + 1] ** 2;
      weighted += power * ((k * RATE) / 4096);
      whole += power;
    }
  }
  return weighted / whole;
}

describe.each(SOUND_KINDS.map((kind) => [kind] as const))('%s', (kind) => {
  const { usual, peak, meets } = VOICES[kind];
  const made = makeSound(kind, usual, 3);

  it('has its length and its level, and neither clicks at its end nor carries an offset', () => {
    expect(made.samples.length).toBe(Math.round(usual * RATE));
    expect(decibels(made.samples.reduce((m, v) => Math.max(m, Math.abs(v)), 0))).toBeCloseTo(peak, 3);
    expect(Math.abs(made.samples[made.samples.length - 1])).toBeLessThan(0.02);
    expect(Math.abs(made.samples.reduce((a, b) => a + b, 0) / made.samples.length)).toBeLessThan(0.02);
  });

  it('is the same for a seed and another for another', () => {
    expect(makeSound(kind, usual, 3).samples).toEqual(made.samples);
    if (kind !== 'sub drop' && kind !== 'tape stop') expect(makeSound(kind, usual, 4).samples).not.toEqual(made.samples);
  });

  it('is loudest about the instant that meets the beat', () => {
    if (kind === 'room tone' || kind === 'tape stop') return;
    const level = levels(made.samples);
    const loudest = level.indexOf(Math.max(...level)) / 100;
    expect(made.meets).toBeCloseTo(meets * usual, 9);
    // Thunder rolls: it is loudest somewhere near its beginning.
    expect(Math.abs(loudest - made.meets)).toBeLessThan(
      kind.endsWith('rumble') ? 0.4 : kind === 'whoosh' || kind === 'cloth' ? 0.15 : 0.06,
    );
  });

  it('lasts as long as it is asked to', () => {
    for (const seconds of [0.3, 1.7]) expect(makeSound(kind, seconds, 1).samples.length).toBe(Math.round(seconds * RATE));
    expect(() => makeSound(kind, 0, 1)).toThrow(RangeError);
  });
});

describe('what they sound like', () => {
  const middle = (kind: SoundKind, from = 0, to: number = VOICES[kind].usual) =>
    centroid(makeSound(kind, VOICES[kind].usual, 1).samples, from, to);
  it('low ones are low and bright ones bright', () => {
    for (const kind of ['rumble', 'reversed rumble', 'sub drop'] as const) expect(middle(kind), kind).toBeLessThan(220);
    expect(middle('impact')).toBeLessThan(500);
    for (const kind of ['shutter', 'typewriter', 'glass'] as const) expect(middle(kind), kind).toBeGreaterThan(1200);
    expect(middle('glass')).toBeGreaterThan(3000);
  });
  it('a riser climbs and a tape runs down', () => {
    expect(middle('riser', 1.5, 2)).toBeGreaterThan(1.5 * middle('riser', 0.2, 0.8));
    expect(middle('tape stop', 0.6, 0.9)).toBeLessThan(0.5 * middle('tape stop', 0, 0.3));
  });
  it('a whoosh is brightest as it passes', () => {
    expect(middle('whoosh', 0.3, 0.5)).toBeGreaterThan(1.3 * middle('whoosh', 0, 0.2));
  });
});

describe('the filters', () => {
  /** Gain of a filter for a tone, decibels, once it has settled. */
  function gain(kind: 'band' | 'low' | 'high', q: number, corner: number, hertz: number): number {
    const [pass, tone] = [filter(kind, RATE, q), oscillator(RATE)];
    let sum = 0;
    for (let i = 0; i < 48_000; i++) {
      const y = pass(tone(hertz), corner);
      if (i >= 24_000) sum += y * y;
    }
    return decibels(Math.sqrt((2 * sum) / 24_000));
  }
  it('have the gains of the cookbook: q at the corner of a low-pass, one at the middle of a band, 12 dB an octave beyond', () => {
    expect(gain('low', Math.SQRT1_2, 1000, 1000)).toBeCloseTo(-3.01, 1);
    expect(gain('high', Math.SQRT1_2, 1000, 1000)).toBeCloseTo(-3.01, 1);
    expect(gain('low', Math.SQRT1_2, 1000, 4000)).toBeCloseTo(-24.2, 0);
    expect(gain('band', 2, 1000, 1000)).toBeCloseTo(0, 1);
    expect(gain('low', 2, 1000, 1000)).toBeCloseTo(decibels(2), 1);
  });
});
