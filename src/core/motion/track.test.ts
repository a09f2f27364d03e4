import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Keyframe, simplify, valueAt } from './track';

const key = (frame: number, value: number, easing: Keyframe['easing'] = 'linear'): Keyframe => ({ frame, value, easing });

describe('track', () => {
  it('holds outside, passes through keys, is linear between', () => {
    const t = [key(10, 1), key(20, 3), key(30, 0)];
    expect(valueAt(t, 0)).toBe(1);
    expect(valueAt(t, 15)).toBe(2);
    expect(valueAt(t, 20)).toBe(3);
    expect(valueAt(t, 99)).toBe(0);
  });

  it('refuses an empty track with a sentence', () => {
    expect(() => valueAt([], 0)).toThrow(/no keyframes/);
  });

  it('simplify keeps every sample within the tolerance', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -50, max: 50, noNaN: true }), { minLength: 2, maxLength: 120 }), (values) => {
        const samples = values.map((v, i) => key(i, v));
        const kept = simplify(samples, 3);
        for (const s of samples) expect(Math.abs(valueAt(kept, s.frame) - s.value)).toBeLessThanOrEqual(3 + 1e-9);
      }),
    );
  });
});
