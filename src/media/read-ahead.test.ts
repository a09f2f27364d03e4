import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { emptyProject } from '@/core/document';
import type { Picture } from './picture';
import type { Preview } from './preview';
import { isLater, onward, ReadAhead, type Spot, strideFor } from './read-ahead';

const picture: Picture = { width: 2, height: 2, rgba: new Uint8ClampedArray(16) };
const project = emptyProject('p', 'P');

/** A preview whose pictures take so many milliseconds, and the frames it was asked for. */
function fake(takes: number) {
  const asked: number[] = [];
  const preview = {
    async frame(_: unknown, frame: number) {
      asked.push(frame);
      await new Promise((done) => setTimeout(done, takes));
      return picture;
    },
  };
  return { asked, preview: preview as unknown as Preview };
}

const unexpected = (error: unknown) => {
  throw error;
};
/** The clock is set forward by hand, so that a busy machine changes nothing. */
const settled = (ms: number) => vi.advanceTimersByTimeAsync(ms);
beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('where playing goes on', () => {
  it('steps on, and around a loop as often as it takes', () => {
    expect(onward({ lap: 0, frame: 10 }, 3, null)).toEqual({ lap: 0, frame: 13 });
    const loop = { first: 10, end: 15 };
    expect(onward({ lap: 0, frame: 13 }, 1, loop)).toEqual({ lap: 0, frame: 14 });
    expect(onward({ lap: 0, frame: 14 }, 1, loop)).toEqual({ lap: 1, frame: 10 });
    expect(onward({ lap: 2, frame: 14 }, 7, loop)).toEqual({ lap: 4, frame: 11 });
    // Beyond its end nothing leads back.
    expect(onward({ lap: 0, frame: 20 }, 1, loop)).toEqual({ lap: 0, frame: 21 });
  });
  it('orders spots by lap, then by frame', () => {
    expect(isLater({ lap: 1, frame: 0 }, { lap: 0, frame: 99 })).toBe(true);
    expect(isLater({ lap: 0, frame: 4 }, { lap: 0, frame: 4 })).toBe(false);
  });
  it('steps over as many frames as a picture takes', () => {
    expect(strideFor(0.01, 0.04)).toBe(1);
    expect(strideFor(0.043, 0.04)).toBe(1);
    expect(strideFor(0.07, 0.04)).toBe(2);
    expect(strideFor(10, 0.04)).toBe(12);
  });
});

describe('reading ahead', () => {
  it('makes every frame in order, some ahead, and waits until they are taken', async () => {
    const { asked, preview } = fake(1);
    const shown: Spot[] = [];
    const ahead = new ReadAhead(preview, project, { lap: 0, frame: 5 }, null, (spot) => shown.push(spot), unexpected);
    const run = ahead.run();
    await settled(150);
    expect(shown.map((s) => s.frame)).toEqual(Array.from({ length: 16 }, (_, i) => 5 + i));
    ahead.clock({ lap: 0, frame: 8 }, 4);
    await settled(60);
    expect(shown.length).toBe(20);
    ahead.stop();
    await settled(100);
    await run;
    expect(asked).toEqual(shown.map((s) => s.frame));
  });
  it('drops frames evenly where pictures take longer than they are shown, and keeps ahead of what is heard', async () => {
    const { preview } = fake(90);
    const shown: number[] = [];
    const ahead = new ReadAhead(preview, project, { lap: 0, frame: 0 }, null, ({ frame }) => shown.push(frame), unexpected);
    const run = ahead.run();
    const began = performance.now();
    const clock = setInterval(() => ahead.clock({ lap: 0, frame: Math.floor((performance.now() - began) / 40) }, 1), 20);
    await settled(2500);
    clearInterval(clock);
    ahead.stop();
    await settled(100);
    await run;
    const steps = shown.slice(8).map((f, i) => f - shown[7 + i]);
    // 90 ms a picture of 40 ms each: about every third frame, never the same twice.
    for (const step of steps) expect(step).toBeGreaterThanOrEqual(2);
    for (const step of steps) expect(step).toBeLessThanOrEqual(6);
  });
  it('runs around a loop', async () => {
    const { preview } = fake(1);
    const shown: Spot[] = [];
    const ahead = new ReadAhead(preview, project, { lap: 0, frame: 3 }, { first: 2, end: 6 }, (spot) => shown.push(spot), unexpected);
    const run = ahead.run();
    await settled(100);
    ahead.stop();
    await settled(100);
    await run;
    expect(shown.slice(0, 6).map((s) => s.frame)).toEqual([3, 4, 5, 2, 3, 4]);
    expect(shown[3].lap).toBe(1);
  });
  it('says once what cannot be drawn, and plays on after it', async () => {
    const preview = {
      frame: (_: unknown, frame: number) =>
        frame > 2 && frame < 6 ? Promise.reject(new Error('The file is gone.')) : Promise.resolve(picture),
    };
    const [shown, said]: [number[], unknown[]] = [[], []];
    const ahead = new ReadAhead(
      preview as unknown as Preview,
      project,
      { lap: 0, frame: 0 },
      null,
      ({ frame }) => shown.push(frame),
      (error) => said.push(error),
    );
    const run = ahead.run();
    await settled(400);
    ahead.stop();
    await settled(100);
    await run;
    expect(said).toHaveLength(1);
    expect(shown.slice(0, 5)).toEqual([0, 1, 2, 6, 7]);
  });
});
