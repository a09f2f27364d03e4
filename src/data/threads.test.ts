import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { clipStart } from '@/core/evaluate';
import { stagedMedia, stagedProject } from '@/core/staged';

let hears: () => unknown = () => ({ ok: false, reason: 'nothing alike' });
let asked = 0;
let takes: unknown;
let meanwhile: () => Promise<unknown> = async () => undefined;
vi.mock('./jobs', () => ({
  syncMedia: async () => {
    asked++;
    await meanwhile();
    return [hears()];
  },
  takeIn: async () => takes,
}));

const { db } = await import('./db');
const threads = await import('./threads');
const { addProject, edit, newProject, settled, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const quiet = () => undefined;
const clips = () => now().sound.clips;
const at = (offset: number) => ({ ok: true, match: { offset, spread: 0.001 } });

beforeEach(async () => {
  await settled();
  await db.derived.clear();
  hears = () => ({ ok: false, reason: 'nothing alike' });
  meanwhile = async () => undefined;
  asked = 0;
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
});

describe('the sound of a take', () => {
  it('lies where it is heard in the song, to the sample', async () => {
    hears = () => at(12.34567);
    expect(await threads.layTakeSound('t1', quiet)).toBe('');
    const [clip] = clips();
    expect(clip).toMatchObject({ thread: 'takes', mediaId: 'm1', from: 0, to: 10 });
    expect(clipStart(now(), clip)).toBeCloseTo(12.34567, 6);
  });

  it('what was recorded before the song begins is left out', async () => {
    hears = () => at(-3);
    await threads.layTakeSound('t1', quiet);
    expect(clips()[0].from).toBeCloseTo(3, 9);
    expect(clipStart(now(), clips()[0])).toBeCloseTo(0, 6);
    hears = () => at(-9.995);
    expect(await threads.layTakeSound('t2', quiet)).toBe('m2.mp4 ends before the song begins.');
    expect(clips()).toHaveLength(1);
  });

  it('of a part of a file begins where the part does', async () => {
    hears = () => at(10);
    edit('Cut', (draft) => {
      draft.takes[0].part = { from: 2, to: 5 };
    });
    await threads.layTakeSound('t1', quiet);
    expect(clips()[0]).toMatchObject({ from: 2, to: 5 });
    expect(clipStart(now(), clips()[0])).toBeCloseTo(12, 6);
  });

  it('not heard in the song it begins at the playhead, and says so', async () => {
    useProject.setState({ playhead: 100 });
    expect(await threads.layTakeSound('t1', quiet)).toMatch(/begins at the playhead/);
    expect(clipStart(now(), clips()[0])).toBeCloseTo(4, 6);
  });

  it('is listened for once for a file and a song', async () => {
    hears = () => at(1);
    await threads.layTakeSound('t1', quiet);
    await threads.layTakeSound('t1', quiet);
    expect(asked).toBe(1);
    expect(clips()).toHaveLength(2);
  });

  it('goes into no other project than the one it was asked in', async () => {
    meanwhile = () => newProject('Another');
    expect(await threads.layTakeSound('t1', quiet)).toMatch(/Another project was opened/);
    expect(clips()).toEqual([]);
  });
});

describe('a sound effect', () => {
  it('comes in as a file and begins at the playhead; one without sound is refused', async () => {
    useProject.setState({ playhead: 50 });
    takes = { ok: true, media: { ...stagedMedia('fx', 'audio'), duration: 2 } };
    expect(await threads.layEffect(new File([''], 'fx.wav'), quiet)).toBe('');
    expect(clips()[0]).toMatchObject({ thread: 'effects', mediaId: 'fx', from: 0, to: 2, fadeIn: 0 });
    expect(clipStart(now(), clips()[0])).toBeCloseTo(2, 6);
    expect(threads.layStored({ ...stagedMedia('mute'), hasSound: false })).toBe('mute.mp4 has no sound.');
    takes = { ok: false, reason: 'It is no sound.' };
    expect(await threads.layEffect(new File([''], 'no.txt'), () => undefined)).toBe('It is no sound.');
    expect(clips()).toHaveLength(1);
    await undo();
    expect(now().media.some((m) => m.id === 'fx')).toBe(false);
  });

  it('is changed by name and moved to the playhead', () => {
    threads.layStored(stagedMedia('song', 'audio'));
    const [{ id }] = clips();
    threads.changeClip(id, 'Fade', (clip) => {
      clip.fadeOut = 1;
    });
    useProject.setState({ playhead: 137 });
    threads.clipToPlayhead(id);
    expect(clips()[0].fadeOut).toBe(1);
    expect(clipStart(now(), clips()[0])).toBeCloseTo(137 / 25, 6);
    threads.changeClip('gone', 'Fade', () => {
      throw new Error('nothing to change');
    });
  });
});

describe('the gain of a thread', () => {
  const gains = () => now().sound.takes.gains;
  it('is kept in the order of its beats, in tenths of a decibel, within what can be heard', () => {
    threads.setGain('takes', 8, -3.1234);
    threads.setGain('takes', 2, 40);
    threads.setGain('takes', 4, -200);
    expect(gains()).toEqual([
      { beat: 2, gain: 12 },
      { beat: 4, gain: -60 },
      { beat: 8, gain: -3.1 },
    ]);
  });

  it('takes the place of the key that is there, or of the one that is moved', () => {
    threads.setGain('takes', 8, -3);
    threads.setGain('takes', 8.005, -6);
    expect(gains()).toEqual([{ beat: 8.005, gain: -6 }]);
    threads.setGain('takes', 12, -6, 0);
    expect(gains()).toEqual([{ beat: 12, gain: -6 }]);
    threads.removeGain('takes', 0);
    expect(gains()).toEqual([]);
  });

  it('a place near a beat means the beat', () => {
    expect([3.9, 4.19, 4.21, -0.1].map(threads.meantBeat)).toEqual([4, 4, 4.21, -0]);
  });
});
