import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { compiledLayer, type Layer, plainLayer } from './layer';

const random = randomSource(4);
const values = (n: number) => Float64Array.from({ length: n }, () => random() - 0.5);
const layerOf = (size: number, taps: number, width: number, apart: number): Layer => ({
  weights: Array.from({ length: size }, () => values(taps * width)),
  bias: [...values(size)],
  apart,
});

describe('a layer along rows', () => {
  it.each([plainLayer, compiledLayer])('hears the rows around each, and nothing beyond the ends: %o', (way) => {
    const layer: Layer = { weights: [Float64Array.of(1, 0, 10, 0, 100, 0), Float64Array.of(0, 1, 0, 0, 0, -1)], bias: [0, 0.5], apart: 2 };
    const out = way([1, 5, 2, 6, 3, 7, 4, 8], 2, layer);
    expect([...(out ?? [])]).toEqual([310, -6.5, 420, -7.5, 31, 5.5, 42, 6.5]);
  });

  it.each([
    [24, 1, 65, 1],
    [24, 5, 24, 1],
    [16, 3, 24, 4],
    [5, 3, 7, 2],
    [1, 1, 1, 1],
  ])('is the same compiled and plain: %i outputs, %i rows of %i, %i apart', (size, taps, width, apart) => {
    const layer = layerOf(size, taps, width, apart);
    for (const count of [1, 3, 40]) {
      const input = values(count * width);
      const plain = plainLayer(input, width, layer);
      const out = compiledLayer(input, width, layer);
      expect(out?.length).toBe(plain.length);
      out?.forEach((v, i) => {
        expect(v).toBeCloseTo(plain[i], 5);
      });
    }
  });
});
