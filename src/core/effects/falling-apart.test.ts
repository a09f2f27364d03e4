import { describe, expect, it } from 'vitest';
import { blackPlanes, type Planes } from '../picture';
import { cellsOf } from './cells';
import { fieldAt } from './noise-field';
import { appliedEffect, clearedBy, effectKind, withEffect } from './registry';

const [W, H] = [160, 90];
const made = (kind: string, numbers: Record<string, number>) => {
  const otherwise = Object.fromEntries(Object.entries(effectKind(kind).numbers).map(([name, n]) => [name, n.otherwise]));
  return appliedEffect(kind, { ...otherwise, ...numbers }, { width: W, height: H, index: 0 });
};
const slope = (): Planes => {
  const planes = blackPlanes(W, H);
  for (let i = 0; i < planes.y.length; i++) planes.y[i] = 20 + (i % W);
  for (let i = 0; i < planes.u.length; i++) planes.u[i] = 100 + (i % 50);
  return planes;
};

describe('pieces', () => {
  it('every pixel belongs to the nearest middle: against all of them tried', () => {
    const { x, y, of } = cellsOf(W, H, 15, 3);
    for (let i = 0; i < of.length; i += 37) {
      const far = (k: number) => (x[k] - (i % W)) ** 2 + (y[k] - Math.floor(i / W)) ** 2;
      const nearest = Array.from(x, (_, k) => far(k)).reduce((a, b) => Math.min(a, b));
      // One middle in each square: the nearest of all is at most a square away.
      expect(far(of[i])).toBeLessThanOrEqual(nearest + 1e-3);
    }
  });

  it('crystals hold the mean of what was in them, so the picture keeps its brightness', () => {
    const planes = slope();
    const effect = made('crystals', { size: 15, seed: 3 });
    if (!effect) throw new Error('nothing is done');
    const out = withEffect(planes, effect);
    const { of } = cellsOf(W, H, 0.15 * H, 3);
    const [sums, counts, shown] = [new Map<number, number>(), new Map<number, number>(), new Map<number, Set<number>>()];
    for (let i = 0; i < of.length; i++) {
      sums.set(of[i], (sums.get(of[i]) ?? 0) + planes.y[i]);
      counts.set(of[i], (counts.get(of[i]) ?? 0) + 1);
      shown.set(of[i], (shown.get(of[i]) ?? new Set()).add(out.y[i]));
    }
    expect(shown.size).toBeGreaterThan(60);
    for (const [cell, values] of shown) expect([...values]).toEqual([Math.round((sums.get(cell) ?? 0) / (counts.get(cell) ?? 1))]);
    const mean = (plane: Uint8Array) => plane.reduce((a, b) => a + b, 0) / plane.length;
    expect(mean(out.u)).toBeCloseTo(mean(planes.u), 0);
  });
});

describe('dissolve away', () => {
  const left = (amount: number, more: Record<string, number> = {}) => {
    const effect = made('dissolve', { amount, ...more });
    return effect ? clearedBy(slope(), [effect]) : null;
  };
  const mean = (plane: Uint8Array) => plane.reduce((a, b) => a + b, 0) / plane.length / 255;

  it.each([0, 1])('is gone by as much as it says, from nothing to all (%i)', (pieces) => {
    expect(left(0, { pieces })).toBeNull();
    for (const amount of [10, 30, 50, 70, 90])
      expect(Math.abs(mean(left(amount, { pieces, size: 4 }) as Uint8Array) - 1 + amount / 100)).toBeLessThan(0.06);
    expect(mean(left(100, { pieces }) as Uint8Array)).toBe(0);
  });

  it('what is gone stays gone, and the same film is the same twice', () => {
    let before: Uint8Array = new Uint8Array(W * H).fill(255);
    for (let amount = 5; amount <= 100; amount += 5) {
      const now = left(amount, { seed: 9 }) as Uint8Array;
      for (let i = 0; i < now.length; i += 11) expect(now[i]).toBeLessThanOrEqual(before[i]);
      expect(left(amount, { seed: 9 })).toEqual(now);
      before = now;
    }
  });

  it('pieces go whole where the edge is hard', () => {
    const now = left(50, { pieces: 1, soft: 0, size: 15, seed: 4 }) as Uint8Array;
    const { of } = cellsOf(W, H, 0.15 * H, 4);
    const seen = new Map<number, number>();
    for (let i = 0; i < now.length; i++) {
      expect(now[i] === 0 || now[i] === 255).toBe(true);
      expect(seen.get(of[i]) ?? now[i]).toBe(now[i]);
      seen.set(of[i], now[i]);
    }
  });
});

describe('smooth noise', () => {
  it('passes through its values, without a step, and lies within -1 and 1', () => {
    const field = fieldAt(5, 2);
    let most = 0;
    for (let u = 0; u < 70; u += 0.05) {
      expect(Math.abs(field(u, 3.3))).toBeLessThanOrEqual(1);
      most = Math.max(most, Math.abs(field(u + 0.05, 3.3) - field(u, 3.3)));
    }
    // Perlin's fade is steepest in its middle: 15/8 of the difference a unit.
    expect(most).toBeLessThan((15 / 8) * 2 * 0.05);
    expect(field(1.25, 7.5)).toBe(field(65.25, 71.5));
    expect(fieldAt(5, 3)(1.25, 7.5)).not.toBe(field(1.25, 7.5));
  });
});
