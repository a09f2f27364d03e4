import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Media, type Project, wholeOf } from '@/core/document';
import type { Sync } from '@/core/measure';
import { RECIPES } from '@/core/plan';
import { stagedMedia } from '@/core/staged';

type Answer = { ok: true; media: Media } | { ok: false; reason: string };
const looked = new Map<string, Answer | Error>();
const heard: { mediaId: string; others: readonly string[] }[] = [];
let hears: (others: readonly string[]) => Sync[] = (others) => others.map(() => ({ ok: false, reason: 'nothing alike' }));
let meanwhile: () => Promise<unknown> = async () => undefined;
vi.stubGlobal('navigator', {});

vi.mock('./jobs', () => {
  class Cancelled extends Error {}
  return {
    Cancelled,
    takeIn: async (file: File) => {
      await meanwhile();
      const answer = looked.get(file.name);
      if (answer instanceof Error) throw answer;
      if (!answer) throw new Cancelled();
      return answer;
    },
    syncMedia: async (mediaId: string, others: readonly string[]) => {
      heard.push({ mediaId, others });
      return hears(others);
    },
    measureTake: vi.fn(),
    measureFall: vi.fn(),
  };
});
vi.mock('./song', () => ({ takeInSong: async (media: Media, said: boolean) => ({ problem: '', placed: `song ${media.name} ${said}` }) }));

