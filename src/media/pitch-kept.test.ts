import { describe, expect, it } from 'vitest';
import { pitchKept } from './pitch-kept';

const RATE = 48_000;
/** Four seconds of a tone; silent before `from`, twice as high from `higher` on. */
function tone(hertz: number, from = 0, higher = Number.POSITIVE_INFINITY): Float32Array<ArrayBuffer> {
  let phase = 0;
  return Float32Array.from({ length: 4 * RATE }, (_, i) => {
    const t = i / RATE;
    phase += (2 * Math.PI * (t >= higher ? 2 * hertz : hertz)) / RATE;
    return t < from ? 0 : 0.5 * Math.sin(phase);
  });
}
/** Upward crossings of nothing a second, and RMS, between two seconds. */
function heard(samples: Float32Array, from: number, to: number): { hertz: number; level: number } {
  let [crossings, sum] = [0, 0];
  const [a, b] = [Math.round(from * RATE), Math.round(to * RATE)];
  for (let i = a + 1; i < b; i++) {
    if (samples[i - 1] < 0 && samples[i] >= 0) crossings++;
    sum += samples[i] ** 2;
  }
  return { hertz: crossings / (to - from), level: Math.sqrt(sum / (b - a)) };
}
const run = (channels: Float32Array<ArrayBuffer>[], secondAt: (t: number) => number, seconds: number) =>
  pitchKept({ channels, sampleRate: RATE }, secondAt, Math.round(seconds * RATE));

describe('a sound with its pitch kept', () => {
  it.each([1, 0.5, 0.25, 1.7, -1, -0.6])('is as high and as loud at %d times its speed', async (speed) => {
    const [out] = await run([tone(440)], (t) => (speed < 0 ? 3.5 : 0.5) + speed * t, 1.5);
    const { hertz, level } = heard(out, 0.3, 1.3);
    expect(Math.abs(hertz - 440)).toBeLessThan(5);
    expect(level).toBeGreaterThan(0.28);
    expect(level).toBeLessThan(0.4);
  });

  // Equal temperament: a semitone is the twelfth root of 2.
  it.each([12, 7, -5, -12])('is %d semitones from what was recorded, at half and at one and a half times its speed', async (semitones) => {
    for (const speed of [0.5, 1.5]) {
      const out = await pitchKept({ channels: [tone(440)], sampleRate: RATE }, (t) => 0.5 + speed * t, Math.round(1.5 * RATE), semitones);
      const wanted = 440 * 2 ** (semitones / 12);
      expect(Math.abs(heard(out[0], 0.3, 1.3).hertz / wanted - 1)).toBeLessThan(0.01);
    }
  });

  it('is heard where the picture shows it: what sets in a second later at half speed sets in two seconds later', async () => {
    const [out] = await run([tone(500, 1)], (t) => 0.5 * t, 3);
    expect(heard(out, 0.5, 1.85).level).toBeLessThan(0.02);
    expect(heard(out, 2.1, 2.9).level).toBeGreaterThan(0.25);
  });

  it('goes there and back, and is silent where the picture stands', async () => {
    // To the higher tone, then standing, then back to the lower one.
    const there = (t: number) => (t < 1.5 ? 1.5 + t : t < 2.5 ? 3 : 3 - (t - 2.5));
    const [left, right] = await run([tone(300, 0, 2.25), tone(300, 9)], there, 4.2);
    expect(Math.abs(heard(left, 0.2, 0.6).hertz - 300)).toBeLessThan(8);
    expect(Math.abs(heard(left, 1, 1.4).hertz - 600)).toBeLessThan(8);
    expect(heard(left, 1.9, 2.3).level).toBeLessThan(0.03);
    expect(Math.abs(heard(left, 2.7, 3.1).hertz - 600)).toBeLessThan(8);
    expect(Math.abs(heard(left, 3.5, 4.1).hertz - 300)).toBeLessThan(8);
    expect(heard(right, 0, 4.2).level).toBeLessThan(1e-4);
  });
});
