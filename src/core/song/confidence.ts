import { clamp, type Seconds, type Unit } from '../units';
import { peakAround } from './beats';
import type { HeardOnsets } from './onset';

/** Beats to each side that a beat is judged among. */
const AMONG = 4;

/**
 * How far what begins on the beats stands above what begins between them, 0..1: for each beat among its neighbours, and for them all.
 */
export function confidenceOf(beats: readonly Seconds[], onsets: HeardOnsets): { all: Unit; each: Unit[] } {
  const on = beats.map((t) => peakAround(onsets, t));
  const off = beats.map((t, i) => {
    const gap = (beats[i + 1] ?? t) - t || t - (beats[i - 1] ?? t);
    return (peakAround(onsets, t + gap * 0.3) + peakAround(onsets, t + gap * 0.7)) / 2;
  });
  const between = (from: number, to: number): Unit => {
    let [a, b] = [0, 0];
    for (let i = Math.max(0, from); i < Math.min(beats.length, to); i++) {
      a += on[i];
      b += off[i];
    }
    return clamp(1 - b / (a || 1), 0, 1);
  };
  return { all: between(0, beats.length - 1), each: beats.map((_, i) => between(i - AMONG, i + AMONG + 1)) };
}
