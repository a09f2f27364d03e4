import type { Seconds } from '../units';
import { randomSource } from './random';

/** A stretch of the made-up song, in bars of four beats. */
interface Part {
  name: string;
  bars: number;
  drums: boolean;
  bass: boolean;
  chords: boolean;
  hook: boolean;
}

const PARTS: readonly Part[] = [
  { name: 'intro', bars: 4, drums: true, bass: false, chords: true, hook: false },
  { name: 'verse', bars: 8, drums: true, bass: true, chords: false, hook: false },
  { name: 'chorus', bars: 8, drums: true, bass: true, chords: true, hook: true },
  { name: 'breakdown', bars: 4, drums: false, bass: false, chords: true, hook: true },
  { name: 'last chorus', bars: 8, drums: true, bass: true, chords: true, hook: true },
  { name: 'outro', bars: 4, drums: true, bass: true, chords: false, hook: false },
];

/** Roots (MIDI note numbers) and chord shapes, one a bar, four bars round. */
const CHORDS: readonly { root: number; shape: readonly number[] }[] = [
  { root: 45, shape: [0, 3, 7, 10] },
  { root: 41, shape: [0, 4, 7, 11] },
  { root: 48, shape: [0, 4, 7, 9] },
  { root: 43, shape: [0, 4, 7, 10] },
];
const HOOK: readonly (number | null)[] = [76, null, 74, 72, null, 69, null, 72, 74, null, null, 72, 69, null, 67, null];

export interface SongOptions {
  sampleRate: number;
  bpm: number;
  /** Silence before bar 1, in seconds. */
  leadIn: Seconds;
  seed: number;
}

/** "Half Load": samples (left and right, -1..1) with the exact truth about their beats and parts. */
export interface SyntheticSong {
  sampleRate: number;
  channels: [Float32Array, Float32Array];
  beats: Seconds[];
  downbeats: Seconds[];
  sections: { name: string; start: Seconds }[];
}

const hertz = (note: number) => 440 * 2 ** ((note - 69) / 12);

type Voice = (t: Seconds) => number;

/** Adds `voice` for `length` seconds from `start`; `pan` -1 left to 1 right. */
function play(song: SyntheticSong, start: Seconds, length: Seconds, gain: number, pan: number, voice: Voice): void {
  const { sampleRate, channels } = song;
  const first = Math.round(start * sampleRate);
  const count = Math.min(Math.round(length * sampleRate), channels[0].length - first);
  const left = gain * Math.sqrt((1 - pan) / 2);
  const right = gain * Math.sqrt((1 + pan) / 2);
  for (let i = 0; i < count; i++) {
    const v = voice(i / sampleRate);
    channels[0][first + i] += v * left;
    channels[1][first + i] += v * right;
  }
}

function kick(song: SyntheticSong, at: Seconds, gain: number): void {
  play(song, at, 0.32, gain, 0, (t) => Math.sin(2 * Math.PI * (48 * t + 9 * (1 - Math.exp(-t * 32)))) * Math.exp(-t * 11));
}

function snare(song: SyntheticSong, at: Seconds, gain: number, random: () => number): void {
  let low = 0;
  play(song, at, 0.22, gain, 0.08, (t) => {
    const white = random() * 2 - 1;
    low += 0.35 * (white - low);
    return (white - low) * 0.8 * Math.exp(-t * 20) + Math.sin(2 * Math.PI * 186 * t) * 0.5 * Math.exp(-t * 26);
  });
}

function hat(song: SyntheticSong, at: Seconds, gain: number, random: () => number): void {
  let last = 0;
  play(song, at, 0.07, gain, 0.3, (t) => {
    const white = random() * 2 - 1;
    const high = white - last;
    last = white;
    return high * Math.exp(-t * 70);
  });
}

function bass(song: SyntheticSong, at: Seconds, length: Seconds, note: number): void {
  const f = hertz(note);
  let low = 0;
  play(song, at, length, 0.34, -0.05, (t) => {
    const saw = 2 * ((f * t) % 1) - 1;
    low += (0.05 + 0.12 * Math.exp(-t * 9)) * (saw - low);
    return low * Math.min(1, t * 200) * Math.min(1, (length - t) * 60);
  });
}

