import { around, clamp, median, type Seconds } from '../units';
import { movedChanges, withBar1 } from './bars';
import { type BeatMap, secondsToBeat } from './beatmap';

/** Beats to each side that follow a beat which is dragged, where none is locked. */
const REACH = 8;
/** No gap is squeezed to less than this part of what it was. */
const SQUEEZE = 0.4;

const locks = (map: BeatMap): readonly number[] => map.locked ?? [];
const sorted = (list: Iterable<number>): number[] => [...new Set(list)].sort((a, b) => a - b);

/** The beat nearest to a song time, as an index. */
export function nearestBeat(map: BeatMap, time: Seconds): number {
  let best = 0;
  for (const [i, t] of map.beats.entries()) if (Math.abs(t - time) < Math.abs(map.beats[best] - time)) best = i;
  return best;
}

/** Beats `from` to `to` (indices, both included) locked, or free again. */
export function withLocks(map: BeatMap, from: number, to: number, locked: boolean): BeatMap {
  const some = Array.from({ length: to - from + 1 }, (_, k) => from + k);
  return { ...map, locked: sorted(locked ? [...locks(map), ...some] : locks(map).filter((i) => i < from || i > to)) };
}

/**
 * Beat `index` at another time, and locked there. Its neighbours follow, ever less (half a cosine), up to the next locked beat or eight
 * beats away. It goes no further than the gaps allow.
 */
export function withBeatAt(map: BeatMap, index: number, time: Seconds): BeatMap {
  const { beats } = map;
  const last = beats.length - 1;
  const before = Math.max(locks(map).findLast((i) => i < index) ?? 0, index - REACH - 1, 0);
  const after = Math.min(locks(map).find((i) => i > index) ?? last, index + REACH + 1, last);
  const share = (i: number) => {
    const [far, fixed] = i < index ? [index - before, locks(map).includes(before)] : [after - index, locks(map).includes(after)];
    // At the end of the list nothing holds, unless it is locked: all beats up to it go along.
    const length = far + (fixed || (before > 0 && i < index) || (after < last && i > index) ? 0 : 1);
    return length === 0 ? 1 : 0.5 + 0.5 * Math.cos((Math.PI * Math.abs(i - index)) / length);
  };
  const moved = Array.from({ length: after - before + 1 }, (_, k) => before + k);
  const held = (i: number) => i !== index && locks(map).includes(i);
  const weight = (i: number) => (i < before || i > after || held(i) ? 0 : share(i));
  // How far a step of the drag changes each gap bounds how far the drag may go.
  const limits = moved.slice(1).map((i) => {
    const change = weight(i) - weight(i - 1);
    return { change, room: (1 - SQUEEZE) * (beats[i] - beats[i - 1]) };
  });
  const wanted = time - beats[index];
  const by = limits.reduce((d, { change, room }) => (change * d < -room ? (Math.sign(d) * room) / Math.abs(change) : d), wanted);
  return {
    ...map,
    beats: beats.map((t, i) => t + by * weight(i)),
    locked: sorted([...locks(map), index]),
  };
}

/** Locked beats are taken along; the others between two times are replaced. Bar 1 stays at its beat, or is counted on from what is before it. */
export function withStretch(map: BeatMap, times: readonly Seconds[], locked: boolean): BeatMap {
  const gap = median(times.slice(1).map((t, i) => t - times[i]));
  const before = map.beats.filter((t) => t < times[0] - gap / 2);
  const after = map.beats.filter((t) => t > times[times.length - 1] + gap / 2);
  const beats = [...before, ...times, ...after];
  const shift = beats.length - map.beats.length;
  const from = before.length;
  const to = from + times.length;
  const kept = locks(map).flatMap((i) => (i < from ? [i] : i >= map.beats.length - after.length ? [i + shift] : []));
  const bar1 = map.bar1 >= map.beats.length - after.length && map.bar1 > from ? map.bar1 + shift : map.bar1;
  return {
    ...map,
    beats,
    bar1,
    ...movedChanges(map, (i) => (i >= map.beats.length - after.length ? i + shift : i)),
    locked: sorted(locked ? [...kept, ...times.map((_, k) => from + k)] : kept.filter((i) => i < from || i >= to)),
  };
}

