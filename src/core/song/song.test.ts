import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { randomSource, synthesiseSong } from '../room';
import { tempo } from '../time';
import { analyseSong } from './analyse';
import { trackBeats } from './beats';
import { beatFMeasure } from './fmeasure';
import { tempoPath } from './tempo-path';

/** Clicks at given times: short decaying noise, mono. */
function clicks(times: readonly number[], duration: number, rate = 22050): Float32Array {
  const random = randomSource(3);
  const out = new Float32Array(Math.round(duration * rate));
  for (const t of times)
    for (let i = 0; i < 0.03 * rate; i++) out[Math.round(t * rate) + i] += (random() * 2 - 1) * Math.exp(-i / (0.006 * rate));
  return out;
}

describe('beats against exact truth', () => {
  it.each([
    [112, 0.25],
    [96, 0.71],
    [104.3, 1.2],
  ])('the synthesised song at %f BPM, led in by %f s', (bpm, leadIn) => {
    const song = synthesiseSong({ bpm, leadIn, sampleRate: 22050 });
    const found = analyseSong(song.channels, song.sampleRate);
    const map = found.map;
    expect(map).toBeTruthy();
    if (!map) return;
    expect(Math.abs(found.bpm / bpm - 1)).toBeLessThan(0.002);
    expect(beatFMeasure(map.beats, song.beats)).toBeGreaterThan(0.97);
    const downbeats = map.beats.filter((_, i) => (i - map.bar1) % 4 === 0);
    expect(beatFMeasure(downbeats, song.downbeats)).toBeGreaterThan(0.95);
    const errors = song.beats.map((t) => Math.min(...map.beats.map((b) => Math.abs(b - t)))).sort((a, b) => a - b);
    expect(errors[errors.length >> 1]).toBeLessThan(0.008);
  });

  it('follows a tempo that rises from 100 to 116', () => {
    const times: number[] = [];
    for (let t = 0.5; t < 59; ) {
      times.push(t);
      t += 60 / (100 + (16 * t) / 60);
    }
    const found = analyseSong([clicks(times, 60)], 22050);
    expect(beatFMeasure(found.map?.beats ?? [], times)).toBeGreaterThan(0.95);
  });

  it('says so when there is no beat: silence, a short sound', () => {
    expect(analyseSong([new Float32Array(22050 * 10)], 22050).reason).toMatch(/silent/);
    expect(analyseSong([clicks([0.5, 1], 2)], 22050).reason).toMatch(/too short/);
  });

  it('finds no steady beat in noise, in a held tone, in hum', () => {
    const random = randomSource(9);
    let low = 0;
    const sounds: Record<string, () => number> = {
      white: () => random() - 0.5,
      brown: () => {
        low += 0.02 * (random() - 0.5 - low);
        return 4 * low;
      },
    };
    for (const make of Object.values(sounds)) {
      const found = analyseSong([Float32Array.from({ length: 22050 * 20 }, make)], 22050);
      expect(found.map).toBeNull();
      expect(found.reason).toMatch(/No steady beat found/);
    }
    for (const hertz of [50, 440]) {
      const tone = Float32Array.from({ length: 22050 * 20 }, (_, i) => 0.3 * Math.sin((2 * Math.PI * hertz * i) / 22050));
      expect(analyseSong([tone], 22050).reason).toMatch(/No steady beat found/);
    }
  });

  it('follows a mix of twenty minutes', () => {
    const n = 20 * 60 * 125;
    const times = Array.from({ length: 2400 }, (_, i) => 0.25 + i / 2);
    const all = pulses(times, 20 * 60);
    const none = new Float32Array(0);
    const onsets = { rate: 125, start: 0, all, loud: all, low: none, mid: none, energy: none };
    const beats = trackBeats(onsets, new Float32Array(n).fill(0.5));
    expect(beatFMeasure(beats, times)).toBeGreaterThan(0.99);
  });
});

/** An onset curve of 125 values a second with a pulse at each time. */
function pulses(times: readonly number[], seconds: number): Float32Array {
  const curve = new Float32Array(seconds * 125);
  for (const t of times)
    for (let k = -3; k <= 3; k++) {
      const i = Math.round(t * 125) + k;
      if (i >= 0 && i < curve.length) curve[i] += Math.exp(-0.5 * ((i - t * 125) / 1.2) ** 2);
    }
  return curve;
}

