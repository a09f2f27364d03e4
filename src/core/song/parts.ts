import { type BeatMap, beatToSeconds } from '../time';
import type { Beats } from '../units';
import { hopAt, type OnsetStrength, TIMBRE } from './onset';

/** A part of a song: from a bar line on it sounds unlike what went before. Parts that sound alike have the same letter. */
export interface SongPart {
  /** The bar line it begins on. */
  beat: Beats;
  /** "A", "B", ...; in order of appearance. */
  letter: string;
}

/** The least that a figure must differ between bars to count as differing: decibels, or shares of the harmony. */
const FLOOR = 3;
/** What a new part must explain, in squared figures; parts shorter than four bars, or not in even bars, must explain more. */
const COST = 12;

/** What each bar sounds like: its level in the bands, and how much is struck low and high. */
function barFigures(map: BeatMap, onsets: OnsetStrength, first: number, bars: number): Float64Array[] {
  return Array.from({ length: bars }, (_, bar) => {
    const from = Math.max(0, hopAt(onsets, beatToSeconds(map, (first + bar) * map.beatsPerBar)));
    const to = Math.max(from + 1, Math.min(onsets.energy.length, hopAt(onsets, beatToSeconds(map, (first + bar + 1) * map.beatsPerBar))));
    const out = new Float64Array(TIMBRE + 2);
    for (let i = from; i < Math.min(to, onsets.energy.length); i++) {
      for (let b = 0; b < TIMBRE; b++) out[b] += onsets.timbre[i * TIMBRE + b];
      out[TIMBRE] += 12 * onsets.low[i];
      out[TIMBRE + 1] += 12 * onsets.mid[i];
    }
    return out.map((v) => v / (to - from));
  });
}

/** Each figure over its spread, never less than the floor. */
function scaled(figures: readonly Float64Array[]): Float64Array[] {
  const n = figures.length;
  const size = figures[0].length;
  const means = new Float64Array(size);
  const spreads = new Float64Array(size);
  for (const f of figures) for (let k = 0; k < size; k++) means[k] += f[k] / n;
  for (const f of figures) for (let k = 0; k < size; k++) spreads[k] += (f[k] - means[k]) ** 2 / n;
  return figures.map((f) => f.map((v, k) => (v - means[k]) / Math.max(FLOOR, Math.sqrt(spreads[k]))));
}

/** Squared distance of two means. */
const apart = (a: Float64Array, b: Float64Array) => a.reduce((sum, v, k) => sum + (v - b[k]) ** 2, 0) / a.length;

/**
 * Bars at which a new part begins, the first included: the division whose parts are most alike within (least squares), each part
 * costing something (optimal partitioning, Jackson et al. 2005). `figures` one a bar.
 */
function divide(figures: readonly Float64Array[]): number[] {
  const n = figures.length;
  const size = figures[0].length;
  const sums = Array.from({ length: n + 1 }, () => new Float64Array(size));
  const squares = new Float64Array(n + 1);
  for (let i = 0; i < n; i++) {
    squares[i + 1] = squares[i];
    for (let k = 0; k < size; k++) {
      sums[i + 1][k] = sums[i][k] + figures[i][k];
      squares[i + 1] += figures[i][k] ** 2;
    }
  }
  const within = (from: number, to: number) => {
    let mean = 0;
    for (let k = 0; k < size; k++) mean += (sums[to][k] - sums[from][k]) ** 2;
    return squares[to] - squares[from] - mean / (to - from);
  };
  const best = new Float64Array(n + 1).fill(Number.POSITIVE_INFINITY);
  const from = new Int32Array(n + 1);
  best[0] = 0;
  for (let to = 1; to <= n; to++)
    for (let start = Math.max(0, to - 64); start < to; start++) {
      const bars = to - start;
      const uneven = (bars < 4 ? 0.6 : 0) + (bars % 4 === 0 || to === n ? 0 : bars % 2 === 0 ? 0.1 : 0.3);
      const value = best[start] + within(start, to) + COST * (1 + uneven) * (size / 10);
      if (value < best[to]) [best[to], from[to]] = [value, start];
    }
  const starts: number[] = [];
  for (let to = n; to > 0; to = from[to]) starts.push(from[to]);
  return starts.reverse();
}

/** The parts of a song on its bar lines: where the arrangement changes for good. Empty for less than two bars. */
export function findParts(map: BeatMap, onsets: OnsetStrength): SongPart[] {
  const first = Math.ceil(-map.bar1 / map.beatsPerBar - 1e-9);
  const bars = Math.floor((map.beats.length - 1 - map.bar1) / map.beatsPerBar - first);
  if (bars < 2) return [];
  const figures = scaled(barFigures(map, onsets, first, bars));
  const starts = divide(figures);
  const means = starts.map((start, i) => {
    const part = figures.slice(start, starts[i + 1] ?? bars);
    return part[0].map((_, k) => part.reduce((sum, f) => sum + f[k], 0) / part.length);
  });
  const letters: { letter: string; mean: Float64Array }[] = [];
  return starts.map((start, i) => {
    const near = letters.toSorted((a, b) => apart(a.mean, means[i]) - apart(b.mean, means[i]))[0];
    const known = near && apart(near.mean, means[i]) < 0.2 ? near : { letter: letterOf(letters.length), mean: means[i] };
    if (known !== near) letters.push(known);
    return { beat: (first + start) * map.beatsPerBar, letter: known.letter };
  });
}

const letterOf = (k: number): string => (k < 26 ? String.fromCharCode(65 + k) : letterOf(Math.floor(k / 26) - 1) + letterOf(k % 26));
