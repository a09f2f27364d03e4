import bezierEasing from 'bezier-easing';
import { describe, expect, it } from 'vitest';
import { bezierEase, EASINGS, ease } from './easing';

const X = [0.1, 0.25, 0.5, 0.75, 0.9];

describe('easing against W3C CSS Easing Functions', () => {
  // Keyword curves from the W3C recommendation; values as printed by npm bezier-easing.
  it.each([
    ['ease', [0.0948, 0.4085, 0.8024, 0.9605, 0.9943]],
    ['ease in', [0.017, 0.0935, 0.3154, 0.6219, 0.8394]],
    ['ease out', [0.1606, 0.3781, 0.6846, 0.9065, 0.983]],
    ['ease in and out', [0.0197, 0.1292, 0.5, 0.8708, 0.9803]],
  ] as const)('%s', (name, expected) => {
    for (const [i, x] of X.entries()) expect(ease(name, x)).toBeCloseTo(expected[i], 4);
  });

  it('agrees with bezier-easing on a fine grid and on steep curves', () => {
    const curves = [...Object.values(EASINGS), { x1: 0.9, y1: 0, x2: 0.1, y2: 1 }, { x1: 0.3, y1: -0.5, x2: 0.6, y2: 1.6 }];
    for (const c of curves) {
      const other = bezierEasing(c.x1, c.y1, c.x2, c.y2);
      for (let i = 0; i <= 200; i++) expect(Math.abs(bezierEase(c, i / 200) - other(i / 200))).toBeLessThan(2e-5);
    }
  });

  it('holds until the end and clamps outside', () => {
    expect(ease('hold', 0.999)).toBe(0);
    expect(ease('hold', 1)).toBe(1);
    expect(ease('ease in', -3)).toBe(0);
    expect(ease('ease in', 7)).toBe(1);
  });
});
