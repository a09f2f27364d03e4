import FFT from 'fft.js';
import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { TwoSpectra } from './two-spectra';

describe('spectra of two windows at once', () => {
  it('are those of each by itself', () => {
    const size = 64;
    const random = randomSource(3);
    const windows = [0, 1].map(() => Float64Array.from({ length: size }, () => random() - 0.5));
    const two = new TwoSpectra(size);
    windows.forEach((w, k) => {
      w.forEach((v, i) => {
        two.windows[2 * i + k] = v;
      });
    });
    const found = windows.map(() => new Float64Array(size / 2 + 1));
    two.powers(found[0], found[1]);
    const fft = new FFT(size);
    windows.forEach((w, k) => {
      const out = fft.createComplexArray();
      fft.realTransform(out, w);
      found[k].forEach((power, f) => {
        expect(power).toBeCloseTo(out[2 * f] ** 2 + out[2 * f + 1] ** 2, 9);
      });
    });
  });

  it('of a tone and of silence are a tone and nothing', () => {
    const two = new TwoSpectra(32);
    for (let i = 0; i < 32; i++) two.windows[2 * i] = Math.cos((2 * Math.PI * 5 * i) / 32);
    const [tone, silence] = [new Float64Array(16), new Float64Array(16)];
    two.powers(tone, silence);
    expect(tone[5]).toBeCloseTo(256, 9);
    expect(Math.max(...silence)).toBeLessThan(1e-20);
  });
});