const { Cancelled } = await import('./jobs');
const data = await import('./media');
const { addPlan } = await import('./plans');
const { edit, newProject, settled, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const quiet = () => undefined;
const file = (name: string, lastModified = Date.now()) => new File(['film'], name, { lastModified });
const film = (name: string, more: Partial<Media> = {}) => {
  looked.set(name, { ok: true, media: { ...stagedMedia(`id of ${name}`), name, hasSound: false, ...more } });
  return file(name);
};

beforeEach(async () => {
  await settled();
  looked.clear();
  heard.length = 0;
  hears = (others) => others.map(() => ({ ok: false, reason: 'nothing alike' }));
  meanwhile = async () => undefined;
  await newProject('Taking in');
});

describe('taking files in', () => {
  it('the first film sets the frame: its size down to 1080 lines, even, and the standard rate nearest to its own', async () => {
    await data.takeInFiles([film('a.mp4', { width: 3840, height: 2160, fps: 29.9 })], quiet);
    expect(now().frame).toMatchObject({ width: 1920, height: 1080, rate: { num: 30000, den: 1001 } });
    await data.takeInFiles([film('b.mp4', { width: 640, height: 360, fps: 60 })], quiet);
    expect(now().frame).toMatchObject({ width: 1920, height: 1080 });
    expect(now().takes.map((t) => [t.number, t.tape])).toEqual([
      [1, 0],
      [2, 1],
    ]);
  });

  it.each([
    ['upright', 1080, 1920, 1080, 1920],
    ['upright and large', 2160, 3840, 1080, 1920],
    ['odd', 639, 361, 640, 362],
    ['very wide', 4096, 1024, 1920, 480],
    ['tiny', 8, 6, 16, 16],
  ])('a frame of a film that is %s', async (_, width, height, w, h) => {
    await data.takeInFiles([film('a.mp4', { width, height })], quiet);
    expect([now().frame.width, now().frame.height]).toEqual([w, h]);
  });

  it('one bad file does not stop those after it, and each is named with what became of it', async () => {
    looked.set('bad.mov', { ok: false, reason: 'It is no film.' });
    looked.set('worse.mov', new Error('The disk is full.'));
    const results = await data.takeInFiles([film('a.mp4'), file('bad.mov'), file('worse.mov'), film('b.mp4')], quiet);
    expect(results.map((r) => [r.name, r.problem !== ''])).toEqual([
      ['a.mp4', false],
      ['bad.mov', true],
      ['worse.mov', true],
      ['b.mp4', false],
    ]);
    expect(results[1].problem).toBe('It is no film.');
    expect(results[2].problem).toContain('The disk is full.');
    expect(now().takes).toHaveLength(2);
  });

  it('stopping keeps what was taken in until then', async () => {
    await expect(data.takeInFiles([film('a.mp4'), file('stopped.mp4'), film('c.mp4')], quiet)).rejects.toBeInstanceOf(Cancelled);
    expect(now().takes.map((t) => t.mediaId)).toEqual(['id of a.mp4']);
  });

  it('the same film twice is one take, and says so', async () => {
    await data.takeInFiles([film('a.mp4')], quiet);
    const [{ problem, placed }] = await data.takeInFiles([film('a.mp4')], quiet);
    expect(problem).toBe('');
    expect(placed).toMatch(/is in the project already/);
    expect(now().takes).toHaveLength(1);
  });

  it('sound becomes the song, also where the user has said that it shall', async () => {
    looked.set('song.wav', { ok: true, media: stagedMedia('s', 'audio') });
    const [asked] = await data.takeInFiles([file('song.wav')], quiet);
    const [said] = await data.takeInFiles([file('song.wav')], quiet, undefined, true);
    expect([asked.placed, said.placed]).toEqual(['song s.mp4 false', 'song s.mp4 true']);
    expect(now().takes).toEqual([]);
  });

  it('what comes out after another project was opened goes into neither', async () => {
    meanwhile = () => newProject('Another');
    const [{ problem }] = await data.takeInFiles([film('a.mp4')], quiet);
    expect(problem).toMatch(/Another project was opened/);
    expect(now()).toMatchObject({ name: 'Another', takes: [] });
  });

  it('a disk without room refuses before anything is copied, with both sizes', async () => {
    vi.stubGlobal('navigator', { storage: { estimate: async () => ({ quota: 50e6, usage: 49_999_999 }) } });
    const [{ problem }] = await data.takeInFiles([film('a.mp4')], quiet);
    vi.stubGlobal('navigator', {});
    expect(problem).toMatch(/not enough room for it: 0 MB needed, 0 MB left/);
    expect(now().takes).toEqual([]);
  });
});

describe('where a film belongs', () => {
  const plan = () => now().plans[0];
  beforeEach(() => addPlan(RECIPES.find((r) => r.id === 'clones') ?? RECIPES[0]));

  it('its name tells without its sound being listened to', async () => {
    const [{ placed }] = await data.takeInFiles([film('clones plate.mp4', { hasSound: true })], quiet);
    expect(now().takes[0]).toMatchObject({ plan: plan().id, slot: 'plate' });
    expect(placed).toMatch(/by its name\.$/);
    expect(heard).toEqual([]);
    expect(data.isPlate(now(), now().takes[0])).toBe(true);
  });

  it('the one take that shares its sound tells, and the six latest of those with sound are listened to', async () => {
    for (let i = 0; i < 8; i++) await data.takeInFiles([film(`clones plate ${i}.mp4`, { hasSound: true })], quiet);
    edit('One elsewhere', (draft) => {
      draft.takes[6].slot = 'place-p1';
    });
    hears = (others) => others.map((id) => (id === 'id of clones plate 6.mp4' ? found(0.5) : { ok: false, reason: 'no' }));
    await data.takeInFiles([film('DSC_0001.mp4', { hasSound: true })], quiet);
    expect(heard[0].others).toHaveLength(6);
    expect(now().takes.at(-1)).toMatchObject({ slot: 'place-p1' });
  });

  it('heard in takes of several slots the sound tells nothing, and where it cannot be read the film comes in all the same', async () => {
    await data.takeInFiles([film('clones plate.mp4', { hasSound: true })], quiet);
    hears = () => {
      throw new Error('no sound');
    };
    const [{ problem, placed }] = await data.takeInFiles([film('DSC_0002.mp4', { hasSound: true })], quiet);
    expect(problem).toBe('');
    expect(placed).toMatch(/by its length alone: check it\.$/);
    hears = () => {
      throw new Cancelled();
    };
    await expect(data.takeInFiles([film('DSC_0003.mp4', { hasSound: true })], quiet)).rejects.toBeInstanceOf(Cancelled);
  });

  it('a file written long ago was begun its own length before that; one written now at no known time', async () => {
    const written = Date.now() - 3_600_000;
    film('old.mp4');
    await data.takeInFiles([file('old.mp4', written), film('fresh.mp4')], quiet);
    expect(now().takes.map((t) => t.filmedAt)).toEqual([written - 10_000, null]);
  });

  it('a recording made here is put where it was filmed, with its settings', async () => {
    const settings = { shutter: '1/50', aperture: 'f/4', iso: '100', whiteBalance: '', lens: '' };
    const filmed = { plan: plan().id, slot: 'place-p2', filmedAt: 5, live: null, settings };
    expect(await data.takeInOne(film('rec.mp4', { hasSound: true }), quiet, undefined, filmed)).toEqual({ problem: '', placed: '' });
    expect(now().takes[0]).toMatchObject({ ...filmed, number: 1 });
    expect(heard).toEqual([]);
  });
});

const found = (offset: number): Sync => ({ ok: true, match: { offset, spread: 0.001 } }) as Sync;

const PAIRS: [number, number, number, number][] = [
  [100, 100, 110, 102],
  [900, 500, 912, 505],
];

describe('points and corrections', () => {
  const lock = {
    trusted: 1,
    perspective: null,
    times: [0],
    readings: [],
  };
  it('points set by hand are a step of undo, change what a measure is kept under, and are forgotten again', async () => {
    await data.takeInFiles([film('a.mp4'), film('b.mp4')], quiet);
    const [first, second] = now().takes;
    const key = () => {
      const [b] = now().takes.slice(1);
      return data.measurementKey({ ...wholeOf(footage(b.mediaId)), byHand: b.byHand } as never, wholeOf(footage(first.mediaId)));
    };
    const footage = (id: string) => ({ ...(now().media.find((m) => m.id === id) as Media), from: 0, to: 10 }) as never;
    const before = key();
    data.setHandPoints(second.id, first.id, PAIRS);
    expect(now().takes[1].byHand).toEqual({ referenceTakeId: first.id, pairs: PAIRS });
    expect(useProject.getState().undoLabel).toBe('Lay the take by points');
    data.setHandPoints(second.id, first.id, null);
    expect(now().takes[1]).not.toHaveProperty('byHand');
    expect(key()).toBe(before);
    await undo();
    expect(now().takes[1].byHand?.pairs).toEqual(PAIRS);
    data.setHandPoints('gone', first.id, PAIRS);
    expect(now().takes.map((t) => t.id)).toEqual([first.id, second.id]);
  });

  it('without a measure against the reference nothing is corrected', async () => {
    await data.takeInFiles([film('a.mp4'), film('b.mp4')], quiet);
    const before = now();
    const [first, second] = now().takes;
    data.correctTake(second.id, first.id, { own: lock as never, against: null, reason: 'x', frames: 1, quality: null, fall: null });
    expect(now()).toBe(before);
  });

  it('the margin of no takes, or of takes that are not corrected, is none', async () => {
    await data.takeInFiles([film('a.mp4')], quiet);
    expect(data.marginFor(now(), [])).toBe(100);
    expect(data.marginFor(now(), [now().takes[0].id])).toBe(100);
  });
});
