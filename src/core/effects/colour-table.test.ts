import { describe, expect, it } from 'vitest';
import { blackPlanes, type ColourCube } from '../picture';
import { appliedEffect, tablesOf, withEffect } from './registry';

const FRAME = { width: 4, height: 4, index: 0 };
/** Black and white the other way round. */
const negative: ColourCube = {
  kind: '1D',
  side: 2,
  low: [0, 0, 0],
  high: [1, 1, 1],
  values: Float32Array.of(1, 1, 1, 0, 0, 0),
};
const cubes = new Map([['n', negative]]);
const grey = (y: number) => {
  const planes = blackPlanes(4, 4);
  planes.y.fill(y);
  return planes;
};

describe('a colour table from a file as an effect', () => {
  it('does nothing before one is chosen, nor with none of it', () => {
    expect(appliedEffect('colour table', { amount: 100 }, FRAME)).toBeNull();
    expect(appliedEffect('colour table', { amount: 0 }, FRAME, 'n')).toBeNull();
  });
  it('changes colours as the table says, as far as asked', () => {
    const whole = appliedEffect('colour table', { amount: 100 }, FRAME, 'n');
    const half = appliedEffect('colour table', { amount: 50 }, FRAME, 'n');
    if (!whole || !half) throw new Error('nothing is done');
    expect(tablesOf([whole])).toEqual(['n']);
    for (const y of [16, 90, 200]) {
      expect(Math.abs(withEffect(grey(y), whole, cubes).y[0] - (251 - y))).toBeLessThanOrEqual(1);
      expect(Math.abs(withEffect(grey(y), half, cubes).y[0] - 125.5)).toBeLessThanOrEqual(1.5);
    }
  });
  it('whose file is missing leaves the picture as it is, and is not kept in mind as that', () => {
    const effect = appliedEffect('colour table', { amount: 100 }, FRAME, 'later');
    if (!effect) throw new Error('nothing is done');
    const before = grey(40);
    expect(withEffect(before, effect)).toBe(before);
    expect(withEffect(before, effect, new Map([['later', negative]])).y[0]).toBeGreaterThan(200);
  });
});
