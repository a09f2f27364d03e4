import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { partOf, shotFrames, shownPart } from '@/core/evaluate';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { stagedProject } from '@/core/staged';

/** Where somebody is in each take: per cent of its picture at a second; an error where nobody is found. */
const courses: Record<string, ((t: number) => number) | Error> = {};
const { asked } = vi.hoisted(() => ({ asked: [] as string[] }));
vi.mock('./kept', () => ({
  courseOf: async (_: unknown, takeId: string) => {
    asked.push(takeId);
    const at = courses[takeId];
    if (at instanceof Error) throw at;
    return Array.from({ length: 101 }, (_, i) => ({ source: i / 10, x: at(i / 10), y: 40 }));
  },
}));
const { Cancelled } = await import('./jobs');
const { followPerformers, keyPart, partFrames, setPart, unkeyPart } = await import('./versions');
const { addProject, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const TALL = { width: 1080, height: 1920 };
const take = (takeId: string, from: number, on = true) =>
  plainLayer(takeId, takeId, 0, { kind: 'take', takeId }, [remapKeyAt(0, 0, from)], { on });
const shot = (id: string, beat: number, layers: ReturnType<typeof take>[]) =>
  plainShot(id, id, { beat, offset: 0 }, { beat: beat + 4, offset: 0 }, { layers });
/** The middle of the part of a shot that is shown, per cent of the frame. */
const middle = (i: number) => {
  const { left, width } = shownPart(now().frame, TALL, partOf(now(), now().shots[i], 0));
  return 100 * (left + width / 2);
};
const told: number[] = [];

beforeEach(async () => {
  asked.length = 0;
  told.length = 0;
  Object.assign(courses, { t1: () => 30, t2: (t: number) => (t < 5 ? 80 : 60), t3: new Error('Nobody was found in that take to follow.') });
  await addProject({
    ...stagedProject(),
    id: crypto.randomUUID(),
    shots: [
      shot('a', 8, [take('t1', 1)]),
      shot('b', 12, [take('t1', 1), take('t2', 6)]),
      shot('c', 16, [take('t3', 1)]),
      shot('d', 20, [take('t2', 1, false)]),
    ],
  });
});

describe('the part that another shape shows', () => {
  it('is laid around the performers of each shot, over the seconds it shows of each take; in one step', async () => {
    const said = await followPerformers(now(), TALL, false, (p) => told.push(p));
    expect(middle(0)).toBeCloseTo(30, 6);
    // Two takes side by side: between both.
    expect(middle(1)).toBeCloseTo(45, 6);
    expect([now().shots[2].part, now().shots[3].part]).toEqual([undefined, undefined]);
    expect(said).toBe('In 2 of 4 shots nobody was found: they show what they did.');
    // A layer that is off is not looked at.
    expect(asked).toEqual(['t1', 't1', 't2', 't3']);
    undo();
    expect(now().shots.every((s) => s.part === undefined)).toBe(true);
  });

  it('stays within the frame where somebody stands at its edge', async () => {
    courses.t1 = () => 2;
    await followPerformers(now(), TALL, false, () => undefined);
    expect(now().shots[0].part?.[0].x).toBe(0);
  });

  it('changes nothing where nobody is found, and stops when it is stopped', async () => {
    for (const id of ['t1', 't2']) courses[id] = new Error('Nobody was found in that take to follow.');
    expect(await followPerformers(now(), TALL, false, () => undefined)).toMatch(/Nobody was found in any shot/);
    const stop = new AbortController();
    stop.abort();
    courses.t1 = () => 30;
    await expect(followPerformers(now(), TALL, false, () => undefined, stop.signal)).rejects.toBeInstanceOf(Cancelled);
    courses.t1 = new Cancelled();
    await expect(followPerformers(now(), TALL, false, () => undefined)).rejects.toBeInstanceOf(Cancelled);
    expect(now().shots.every((s) => s.part === undefined)).toBe(true);
  });

  it('is set by hand for one shot', () => {
    setPart('b', { x: 12.5, y: 50 }, 0);
    expect(now().shots.map((s) => s.part?.[0].x)).toEqual([undefined, 12.5, undefined, undefined]);
  });

  it('pans along with them where they go through the frame, each at its own moment', async () => {
    // From the left to the right over the seconds the shot shows.
    courses.t1 = (t) => 30 + 10 * (t - 1);
    await followPerformers(now(), TALL, true, () => undefined);
    const [shot] = now().shots;
    const [first, end] = shotFrames(now(), shot);
    expect(shot.part?.length).toBeGreaterThan(1);
    for (const frame of [first, first + 20, end - 1]) {
      const { left, width } = shownPart(now().frame, TALL, partOf(now(), shot, frame));
      const there = courses.t1 as (t: number) => number;
      expect(Math.abs(100 * (left + width / 2) - there(1 + (frame - first) / 25))).toBeLessThan(5);
    }
    // Whoever stands still is not panned along with.
    courses.t1 = () => 30;
    await followPerformers(now(), TALL, true, () => undefined);
    expect(now().shots[0].part).toHaveLength(1);
  });

  it('has keys that are set, pulled, eased and removed on frames; the last stays', () => {
    const [first] = shotFrames(now(), now().shots[1]);
    const keys = () => now().shots[1].part?.map((k) => [k.x, k.easing]);
    setPart('b', { x: 10, y: 50 }, first);
    keyPart('b', first + 25);
    setPart('b', { x: 90, y: 50 }, first + 25);
    expect(partFrames(now(), now().shots[1])).toEqual([first, first + 25]);
    keyPart('b', first, 'hold');
    expect(keys()).toEqual([
      [10, 'hold'],
      [90, 'ease in and out'],
    ]);
    expect(partOf(now(), now().shots[1], first + 24).x).toBe(10);
    unkeyPart('b', first);
    unkeyPart('b', first + 25);
    expect(keys()).toEqual([[90, 'ease in and out']]);
  });
});
