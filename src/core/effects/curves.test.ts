import { describe, expect, it } from 'vitest';
import { blackPlanes, curveAt } from '../picture';
import { curves } from './curves';
import { appliedEffect, withEffect } from './registry';

const FRAME = { width: 8, height: 8, index: 0 };
const still = Object.fromEntries(Object.keys(curves.numbers).map((name) => [name, 0]));
const made = (numbers: Record<string, number>) => curves.resolve({ ...still, ...numbers }, FRAME);

describe('curves', () => {
  it('go through their five points, in all channels and in each', () => {
    const { r, g, b } = made({ all25: 10, all75: -20, r50: 5 }) ?? { r: [], g: [], b: [] };
    for (const curve of [r, g, b]) {
      expect(curveAt(curve, 0.25)).toBeCloseTo(0.1, 9);
      expect(curveAt(curve, 0.75)).toBeCloseTo(-0.2, 9);
      expect(curveAt(curve, 1)).toBeCloseTo(0, 9);
    }
    expect(curveAt(r, 0.5) - curveAt(g, 0.5)).toBeCloseTo(0.05, 9);
    expect(g).toEqual(b);
  });

  it('between their points follow Catmull and Rom: nine sixteenths of both, less a sixteenth of the two beyond', () => {
    const { g } = made({ all25: 8, all50: 16, all75: 8 }) ?? { g: [] };
    // Points 8 and 16 with 0 before and 8 after: (9·(8 + 16) − (0 + 8)) / 16.
    expect(curveAt(g, 0.375)).toBeCloseTo((9 * 24 - 8) / 1600, 9);
  });

  it('raise the middle of a picture and leave its black and white', () => {
    const effect = appliedEffect('curves', { ...still, all50: 20 }, FRAME);
    if (!effect) throw new Error('nothing to apply');
    const level = (y: number) => {
      const planes = blackPlanes(8, 8);
      planes.y.fill(y);
      return withEffect(planes, effect).y[0];
    };
    expect(level(16)).toBe(16);
    expect(level(235)).toBe(235);
    expect(Math.abs(level(125) - (125 + 219 * 0.2))).toBeLessThanOrEqual(1);
  });
});
