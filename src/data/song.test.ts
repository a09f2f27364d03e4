import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { proposePlain } from '@/core/edit';
import { shotFrames } from '@/core/evaluate';
import { stagedMedia, stagedProject } from '@/core/staged';
import { type BeatMap, constantBeatMap, tempo } from '@/core/time';

const maps = new Map<string, BeatMap | null>();
let alignment: unknown = { pieces: [], share: 0 };
let fails = false;
vi.mock('./jobs', () => ({
  Cancelled: class extends Error {},
  hearSong: async (id: string) => {
    if (fails) throw new Error('no sound to be read');
    const parts = [
      { beat: 0, letter: 'A' },
      { beat: 16, letter: 'B' },
      { beat: 32, letter: 'A' },
    ];
    return { map: maps.get(id) ?? null, parts, hits: [], duration: 90 };
  },
  alignHeard: async () => alignment,
  solveMap: async (map: BeatMap) => ({ ...map, beats: map.beats.map((b) => b + 0.001) }),
  syncMedia: vi.fn(),
  takeIn: vi.fn(),
}));

const { useQuestions } = await import('./ask');
const songs = await import('./song');
const { addShot } = await import('./shots');
const { db } = await import('./db');
const { addProject, edit, settled, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const quiet = () => undefined;
const sound = (id: string) => stagedMedia(id, 'audio');
const frames = () => now().shots.map((s) => shotFrames(now(), s));
const answer = async (id: string | null) => {
  await vi.waitFor(() => expect(useQuestions.getState().asked).toHaveLength(1));
  useQuestions.getState().asked[0].answer(id);
};

beforeEach(async () => {
  await settled();
  await db.derived.clear();
  maps.clear();
  fails = false;
  alignment = { pieces: [], share: 0 };
  await addProject({ ...stagedProject(120), id: crypto.randomUUID(), song: null });
});

describe('a sound that comes in', () => {
  it('is the song where there is none, with its beats and parts named by what sounds alike', async () => {
    maps.set('s', constantBeatMap(120, 0.5, 90));
    expect(await songs.takeInSong(sound('s'), false, quiet)).toEqual({ problem: '', placed: '' });
    expect(now().song).toMatchObject({
      mediaId: 's',
      parts: [
        { name: 'A', tape: 0 },
        { name: 'B', tape: 1 },
        { name: 'A', tape: 0 },
      ],
    });
    expect(tempo(now().song?.map as BeatMap)).toBeCloseTo(120, 6);
    expect(now().media.map((m) => m.id)).toContain('s');
    expect((await songs.takeInSong(sound('s'), false, quiet)).placed).toMatch(/it is the song already/);
  });

  it('without beats is the song all the same; the beat can be tapped', async () => {
    await songs.takeInSong(sound('s'), false, quiet);
    expect(now().song).toMatchObject({ mediaId: 's', map: null });
  });

  describe('beside a song', () => {
    beforeEach(async () => {
      maps.set('s', constantBeatMap(120, 0.5, 90));
      maps.set('other', constantBeatMap(100, 0.2, 90));
      await songs.takeInSong(sound('s'), false, quiet);
      addShot(proposePlain(now(), 'a', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't1'));
    });

    it('is asked about; left out, all is as it was', async () => {
      const before = now();
      const done = songs.takeInSong(sound('other'), false, quiet);
      await answer('none');
      expect((await done).placed).toMatch(/was left out/);
      expect(now()).toBe(before);
    });

    it('is laid as a sound at the playhead where that is wanted', async () => {
      useProject.setState({ playhead: 50 });
      const done = songs.takeInSong(sound('other'), false, quiet);
      await answer('effect');
      expect(await done).toMatchObject({ problem: '' });
      expect(now().song?.mediaId).toBe('s');
      expect(now().sound.clips).toMatchObject([{ mediaId: 'other', thread: 'effects', from: 0, to: 90 }]);
    });

    it('another song keeps what was laid on its bars and beats, and undo brings the first back', async () => {
      const done = songs.takeInSong(sound('other'), false, quiet);
      await answer('song');
      expect((await done).placed).toMatch(/stays on its bars and beats/);
      expect(now().song?.mediaId).toBe('other');
      expect(now().shots[0].start.beat).toBe(4);
      await undo();
      expect(now().song?.mediaId).toBe('s');
    });

    it('another mix of it slides in, and what was laid goes along by its instants', async () => {
      maps.set('mix', constantBeatMap(120, 1.5, 90));
      alignment = { pieces: [{ from: 0, to: 89, offset: 1, rate: 1 }], share: 0.98 };
      const [[first, end]] = frames();
      const { placed } = await songs.takeInSong(sound('mix'), true, quiet);
      expect(placed).toMatch(/another mix of the song: it begins 1\.000 s later and runs as fast\. 98 % of the old one is in it\./);
      expect(placed).toMatch(/Everything laid on it went along/);
      expect(now().song?.mediaId).toBe('mix');
      expect(frames()).toEqual([[first + 25, end + 25]]);
    });

    it('cannot be asked about once another project is open', async () => {
      const done = songs.takeInSong(sound('other'), false, quiet);
      await vi.waitFor(() => expect(useQuestions.getState().asked).toHaveLength(1));
      await addProject({ ...stagedProject(), id: crypto.randomUUID(), name: 'Another' });
      useQuestions.getState().asked[0].answer('song');
      expect((await done).problem).toMatch(/Another project was opened/);
      expect(now().song?.mediaId).toBe('song');
    });
  });
});

describe('the beats of the song', () => {
  beforeEach(async () => {
    maps.set('s', constantBeatMap(120, 0.5, 90));
    await songs.takeInSong(sound('s'), false, quiet);
    addShot(proposePlain(now(), 'a', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't1'));
  });

  it('corrected, what hangs on them stays at its instants; or moves along when told to follow', () => {
    const before = frames();
    songs.changeMap('Half as fast', constantBeatMap(60, 0.5, 90));
    expect(frames()).toEqual(before);
    expect(now().shots[0].start.beat).toBe(2);
    songs.changeMap('And follow', constantBeatMap(120, 0.5, 90), true);
    expect(now().shots[0].start.beat).toBe(2);
    expect(frames()).not.toEqual(before);
    songs.changeMap('Nothing', null);
    expect(useProject.getState().undoLabel).toBe('And follow');
  });

  it('are read from a list or a MIDI file; what is neither is refused in words', async () => {
    const list = Array.from({ length: 20 }, (_, i) => (0.25 + i * 0.6).toFixed(3)).join('\n');
    const said = await songs.readBeats(new File([list], 'beats.txt'));
    expect(said).toMatch(/^20 beats read, 100\.00 BPM, \d in a bar\./);
    const refused = await songs.readBeats(new File(['no beats here'], 'words.txt'));
    expect(refused).not.toMatch(/beats read/);
    expect(now().song?.map?.beats).toHaveLength(20);
    const midi = await songs.readBeats(new File([new Uint8Array([0x4d, 0x54, 0x68, 0x64, 0, 0])], 'broken.mid'));
    expect(midi).not.toMatch(/beats read/);
  });

  it('without a song there is nothing to put them on', async () => {
    edit('No song', (draft) => {
      draft.song = null;
    });
    expect(await songs.readBeats(new File(['0\n1\n2\n3\n4\n'], 'beats.txt'))).toMatch(/no song to put these beats on/);
  });

  it('a tapped stretch is set and the rest solved around it; taps that are no beats are refused, also where the sound cannot be read', async () => {
    expect(await songs.tapStretch([1, 1.1, 3])).toMatch(/Tap at least four/);
    expect(await songs.tapStretch([10, 10.5, 11, 11.5, 12])).toBe('');
    expect(now().song?.map?.locked?.length).toBeGreaterThanOrEqual(4);
    expect(useProject.getState().undoLabel).toBe('Tap a stretch');
    await db.derived.clear();
    fails = true;
    expect(await songs.tapStretch([20, 20.5, 21, 21.5, 22])).toBe('');
  });

  it('the rest is solved again only where beats are locked', async () => {
    const before = now();
    await songs.solveRest();
    expect(now()).toBe(before);
    await songs.tapStretch([10, 10.5, 11, 11.5, 12]);
    const tapped = now().song?.map?.beats[0] as number;
    await songs.solveRest();
    expect(now().song?.map?.beats[0]).toBeCloseTo(tapped + 0.001, 9);
  });
});

describe('a shot that has lost its place', () => {
  it('is laid again from the playhead’s beat on, or given up', async () => {
    maps.set('s', constantBeatMap(120, 0.5, 90));
    await songs.takeInSong(sound('s'), false, quiet);
    const shot = proposePlain(now(), 'lost', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't1');
    edit('Lose two', (draft) => {
      draft.unplacedShots = [shot, { ...shot, id: 'other' }];
    });
    // Beat 12 is at 6.5 s.
    useProject.setState({ playhead: Math.round(6.52 * 25) });
    songs.layAside('lost');
    expect(now().shots.map((s) => [s.id, s.start.beat, s.end.beat])).toEqual([['lost', 12, 16]]);
    songs.dropAside('other');
    expect(now().unplacedShots).toEqual([]);
    songs.layAside('nowhere');
    expect(now().shots).toHaveLength(1);
  });
});
