import { describe, expect, it } from 'vitest';
import { type PathCoverage, pathCoverageAt } from './coverage';
import { byRows, coveragePlane, coverageRow } from './coverage-plane';

const across: PathCoverage = {
  kind: 'path',
  across: true,
  points: [
    { x: 0, y: 10 },
    { x: 32, y: 22, soft: 3 },
    { x: 64, y: 14 },
  ],
  feather: 6,
};
const [W, H] = [64, 36];

describe('a path from left to right', () => {
  it('covers what lies below it: row by row, as its definition says at every pixel', () => {
    const plane = coveragePlane(across, W, H, new Map());
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++)
        expect(Math.abs(plane[y * W + x] - 256 * pathCoverageAt(across, x + 0.5, y + 0.5))).toBeLessThanOrEqual(1.5);
    expect([plane[2 * W + 30], plane[34 * W + 30]]).toEqual([0, 256]);
  });
  it('is asked by rows as any other, at half size too', () => {
    const rows = byRows(across, W, H, new Map());
    const row = new Uint16Array(W);
    const shared = coverageRow(rows, 33, W, H, 1, row);
    expect(shared).toBe(256);
    const half = new Uint16Array(W / 2);
    coverageRow(rows, 8, W, H, 2, half);
    expect(half[0]).toBeGreaterThan(200);
    expect(half[15]).toBeLessThan(40);
  });
  it('turned on its side is the path from top to bottom', () => {
    const upright: PathCoverage = { kind: 'path', points: across.points.map(({ x, y, ...soft }) => ({ x: y, y: x, ...soft })), feather: 6 };
    for (const [x, y] of [
      [5, 12],
      [32, 22],
      [50, 17],
    ])
      expect(pathCoverageAt(across, x, y)).toBe(pathCoverageAt(upright, y, x));
  });
});
