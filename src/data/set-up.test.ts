import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project, Take } from '@/core/document';
import { RECIPES } from '@/core/plan';
import { stagedProject } from '@/core/staged';
import type { SeamResult } from '@/media/set-up';

/** What the worker was asked, and what it answers by the name of what it is asked. */
const { calls, answers } = vi.hoisted(() => ({ calls: [] as [string, unknown[]][], answers: {} as Record<string, unknown> }));
let against: unknown = { trusted: 0.9, perspective: null };
let own: unknown = null;
let reason = '';
let persons = 0;
vi.stubGlobal('Worker', class {});
vi.mock('./jobs', () => ({
  Cancelled: class extends Error {},
  inWorker: async (_: unknown, __: unknown, work: (api: unknown, tell: unknown) => unknown) => {
    const api = new Proxy(
      {},
      {
        get:
          (_target, name: string) =>
          async (...given: unknown[]) => {
            calls.push([name, given]);
            const answer = answers[name];
            return typeof answer === 'function' ? answer(...given) : answer;
          },
      },
    );
    return work(api, (listener: unknown) => listener);
  },
  measureTake: async () => ({ own, against, reason, frames: 1, quality: null, fall: null }),
  syncMedia: vi.fn(),
  takeIn: vi.fn(),
}));
vi.mock('./person', () => ({
  findPerson: async () => {
    persons++;
    if (answers.person instanceof Error) throw answers.person;
    return answers.person;
  },
}));
vi.mock('./pictures', () => ({ takePicture: async () => ({ width: 4, height: 4, rgba: new Uint8Array(64) }) }));
vi.mock('@/core/measure', async (original) => ({
  ...(await original<typeof import('@/core/measure')>()),
  correctionMoves: () => [{ time: 0, dx: 1, dy: 0, turn: 0, scale: 1 }],
  correctionGains: () => [{ time: 0, r: 1, g: 1, b: 1 }],
}));

