import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sourceTime } from './speed';
import { type Keyframe, simplify, valueAt, withKey, withoutKey } from './track';

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

  it('replaces on the same frame, keeps order, never loses the last key', () => {
    const t = withKey(withKey([key(5, 1)], key(2, 9)), key(5, 7));
    expect(t.map((k) => [k.frame, k.value])).toEqual([
      [2, 9],
      [5, 7],
    ]);
    expect(withoutKey(withoutKey(t, 2), 5)).toHaveLength(1);
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

describe('speed span', () => {
  it('is the integral of speed, checked by summing 1/1000 s steps', () => {
    const span = { from: 0, to: 1.2, speed: 2 };
    for (const end of [-0.4, 0.3, 1.2, 2.5]) {
      let sum = 0;
      const steps = Math.round(Math.abs(end) * 1000);
      for (let i = 0; i < steps; i++) {
        const t = ((i + 0.5) / 1000) * Math.sign(end);
        sum += ((t >= span.from && t < span.to ? span.speed : 1) / 1000) * Math.sign(end);
      }
      expect(sourceTime(end, span)).toBeCloseTo(sum, 6);
    }
  });

  it('never runs backwards and passes 0 at the sync point', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 4, noNaN: true }), fc.double({ min: -2, max: 2, noNaN: true }), (speed, from) => {
        const span = { from, to: from + 1.5, speed };
        expect(sourceTime(0, span)).toBe(0);
        for (let t = -3; t < 4; t += 0.05) expect(sourceTime(t + 0.05, span)).toBeGreaterThan(sourceTime(t, span));
      }),
    );
  });
});