function chord(song: SyntheticSong, at: Seconds, length: Seconds, root: number, shape: readonly number[]): void {
  shape.forEach((interval, i) => {
    const f = hertz(root + 12 + interval);
    const pan = (i / (shape.length - 1)) * 1.2 - 0.6;
    play(song, at, length, 0.055, pan, (t) => {
      const tri = (x: number) => 4 * Math.abs((((x % 1) + 1.25) % 1) - 0.5) - 1;
      const wobble = 1 + 0.12 * Math.sin(2 * Math.PI * 4.5 * t);
      return (
        (tri(f * t) + 0.6 * tri(f * 1.004 * t) + 0.3 * tri(2.002 * f * t)) * wobble * Math.min(1, t * 12) * Math.min(1, (length - t) * 8)
      );
    });
  });
}

function pluck(song: SyntheticSong, at: Seconds, note: number): void {
  const f = hertz(note);
  play(
    song,
    at,
    0.5,
    0.16,
    0.25,
    (t) => Math.sin(2 * Math.PI * f * t + 1.8 * Math.exp(-t * 8) * Math.sin(2 * Math.PI * 2 * f * t)) * Math.exp(-t * 6.5),
  );
}

interface BarAt {
  part: Part;
  /** Bar of the whole song, and of its part, both from 0. */
  bar: number;
  indexInPart: number;
  at: Seconds;
  beat: Seconds;
}

function playDrums(song: SyntheticSong, { part, bar, indexInPart, at, beat }: BarAt, random: () => number): void {
  const thinning = part.name === 'outro' && indexInPart >= 2;
  for (let e = 0; e < 8; e++) hat(song, at + (e / 2) * beat, e % 2 ? 0.1 : 0.17, random);
  kick(song, at, 0.8);
  if (thinning) return;
  kick(song, at + 2 * beat, 0.8);
  if (bar % 2) kick(song, at + 3.5 * beat, 0.6);
  if (part.name !== 'intro') for (const b of [1, 3]) snare(song, at + b * beat, 0.5, random);
  if (indexInPart === part.bars - 1) for (const b of [3, 3.25, 3.5, 3.75]) snare(song, at + b * beat, 0.28 + 0.24 * (b - 3), random);
}

const BASS_LINE = [
  [0, 0],
  [0.75, 0],
  [1.5, 12],
  [2, 0],
  [2.75, 7],
  [3.5, 10],
] as const;

function playHook(song: SyntheticSong, { bar, at, beat }: BarAt): void {
  HOOK.forEach((note, step) => {
    if (note !== null && !(step > 8 && bar % 2)) pluck(song, at + (step / 4) * beat, note);
  });
}

function playBar(song: SyntheticSong, here: BarAt, random: () => number): void {
  const { part, bar, indexInPart, at, beat } = here;
  const { root, shape } = CHORDS[bar % 4];
  const end = part.name === 'outro' && indexInPart === part.bars - 1;
  if (part.drums) playDrums(song, here, random);
  if (part.bass && !end) for (const [b, n] of BASS_LINE) bass(song, at + b * beat, beat * 0.45, root - 12 + n);
  if (part.chords) chord(song, at, beat * 3.9, root, shape);
  if (part.hook) playHook(song, here);
  if (end) chord(song, at, beat * 3.8, CHORDS[0].root, CHORDS[0].shape);
}

/** The demo song, always the same for the same options. 36 bars; at 112 BPM about 78 s. */
export function synthesiseSong(options: Partial<SongOptions> = {}): SyntheticSong {
  const { sampleRate = 44100, bpm = 112, leadIn = 0.25, seed = 7 } = options;
  const beat = 60 / bpm;
  const bars = PARTS.reduce((sum, p) => sum + p.bars, 0);
  const length = Math.ceil((leadIn + bars * 4 * beat + 0.6) * sampleRate);
  const song: SyntheticSong = {
    sampleRate,
    channels: [new Float32Array(length), new Float32Array(length)],
    beats: [],
    downbeats: [],
    sections: [],
  };
  const random = randomSource(seed);
  let bar = 0;
  for (const part of PARTS) {
    song.sections.push({ name: part.name, start: leadIn + bar * 4 * beat });
    for (let i = 0; i < part.bars; i++, bar++) {
      const at = leadIn + bar * 4 * beat;
      song.downbeats.push(at);
      for (let b = 0; b < 4; b++) song.beats.push(at + b * beat);
      playBar(song, { part, bar, indexInPart: i, at, beat }, random);
    }
  }
  for (const channel of song.channels) for (let i = 0; i < length; i++) channel[i] = Math.tanh(channel[i] * 0.95);
  return song;
}
