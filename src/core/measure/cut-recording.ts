import { median, type Seconds } from '../units';
import type { Luma } from './luma';

/** What a long recording is cut at. */
export type SplitBy = 'holds' | 'silences' | 'marks';

/** A recording as a course of movement and sound. */
export interface Course {
  /** Time of each frame, seconds of the file, ascending. */
  times: readonly number[];
  /** How much moves from the frame before to this one: mean change of brightness, 0..255; the first is 0. */
  movement: readonly number[];
  /** Level of the sound in steps of `SOUND_STEP` seconds from 0 on, RMS 0..1; empty without sound. */
  level: readonly number[];
  /** How much of the sound in each step is the reference tone, 0..1. */
  tone: readonly number[];
}

/** A proposed part: seconds of the file. */
export interface Part {
  from: Seconds;
  to: Seconds;
}

/** Seconds of one reading of the sound. */
export const SOUND_STEP: Seconds = 0.02;
/** The tone that begins each take filmed hands free, hertz. */
export const REFERENCE_TONE = 1000;
/** A pause this long is a pause. */
const PAUSE: Seconds = 0.7;
/** Parts shorter than this are no takes. */
const LEAST: Seconds = 1.5;
/** How long the reference tone must sound, and how far a clap must stand over what went before. */
const TONE: Seconds = 0.12;
const CLAP = 12;
/** Seconds before a mark at which the part begins, so that its sound is in it. */
const LEAD: Seconds = 0.1;

/** How much moves between two pictures of one size: mean change of brightness, 0..255. */
export function movement(before: Luma, now: Luma): number {
  let sum = 0;
  for (let i = 0; i < now.data.length; i++) sum += Math.abs(now.data[i] - before.data[i]);
  return sum / now.data.length;
}

/** Level and share of the reference tone in each step of a sound: RMS, and the power at the tone (Goertzel 1958) of the whole. */
export function soundCourse(samples: Float32Array, sampleRate: number): { level: number[]; tone: number[] } {
  const size = Math.round(SOUND_STEP * sampleRate);
  const turn = 2 * Math.cos((2 * Math.PI * REFERENCE_TONE) / sampleRate);
  const level: number[] = [];
  const tone: number[] = [];
  for (let start = 0; start + size <= samples.length; start += size) {
    let [power, a, b] = [0, 0, 0];
    for (let i = start; i < start + size; i++) {
      const v = samples[i];
      power += v * v;
      const next = v + turn * a - b;
      b = a;
      a = next;
    }
    level.push(Math.sqrt(power / size));
    // A pure tone of amplitude A gives (A·n/2)² here and A²·n/2 as power.
    tone.push(power > 1e-9 ? Math.min(1, (a * a + b * b - turn * a * b) / ((power * size) / 2)) : 0);
  }
  return { level, tone };
}

/** Stretches in which `low` holds for `least` seconds or more; `time` gives the time of each reading. */
function stretches(count: number, low: (i: number) => boolean, time: (i: number) => Seconds, least: Seconds): Part[] {
  const out: Part[] = [];
  let began = -1;
  for (let i = 0; i <= count; i++) {
    const on = i < count && low(i);
    if (on && began < 0) began = i;
    if (!on && began >= 0) {
      const [from, to] = [time(began), time(i)];
      if (to - from >= least) out.push({ from, to });
      began = -1;
    }
  }
  return out;
}

/** The level under which there is a pause: well over the quiet tenth, well under the busy half. */
function threshold(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const quiet = sorted[Math.floor(0.1 * sorted.length)];
  const busy = sorted[Math.floor(0.75 * sorted.length)];
  return quiet + 0.2 * (busy - quiet);
}

/** The median over a third of a second, so that one still frame in a walk is no hold and one jolt in a hold no walk. */
function smoothed(values: readonly number[], width: number): number[] {
  const half = width >> 1;
  return values.map((_, i) => median(values.slice(Math.max(0, i - half), i + half + 1)));
}

function pauses(course: Course, by: 'holds' | 'silences'): Part[] {
  const { times, movement, level } = course;
  const end = times[times.length - 1] ?? 0;
  if (by === 'silences') {
    const quiet = smoothed(level, 15);
    const limit = Math.max(threshold(quiet), 1e-4);
    return stretches(
      quiet.length,
      (i) => quiet[i] <= limit,
      (i) => Math.min(end, i * SOUND_STEP),
      PAUSE,
    );
  }
  const step = end > 0 ? end / Math.max(1, times.length - 1) : 0.04;
  const calm = smoothed(movement, Math.max(3, Math.round(0.3 / step)));
  const limit = threshold(calm);
  return stretches(
    calm.length,
    (i) => calm[i] <= limit,
    (i) => times[Math.min(i, times.length - 1)],
    PAUSE,
  );
}

/** Where the reference tone or a clap sounds, seconds. */
export function soundMarks({ level, tone }: Course): Seconds[] {
  const tones = stretches(
    level.length,
    (i) => tone[i] > 0.6 && level[i] > 0.003,
    (i) => i * SOUND_STEP,
    TONE,
  ).map((t) => t.from);
  const before = Math.round(0.4 / SOUND_STEP);
  const claps: Seconds[] = [];
  for (let i = before; i < level.length; i++) {
    if (level[i] < 0.05 || level[i] < CLAP * median(level.slice(i - before, i))) continue;
    // A clap is over at once; music that sets in is not.
    if (level[Math.min(level.length - 1, i + 8)] > level[i] / 4) continue;
    claps.push(i * SOUND_STEP);
    i += before;
  }
  return [...tones, ...claps].sort((a, b) => a - b).filter((t, i, all) => i === 0 || t - all[i - 1] > LEAST);
}

/**
 * The takes that a long recording holds: cut in the middle of each pause of the movement or of the sound, or just before each
 * mark (the reference tone, a clap). Parts shorter than one and a half seconds, and those without anything in them, are left
 * out. Empty when nothing was found to cut at; then the recording is one take.
 */
export function proposeParts(course: Course, by: SplitBy): Part[] {
  const { times } = course;
  if (times.length < 2) return [];
  const [start, end] = [times[0], times[times.length - 1] + (times[1] - times[0])];
  if (by === 'marks') {
    const marks = soundMarks(course).filter((t) => t < end - LEAST);
    return marks.map((t, i) => ({ from: Math.max(start, t - LEAD), to: i + 1 < marks.length ? marks[i + 1] - LEAD : end }));
  }
  if (by === 'silences' && course.level.length === 0) return [];
  const found = pauses(course, by);
  if (found.length === 0 || (found.length === 1 && found[0].to - found[0].from > 0.95 * (end - start))) return [];
  const cuts = [start, ...found.map((p) => (p.from <= start + 0.1 ? p.from : p.to >= end - 0.1 ? p.to : (p.from + p.to) / 2)), end];
  const parts: Part[] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [from, to] = [cuts[i], cuts[i + 1]];
    // What is left when the pauses at its ends are taken away is what happens in it.
    const idle = found.reduce((s, p) => s + Math.max(0, Math.min(to, p.to) - Math.max(from, p.from)), 0);
    if (to - from >= LEAST && to - from - idle > 0.4) parts.push({ from, to });
  }
  return parts.length > 1 ? parts : [];
}
