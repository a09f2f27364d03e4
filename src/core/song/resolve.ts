import { type BeatMap, movedChanges } from '../time';
import { median, type Seconds } from '../units';
import { accents, trackBeats } from './beats';
import { type HeardOnsets, hopAt } from './onset';
import { faster, tempoPath } from './tempo-path';

/** Expected beat length at each hop: what is heard, brought to the tempo set by hand, which itself holds where beats are locked. */
function expected(map: BeatMap, onsets: HeardOnsets): Float32Array {
  const locked = map.locked ?? [];
  const pairs = locked
    .slice(1)
    .flatMap((i, k) => (i === locked[k] + 1 ? [{ at: map.beats[i - 1], gap: map.beats[i] - map.beats[i - 1] }] : []));
  const path = tempoPath(accents(onsets), onsets.rate);
  const wanted = pairs.length ? median(pairs.map((p) => p.gap)) : median(map.beats.slice(1).map((t, i) => t - map.beats[i]));
  // By octaves only: twice or half as fast is one press away from the other, thirds are not.
  const octaves = Math.round(Math.log2(median(path.period) / wanted));
  const { period } = faster(path, 2 ** octaves);
  const reach = 4 * onsets.rate;
  for (const { at, gap } of pairs)
    for (let i = Math.max(0, hopAt(onsets, at) - reach); i < Math.min(period.length, hopAt(onsets, at) + reach); i++) {
      const near = 1 - Math.abs(i - hopAt(onsets, at)) / reach;
      period[i] += near * (gap - period[i]);
    }
  return period;
}

/** The part of a curve between two instants, on its own time. */
function stretch(onsets: HeardOnsets, from: Seconds, to: Seconds): { onsets: HeardOnsets; first: number; last: number } {
  const first = Math.max(0, hopAt(onsets, from));
  const last = Math.min(onsets.all.length, hopAt(onsets, to) + 1);
  const [all, loud] = [onsets.all.slice(first, last), onsets.loud.slice(first, last)];
  return { onsets: { ...onsets, start: onsets.start + first / onsets.rate, all, loud }, first, last };
}

/**
 * The map solved again with what was locked by hand left where it is: each stretch between locked beats is tracked anew, at the tempo
 * the locked beats say, and begins and ends on them. Without locked beats the map comes back as it is. Bars go on from the first
 * locked beat.
 */
export function solveAgain(map: BeatMap, onsets: HeardOnsets, duration: Seconds): BeatMap {
  const locked = map.locked ?? [];
  if (!locked.length) return map;
  const period = expected(map, onsets);
  const track = (from: Seconds, to: Seconds) => {
    const part = stretch(onsets, from, to);
    return trackBeats(part.onsets, period.subarray(part.first, part.last));
  };
  const beats: Seconds[] = [];
  const kept: number[] = [];
  const first = map.beats[locked[0]];
  beats.push(...ending(track(0, first), first, period, onsets));
  for (const [k, i] of locked.entries()) {
    kept.push(beats.length);
    beats.push(map.beats[i]);
    const next = locked[k + 1];
    if (next !== undefined && next > i + 1)
      beats.push(...fitted(track(map.beats[i], map.beats[next]), map.beats[i], map.beats[next], period, onsets));
  }
  const last = map.beats[locked[locked.length - 1]];
  beats.push(
    ...ending(
      track(last, duration)
        .map((t) => -t)
        .reverse(),
      -last,
      period,
      onsets,
    )
      .map((t) => -t)
      .reverse(),
  );
  const by = kept[0] - locked[0];
  return { ...map, beats, bar1: map.bar1 + by, locked: kept, ...movedChanges(map, (i) => shifted(i, locked, kept)) };
}

const gapAt = (time: Seconds, period: Float32Array, onsets: HeardOnsets) =>
  period[Math.max(0, Math.min(period.length - 1, hopAt(onsets, Math.abs(time))))];

/** Tracked beats moved so that they lead up to `end`, which is a beat itself and is left out. */
function ending(found: readonly Seconds[], end: Seconds, period: Float32Array, onsets: HeardOnsets): Seconds[] {
  const gap = gapAt(end, period, onsets);
  const before = found.filter((t) => t < end - 0.5 * gap);
  if (!before.length) return [];
  // The nearest beat is drawn to where the gap is right, the others ever less.
  const off = end - gap - before[before.length - 1];
  const turns = Math.round(off / gap);
  const all = [...before, ...Array.from({ length: Math.max(0, turns) }, (_, k) => before[before.length - 1] + (k + 1) * gap)];
  const rest = end - gap - all[all.length - 1];
  return all.map((t, i) => t + rest * Math.max(0, 1 - (all.length - 1 - i) / 8));
}

/** Tracked beats between two that stand fast, so many of them and so moved that the gaps come out right at both ends. */
function fitted(found: readonly Seconds[], from: Seconds, to: Seconds, period: Float32Array, onsets: HeardOnsets): Seconds[] {
  const [a, b] = [gapAt(from, period, onsets), gapAt(to, period, onsets)];
  const inner = found.filter((t) => t > from + 0.5 * a && t < to - 0.5 * b);
  const mean = inner.length > 1 ? (inner[inner.length - 1] - inner[0]) / (inner.length - 1) : (a + b) / 2;
  const count = Math.max(1, Math.round((to - from) / mean)) - 1;
  if (inner.length !== count) return Array.from({ length: count }, (_, k) => from + ((k + 1) * (to - from)) / (count + 1));
  const [start, end] = [from + a - inner[0], to - b - inner[inner.length - 1]];
  // Far from the ends what was heard holds; near them it is drawn so that no gap is torn.
  return inner.map((t, i) => t + start * Math.max(0, 0.5 - i / 8) + end * Math.max(0, 0.5 - (inner.length - 1 - i) / 8));
}

/** Where a beat is now, by the locked beat before it, or the first. */
function shifted(index: number, locked: readonly number[], kept: readonly number[]): number {
  const k = Math.max(
    0,
    locked.findLastIndex((i) => i <= index),
  );
  return index + kept[k] - locked[k];
}