const { db } = await import('./db');
const setUp = await import('./set-up');
const { addPlan } = await import('./plans');
const { addProject, edit, settled, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const take = (id: string) => now().takes.find((t) => t.id === id) as Take;
const quiet = () => undefined;
const asked = (name: string) => calls.filter(([n]) => n === name);
const track = (figure: (Uint8Array | null)[] = [new Uint8Array(1), null]) => ({
  width: 4,
  height: 2,
  factor: 2,
  times: [0, 0.04],
  figure,
  shadow: figure,
});

beforeEach(async () => {
  await settled();
  await db.derived.clear();
  calls.length = 0;
  for (const name of Object.keys(answers)) delete answers[name];
  Object.assign(answers, { makeSetPlate: { planes: { width: 8 }, frames: 3 }, trackOccupancy: track() });
  against = { trusted: 0.9, perspective: null };
  own = null;
  reason = '';
  persons = 0;
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
});

describe('takes that nobody planned together', () => {
  it('are of one set-up where they are of one size', () => {
    edit('No plans', (draft) => {
      for (const t of draft.takes) Object.assign(t, { plan: null, slot: null });
      const other = draft.media.find((m) => m.id === draft.takes[1].mediaId);
      if (other) Object.assign(other, { width: 320, height: 180 });
    });
    const ids = (id: string) => setUp.setUpOf(now(), take(id)).map((t) => t.id);
    const [first, second, third] = now().takes.map((t) => t.id);
    expect(ids(first)).toContain(third);
    expect(ids(first)).not.toContain(second);
    expect(ids(second)).toEqual([second]);
  });

  it('have an empty set without those that cannot be laid on one another', async () => {
    edit('No plans', (draft) => {
      for (const t of draft.takes) Object.assign(t, { plan: null, slot: null });
    });
    against = null;
    const [first] = now().takes;
    await setUp.setPlate(now(), first, quiet);
    const [[, [sources]]] = asked('makeSetPlate') as [[string, [{ media: { id: string } }[]]]];
    expect(sources).toHaveLength(1);
  });
});

describe('an empty set', () => {
  const travel = (dx: number) => ({ travel: { from: 1, to: 5, dx, dy: 0, grows: 0 } });

  it('there is none where the camera goes far, or goes as in another take; a little way there is one', async () => {
    own = travel(-300);
    await expect(setUp.setPlate(now(), take('t1'), quiet)).rejects.toThrow(/The camera moves in m1\.mp4, so there is no one empty set/);
    expect(asked('makeSetPlate')).toEqual([]);
    await db.derived.clear();
    own = travel(-40);
    await setUp.setPlate(now(), take('t1'), quiet);
    expect(asked('makeSetPlate')).toHaveLength(1);
    await db.derived.clear();
    against = { trusted: 0.9, perspective: null, match: { offset: 0.4, rate: 1, spread: 0 } };
    await expect(setUp.setPlate(now(), take('t1'), quiet)).rejects.toThrow(/The camera moves in m\d\.mp4/);
  });
});

describe('the takes of a set-up', () => {
  it('are all without a plan; the first with somebody in it is the reference', () => {
    expect(setUp.setUpOf(now(), take('t2')).map((t) => t.id)).toEqual(['t1', 't2', 't3']);
    expect(setUp.referenceFor(now(), take('t3')).id).toBe('t1');
  });

  it('an overlay is alone, and neither lies on the others nor they on it', () => {
    edit('An overlay', (draft) => {
      draft.takes[0].overlay = true;
    });
    expect(setUp.setUpOf(now(), take('t2')).map((t) => t.id)).toEqual(['t2', 't3']);
    expect(setUp.referenceFor(now(), take('t3')).id).toBe('t2');
    expect(setUp.setUpOf(now(), take('t1')).map((t) => t.id)).toEqual(['t1']);
    expect(setUp.referenceFor(now(), take('t1')).id).toBe('t1');
  });

  it('are those of one planned shot in the order of its slots, and a plate is no reference', () => {
    addPlan(RECIPES.find((r) => r.id === 'clones') ?? RECIPES[0]);
    const plan = now().plans[0].id;
    edit('Fill', (draft) => {
      Object.assign(draft.takes[0], { plan, slot: 'place-p2' });
      Object.assign(draft.takes[1], { plan, slot: 'place-p1' });
      Object.assign(draft.takes[2], { plan, slot: 'plate' });
    });
    expect(setUp.setUpOf(now(), take('t1')).map((t) => t.slot)).toEqual(['plate', 'place-p1', 'place-p2']);
    expect(setUp.referenceFor(now(), take('t1')).id).toBe('t2');
    edit('Only the plate', (draft) => {
      draft.takes[0].plan = null;
      draft.takes[1].plan = null;
    });
    expect(setUp.referenceFor(now(), take('t3')).id).toBe('t3');
  });
});

describe('a take laid on its reference', () => {
  it('is itself where it is the reference; another has a correction; one that cannot be laid says why', async () => {
    expect(await setUp.aligned(now(), take('t1'), quiet)).toMatchObject({ correction: null });
    expect(await setUp.aligned(now(), take('t2'), quiet)).toMatchObject({ correction: { referenceTakeId: 't1', enabled: true } });
    against = { trusted: 0.1, perspective: null };
    await db.derived.clear();
    await expect(setUp.aligned(now(), take('t3'), quiet)).rejects.toThrow(/m3\.mp4 could not be laid on m1\.mp4/);
    reason = 'The picture could not be followed.';
    await db.derived.clear();
    await expect(setUp.aligned(now(), take('t3'), quiet)).rejects.toThrow('The picture could not be followed.');
  });
});

describe('the clean plate', () => {
  it('is made once for the same takes, of the plates alone where there are some', async () => {
    await Promise.all([setUp.setPlate(now(), take('t1'), quiet), setUp.setPlate(now(), take('t2'), quiet)]);
    await setUp.setPlate(now(), take('t3'), quiet);
    expect(asked('makeSetPlate')).toHaveLength(1);
    const [[, [sources]]] = asked('makeSetPlate') as [string, { nobody: boolean }[][]][];
    expect(sources.map((s) => s.nobody)).toEqual([false, false, false]);
    addPlan(RECIPES.find((r) => r.id === 'clones') ?? RECIPES[0]);
    const before = setUp.plateKey(now(), take('t1'));
    edit('Into one set-up', (draft) => {
      for (const [i, t] of draft.takes.entries()) Object.assign(t, { plan: draft.plans[0].id, slot: ['plate', 'place-p1', 'place-p2'][i] });
    });
    expect(setUp.plateKey(now(), take('t1'))).not.toBe(before);
    await setUp.setPlate(now(), take('t2'), quiet);
    const [, second] = asked('makeSetPlate') as [string, { nobody: boolean; media: { id: string } }[][]][];
    expect(second[1][0].map((s) => [s.media.id, s.nobody])).toEqual([['m1', true]]);
  });
});

describe('where the performer is', () => {
  it('is worked out once, told in share of the frames, and which of them could not be told', async () => {
    answers.union = new Uint8Array([255, 0]);
    const map = await setUp.occupancyMap(now(), take('t1'), quiet);
    expect(map).toEqual({ width: 4, height: 2, share: new Uint8Array([255, 0]), untold: 0.5 });
    await setUp.occupancyMap(now(), take('t1'), quiet);
    expect(asked('trackOccupancy')).toHaveLength(1);
    answers.boxes = [null];
    expect(await setUp.boxesOf(now(), take('t1'))).toEqual([null]);
  });

  it('cuts come with seconds of the files; within one take half of them must not be the jump back', async () => {
    answers.cuts = [{ out: 1, into: 0, cost: 1 }];
    expect(await setUp.cutsBetween(now(), take('t1'), take('t2'), quiet)).toMatchObject([{ outAt: 0.04, intoAt: 0 }]);
    await setUp.cutsBetween(now(), take('t1'), take('t1'), quiet);
    expect(asked('cuts').map(([, given]) => given[2])).toEqual([null, 25]);
  });
});

describe('a seam', () => {
  const seam = (): SeamResult =>
    ({
      paths: [{ from: 0, to: 25, x: Float32Array.from([1, 2, 2, 3, 4, 4, 4, 4]) as unknown as number[] }] as unknown as SeamResult['paths'],
      feather: [Float32Array.from([0, 4, 4, 4, 4, 4, 4, 400])],
      frames: 25,
      fps: 25,
      width: 16,
      height: 8,
      step: 1,
    }) as unknown as SeamResult;

  it('becomes key frames in seconds and per cent, its last row with it, no softer than the picture is tall', () => {
    const [{ from, points }] = setUp.seamKeyframesOf(seam(), 100);
    expect(from).toBe(0);
    expect(points.map((p) => p.x)).toEqual([6.25, 18.75, 25, 25]);
    expect(points.map((p) => p.y)).toEqual([6.25, 43.75, 81.25, 93.75]);
    expect(points.map((p) => p.soft)).toEqual([0, 4, 4, 100]);
    expect(setUp.widestSoft([{ from, points }])).toBe(100);
    expect(setUp.widestSoft([])).toBe(0.3);
  });

  it('is sought between both takes as they lie, and laid as a shot with both corrected', async () => {
    answers.seekSeam = seam();
    answers.collide = [];
    const span = { first: { take: take('t1'), from: 0 }, second: { take: take('t2'), from: 1 }, seconds: 1 };
    const found = await setUp.seamBetween(now(), span, quiet);
    const [[, [a, b, , seconds, rate]]] = asked('seekSeam') as [string, { from: number }[]][];
    expect([a.from, b.from, seconds, rate]).toEqual([0, 1, 1, 25]);
    const id = await setUp.laySeam(now(), span, setUp.seamKeyframesOf(found.seam, 720), 8);
    expect(now().shots.map((s) => [s.id, s.start.beat])).toEqual([[id, 8]]);
    expect(take('t2').correction).toMatchObject({ referenceTakeId: 't1' });
    expect(take('t1').correction).toBeNull();
    expect(useProject.getState().selectedShot).toBe(id);
  });
});

describe('a figure cut out', () => {
  const made = (wants: boolean) => ({ matte: { width: 4, height: 4 }, rgba: new Uint8Array(64), wants, note: '' });

  it('by its difference from the plate asks for no person; where it must, once for a frame', async () => {
    answers.cutFrame = () => made(false);
    await setUp.cutFigure(now(), take('t1'), 1, null, quiet);
    expect(persons).toBe(0);
    answers.cutFrame = () => made(true);
    answers.person = { mask: 1 };
    await setUp.cutFigure(now(), take('t1'), 2, null, quiet);
    await setUp.cutFigure(now(), take('t1'), 2, null, quiet);
    expect(persons).toBe(1);
    expect(asked('cutFrame').map(([, given]) => given[4])).toEqual([null, null, { mask: 1 }, { mask: 1 }]);
  });

  it('without a segmentation what was found is kept, and why it is no better is said', async () => {
    answers.cutFrame = () => made(true);
    answers.person = new Error('The person model could not be loaded.');
    expect(await setUp.cutFigure(now(), take('t1'), 3, null, quiet)).toMatchObject({ note: 'The person model could not be loaded.' });
    answers.freeFrame = { matte: {}, note: '' };
    expect(await setUp.freeFigure(now(), take('t1'), 3, null, quiet)).toMatchObject({ note: 'The person model could not be loaded.' });
  });
});
