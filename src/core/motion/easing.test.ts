import bezierEasing from 'bezier-easing';
import { describe, expect, it } from 'vitest';
import { bezierEase, EASING_NAMES, EASINGS, ease, handlesOf } from './easing';

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

  it('every easing begins at 0 and ends at 1; overshoot passes 1 once, settle swings about it and comes to rest', () => {
    for (const name of EASING_NAMES) expect([ease(name, 0), ease(name, 1)]).toEqual([0, 1]);
    const run = (name: 'overshoot' | 'settle') => Array.from({ length: 201 }, (_, i) => ease(name, i / 200));
    expect(Math.max(...run('overshoot'))).toBeGreaterThan(1.03);
    const crossings = (values: number[]) => values.filter((v, i) => i > 0 && i < 200 && v > 1 !== values[i - 1] > 1).length;
    expect(crossings(run('overshoot'))).toBe(1);
    expect(crossings(run('settle'))).toBeGreaterThanOrEqual(2);
    expect(Math.abs(ease('settle', 0.95) - 1)).toBeLessThan(0.01);
  });

  it('a curve of its own is eased as CSS would ease it, and a named one can be taken over as its handles', () => {
    const own = { x1: 0.2, y1: -0.3, x2: 0.7, y2: 1.2 };
    const other = bezierEasing(own.x1, own.y1, own.x2, own.y2);
    for (const x of X) expect(ease(own, x)).toBeCloseTo(other(x), 4);
    for (const name of ['ease', 'strong in'] as const) expect(ease(handlesOf(name), 0.3)).toBeCloseTo(ease(name, 0.3), 9);
    expect(handlesOf(own)).toBe(own);
    expect(ease(handlesOf('hold'), 0.9)).toBeLessThan(0.2);
  });
});
