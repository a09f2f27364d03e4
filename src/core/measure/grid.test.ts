import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxMean, countOf, dropSmall, emptyMask, grow, grownPlainly, labelledPlainly, type Mask, partsOf, turnedPlainly } from './grid';
import { labelledByKernel, turnedByKernel } from './parts-kernel';

/** Parts by walking from pixel to pixel, the plain way. */
function walked({ width, height, data }: Mask, value: 0 | 1): { pixels: number[]; touchesEdge: boolean }[] {
  const todo = new Set(Array.from(data.keys()).filter((i) => data[i] === value));
  const out: { pixels: number[]; touchesEdge: boolean }[] = [];
  for (const first of [...todo]) {
    if (!todo.delete(first)) continue;
    const pixels = [first];
    for (const at of pixels) {
      const x = at % width;
      for (const next of [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width])
        if (todo.delete(next)) pixels.push(next);
    }
    const touchesEdge = pixels.some((i) => i % width === 0 || i % width === width - 1 || i < width || i >= width * (height - 1));
    out.push({ pixels: pixels.sort((a, b) => a - b), touchesEdge });
  }
  return out;
}

/** The values of a square of pixels around one that lie inside. */
function around<T>(values: ArrayLike<T>, width: number, height: number, i: number, reach: number): T[] {
  const [x, y] = [i % width, Math.floor(i / width)];
  const out: T[] = [];
  for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
    for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++) out.push(values[v * width + u]);
  return out;
}
const side = (max: number) => fc.integer({ min: 1, max });

describe('squares around pixels', () => {
  it('a mask grows and shrinks as it does pixel by pixel, at any width', () => {
    fc.assert(
      fc.property(side(23), side(12), fc.integer({ min: -7, max: 7 }), fc.infiniteStream(fc.boolean()), (width, height, by, bits) => {
        const mask = emptyMask(width, height);
        for (let i = 0; i < mask.data.length; i++) mask.data[i] = bits.next().value ? 1 : 0;
        const most = by > 0 ? Math.max : Math.min;
        const plain = mask.data.map((_, i) => most(...around(mask.data, width, height, i, Math.abs(by))));
        expect(grow(mask, by).data).toEqual(plain);
        expect(grownPlainly(mask, by).data).toEqual(plain);
      }),
      { numRuns: 300 },
    );
  });

  it('their mean is that of the pixels inside, at any size', () => {
    fc.assert(
      fc.property(side(17), side(17), side(6), fc.infiniteStream(fc.integer({ min: 0, max: 255 })), (width, height, reach, stream) => {
        const values = Float32Array.from({ length: width * height }, () => stream.next().value);
        boxMean(values, width, height, reach).forEach((mean, i) => {
          const near = around(values, width, height, i, reach);
          expect(mean).toBeCloseTo(near.reduce((a, b) => a + b) / near.length, 3);
        });
      }),
      { numRuns: 150 },
    );
  });
});

describe('connected parts of a mask', () => {
  it('are those found by walking, on any mask', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 13 }),
        fc.integer({ min: 1, max: 11 }),
        fc.infiniteStream(fc.boolean()),
        (width, height, bits) => {
          const mask = emptyMask(width, height);
          for (let i = 0; i < mask.data.length; i++) mask.data[i] = bits.next().value ? 1 : 0;
          for (const value of [0, 1] as const)
            expect(partsOf(mask, value).map((p) => ({ ...p, pixels: [...p.pixels] }))).toEqual(walked(mask, value));
        },
      ),
      { numRuns: 400 },
    );
  });

  it('those under a fiftieth of the largest are dropped, and an empty mask stays empty', () => {
    const mask = emptyMask(30, 20);
    for (let y = 2; y < 12; y++) for (let x = 2; x < 14; x++) mask.data[y * 30 + x] = 1;
    for (const i of [18 * 30 + 5, 18 * 30 + 6, 15 * 30 + 20, 15 * 30 + 21, 15 * 30 + 22]) mask.data[i] = 1;
    expect(countOf(dropSmall(mask))).toBe(123);
    expect(countOf(dropSmall(emptyMask(3, 3)))).toBe(0);
  });

  it('joins arms that meet only further down, and takes an empty mask', () => {
    const mask = emptyMask(7, 5);
    for (const i of [0, 6, 7, 13, 14, 20, 21, 22, 23, 24, 25, 26, 27]) mask.data[i] = 1;
    expect(partsOf(mask, 1)).toHaveLength(1);
    expect(partsOf(emptyMask(4, 3), 1)).toEqual([]);
  });
});

describe('parts in compiled code', () => {
  it('are named, sized and turned as they are plainly', () => {
    fc.assert(
      fc.property(side(40), side(9), fc.infiniteStream(fc.integer({ min: 0, max: 9 })), side(30), (width, height, stream, least) => {
        const mask = emptyMask(width, height);
        for (let i = 0; i < mask.data.length; i++) mask.data[i] = stream.next().value < 6 ? 1 : 0;
        for (const value of [0, 1] as const) {
          const [quick, plain] = [labelledByKernel(mask, value), labelledPlainly(mask, value)];
          expect(quick).toEqual(plain);
          const [one, other] = [0, 1].map(() => ({ ...mask, data: mask.data.slice() }));
          expect(turnedByKernel(one, value, least, value === 0)).toBe(true);
          turnedPlainly(other, value, least, value === 0);
          expect(one).toEqual(other);
        }
      }),
      { numRuns: 200 },
    );
  });
});
