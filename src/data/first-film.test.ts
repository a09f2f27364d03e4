import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Project, readProject, type Shot } from '@/core/document';
import { proposePlain } from '@/core/edit';
import { shotFrames } from '@/core/evaluate';
import { packed } from '@/core/measure';
import type { SortedTakes } from '@/core/plan';
import { stagedProject } from '@/core/staged';

/** Which takes' files show one place, by their files; and where somebody is in each: columns of ten, and how many rows of ten. */
let places: Record<string, number> = {};
let people: Record<string, readonly [from: number, to: number, rows: number] | null> = {};
vi.mock('./media', () => ({
  takeMeasurement: async (own: { id: string }, other: { id: string }) => ({
    against: places[own.id] === places[other.id] ? { trusted: 0.9 } : null,
  }),
}));
vi.mock('./set-up', async (original) => ({
  ...(await original<object>()),
  occupancyTrack: async (_: Project, { mediaId }: { mediaId: string }) => {
    const who = people[mediaId];
    if (who === undefined) throw new Error('The camera moves.');
    const data = new Uint8Array(100);
    if (who) for (let y = 0; y < who[2]; y++) data.fill(1, 10 * y + who[0], 10 * y + who[1]);
    return { width: 10, height: 10, figure: [packed({ width: 10, height: 10, data }), packed({ width: 10, height: 10, data })] };
  },
}));
let meanwhile: () => Promise<unknown> = async () => undefined;
let lay: (name: string, takes: readonly string[]) => Shot | null = () => null;
const { addProject, edit, newProject, settled, useProject } = await import('./store');
const now = () => useProject.getState().project as Project;
const laid = async (name: string, takes: readonly string[]) => {
  const shot = lay(name, takes);
  if (!shot) throw new Error(`${name} cannot be laid.`);
  edit('Lay', (draft) => void draft.shots.push(shot as never));
  await meanwhile();
  return '';
};
vi.mock('./lay-plan', () => ({ layPlan: (id: string) => laid(now().plans.find((p) => p.id === id)?.recipe ?? '', []) }));
vi.mock('./moves', () => ({ layMoveOn: (kind: string, takes: string[]) => laid(kind, takes) }));
const { firstFilm, lookAtTakes, unsorted } = await import('./first-film');
const quiet = () => undefined;
const shot = (id: string, from: number, to: number) => proposePlain(now(), id, { beat: from, offset: 0 }, { beat: to, offset: 0 }, 't1');
const alone = (id: string): SortedTakes => ({ recipe: null, takes: [{ id, slot: '' }], looks: '' });

beforeEach(async () => {
  await settled();
  meanwhile = async () => undefined;
  const project = stagedProject(120);
  await addProject({ ...project, id: crypto.randomUUID(), takes: project.takes.map((t) => ({ ...t, plan: null, slot: null })) });
  places = { m1: 0, m2: 0, m3: 0 };
  people = { m1: [0, 3, 8], m2: [6, 9, 8], m3: null };
  let n = 0;
  lay = () => shot(`s${n++}`, 2, 9);
});

describe('looking at takes', () => {
  it('puts those of one place together by who is where in them', async () => {
    expect(unsorted(now())).toHaveLength(3);
    const [only, ...others] = await lookAtTakes(now(), quiet);
    expect(others).toEqual([]);
    expect(only).toMatchObject({
      recipe: 'clones',
      takes: [
        { id: 't3', slot: 'plate' },
        { id: 't1', slot: 'place-p1' },
        { id: 't2', slot: 'place-p2' },
      ],
    });
  });
  it('keeps places apart, and takes whoever it cannot tell for somebody', async () => {
    places = { m1: 0, m2: 1, m3: 0 };
    people = { m3: null };
    expect((await lookAtTakes(now(), quiet)).map((s) => [s.recipe, s.takes.map((t) => t.id)])).toEqual([
      ['vanish and reappear', ['t3', 't1']],
      [null, ['t2']],
    ]);
  });
  it('is no place where sizes differ, and stops when it is told', async () => {
    edit('Another size', (draft) => void Object.assign(draft.media.find((m) => m.id === 'm2') ?? {}, { width: 320, height: 180 }));
    expect((await lookAtTakes(now(), quiet)).length).toBe(2);
    const stop = new AbortController();
    stop.abort();
    people = {};
    await expect(lookAtTakes(now(), quiet, stop.signal)).rejects.toThrow(/camera moves/);
  });
});

describe('a first film', () => {
  it('lays what the takes became one after another from bar 1, on whole bars, without black between', async () => {
    const sorted = await lookAtTakes(now(), quiet);
    expect(await firstFilm([...sorted, alone('t1'), alone('t2')], quiet)).toBe('');
    expect(now().plans.map((p) => p.recipe)).toEqual(['clones']);
    expect(now().takes.map((t) => t.slot)).toEqual(['place-p1', 'place-p2', 'plate']);
    const [first, second] = now().shots;
    expect([first.start.beat, second.start.beat % 4]).toEqual([2, 2]);
    expect(shotFrames(now(), first)[1]).toBe(shotFrames(now(), second)[0]);
    expect(readProject(now())).toMatchObject({ ok: true });
    expect(useProject.getState().selectedShot).toBe(first.id);
  });
  it('says what cannot be laid, and lays the rest', async () => {
    const sorted = await lookAtTakes(now(), quiet);
    lay = (name) => (name === 'clones' ? null : shot('pulse', 0, 8));
    expect(await firstFilm([...sorted, alone('t1')], quiet)).toBe('clones cannot be laid.');
    expect(now().shots.map((s) => s.id)).toEqual(['pulse']);
  });
  it('stops where another project is opened meanwhile, and leaves that as it is', async () => {
    const sorted = await lookAtTakes(now(), quiet);
    meanwhile = () => newProject('Another');
    expect(await firstFilm([...sorted, alone('t1'), alone('t2')], quiet)).not.toBe('');
    expect(now().name).toBe('Another');
    expect(now().shots).toEqual([]);
  });
});
