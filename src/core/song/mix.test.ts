import { describe, expect, it } from 'vitest';
import { constantBeatMap } from '../time';
import { duckedAt, fadeAt, gainAt, gainPoints, levelAt, linearGain, mixIn, mixRun, panned } from './mix';

const map = constantBeatMap(120, 0, 40);

describe('gain of a thread', () => {
  it('goes in decibels from key to key, and is held outside', () => {
    const points = gainPoints(
      [
        { beat: 8, gain: -12 },
        { beat: 4, gain: 0 },
      ],
      map,
    );
    expect([0, 2, 3, 4, 9].map((t) => gainAt(points, t))).toEqual([0, 0, -6, -12, -12]);
    expect(gainAt([], 3)).toBe(0);
  });

  it('is amplitude by 20 dB to ten times; -60 dB is silence', () => {
    expect(linearGain(-20)).toBeCloseTo(0.1, 12);
    expect(linearGain(-6.0206)).toBeCloseTo(0.5, 5);
    expect(linearGain(-60)).toBe(0);
  });
});

describe('fades of equal power', () => {
  const laid = { start: 10, length: 4, gain: 0, fadeIn: 1, fadeOut: 2 };
  it('keep the power where one sound goes over into another', () => {
    const leaving = { ...laid, fadeIn: 0, fadeOut: 1 };
    for (const t of [0, 0.25, 0.5, 0.9]) expect(fadeAt({ ...laid, fadeOut: 0 }, t) ** 2 + fadeAt(leaving, 3 + t) ** 2).toBeCloseTo(1, 9);
  });

  it('are silent outside, and shorten together where they do not fit', () => {
    expect(levelAt(laid, [], 9.99)).toBe(0);
    expect(levelAt(laid, [], 14.01)).toBe(0);
    expect(levelAt(laid, [], 12)).toBeCloseTo(1, 9);
    expect(fadeAt({ ...laid, length: 1.5 }, 0.5)).toBeCloseTo(1, 9);
  });
});

describe('mixing', () => {
  it('passes sound of the same rate through as it is, to the sample', () => {
    const source = Float32Array.from({ length: 1000 }, (_, i) => Math.sin(i));
    const out = [new Float32Array(300), new Float32Array(300)];
    mixIn(out, 48000, 0.5, [source], 48000, 0.5 - 200 / 48000, () => 1);
    for (let i = 0; i < 300; i++) expect(out[0][i]).toBeCloseTo(source[i + 200], 6);
    expect(out[1]).toEqual(out[0]);
  });

  it('adds, and brings other rates along: a tone keeps its pitch', () => {
    const tone = (rate: number, n: number) => Float32Array.from({ length: n }, (_, i) => 0.4 * Math.sin((2 * Math.PI * 440 * i) / rate));
    const out = [new Float32Array(4800)];
    mixIn(out, 48000, 0, [tone(44100, 6000)], 44100, 0, () => 0.5);
    mixIn(out, 48000, 0, [tone(48000, 6000)], 48000, 0, () => 0.5);
    const wanted = tone(48000, 4800);
    for (let i = 0; i < 4800; i++) expect(Math.abs(out[0][i] - wanted[i])).toBeLessThan(0.001);
  });

  it('runs as its picture runs: at half speed a tone is an octave lower, at double an octave higher, and what stands is silent of it', () => {
    const tone = (hz: number, n: number) => Float32Array.from({ length: n }, (_, i) => 0.4 * Math.sin((2 * Math.PI * hz * i) / 48000));
    for (const speed of [0.5, 1, 2]) {
      const out = [new Float32Array(4800)];
      mixRun(
        out,
        48000,
        3,
        [tone(440, 24000)],
        48000,
        1,
        (t) => 1 + speed * (t - 3),
        () => 1,
      );
      const wanted = tone(440 * speed, 4800);
      // At double speed two samples make one, half a sample late.
      const late = speed === 2 ? 0.25 : 0;
      for (let i = 1; i < 4800; i++) {
        const shifted = wanted[i] + late * (wanted[i + 1] - wanted[i] || 0);
        expect(Math.abs(out[0][i] - shifted)).toBeLessThan(0.02);
      }
    }
    const still = [new Float32Array(640)];
    mixRun(
      still,
      48000,
      0,
      [tone(440, 2000)],
      48000,
      0,
      () => 0,
      () => 1,
    );
    expect(Math.max(...still[0].map(Math.abs))).toBe(0);
  });
});

describe('a song under what ducks it', () => {
  const ducks = [
    { from: 10, to: 12, by: 12 },
    { from: 11, to: 11.5, by: 6 },
  ];
  it('goes down before it, stays down by the deepest, and comes back after', () => {
    expect([9.8, 9.925, 10, 11.2, 12, 12.25, 12.6].map((t) => Math.round(10 * duckedAt(ducks, t)) / 10)).toEqual([0, 6, 12, 12, 12, 6, 0]);
    expect(duckedAt([], 5)).toBe(0);
  });
});

describe('a sound moved from side to side', () => {
  const one = [Float32Array.of(1, -0.5)];
  it('of one channel keeps its power, and is as it was in the middle', () => {
    expect(panned(one, 0)).toEqual(one);
    for (const pan of [-100, -40, 30, 100]) {
      const [l, r] = panned(one, pan).map((c) => c[0]);
      expect(l * l + r * r).toBeCloseTo(2, 6);
      expect(Math.sign(r - l)).toBe(Math.sign(pan));
    }
    expect(panned(one, 100)[0][0]).toBeCloseTo(0, 6);
  });
  it('of two has the far one taken down', () => {
    const [l, r] = panned([Float32Array.of(1), Float32Array.of(1)], 60);
    expect(l[0]).toBeCloseTo(0.4, 6);
    expect(r[0]).toBe(1);
  });
});
