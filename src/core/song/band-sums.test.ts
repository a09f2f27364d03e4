import FFT from 'fft.js';
import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { compiledBandSums, type Hearing, plainBandSums } from './band-sums';

/** A hearing of windows shorter than what is transformed, in bands that overlap. */
const hearing = (given: Hearing['given'], length = 50, size = 64): Hearing => ({
  hann: Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length)),
  size,
  given,
  bands: [
    { first: 0, weights: Float64Array.of(1) },
    { first: 3, weights: Float64Array.of(0.25, 0.5, 0.25) },
    { first: 4, weights: Float64Array.of(0.5, 0, 0.5, 1) },
    { first: 0, weights: new Float64Array(size / 2 + 1).fill(1) },
    { first: 7, weights: new Float64Array(0) },
  ],
});
const noise = (length: number, seed = 5) => {
  const random = randomSource(seed);
  return Float32Array.from({ length }, () => random() - 0.5);
};
const WAYS = [plainBandSums, compiledBandSums];

describe('sums over bands of the spectra of windows', () => {
  it.each(WAYS)('are those of each window by itself: %o', (way) => {
    const samples = noise(400);
    for (const given of ['power', 'magnitude'] as const) {
      const heard = hearing(given);
      const sums = way(heard);
      // Any number of windows, in any order.
      for (const starts of [[0], [9, 9, 70], [300, 3, 17, 211, 90, 4, 350, 128]]) {
        const rows = sums?.(samples, starts) ?? [];
        expect(rows.length).toBe(starts.length);
        starts.forEach((start, w) => {
          const fft = new FFT(heard.size);
          const out = fft.createComplexArray();
          const window = Array.from({ length: heard.size }, (_, i) => (i < heard.hann.length ? samples[start + i] * heard.hann[i] : 0));
          fft.realTransform(out, window);
          const at = (k: number) => Math.hypot(out[2 * k], out[2 * k + 1]) ** (given === 'power' ? 2 : 1);
          heard.bands.forEach(({ first, weights }, b) => {
            const sum = weights.reduce((all, weight, j) => all + weight * at(first + j), 0);
            expect(Math.abs(rows[w][b] - sum)).toBeLessThan(1e-5 * (1 + sum));
          });
          const square = samples.slice(start, start + heard.hann.length).reduce((all, v) => all + v * v, 0) / heard.hann.length;
          expect(rows[w][heard.bands.length]).toBeCloseTo(square, 6);
        });
      }
    }
  });

  it('agree, compiled and plain, at the sizes a song is heard in', () => {
    const samples = noise(9000, 8);
    const heard = hearing('magnitude', 2048, 2048);
    const starts = Array.from({ length: 8 }, (_, w) => 441 * w);
    const plain = plainBandSums(heard)(samples, starts);
    compiledBandSums(heard)?.(samples, starts).forEach((row, w) => {
      row.forEach((v, b) => {
        expect(Math.abs(v - plain[w][b])).toBeLessThan(2e-5 * (1 + plain[w][b]));
      });
    });
    expect(compiledBandSums(heard)).not.toBeNull();
  });

  it('of a tone are its own in the band it is in, whatever is heard beside it', () => {
    const tone = Float32Array.from({ length: 64 }, (_, i) => Math.cos((2 * Math.PI * 5 * i) / 64));
    const samples = new Float32Array(512);
    samples.set(tone, 128);
    const [silence, heard] = compiledBandSums({ ...hearing('power'), hann: new Float64Array(64).fill(1) })?.(samples, [0, 128]) ?? [];
    expect(heard[2]).toBeCloseTo(0, 3);
    expect(heard[1]).toBeCloseTo(256, 2);
    expect(Math.max(...silence)).toBe(0);
  });

  it('stay apart where two hear in turns', () => {
    const samples = noise(300);
    const [one, other] = [compiledBandSums(hearing('power')), compiledBandSums(hearing('magnitude', 40, 128))];
    const before = [...(one?.(samples, [7])[0] ?? [])];
    other?.(samples, [50]);
    expect([...(one?.(samples, [7])[0] ?? [])]).toEqual(before);
  });
});
