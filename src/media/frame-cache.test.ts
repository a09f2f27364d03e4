import { describe, expect, it } from 'vitest';
import { blackPlanes } from '@/core/picture';
import { FrameBudget, type FrameCache } from './frame-cache';

/** A cache that only notes what it has to give back. */
function owner() {
  const dropped: unknown[] = [];
  return { dropped, cache: { drop: (frame: unknown) => dropped.push(frame) } as unknown as FrameCache };
}

const frame = (from: number) => ({ from, to: from + 0.04, planes: blackPlanes(100, 100) });
const BYTES = 15_000;

describe('the budget of decoded frames', () => {
  it('counts all takes together, and gives back what was used longest ago', () => {
    const budget = new FrameBudget(4 * BYTES);
    const [a, b] = [owner(), owner()];
    const frames = [0, 1, 2, 3].map(frame);
    budget.use(frames[0], a.cache);
    budget.use(frames[1], b.cache);
    budget.use(frames[2], a.cache);
    budget.use(frames[3], b.cache);
    expect(budget.bytes).toBe(4 * BYTES);
    // The first is used again, so that the second is the oldest.
    budget.use(frames[0], a.cache);
    budget.use(frame(4), a.cache);
    expect(b.dropped).toEqual([frames[1]]);
    expect(a.dropped).toEqual([]);
    expect(budget.bytes).toBe(4 * BYTES);
  });
  it('keeps two however large they are, and nothing of what is forgotten', () => {
    const budget = new FrameBudget(BYTES / 2);
    const { cache, dropped } = owner();
    const frames = [0, 1, 2].map(frame);
    for (const f of frames) budget.use(f, cache);
    expect(dropped).toEqual([frames[0]]);
    for (const f of frames) budget.forget(f);
    expect(budget.bytes).toBe(0);
  });
});
