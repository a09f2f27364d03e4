import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { type Course, proposeParts, SOUND_STEP, soundCourse, soundMarks } from './cut-recording';

const RATE = 16000;
const random = randomSource(3);

/** A recording of `seconds` in which something moves, and sounds, in the given stretches only. */
function course(seconds: number, busy: readonly (readonly [number, number])[], samples: Float32Array): Course {
  const times = Array.from({ length: Math.round(seconds * 30) }, (_, i) => i / 30);
  const moves = (t: number) => busy.some(([a, b]) => t >= a && t < b);
  return { times, movement: times.map((t) => (moves(t) ? 3 + 2 * random() : 0.5 + 0.1 * random())), ...soundCourse(samples, RATE) };
}

function sound(seconds: number, voice: (t: number) => number): Float32Array {
  return Float32Array.from({ length: seconds * RATE }, (_, i) => voice(i / RATE) + 0.002 * (random() - 0.5));
}

const hum = (t: number) => 0.2 * Math.sin(2 * Math.PI * 220 * t) + 0.1 * Math.sin(2 * Math.PI * 1730 * t);
const within = (t: number, spans: readonly (readonly [number, number])[]) => spans.some(([a, b]) => t >= a && t < b);

describe('a long recording cut into takes (the tone by Goertzel 1958)', () => {
  const busy = [
    [1, 6],
    [8, 14],
    [15.5, 22],
  ] as const;
  const long = course(
    24,
    busy,
    sound(24, (t) => (within(t, busy) ? hum(t) : 0)),
  );

  it.each(['holds', 'silences'] as const)('by %s: each part holds one stretch of action, with some of the pause on both sides', (by) => {
    const parts = proposeParts(long, by);
    expect(parts).toHaveLength(3);
    busy.forEach(([from, to], i) => {
      expect(parts[i].from).toBeLessThan(from + 0.05);
      expect(parts[i].to).toBeGreaterThan(to - 0.05);
      if (i > 0) expect(parts[i].from).toBeCloseTo((busy[i - 1][1] + from) / 2, 0);
    });
  });

  it('a short rest within an action cuts nothing, nor does one jolt within a pause', () => {
    const jolted = { ...long, movement: long.movement.map((m, i) => (i === 7.1 * 30 ? 9 : m)) };
    expect(proposeParts(jolted, 'holds')).toHaveLength(3);
    const rest = course(
      10,
      [
        [1, 4],
        [4.4, 8],
      ],
      sound(10, () => 0),
    );
    expect(proposeParts(rest, 'holds')).toEqual([]);
  });

  it('by marks: the reference tone of 1 kHz and a clap, over a song, to two steps of the reading', () => {
    const voice = (t: number) => {
      if (within(t, [[2, 2.2]])) return 0.3 * Math.sin(2 * Math.PI * 1000 * t);
      if (within(t, [[9, 9.2]])) return 0.3 * Math.sin(2 * Math.PI * 1000 * t) + 0.03 * hum(t);
      if (t >= 16.5) return 0.9 * Math.exp(-90 * (t - 16.5)) * (random() - 0.5) * 2 + 0.02 * hum(t);
      return 0.03 * hum(t);
    };
    const marked = course(22, [[0, 22]], sound(22, voice));
    const marks = soundMarks(marked);
    expect(marks).toHaveLength(3);
    for (const [i, t] of [2, 9, 16.5].entries()) expect(Math.abs(marks[i] - t)).toBeLessThan(2 * SOUND_STEP);
    const parts = proposeParts(marked, 'marks');
    expect(parts.map((p) => Math.round(10 * p.from) / 10)).toEqual([1.9, 8.9, 16.4]);
    expect(parts[2].to).toBeCloseTo(22, 1);
  });

  it('nothing to cut at, or no sound: no proposal', () => {
    const steady = course(10, [[0, 10]], new Float32Array(0));
    expect(proposeParts(steady, 'holds')).toEqual([]);
    expect(proposeParts(steady, 'silences')).toEqual([]);
    expect(proposeParts(steady, 'marks')).toEqual([]);
    expect(proposeParts({ times: [], movement: [], level: [], tone: [] }, 'holds')).toEqual([]);
  });
});
