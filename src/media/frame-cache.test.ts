import { describe, expect, it, vi } from 'vitest';
import { blackPlanes } from '@/core/picture';
import { FrameBudget, type FrameCache } from './frame-cache';

/** A cache that only notes what it has to give back. */
function owner() {
  const dropped: unknown[] = [];
  return { dropped, cache: { drop: (frame: unknown) => dropped.push(frame) } as unknown as FrameCache };
}

const frame = (from: number) => ({ from, to: from + 0.04, planes: blackPlanes(100, 100) });
const BYTES = 15_000;
/** So much of frames, so much held by decoders of which two may always be open, and a second of waiting. */
const share = (kept: number, ahead: number) => ({ kept, ahead, least: 2, idle: 1000 });

describe('the budget of decoded frames', () => {
  it('counts all takes together, and gives back what was used longest ago', () => {
    const budget = new FrameBudget(share(4 * BYTES, 0));
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
    const budget = new FrameBudget(share(BYTES / 2, 0));
    const { cache, dropped } = owner();
    const frames = [0, 1, 2].map(frame);
    for (const f of frames) budget.use(f, cache);
    expect(dropped).toEqual([frames[0]]);
    for (const f of frames) budget.forget(f);
    expect(budget.bytes).toBe(0);
  });

  describe('for decoders', () => {
    const stream = (bytes: number, busy = false) => ({ bytes, busy }) as Parameters<FrameBudget['holdStream']>[0];
    /** A cache that closes what the budget asks it to. */
    function closing(budget: FrameBudget) {
      const ended: unknown[] = [];
      const cache = {
        end: (s: Parameters<FrameBudget['holdStream']>[0]) => {
          ended.push(s);
          budget.forgetStream(s);
        },
      } as unknown as FrameCache;
      return { ended, cache };
    }

    it('closes those used longest ago where they hold too much, but leaves two, and never one at work', () => {
      const budget = new FrameBudget(share(1000, 100));
      const { ended, cache } = closing(budget);
      const [a, b, c, d] = [stream(90), stream(90), stream(90, true), stream(90)];
      for (const s of [a, b]) budget.holdStream(s, cache);
      expect(ended).toEqual([]);
      budget.holdStream(c, cache);
      expect(ended).toEqual([a]);
      budget.holdStream(b, cache);
      budget.holdStream(d, cache);
      // The one at work would be next.
      expect(ended).toEqual([a, b]);
    });

    it('closes those that nobody asks for anything for some seconds', () => {
      vi.useFakeTimers();
      const budget = new FrameBudget(share(1000, 1000));
      const { ended, cache } = closing(budget);
      const [waiting, working] = [stream(10), stream(10, true)];
      budget.holdStream(waiting, cache);
      budget.holdStream(working, cache);
      vi.advanceTimersByTime(900);
      expect(ended).toEqual([]);
      vi.advanceTimersByTime(200);
      expect(ended).toEqual([waiting]);
      // What was at work then is closed once it has waited too.
      working.busy = false;
      vi.advanceTimersByTime(1000);
      expect(ended).toEqual([waiting, working]);
      expect(vi.getTimerCount()).toBe(0);
      vi.useRealTimers();
    });
  });
});