/**
 * Times of the beats that were tapped along in a stretch: taps are a finger's width off, so they are drawn to the strong strokes near
 * them and then towards an even beat; a missed tap is filled in. `strokes` are times of strokes with their strength; null for fewer than four taps.
 */
export function tappedBeats(taps: readonly Seconds[], strokes: readonly { time: Seconds; strength: number }[] = []): Seconds[] | null {
  const ordered = [...taps].sort((a, b) => a - b);
  if (ordered.length < 4) return null;
  const gap = median(ordered.slice(1).map((t, i) => t - ordered[i]));
  if (!(gap > 0.15 && gap < 3)) return null;
  const counted: { n: number; t: Seconds }[] = [];
  for (const t of ordered) {
    const previous = counted.at(-1);
    const n = previous ? previous.n + Math.round((t - previous.t) / gap) : 0;
    // A second tap on one beat does not count.
    if (!previous || n > previous.n) counted.push({ n, t });
  }
  const reach = Math.min(0.08, gap / 5);
  const drawn = counted.map(({ n, t }) => {
    const near = strokes.filter((s) => Math.abs(s.time - t) < reach).sort((a, b) => b.strength - a.strength)[0];
    return { n, t: near?.time ?? t };
  });
  // Each beat from its neighbours by a line through them: five to each side, so that the tempo may drift.
  return Array.from({ length: drawn[drawn.length - 1].n + 1 }, (_, n) => {
    const near = drawn.filter((d) => Math.abs(d.n - n) <= 5);
    const mn = near.reduce((sum, d) => sum + d.n, 0) / near.length;
    const mt = near.reduce((sum, d) => sum + d.t, 0) / near.length;
    const slope = near.reduce((sum, d) => sum + (d.n - mn) * (d.t - mt), 0) / near.reduce((sum, d) => sum + (d.n - mn) ** 2, 0);
    return mt + slope * (n - mn);
  });
}

/** Beats a minute at each beat, evened over the two beats to each side. */
export function tempoCurve(map: BeatMap): { time: Seconds; bpm: number }[] {
  const { beats } = map;
  return beats.map((time, i) => {
    const from = clamp(i - 2, 0, beats.length - 1);
    const to = clamp(i + 2, 0, beats.length - 1);
    return { time, bpm: (60 * (to - from)) / (beats[to] - beats[from]) };
  });
}

/** Twice as many beats: one more midway between each two. Bar 1 stays at its time. */
export function doubled(map: BeatMap): BeatMap {
  const beats: number[] = [];
  map.beats.forEach((t, i) => {
    beats.push(t);
    if (i + 1 < map.beats.length) beats.push((t + map.beats[i + 1]) / 2);
  });
  return { ...map, beats, bar1: map.bar1 * 2, locked: map.locked?.map((i) => 2 * i), ...movedChanges(map, (i) => 2 * i) };
}

/** Every second beat, keeping the one that is bar 1. Returns the map unchanged when fewer than 4 beats are left to halve. */
export function halved(map: BeatMap): BeatMap {
  if (map.beats.length < 4) return map;
  const phase = around(map.bar1, 2);
  const beats = map.beats.filter((_, i) => i % 2 === phase);
  const locked = map.locked?.filter((i) => i % 2 === phase).map((i) => (i - phase) / 2);
  return { ...map, beats, bar1: (map.bar1 - phase) / 2, locked, ...movedChanges(map, (i) => Math.round((i - phase) / 2)) };
}

/** All beats moved by `offset` seconds. */
export function nudged(map: BeatMap, offset: Seconds): BeatMap {
  return { ...map, beats: map.beats.map((t) => t + offset) };
}

/** The same beats with bar 1 on the beat nearest to `time`. */
export function withBar1At(map: BeatMap, time: Seconds): BeatMap {
  return withBar1(map, map.bar1 + Math.round(secondsToBeat(map, time)));
}
