import { describe, expect, it } from 'vitest';
import { changedBox } from './changed';
import type { Luma } from './luma';

const random = (seed: number) => () => {
  seed = (seed * 1103515245 + 12345) % 2147483648;
  return seed / 2147483648;
};
/** A noisy picture of an uneven wall, with boxes painted on it. */
function wall(seed: number, light: number, ...boxes: [number, number, number, number, number][]): Luma {
  const [width, height] = [320, 180];
  const next = random(seed);
  const data = Uint8Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    const on = boxes.find(([l, t, r, b]) => x >= l && x < r && y >= t && y < b);
    return Math.round((on ? on[4] : 90 + 40 * Math.sin(x / 30)) + light + 6 * (next() - 0.5));
  });
  return { width, height, data };
}

describe('where two pictures differ', () => {
  it.each([
    [40, 60, 80, 120],
    [200, 20, 300, 60],
    [8, 130, 40, 170],
  ])('is the thing that is in one of them (%i, %i to %i, %i), to two per cent', (left, top, right, bottom) => {
    const box = changedBox(wall(1, 0), wall(2, 0, [left, top, right, bottom, 200]));
    for (const [found, is] of [
      [box?.left, left / 3.2],
      [box?.right, right / 3.2],
      [box?.top, top / 1.8],
      [box?.bottom, bottom / 1.8],
    ])
      expect(Math.abs((found as number) - (is as number))).toBeLessThan(2.5);
  });
  it('is nowhere with noise alone, or when the light changes', () => {
    expect(changedBox(wall(1, 0), wall(2, 0))).toBeNull();
    expect(changedBox(wall(1, 0), wall(2, 25))).toBeNull();
  });
  it('is the larger of two things far apart', () => {
    expect(changedBox(wall(1, 0), wall(2, 0, [20, 20, 40, 40, 220], [220, 80, 300, 150, 220]))?.left).toBeGreaterThan(60);
  });
});
