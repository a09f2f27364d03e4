import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Footage, wholeOf } from '@/core/document';
import { stagedMedia } from '@/core/staged';

interface Asked {
  name: string;
  tell: (done: number) => unknown;
  signal: AbortSignal;
  done: (value: unknown) => void;
  fail: (error: Error) => void;
}
const { asked } = vi.hoisted(() => ({ asked: [] as Asked[] }));
vi.mock('./jobs', () => ({ Cancelled: class Cancelled extends Error {} }));
vi.mock('./playback', async () => {
  const { create } = await import('zustand');
  return { usePlayback: create(() => ({ playing: false })) };
});
vi.mock('./media', () => ({
  measurementKey: (take: Footage, reference: Footage | null) => `${take.id} ${reference?.id ?? ''}`,
  takeMeasurement: (media: Footage, _: unknown, tell: Asked['tell'], signal: AbortSignal) =>
    new Promise((done, fail) => asked.push({ name: media.id, tell, signal, done, fail })),
}));

const { Cancelled } = await import('./jobs');
const { usePlayback } = await import('./playback');
const { useMeasuring } = await import('./measuring');
const { pairKey, stopMeasuring, wantMeasured } = await import('./measure-queue');
const { newProject, settled } = await import('./store');

const pair = (id: string) => ({ media: wholeOf({ ...stagedMedia(id), from: 0, to: 10 } as unknown as Footage), against: null });
const state = () => useMeasuring.getState();
const turn = () => new Promise((go) => setTimeout(go, 0));
const waiting = () => state().queue.map((q) => q.media.id);

beforeEach(async () => {
  stopMeasuring();
  for (const a of asked) a.fail(new Cancelled());
  await turn();
  asked.length = 0;
  useMeasuring.setState({ doing: null, queue: [], measured: new Map(), problems: new Map() });
});

describe('what is to be measured', () => {
  it('is measured one after another; what is asked for later comes first of what waits', async () => {
    wantMeasured([pair('a'), pair('b'), pair('c')]);
    expect(asked.map((a) => a.name)).toEqual(['a']);
    wantMeasured([pair('c'), pair('d')]);
    expect(waiting()).toEqual(['c', 'd', 'b']);
    for (const name of ['a', 'c', 'd', 'b']) {
      expect(state().doing?.key).toBe(pairKey(pair(name)));
      asked.at(-1)?.done({ of: name });
      await turn();
    }
    expect(asked.map((a) => a.name)).toEqual(['a', 'c', 'd', 'b']);
    expect(state().doing).toBeNull();
    expect([...state().measured.keys()]).toEqual(['a ', 'c ', 'd ', 'b ']);
  });

  it('what is known or under way is not asked for again, however often it is wanted', async () => {
    wantMeasured([pair('a')]);
    wantMeasured([pair('a')]);
    wantMeasured([pair('a'), pair('a')]);
    expect(asked).toHaveLength(1);
    expect(waiting()).toEqual([]);
    asked[0].done({});
    await turn();
    wantMeasured([pair('a')]);
    await turn();
    expect(asked).toHaveLength(1);
  });

  it('one that fails is named and does not stop the next; asked for again its sentence goes', async () => {
    wantMeasured([pair('bad'), pair('good')]);
    asked[0].fail(new Error('The picture could not be decoded.'));
    await turn();
    expect(state().problems.get('bad ')).toBe('The picture could not be decoded.');
    asked[1].done({});
    await turn();
    expect(state().measured.has('good ')).toBe(true);
    wantMeasured([pair('bad')]);
    expect(state().problems.size).toBe(0);
    expect(asked[2].name).toBe('bad');
  });

  it('stopped, nothing waits any more and nothing is said', async () => {
    wantMeasured([pair('a'), pair('b')]);
    const { signal } = asked[0];
    stopMeasuring();
    expect(signal.aborted).toBe(true);
    asked[0].fail(new Cancelled());
    await turn();
    expect(asked).toHaveLength(1);
    expect(state()).toMatchObject({ doing: null, queue: [] });
    expect(state().problems.size).toBe(0);
    // And it can be begun again.
    wantMeasured([pair('a')]);
    expect(asked[1].signal.aborted).toBe(false);
  });

  it('tells how far it is, and waits while a film plays', async () => {
    wantMeasured([pair('a')]);
    await asked[0].tell(0.25);
    expect(state().doing).toMatchObject({ name: 'a.mp4', done: 0.25 });
    usePlayback.setState({ playing: true });
    let goesOn = false;
    const told = Promise.resolve(asked[0].tell(0.5)).then(() => {
      goesOn = true;
    });
    await turn();
    expect(goesOn).toBe(false);
    usePlayback.setState({ playing: false });
    await told;
    expect(goesOn).toBe(true);
  });

  it('another project has other takes: what waits for this one is given up', async () => {
    await newProject('One');
    wantMeasured([pair('a'), pair('b')]);
    const { signal } = asked[0];
    await newProject('Two');
    expect(signal.aborted).toBe(true);
    expect(waiting()).toEqual([]);
    await settled();
  });
});
