import { beforeEach, describe, expect, it, vi } from 'vitest';
import { emptyProject } from '@/core/document';
import { plannedSlots } from '@/core/edit';
import { newPlannedShot, RECIPES, type Slot } from '@/core/plan';
import { constantBeatMap } from '@/core/time';

const { log, started } = vi.hoisted(() => ({ log: [] as string[], started: [] as number[][] }));
let refuses = '';
vi.mock('./camera', async () => {
  const { create } = await import('zustand');
  const useCamera = create(() => ({ recorded: null as number | null, kind: 'device', problem: '' }));
  return {
    useCamera,
    camera: () => ({ act: () => undefined }),
    startRecording: async (_: unknown, slot: Slot) => {
      if (refuses) throw new Error(refuses);
      log.push(`film ${slot.id}`);
      useCamera.setState({ recorded: 0 });
    },
    stopRecording: async (marks?: { slot: string; from: number; to: number }[]) => {
      log.push(marks ? `cut ${marks.map((m) => `${m.slot} ${m.from.toFixed(1)}-${m.to.toFixed(1)}`).join(', ')}` : 'stop');
      useCamera.setState({ recorded: null });
    },
  };
});
let song: object | null = null;
vi.mock('./playback', () => ({ loadSong: async () => song }));
vi.mock('./sound', () => ({
  tone: (frequency: number) => void log.push(`beep ${frequency}`),
  audio: () => ({
    currentTime: 0,
    createBufferSource: () => ({
      playbackRate: { value: 1 },
      connect: () => undefined,
      start: (...at: number[]) => void started.push(at),
      stop: () => void log.push('song stops'),
    }),
  }),
}));
vi.stubGlobal('document', { documentElement: { dataset: {} } });

const { useCamera } = await import('./camera');
const { useProject } = await import('./store');
const { runHandsFree, stopHandsFree, tellEnough, useHandsFree } = await import('./hands-free');

const plan = { ...newPlannedShot('p', RECIPES.find((r) => r.id === 'clones') ?? RECIPES[0], '2026-11-27'), bar: 3, bars: 2 };
const project = emptyProject('x', 'x');
project.plans = [plan];
project.song = { mediaId: 's', map: constantBeatMap(120, 0, 120), parts: [] };
const slots = plannedSlots(project, plan);
const toSong = slots.find((s) => s.toSong) as Slot;
const plate = slots.find((s) => s.plate !== null) as Slot;
const options = { slots: [toSong], tries: 1, countIn: 1, walk: 2, hold: 1, spoken: false, unbroken: false };
const state = () => useHandsFree.getState();
const noBeeps = () => log.filter((l) => !l.startsWith('beep'));

beforeEach(() => {
  vi.useFakeTimers();
  log.length = 0;
  started.length = 0;
  song = null;
  refuses = '';
  useCamera.setState({ recorded: null, problem: '' });
  useProject.setState({ project });
});

