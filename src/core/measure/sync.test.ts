import { describe, expect, it } from 'vitest';
import { randomSource, synthesiseSong } from '../room';
import { type Recorded, syncSounds } from './sync';

const RATE = 22050;
const song = synthesiseSong({ sampleRate: RATE }).channels[0];

/** Windowed sinc (16 taps): the same sound on a clock that runs `ppm` parts per million fast, from `start` seconds on. */
function onOtherClock(source: Float32Array, start: number, seconds: number, ppm: number, rate = RATE): Float32Array {
  return Float32Array.from({ length: Math.round(seconds * rate) }, (_, i) => {
    const at = (start + i / rate / (1 + ppm * 1e-6)) * RATE;
    const whole = Math.floor(at);
    if (at - whole < 1e-9) return source[whole] ?? 0;
    // The sine of the sinc is the same at each tap but for its sign.
    const sine = Math.sin(Math.PI * (at - whole));
    let sum = 0;
    for (let j = -7; j <= 8; j++) {
      const x = at - whole - j;
      sum += ((source[whole + j] ?? 0) * (j & 1 ? -sine : sine) * (0.5 + 0.5 * Math.cos((Math.PI * x) / 8.5))) / (Math.PI * x);
    }
    return sum;
  });
}

/** As a phone across the room hears it: late reflections, a dull microphone, noise. */
function acrossTheRoom(dry: Float32Array, noise: number, seed: number): Float32Array {
  const random = randomSource(seed);
  const echoes = Array.from({ length: 6 }, () => ({ at: Math.round(RATE * (0.004 + 0.12 * random())), gain: (random() - 0.5) * 0.7 }));
  let dull = 0;
  return dry.map((_, i) => {
    let v = dry[i];
    for (const e of echoes) if (i >= e.at) v += e.gain * dry[i - e.at];
    dull += 0.35 * (v - dull);
    return dull + noise * (random() + random() + random() - 1.5);
  });
}

const mono = (samples: Float32Array, sampleRate = RATE): Recorded => ({ channels: [samples], sampleRate });

describe('sync of two recordings (GCC-PHAT, Knapp & Carter 1976)', () => {
  it.each([
    ['a clean copy', 3.217, 0, 0],
    ['another clock, 37 ppm fast', 7.5512, 37, 0.02],
    ['another clock, 90 ppm slow, in noise', 1.00021, -90, 0.06],
  ])('finds the offset to 0.2 ms and the drift to 2 ppm: %s', (_, start, ppm, noise) => {
    const heard = acrossTheRoom(onOtherClock(song, start, 60, ppm), noise, 5);
    const found = syncSounds(mono(song), mono(heard));
    if (!found.ok) throw new Error(found.reason);
    expect(Math.abs(found.match.driftPpm - ppm)).toBeLessThan(2);
    // What is heard at t in the song is heard at offset + t(1+drift) in the recording: at the start of the recording, 0.
    const { offset, driftPpm } = found.match;
    for (const t of [start, start + 30, start + 60]) {
      const truth = (t - start) * (1 + ppm * 1e-6);
      expect(Math.abs(offset + t * (1 + driftPpm * 1e-6) - truth)).toBeLessThan(0.2e-3);
    }
    expect(found.match.agreeing).toBeGreaterThan(0.6);
    expect(found.match.spread).toBeLessThan(0.2e-3);
  });

  it('finds a short take in the song, at another sampling rate, whichever is named first', () => {
    const take = mono(onOtherClock(song, 21.4, 9, 0, 48000), 48000);
    const there = syncSounds(take, mono(song));
    const back = syncSounds(mono(song), take);
    if (!there.ok || !back.ok) throw new Error('not found');
    expect(Math.abs(there.match.offset - 21.4)).toBeLessThan(0.2e-3);
    expect(Math.abs(back.match.offset + 21.4)).toBeLessThan(0.2e-3);
  });

  it('refuses what is unrelated: noise, another song at the same tempo, silence, a click', () => {
    const random = randomSource(9);
    const noise = Float32Array.from({ length: 20 * RATE }, () => random() - 0.5);
    const other = synthesiseSong({ sampleRate: RATE, bpm: 112, seed: 77 }).channels[0].slice(0, 20 * RATE);
    const hiss = other.map((v, i) => v * 0.2 + noise[i]);
    expect(syncSounds(mono(song), mono(noise)).ok).toBe(false);
    expect(syncSounds(mono(song.slice(0, 20 * RATE)), mono(hiss.toReversed())).ok).toBe(false);
    expect(syncSounds(mono(song), mono(new Float32Array(RATE * 5))).ok).toBe(false);
    const short = syncSounds(mono(song), mono(new Float32Array(300).fill(0.4)));
    expect(short.ok).toBe(false);
    if (!short.ok) expect(short.reason).toMatch(/shorter than half a second/);
  });
});
