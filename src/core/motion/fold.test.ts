import { describe, expect, it } from 'vitest';
import { folded } from './fold';
import { timeMap } from './time-map';

describe('a span that is repeated', () => {
  const span = { from: 2, to: 5 } as const;
  it('over and over begins again where it ended, before its beginning too', () => {
    const loop = (second: number) => folded(second, { ...span, how: 'loop' });
    expect([2, 4.5, 5, 6, 8.5, 1, -2].map(loop)).toEqual([2, 4.5, 2, 3, 2.5, 4, 4]);
  });
  it('there and back turns at both ends', () => {
    const back = (second: number) => folded(second, { ...span, how: 'there and back' });
    expect([2, 5, 6, 8, 9, 1, 0].map(back)).toEqual([2, 5, 4, 2, 3, 3, 4]);
  });
  it('without length is its beginning', () => {
    expect(folded(7, { from: 3, to: 3, how: 'loop' })).toBe(3);
  });
});

describe('a run backwards', () => {
  const point = (at: number, source: number | null, speed: number, way: 'even' | 'smooth' | 'freeze' = 'even') => ({
    at,
    source,
    speed,
    way,
  });
  it('goes back at its speed from its point on, and came from there', () => {
    const { sourceAt, speedAt } = timeMap([point(1, 5, -0.5)]);
    expect([0, 1, 3].map(sourceAt)).toEqual([5.5, 5, 4]);
    expect(speedAt(2)).toBe(-0.5);
  });
  it('smoothly is the run forwards of a source turned round, through every point', () => {
    const back = timeMap([point(0, 8, -1, 'smooth'), point(2, 5, -2, 'smooth'), point(4, 4, -0.5, 'smooth')]);
    const forth = timeMap([point(0, -8, 1, 'smooth'), point(2, -5, 2, 'smooth'), point(4, -4, 0.5, 'smooth')]);
    for (let at = 0; at < 4; at += 0.25) {
      expect(back.sourceAt(at)).toBeCloseTo(-forth.sourceAt(at), 9);
      expect(back.speedAt(at)).toBeCloseTo(-forth.speedAt(at), 9);
    }
    expect(back.sourceAt(2)).toBeCloseTo(5, 9);
  });
  it('that turns on the way goes evenly', () => {
    const { sourceAt } = timeMap([point(0, 3, 1, 'smooth'), point(2, 1, 1, 'smooth'), point(4, 2, 1, 'smooth')]);
    expect(sourceAt(1)).toBeCloseTo(2, 9);
    expect(sourceAt(3)).toBeCloseTo(1.5, 9);
  });
});
