import { describe, expect, it } from 'vitest';
import { STAY } from './affine';
import { coveragePlane } from './coverage-plane';
import { depthOf, figureFrame, type MovingSilhouette } from './silhouette';

const [W, H] = [48, 27];

/** A disc as bits of the grid. */
function disc(x: number, y: number, radius: number): Uint8Array {
  const bits = new Uint8Array(Math.ceil((W * H) / 8));
  for (let i = 0; i < W * H; i++) if (Math.hypot((i % W) + 0.5 - x, Math.floor(i / W) + 0.5 - y) < radius) bits[i >> 3] |= 1 << (i & 7);
  return bits;
}

const figure: MovingSilhouette = {
  width: W,
  height: H,
  times: [0, 0.5, 1],
  frames: [disc(10, 13, 6), disc(24, 13, 6), new Uint8Array(162)],
};
const mattes = new Map([['who', figure]]);
const cover = (time: number, grow = 0, feather = 4) =>
  coveragePlane({ kind: 'silhouette', silhouetteId: 'who', time, map: STAY, across: 4 * W, grow, feather }, 4 * W, 4 * H, mattes);
/** Frame pixels covered, in the mean over the plane. */
const area = (plane: Uint16Array) => plane.reduce((sum, v) => sum + v / 256, 0);

describe('how deep inside a figure a pixel lies', () => {
  it('is its distance from the nearest pixel outside, less half a pixel, as counted one by one', () => {
    const bits = disc(17, 12, 7);
    const inside = (i: number) => ((bits[i >> 3] >> (i & 7)) & 1) === 1;
    const depth = depthOf(bits, W, H);
    for (let i = 0; i < W * H; i += 7) {
      let nearest = Number.POSITIVE_INFINITY;
      for (let k = 0; k < W * H; k++)
        if (inside(k) !== inside(i)) nearest = Math.min(nearest, Math.hypot((k % W) - (i % W), Math.floor(k / W) - Math.floor(i / W)));
      expect(depth[i]).toBeCloseTo(inside(i) ? nearest - 0.5 : 0.5 - nearest, 4);
    }
  });

  it('is far outside everywhere with nobody there', () => {
    expect(Math.max(...depthOf(new Uint8Array(162), W, H))).toBeLessThan(-1000);
  });
});

describe('a figure over time as a mask', () => {
  it('is the frame shown at a second, the last begun by then', () => {
    expect([-1, 0, 0.49, 0.5, 0.7, 1, 9].map((t) => figureFrame(figure, t))).toEqual([0, 0, 0, 1, 1, 2, 2]);
  });

  it('covers the figure where it then is, as large as it is', () => {
    for (const [time, x] of [
      [0.2, 10],
      [0.6, 24],
    ]) {
      const plane = cover(time);
      expect(plane[4 * 13 * 4 * W + 4 * x]).toBe(256);
      expect(plane[4 * 13 * 4 * W + 4 * (x + 9)]).toBe(0);
      // A disc's area, within a tenth of a grid pixel of its radius.
      expect(Math.sqrt(area(plane) / Math.PI) / 4).toBeGreaterThan(5.85);
      expect(Math.sqrt(area(plane) / Math.PI) / 4).toBeLessThan(6.15);
    }
    expect(area(cover(1.2))).toBe(0);
  });

  it('grows and shrinks by frame pixels, its edge as soft as asked', () => {
    for (const grow of [-8, 8, 20]) expect(Math.sqrt(area(cover(0.5, grow)) / Math.PI)).toBeCloseTo(24 + grow, -0.5);
    const row = cover(0.5, 0, 16).subarray(4 * 13 * 4 * W, 4 * 13 * 4 * W + 4 * W);
    const soft = [...row].filter((v) => v > 2 && v < 254).length;
    expect(soft).toBeGreaterThan(20);
    expect(soft).toBeLessThan(34);
    expect(area(cover(0.5, 900))).toBe(16 * W * H);
    expect(area(cover(0.5, -900))).toBe(0);
  });

  it('is nothing where its file is not there', () => {
    expect(
      area(
        coveragePlane({ kind: 'silhouette', silhouetteId: 'other', time: 0, map: STAY, across: W, grow: 0, feather: 1 }, W, H - 1, mattes),
      ),
    ).toBe(0);
  });
});
