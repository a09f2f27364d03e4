import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Project, readProject } from '@/core/document';
import { proposePlain } from '@/core/edit';
import { soundings } from '@/core/evaluate';
import { remapKeyAt } from '@/core/layer';
import { stagedMedia, stagedProject } from '@/core/staged';

let found: unknown;
let taken: unknown;
let meanwhile: () => Promise<unknown> = async () => undefined;
vi.mock('./jobs', () => ({
  syncMedia: async () => {
    await meanwhile();
    return [found];
  },
  takeIn: async () => taken,
}));
const { hearFrom } = await import('./mic');
const { layTakeSound } = await import('./threads');
const { addProject, edit, newProject, settled, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const file = new File([], 'boom.wav');
const quiet = () => undefined;
const match = { offset: 2.5, driftPpm: 40, agreeing: 1, spread: 0.0004, from: 0, to: 8 };
const take = () => now().takes.find((t) => t.id === 't1');

beforeEach(async () => {
  await settled();
  meanwhile = async () => undefined;
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
  taken = { ok: true, media: { ...stagedMedia('boom', 'audio'), kind: 'audio', name: 'boom.wav', hasSound: true } };
  found = { ok: true, match };
});

describe('a microphone’s file', () => {
  it('is heard in the place of a take’s own sound, where the camera heard it, by its own clock', async () => {
    expect(await hearFrom('t1', file, quiet)).toBe('The take begins 2.500 s into boom.wav, to 0.4 ms, its clock 40 millionths faster.');
    expect(take()?.mic).toEqual({ mediaId: 'boom', offset: 2.5, rate: 1.00004 });
    expect(readProject(now())).toMatchObject({ ok: true });
    await layTakeSound('t1', quiet);
    expect(now().sound.clips[0]).toMatchObject({ mediaId: 'boom', from: 2.5, thread: 'takes' });
    expect(now().sound.clips[0].to).toBeCloseTo(2.5 + 10 * 1.00004, 6);
    await undo();
    await undo();
    expect(take()?.mic).toBeUndefined();
  });

  it('goes with what the score lets be heard, at the take’s speed and from its second', async () => {
    await hearFrom('t1', file, quiet);
    edit('A shot that is heard', (draft) => {
      const shot = proposePlain(now(), 'heard', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't1');
      draft.shots = [
        { ...shot, layers: shot.layers.map((l) => ({ ...l, timeRemap: [remapKeyAt(0, 0, 2, 0.5)], sound: 'stretched' as const })) },
      ];
    });
    const own = soundings(now()).filter((s) => s.mediaId === 'boom');
    const camera = soundings({ ...now(), takes: now().takes.map(({ mic: _, ...t }) => t) });
    expect([own.length, camera.length]).toEqual([1, 1]);
    for (const time of [own[0].from, own[0].from + 1.7])
      expect(own[0].secondAt(time)).toBeCloseTo(2.5 + camera[0].secondAt(time) * 1.00004, 9);
  });

  it('that is not what the camera heard, holds nothing, or is for a silent take, is refused and changes nothing', async () => {
    found = { ok: false, reason: 'nothing alike.' };
    expect(await hearFrom('t1', file, quiet)).toMatch(/^What .* heard is not in boom.wav: nothing alike/);
    taken = { ok: false, reason: 'it is damaged.' };
    expect(await hearFrom('t1', file, quiet)).toBe('boom.wav: it is damaged.');
    taken = { ok: true, media: { ...stagedMedia('boom', 'audio'), hasSound: false } };
    expect(await hearFrom('t1', file, quiet)).toBe('boom.wav has no sound.');
    edit('Silent', (draft) => {
      for (const m of draft.media) m.hasSound = false;
    });
    expect(await hearFrom('t1', file, quiet)).toMatch(/no sound of its own/);
    expect(take()?.mic).toBeUndefined();
  });

  it('found after another project was opened is left out there', async () => {
    const id = now().id;
    meanwhile = () => newProject('Another');
    expect(await hearFrom('t1', file, quiet)).not.toMatch(/begins/);
    expect(now().id).not.toBe(id);
    expect(now().media).toEqual([]);
  });

  it('that is gone from the project leaves the camera’s own sound, and that is said', async () => {
    await hearFrom('t1', file, quiet);
    const without = { ...now(), media: now().media.filter((m) => m.id !== 'boom') };
    const read = readProject(without);
    expect(read.ok ? '' : read.reason).toMatch(/the microphone’s sound of take \d: its file is not in the project/);
  });
});
