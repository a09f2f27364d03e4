import { type BeatMap, beatToSeconds } from '../time';
import type { Beats, Seconds } from '../units';

/** A gain on a thread, dB at a beat. */
interface GainKey {
  beat: Beats;
  gain: number;
}

/** A gain at a song time, for a line from point to point in decibels. */
export interface GainPoint {
  time: Seconds;
  gain: number;
}

/** What is quieter than this is silent. */
const SILENT = -60;

/** Linear gain of decibels; -60 dB and less is silence. */
export const linearGain = (decibels: number): number => (decibels <= SILENT ? 0 : 10 ** (decibels / 20));

/** Gain keys of a thread in order of song time. */
export function gainPoints(keys: readonly GainKey[], map: BeatMap): GainPoint[] {
  return keys.map(({ beat, gain }) => ({ time: beatToSeconds(map, beat), gain })).sort((a, b) => a.time - b.time);
}

/** Decibels at a song time: evenly from point to point, the outer ones held; 0 without points. */
export function gainAt(points: readonly GainPoint[], time: Seconds): number {
  const after = points.findIndex((p) => p.time >= time);
  if (after === 0) return points[0].gain;
  if (after < 0) return points.at(-1)?.gain ?? 0;
  const [a, b] = [points[after - 1], points[after]];
  return a.gain + ((time - a.time) / (b.time - a.time)) * (b.gain - a.gain);
}

/** A sound laid in the song: where it begins and how long it lasts in song time, its own gain and its fades. */
export interface Laid {
  start: Seconds;
  length: Seconds;
  gain: number;
  fadeIn: Seconds;
  fadeOut: Seconds;
}

/**
 * Linear gain of a fade at a time since the sound's start: equal power (a quarter of a sine), 0 outside the sound. Where two fades
 * do not fit, both are shortened in proportion. Common practice.
 */
export function fadeAt({ length, fadeIn, fadeOut }: Laid, since: Seconds): number {
  if (since < 0 || since > length) return 0;
  const squeeze = Math.min(1, length / (fadeIn + fadeOut || 1));
  const rise = fadeIn ? Math.min(1, since / (fadeIn * squeeze)) : 1;
  const fall = fadeOut ? Math.min(1, (length - since) / (fadeOut * squeeze)) : 1;
  return Math.sin((rise * Math.PI) / 2) * Math.sin((fall * Math.PI) / 2);
}

/** Linear gain of a laid sound at a song time, its thread's gains included. */
export function levelAt(laid: Laid, points: readonly GainPoint[], time: Seconds): number {
  const fade = fadeAt(laid, time - laid.start);
  return fade === 0 ? 0 : fade * linearGain(laid.gain + gainAt(points, time));
}

/** Seconds in which a song goes down before a sound that ducks it, and in which it comes back after. Common practice. */
const [DOWN, BACK] = [0.15, 0.5];

/** A stretch over which a song is lower, decibels. */
export interface Duck {
  from: Seconds;
  to: Seconds;
  by: number;
}

/** Decibels by which a song is lower at a time: the deepest of what ducks it, down just before and back just after. */
export function duckedAt(ducks: readonly Duck[], time: Seconds): number {
  let most = 0;
  for (const { from, to, by } of ducks) {
    const share = time < from ? 1 - (from - time) / DOWN : time > to ? 1 - (time - to) / BACK : 1;
    most = Math.max(most, by * Math.max(0, share));
  }
  return most;
}

/**
 * Left and right of a sound moved from side to side: -100 is all on the left, 100 all on the right. One channel by equal power (-3 dB in the
 * middle on each side, given back so that the middle is as it was); of two the far one is taken down. Common practice.
 */
export function panned(channels: readonly Float32Array[], pan: number): Float32Array[] {
  if (pan === 0) return [...channels];
  const [left, right = left] = channels;
  const turn = ((pan / 100 + 1) * Math.PI) / 4;
  const gains =
    channels.length > 1
      ? [Math.min(1, 1 - pan / 100), Math.min(1, 1 + pan / 100)]
      : [Math.SQRT2 * Math.cos(turn), Math.SQRT2 * Math.sin(turn)];
  return [left, right].map((samples, c) => samples.map((v) => v * gains[c]));
}

/** Goes through the samples of a mix 64 at a time, each with the gain at its first and past its last; what is silent is passed over. */
function inBlocks(
  count: number,
  rate: number,
  from: Seconds,
  level: (time: Seconds) => number,
  visit: (block: number, end: number, a: number, b: number) => void,
): void {
  for (let block = 0; block < count; block += 64) {
    const end = Math.min(count, block + 64);
    const [a, b] = [level(from + block / rate), level(from + end / rate)];
    if (a !== 0 || b !== 0) visit(block, end, a, b);
  }
}

/**
 * Adds a sound to a mix. `out` begins at song time `from` and runs at `outRate`; `source` are channels (1 or 2) at `sourceRate` whose first
 * sample is at song time `at`. Samples between samples are taken linearly; the gain is worked out every 64 samples.
 */
export function mixIn(
  out: readonly Float32Array[],
  outRate: number,
  from: Seconds,
  source: readonly Float32Array[],
  sourceRate: number,
  at: Seconds,
  level: (time: Seconds) => number,
): void {
  inBlocks(out[0].length, outRate, from, level, (block, end, a, b) => {
    for (let c = 0; c < out.length; c++) {
      const samples = source[Math.min(c, source.length - 1)];
      for (let i = block; i < end; i++) {
        const place = (from + i / outRate - at) * sourceRate;
        const k = Math.floor(place + 1e-6);
        const part = Math.max(0, place - k);
        const value = part < 1e-6 ? (samples[k] ?? 0) : (samples[k] ?? 0) * (1 - part) + (samples[k + 1] ?? 0) * part;
        out[c][i] += value * (a + ((b - a) * (i - block)) / (end - block));
      }
    }
  });
}

/**
 * Adds a sound that runs at changing speed to a mix: `second(t)` is the second of the source heard at song time t. As `mixIn`, with the
 * source's first sample at its second `begin`. Where it runs fast, samples it passes over are averaged, so that nothing above the highest tone folds back.
 */
export function mixRun(
  out: readonly Float32Array[],
  outRate: number,
  from: Seconds,
  source: readonly Float32Array[],
  sourceRate: number,
  begin: Seconds,
  second: (time: Seconds) => Seconds,
  level: (time: Seconds) => number,
): void {
  const place = (sample: number) => (second(from + sample / outRate) - begin) * sourceRate;
  inBlocks(out[0].length, outRate, from, level, (block, end, a, b) => {
    const [p0, p1] = [place(block), place(end)];
    const run = (p1 - p0) / (end - block);
    const wide = Math.max(1, Math.round(Math.abs(run)));
    for (let c = 0; c < out.length; c++) {
      const samples = source[Math.min(c, source.length - 1)];
      for (let i = block; i < end; i++) {
        let value = 0;
        for (let w = 0; w < wide; w++) {
          const at = p0 + run * (i - block + w / wide);
          const k = Math.floor(at);
          value += (samples[k] ?? 0) + (at - k) * ((samples[k + 1] ?? 0) - (samples[k] ?? 0));
        }
        out[c][i] += (value / wide) * (a + ((b - a) * (i - block)) / (end - block));
      }
    }
  });
}
