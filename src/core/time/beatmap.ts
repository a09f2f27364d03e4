import { type Beats, median, type Seconds } from '../units';

/**
 * Where the beats of a song are. `beats` are ascending times in seconds (two or more);
 * `bar1` is the index in `beats` of bar 1 beat 1, and may lie outside the list.
 */
export interface BeatMap {
  beats: number[];
  bar1: number;
  beatsPerBar: number;
  /** Where the number of beats in a bar changes: indices of beats after bar 1, ascending. A bar that is not over then is cut short. */
  changes?: { at: number; beatsPerBar: number }[] | undefined;
  /** Indices of beats set by hand, ascending: solving the map again leaves them where they are. */
  locked?: number[] | undefined;
}

/** A map of constant tempo. `bpm` over 0; the first beat, bar 1 beat 1, is at `start` seconds. */
export function constantBeatMap(bpm: number, start: Seconds, count: number, beatsPerBar = 4): BeatMap {
  const beats = Array.from({ length: Math.max(2, count) }, (_, i) => start + (i * 60) / bpm);
  return { beats, bar1: 0, beatsPerBar };
}

/** Typical beat length at the start or the end of the map, used beyond its last known beat. */
function edgePeriod(beats: number[], atEnd: boolean): Seconds {
  const span = Math.min(8, beats.length - 1);
  return atEnd ? (beats[beats.length - 1] - beats[beats.length - 1 - span]) / span : (beats[span] - beats[0]) / span;
}

/** Song time of a beat (0 is bar 1 beat 1); linear between beats, extended at the edge tempo beyond them. */
export function beatToSeconds(map: BeatMap, beat: Beats): Seconds {
  const { beats } = map;
  const last = beats.length - 1;
  const i = beat + map.bar1;
  if (i <= 0) return beats[0] + i * edgePeriod(beats, false);
  if (i >= last) return beats[last] + (i - last) * edgePeriod(beats, true);
  const k = Math.floor(i);
  return beats[k] + (i - k) * (beats[k + 1] - beats[k]);
}

/** The beat at a song time; the inverse of `beatToSeconds`. */
export function secondsToBeat(map: BeatMap, time: Seconds): Beats {
  const { beats } = map;
  const last = beats.length - 1;
  if (time <= beats[0]) return (time - beats[0]) / edgePeriod(beats, false) - map.bar1;
  if (time >= beats[last]) return last + (time - beats[last]) / edgePeriod(beats, true) - map.bar1;
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (beats[middle] <= time) low = middle;
    else high = middle;
  }
  return low + (time - beats[low]) / (beats[low + 1] - beats[low]) - map.bar1;
}

/** Median tempo in beats a minute. */
export function tempo(map: BeatMap): number {
  const gaps = map.beats.slice(1).map((t, i) => t - map.beats[i]);
  return 60 / median(gaps);
}

/**
 * A constant-tempo map through tapped times: least squares of time over tap number, taps a beat apart
 * (a missed tap is noticed and counted). Covers 0 to `duration`. Null for fewer than 4 taps.
 * Bar 1 is the first tap. Common practice.
 */
export function fromTaps(taps: readonly Seconds[], duration: Seconds, beatsPerBar = 4): BeatMap | null {
  const sorted = [...taps].sort((a, b) => a - b);
  if (sorted.length < 4) return null;
  const gap = median(sorted.slice(1).map((t, i) => t - sorted[i]));
  if (!(gap > 0.15 && gap < 3)) return null;
  let n = 0;
  const counts = sorted.map((t, i) => {
    if (i > 0) n += Math.max(1, Math.round((t - sorted[i - 1]) / gap));
    return n;
  });
  const meanN = counts.reduce((a, b) => a + b, 0) / counts.length;
  const meanT = sorted.reduce((a, b) => a + b, 0) / sorted.length;
  let top = 0;
  let bottom = 0;
  counts.forEach((c, i) => {
    top += (c - meanN) * (sorted[i] - meanT);
    bottom += (c - meanN) ** 2;
  });
  const period = top / bottom;
  const first = meanT - meanN * period;
  const before = Math.floor(first / period);
  const start = first - before * period;
  const beats: number[] = [];
  for (let t = start; t <= duration; t += period) beats.push(t);
  return beats.length < 2 ? null : { beats, bar1: before, beatsPerBar };
}
