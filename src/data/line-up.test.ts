import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Footage, Project } from '@/core/document';
import { footageOf } from '@/core/document';
import { stagedProject } from '@/core/staged';

let synced: unknown;
const heard: Record<string, unknown> = {};
const matches: Record<string, unknown> = {};
vi.mock('./jobs', () => ({ syncMedia: async () => [synced] }));
vi.mock('./threads', () => ({ heardInSong: async (id: string) => heard[id] }));
vi.mock('./media', () => ({ takeMeasurement: async ({ id }: Footage) => matches[id] }));
vi.mock('./set-up', () => ({ referenceFor: (project: Project) => project.takes[0] }));
const { lineUpByBeat, lineUpByMove, lineUpBySound } = await import('./line-up');

const project = stagedProject();
project.takes[1].part = { from: 3, to: 9 };
const [one, two] = project.takes;
const [a, b] = [footageOf(project, 't1'), footageOf(project, 't2')];
const quiet = () => undefined;

beforeEach(() => {
  for (const of of [heard, matches]) for (const id of Object.keys(of)) delete of[id];
});

describe('two takes lined up', () => {
  it('by a sound both have recorded: at the earliest seconds at which both have picture', async () => {
    synced = { ok: true, match: { offset: 1.25, spread: 0.0004, driftPpm: 0 } };
    // The second is used from its third second on; the same sound comes 1.25 s later there.
    expect(await lineUpBySound(a, b, quiet)).toEqual({
      ok: true,
      from: [1.75, 3],
      said: 'The same sound is heard 1.2500 s later in the second, to 0.40 ms.',
    });
    synced = { ok: true, match: { offset: 4, spread: 0, driftPpm: 0 } };
    expect(await lineUpBySound(a, b, quiet)).toMatchObject({ from: [0, 4] });
    synced = { ok: false, reason: 'Nothing is heard in both.' };
    expect(await lineUpBySound(a, b, quiet)).toEqual({ ok: false, said: 'Nothing is heard in both.' });
  });

  it('by the song that was played: both on one beat; or it says in which it is not heard', async () => {
    heard[a.id] = { ok: true, match: { offset: 20 } };
    heard[b.id] = { ok: true, match: { offset: 18 } };
    const up = await lineUpByBeat('song', a, b, quiet);
    if (!up.ok) throw new Error(up.said);
    expect(up.from[0] + 20).toBeCloseTo(up.from[1] + 18, 9);
    expect(up.from).toEqual([1, 3]);
    heard[b.id] = { ok: false, reason: '' };
    expect(await lineUpByBeat('song', a, b, quiet)).toMatchObject({ ok: false, said: expect.stringContaining(b.name) });
  });

  it('by their cameras’ move: where both pass the same place', async () => {
    matches[b.id] = { against: { match: { offset: -0.5, rate: 1.02, spread: 0 } }, reason: '' };
    const up = await lineUpByMove(project, one, two, quiet);
    if (!up.ok) throw new Error(up.said);
    // The second has picture from its third second on: there the first has gone 2.56 s.
    expect(up.from[1]).toBeCloseTo(3, 9);
    expect(up.from[0]).toBeCloseTo(-0.5 + 1.02 * 3, 9);
    matches[b.id] = { against: { match: null }, reason: '' };
    expect(await lineUpByMove(project, one, two, quiet)).toMatchObject({
      ok: false,
      said: expect.stringMatching(/is not filmed by a camera that moves/),
    });
    matches[b.id] = { against: null, reason: 'The camera moves in this take, and …' };
    expect(await lineUpByMove(project, one, two, quiet)).toMatchObject({ ok: false, said: 'The camera moves in this take, and …' });
  });
});