describe('tempo path (tempogram, Grosche, Müller & Kurth 2010)', () => {
  it.each([61, 93.7, 120, 131.2, 175])('stays at %f BPM to a step of its scale', (bpm) => {
    const times = Array.from({ length: Math.floor(bpm) }, (_, i) => (i * 60) / bpm);
    const { period, strength } = tempoPath(pulses(times, 60), 125);
    for (const p of period.subarray(500, 7000)) expect(Math.abs(Math.log2(60 / p / bpm))).toBeLessThan(1 / 36);
    expect(strength).toBeGreaterThan(0.5);
  });

  it('goes over to another tempo where the song does, within half a window', () => {
    const times: number[] = [];
    for (let t = 0; t < 60; t += 60 / (t < 30 ? 100 : 124)) times.push(t);
    const { period } = tempoPath(pulses(times, 60), 125);
    expect(60 / period[25 * 125]).toBeCloseTo(100, -0.5);
    expect(60 / period[35 * 125]).toBeCloseTo(124, -0.5);
  });

  it('hears no beat in noise', () => {
    const random = randomSource(4);
    const { strength } = tempoPath(
      Float32Array.from({ length: 4000 }, () => random()),
      125,
    );
    expect(strength).toBeLessThan(0.15);
  });
});

interface Clip {
  name: string;
  file: string;
  bpm: number | null;
  meter: number;
  beats: number[];
  downbeats: number[];
}

/** Stretches of patterns of the Debian package mma, played by fluidsynth, with their MIDI file's own beats; `bench/songs.ts` makes more. */
const CLIPS: Clip[] = JSON.parse(readFileSync('bench/clips/truth.json', 'utf8'));

describe('beats of music by others', () => {
  const found = CLIPS.map((clip) => {
    const heard = analyseSong([decoded(`bench/clips/${clip.file}`)], 16000);
    return { ...clip, map: heard.map, others: heard.others, sure: heard.confidence };
  });
  // Twenty seconds, half of them bare, and twenty of a ballad in quavers: they may as well be counted at half and at twice their tempo.
  // The waltz may not: at half its tempo it is wrong, and heard so nearly as often as right since the first sound counts.
  const open = ['twist 152', 'piano ballad 60', 'Viennese waltz 168'];
  const clear = found.filter(({ name }) => !open.includes(name));

  it.each(found.filter(({ name }) => open.includes(name)))(
    '$name: says that it is not sure, and offers what else may be meant',
    ({ map, others, beats, sure }) => {
      expect(sure).toBeLessThan(0.75);
      const all = [map, ...others.map((o) => o.map)].map((m) => beatFMeasure(m?.beats ?? [], beats, 0.07, 0));
      expect(Math.max(...all)).toBeGreaterThan(0.9);
    },
  );

  it.each(clear)('$name: beats, how many in a bar, tempo', ({ map, bpm, meter, beats }) => {
    if (!map) throw new Error('no beat found');
    // From the first on: a clip is short, and mir_eval's five seconds would leave out much of it.
    expect(beatFMeasure(map.beats, beats, 0.07, 0)).toBeGreaterThan(0.9);
    expect(map.beatsPerBar).toBe(meter);
    if (bpm) expect(Math.abs(tempo(map) / bpm - 1)).toBeLessThan(0.012);
  });

  it('has the bar lines of all but one', () => {
    const bars = clear.map(({ map, meter, downbeats }) =>
      beatFMeasure(map?.beats.filter((_, i) => (i - map.bar1) % meter === 0) ?? [], downbeats, 0.07, 0),
    );
    expect(bars.filter((f) => f > 0.75).length).toBeGreaterThanOrEqual(clear.length - 1);
  });
});

/** A sound file at 16 kHz, mono. */
function decoded(file: string): Float32Array {
  const pcm = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-ar', '16000', '-f', 'f32le', '-'], { maxBuffer: 1e8 });
  return new Float32Array(new Uint8Array(pcm).buffer);
}

describe('speech', () => {
  it('has no steady beat (read by the Debian package espeak-ng)', () => {
    const found = analyseSong([decoded('bench/clips/speech.ogg')], 16000);
    expect(found.map).toBeNull();
    expect(found.reason).toMatch(/No steady beat found/);
  });
});

describe('F-measure, Davies, Degara & Plumbley 2009', () => {
  it('counts hits within 70 ms, one to one, after the first 5 s', () => {
    const truth = [1, 6, 7, 8, 9];
    expect(beatFMeasure(truth, truth)).toBe(1);
    expect(beatFMeasure([6.069, 7.071, 8, 9], truth)).toBeCloseTo(0.75, 9);
    expect(beatFMeasure([6, 6.01, 7, 8, 9], truth)).toBeCloseTo(8 / 9, 9);
    expect(beatFMeasure([], truth)).toBe(0);
  });
});
