import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project, Stroke, Take } from '@/core/document';
import { stagedProject } from '@/core/staged';

/** What the worker was asked, by name; each stretch with its begin. */
const { calls } = vi.hoisted(() => ({ calls: [] as [string, unknown[]][] }));
let fails: ((name: string, given: unknown[]) => Error | null) | null = null;
const kept = new Set<string>();
vi.stubGlobal('Worker', class {});
vi.mock('./jobs', () => ({
  Cancelled: class Cancelled extends Error {},
  inWorker: async (_: unknown, __: unknown, work: (api: unknown, tell: unknown) => unknown) => {
    const api = new Proxy(
      {},
      {
        get:
          (_target, name: string) =>
          async (...given: unknown[]) => {
            calls.push([name, given]);
            const failed = fails?.(name, given);
            if (failed) throw failed;
            if (name === 'cutStretch') return { bytes: new Uint8Array([given[1] as number]), frames: 50 };
            if (name === 'joinStretches') return { file: new Blob([JSON.stringify(given[0])]), width: 1280, height: 720, duration: 10 };
            if (name === 'carryAlong') return { ...(given[1] as object), times: [0], poses: [] };
            if (name === 'backingOf') return { u: 80, v: 60, spread: 2 };
            return given[0];
          },
      },
    );
    return work(api, (listener: unknown) => listener);
  },
}));
vi.mock('./person', () => ({ findPerson: vi.fn() }));
vi.mock('./set-up', () => ({
  setUpWorker: () => ({}),
  aligned: async (_: Project, take: Take) => ({ media: { id: take.mediaId, from: 0, to: 10, fps: 25 }, correction: null }),
  occupancyKey: (_: Project, take: Take) => `occupancy of ${take.id}`,
  occupancyTrack: async () => ({
    width: 4,
    height: 2,
    factor: 2,
    times: Array.from({ length: 250 }, (__, i) => i / 25),
    figure: Array(250).fill(null),
    shadow: Array(250).fill(null),
  }),
  referenceFor: (project: Project) => project.takes[0],
  setPlate: async () => ({ planes: { width: 8 } }),
}));
vi.mock('./media', () => ({ correctTake: vi.fn(), takeMeasurement: async () => ({ against: null }) }));
vi.mock('@/media/files', () => ({ hasMedia: async (id: string) => kept.has(id), storeMedia: async (id: string) => void kept.add(id) }));
vi.mock('@/media/pictures', () => ({ mattePng: vi.fn(), stillPng: vi.fn() }));

const { db } = await import('./db');
const along = await import('./cut-along');
const { addFiles } = await import('./shots');
const { addProject, settled, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const quiet = () => undefined;
const hundredths = (v: unknown) => Math.round(100 * (v as number)) / 100;
const stretches = () => calls.filter(([name]) => name === 'cutStretch').map(([, given]) => hundredths(given[1]));
const stroke: Stroke = { by: 'brush', says: 'set', radius: 2, points: [[50, 50]] };
const cut = async () => {
  calls.length = 0;
  const made = await along.keepAlong(now(), 't2', quiet);
  addFiles('Keep', made.media, now().id);
  return made;
};

beforeEach(async () => {
  await settled();
  await db.derived.clear();
  kept.clear();
  fails = null;
  calls.length = 0;
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
});

describe('a take cut out along its length', () => {
  it('is worked out stretch by stretch, joined in order, and kept as a file of the project', async () => {
    const made = await cut();
    expect([...stretches()].sort((a, b) => a - b)).toEqual([0, 1.67, 3.33, 5, 6.67, 8.33]);
    const [, [parts]] = calls.find(([name]) => name === 'joinStretches') as [string, { bytes: Uint8Array }[][]];
    expect(parts.map((p) => p.bytes[0])).toEqual([0, 1, 3, 5, 6, 8]);
    expect(made).toMatchObject({
      begins: 0,
      media: [{ kind: 'travelling matte', duration: 10, fps: 25, width: 1280, colour: { fullRange: false } }],
    });
  });

  it('asked for again it is the one that is kept; where its file is gone only the joining is done again', async () => {
    const first = await cut();
    const again = await cut();
    expect(calls).toEqual([]);
    expect(again).toEqual({ media: [], matteId: first.matteId, begins: 0 });
    kept.clear();
    expect((await cut()).matteId).toBe(first.matteId);
    expect(stretches()).toEqual([]);
  });

  it('broken off it goes on with the stretches that are missing', async () => {
    fails = (name, given) => (name === 'cutStretch' && hundredths(given[1]) === 6.67 ? new Error('The worker died.') : null);
    await expect(along.keepAlong(now(), 't2', quiet)).rejects.toThrow('The worker died.');
    fails = null;
    const before = stretches().filter((at) => at !== 6.67);
    calls.length = 0;
    await along.keepAlong(now(), 't2', quiet);
    for (const at of before) expect(stretches()).not.toContain(at);
    expect(stretches()).toContain(6.67);
  });

  it('a correction has only those made again that it reaches, up to the next one', async () => {
    await cut();
    along.keepCorrection('t2', 5, [stroke]);
    expect(useProject.getState().undoLabel).toBe('Correct the cut-out at 5.00 s');
    await cut();
    expect([...stretches()].sort()).toEqual([5, 6.67, 8.33]);
    expect(calls.filter(([name]) => name === 'carryAlong').map(([, given]) => given[2])).toEqual([10]);
    along.keepCorrection('t2', 7, [stroke]);
    await cut();
    // What lies before second 7 is as it was; the first is now carried to there alone.
    expect([...stretches()].sort()).toEqual([6.67, 8.33]);
    along.forgetCorrection('t2', 7);
    await cut();
    expect(stretches()).toEqual([]);
    await undo();
    expect(now().takes[1].cutAlong?.corrections.map((c) => c.time)).toEqual([5, 7]);
  });

  it('of two corrections on one frame the later stands', () => {
    along.keepCorrection('t2', 3, [stroke]);
    along.keepCorrection('t2', 3.01, [{ ...stroke, says: 'figure' }]);
    expect(now().takes[1].cutAlong?.corrections).toMatchObject([{ time: 3.01, strokes: [{ says: 'figure' }] }]);
  });

  it('by a coloured backing asks for its colour once and for no empty set; another tolerance makes all of it anew', async () => {
    along.changeCut('t2', 'By colour', (c) => ({ ...c, way: 'key' }));
    await cut();
    expect(calls.filter(([name]) => name === 'backingOf')).toHaveLength(1);
    const [, [ask]] = calls.find(([name]) => name === 'cutStretch') as [string, { plate: unknown; tolerance: number; backing: unknown }[]];
    expect(ask).toMatchObject({ plate: null, tolerance: 0.3, backing: { u: 80 } });
    along.changeCut('t2', 'Wider', (c) => ({ ...c, tolerance: 60 }));
    await cut();
    expect(stretches()).toHaveLength(6);
  });

  it('one figure of several is told to the stretches, each with no more of the take than it needs', async () => {
    along.changeCut('t2', 'One', (c) => ({ ...c, chosen: { time: 1, x: 50, y: 50 } }));
    await cut();
    expect(calls.filter(([name]) => name === 'onlyChosen')).toHaveLength(1);
    const asks = calls
      .filter(([name]) => name === 'cutStretch')
      .map(([, [ask]]) => ask as { only: boolean; occupancy: { times: number[] } });
    expect(asks.every((a) => a.only && a.occupancy.times.length < 90)).toBe(true);
  });

  it('a take that is gone says so', async () => {
    await expect(along.keepAlong(now(), 'gone', quiet)).rejects.toThrow(/no longer in the project/);
  });
});
