import { describe, expect, it } from 'vitest';
import { around, clamp, median } from './units';

describe('numbers', () => {
  it('go around, below nought too', () => {
    expect([-9, -4, -1, 0, 3, 4, 7].map((v) => around(v, 4))).toEqual([3, 0, 3, 0, 3, 0, 3]);
    expect(around(-0.25, 1)).toBe(0.75);
  });

  it('are held between two others, and have one in their middle', () => {
    expect([-1, 0.4, 3].map((v) => clamp(v, 0, 1))).toEqual([0, 0.4, 1]);
    expect(median([5, 1, 3])).toBe(3);
  });
});
