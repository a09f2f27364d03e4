import { create } from 'zustand';
import { plannedFrame, tempoOf } from '@/core/edit';
import { beatMapOf } from '@/core/evaluate';
import { REFERENCE_TONE } from '@/core/measure';
import { type PlannedShot, paceOf, type Slot } from '@/core/plan';
import { barToBeat, beatsInBar, beatToSeconds } from '@/core/time';
import { say } from '@/core/words';
import { camera, startRecording, stopRecording, useCamera } from './camera';
import { loadSong } from './playback';
import type { SlotMark } from './recordings';
import { audio, tone } from './sound';
import { useProject } from './store';

interface HandsFree {
  running: boolean;
  /** What to do now, in a few words to be read from afar. */
  cue: string;
  /** A number counted down, or ''. */
  count: string;
  slot: string;
  take: number;
}

export const useHandsFree = create<HandsFree>(() => ({ running: false, cue: '', count: '', slot: '', take: 0 }));

export interface RunOptions {
  slots: readonly Slot[];
  /** Tries of each slot; the user may say "enough" earlier. */
  tries: number;
  /** Bars counted in before the passage. */
  countIn: number;
  /** Seconds to walk to the mark. */
  walk: number;
  /** The most seconds to hold still after the passage; a slot may ask for fewer. */
  hold: number;
  spoken: boolean;
  /** One recording for everything, the slots marked inside it. */
  unbroken: boolean;
}

let control: AbortController | null = null;
let enough = false;
let marks: SlotMark[] = [];

/** A short tone now or `after` seconds from now. */
export function beep(frequency = 880, length = 0.12, after = 0): void {
  tone(frequency, length, audio().currentTime + after, 0.4);
}

function cue(text: string, spoken: boolean): void {
  useHandsFree.setState({ cue: text });
  if (spoken && 'speechSynthesis' in globalThis) speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

class Stopped extends Error {}

function wait(seconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((done, stop) => {
    if (signal.aborted) return stop(new Stopped());
    const timer = setTimeout(done, Math.max(0, seconds) * 1000);
    signal.addEventListener(
      'abort',
      () => {
        clearTimeout(timer);
        stop(new Stopped());
      },
      { once: true },
    );
  });
}

async function countDown(seconds: number, signal: AbortSignal): Promise<void> {
  for (let left = Math.ceil(seconds); left > 0; left--) {
    useHandsFree.setState({ count: String(left) });
    if (left <= 3) beep(660, 0.08);
    await wait(Math.min(1, seconds), signal);
  }
  useHandsFree.setState({ count: '' });
}

/** One try: count-in, passage, hold. The recording spans all of it and begins with a tone and a flash. */
async function filmOnce(plan: PlannedShot, slot: Slot, options: RunOptions, signal: AbortSignal): Promise<void> {
  const { project } = useProject.getState();
  if (!project) return;
  const tempo = tempoOf(project, plan);
  const speed = paceOf(plan, tempo, plannedFrame(project).fps).playback / 100;
  const map = beatMapOf(project);
  const first = barToBeat(map, plan.bar);
  const countIn = slot.toSong ? (options.countIn * tempo.barSeconds) / speed : 0;
  const span = slot.toSong ? (plan.bars * tempo.barSeconds) / speed : 0;
  if (!options.unbroken) await startRecording(plan, slot);
  const from = useCamera.getState().recorded ?? 0;
  beep(REFERENCE_TONE, 0.2);
  document.documentElement.dataset.flash = 'on';
  setTimeout(() => delete document.documentElement.dataset.flash, 120);
  if (useCamera.getState().kind === 'simulated') void camera().act(countIn);
  let song: AudioBufferSourceNode | null = null;
  try {
    if (slot.toSong) {
      song = await playPassage(beatToSeconds(map, first), countIn, span, speed);
      const inBar = beatsInBar(map, plan.bar);
      const beats = options.countIn * inBar;
      for (let beat = 0; beat < beats; beat++) {
        useHandsFree.setState({ cue: 'Count-in', count: String((beat % inBar) + 1) });
        if (!song) beep(beat % inBar ? 700 : 1000, 0.05);
        await wait(countIn / beats, signal);
      }
      useHandsFree.setState({ cue: slot.name, count: '' });
      await wait(span, signal);
    }
    const hold = Math.min(slot.hold, options.hold);
    cue(say`Hold still`, options.spoken);
    await countDown(hold, signal);
  } finally {
    song?.stop();
    if (!options.unbroken) await stopRecording();
    else marks.push({ plan: plan.id, slot: slot.id, from, to: useCamera.getState().recorded ?? from });
  }
}

/** Plays the song so that `from` is heard after `countIn` seconds, at `speed`; null without a song. */
async function playPassage(from: number, countIn: number, span: number, speed: number): Promise<AudioBufferSourceNode | null> {
  const a = audio();
  const buffer = await loadSong().catch(() => null);
  if (!buffer) return null;
  const source = a.createBufferSource();
  source.buffer = buffer;
  source.playbackRate.value = speed;
  source.connect(a.destination);
  const lead = from - countIn * speed;
  source.start(a.currentTime + Math.max(0, -lead / speed), Math.max(0, lead), span * speed + Math.min(from, countIn * speed) + 0.5);
  return source;
}

/** Films slot after slot by itself until all tries are done, the user says enough, or stops. Problems are told as sentences. */
export async function runHandsFree(plan: PlannedShot, options: RunOptions): Promise<void> {
  if (useHandsFree.getState().running) return;
  control = new AbortController();
  const { signal } = control;
  useHandsFree.setState({ running: true });
  marks = [];
  try {
    // Decoded beforehand, so that the count-in begins with the recording.
    useHandsFree.setState({ cue: say`Getting the song ready` });
    await loadSong().catch(() => null);
    if (options.unbroken && options.slots[0]) await startRecording(plan, options.slots[0]);
    for (const slot of options.slots) {
      enough = false;
      for (let take = 1; take <= options.tries && !enough; take++) {
        useHandsFree.setState({ slot: slot.name, take });
        cue(take > 1 ? say`Again` : slot.plate ? say`Clear the frame` : say`To your mark: ${slot.name}`, options.spoken);
        await countDown(options.walk, signal);
        await filmOnce(plan, slot, options, signal);
        if (useCamera.getState().problem) return;
      }
    }
    cue(say`Done`, options.spoken);
    beep(1320, 0.3);
  } catch (error) {
    if (!(error instanceof Stopped)) useCamera.setState({ problem: error instanceof Error ? error.message : String(error) });
  } finally {
    if (options.unbroken) await stopRecording(marks.filter((m) => m.to - m.from > 0.5));
    useHandsFree.setState({ running: false, count: '' });
  }
}

/** No more tries of this slot after the one that runs. */
export function tellEnough(): void {
  enough = true;
}

export function stopHandsFree(): void {
  control?.abort();
}