describe('filming hands-free', () => {
  it('walks, counts a bar in, films the passage, holds, and keeps the take', async () => {
    const seen: string[] = [];
    const stop = useHandsFree.subscribe((s) => void (seen.at(-1) !== `${s.cue} ${s.count}` && seen.push(`${s.cue} ${s.count}`)));
    const run = runHandsFree(plan, options);
    await vi.runAllTimersAsync();
    await run;
    stop();
    expect(noBeeps()).toEqual([`film ${toSong.id}`, 'stop']);
    expect(seen).toEqual(
      expect.arrayContaining([`To your mark: ${toSong.name} 2`, 'Count-in 1', 'Count-in 4', `${toSong.name} `, 'Hold still 1', 'Done ']),
    );
    expect(seen.indexOf('Count-in 4')).toBeLessThan(seen.indexOf('Hold still 1'));
    expect(state()).toMatchObject({ running: false, count: '' });
  });

  it('takes as long as it was planned: walk, count-in, passage and hold', async () => {
    const began = Date.now();
    const run = runHandsFree(plan, options);
    await vi.runAllTimersAsync();
    await run;
    // Two seconds to walk, one bar and two bars at 120 BPM, a second to hold.
    expect((Date.now() - began) / 1000).toBeCloseTo(2 + 2 + 4 + Math.min(toSong.hold, 1), 1);
  });

  it('with a song plays it so that the passage is heard after the count-in, and stops it', async () => {
    song = {};
    const run = runHandsFree(plan, options);
    await vi.runAllTimersAsync();
    await run;
    // Bar 3 begins at 4 s; the count-in is heard from 2 s on.
    expect(started[0].slice(0, 2)).toEqual([0, 2]);
    expect(noBeeps()).toContain('song stops');
  });

  it('at the song’s beginning the count-in is silence before it', async () => {
    song = {};
    const run = runHandsFree({ ...plan, bar: 1 }, options);
    await vi.runAllTimersAsync();
    await run;
    expect(started[0].slice(0, 2)).toEqual([2, 0]);
  });

  it('an empty set is filmed in silence, after the frame was cleared', async () => {
    song = {};
    const cues: string[] = [];
    const stop = useHandsFree.subscribe((s) => void cues.push(s.cue));
    const run = runHandsFree(plan, { ...options, slots: [plate] });
    await vi.runAllTimersAsync();
    await run;
    stop();
    expect(cues).toContain('Clear the frame');
    expect(started).toEqual([]);
  });

  it('goes on to the next slot when enough was said; each try is a film of its own', async () => {
    const run = runHandsFree(plan, { ...options, slots: [toSong, plate], tries: 3 });
    await vi.advanceTimersByTimeAsync(3000);
    expect(state().take).toBe(1);
    tellEnough();
    await vi.runAllTimersAsync();
    await run;
    expect(noBeeps().filter((l) => l.startsWith('film'))).toEqual([`film ${toSong.id}`, ...Array(3).fill(`film ${plate.id}`)]);
  });

  it('in one recording its slots are marked inside it, those broken off left out', async () => {
    const run = runHandsFree(plan, { ...options, slots: [toSong, plate], unbroken: true });
    const clock = setInterval(() => {
      const { recorded } = useCamera.getState();
      if (recorded !== null) useCamera.setState({ recorded: recorded + 0.1 });
    }, 100);
    await vi.advanceTimersByTimeAsync(60_000);
    clearInterval(clock);
    await run;
    const lines = noBeeps();
    expect(lines.filter((l) => l.startsWith('film'))).toEqual([`film ${toSong.id}`]);
    expect(lines.at(-1)).toMatch(new RegExp(`^cut ${toSong.id} .*, ${plate.id} `));
    const marks = [...(lines.at(-1) ?? '').matchAll(/([\d.]+)-([\d.]+)/g)].map(([, from, to]) => Number(to) - Number(from));
    expect(marks[0]).toBeCloseTo(2 + 4 + Math.min(toSong.hold, 1), 0);
  });

  it('stopped, the take that runs is ended and kept, and nothing else begins', async () => {
    const run = runHandsFree(plan, { ...options, tries: 5 });
    await vi.advanceTimersByTimeAsync(4000);
    stopHandsFree();
    await vi.runAllTimersAsync();
    await run;
    expect(noBeeps()).toEqual([`film ${toSong.id}`, 'stop']);
    expect(state().running).toBe(false);
    expect(useCamera.getState().problem).toBe('');
  });

  it('pressed twice it runs once', async () => {
    const both = [runHandsFree(plan, options), runHandsFree(plan, options)];
    await vi.runAllTimersAsync();
    await Promise.all(both);
    expect(noBeeps()).toEqual([`film ${toSong.id}`, 'stop']);
  });

  it('a camera that does not begin ends it with its sentence', async () => {
    refuses = 'The camera did not begin to record.';
    const run = runHandsFree(plan, { ...options, tries: 3 });
    await vi.runAllTimersAsync();
    await run;
    expect(useCamera.getState().problem).toBe(refuses);
    expect(state().running).toBe(false);
  });
});
