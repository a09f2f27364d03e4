import type { Beats } from '../units';
import { say } from '../words';
import type { BeatMap } from './beatmap';

/** Bars of one length, from a beat on. Whole numbers; beat 0 and bar 1 are the song's first bar line. */
interface Stretch {
  beat: Beats;
  bar: number;
  beatsPerBar: number;
}

/**
 * The bars of a map, stretch by stretch. A change that does not come on a bar line cuts the bar before it short. Changes at or before
 * bar 1 do not count: bars before it are as long as its own.
 */
function stretchesOf(map: BeatMap): Stretch[] {
  const out: Stretch[] = [{ beat: 0, bar: 1, beatsPerBar: map.beatsPerBar }];
  for (const { at, beatsPerBar } of map.changes ?? []) {
    const last = out[out.length - 1];
    const beat = at - map.bar1;
    if (beat <= last.beat) continue;
    out.push({ beat, bar: last.bar + Math.ceil((beat - last.beat) / last.beatsPerBar), beatsPerBar });
  }
  return out;
}

const EARLY = 1e-9;
const stretchAt = (map: BeatMap, beat: Beats): Stretch => {
  const all = stretchesOf(map);
  return all.findLast((s) => s.beat <= beat + EARLY) ?? all[0];
};

/** Bar and beat as counted aloud: both from 1, the beat with its fraction. Bars before bar 1 are 0, -1, ... */
export function barAndBeat(map: BeatMap, beat: Beats): { bar: number; beat: number } {
  const { beat: from, bar: first, beatsPerBar } = stretchAt(map, beat);
  const bars = Math.floor((beat - from) / beatsPerBar + EARLY);
  return { bar: first + bars, beat: beat - from - bars * beatsPerBar + 1 };
}

/** A bar as it is spoken of: what comes before bar 1 is the pick-up. */
export const barName = (bar: number): string => (bar === 0 ? 'pick-up' : say`bar ${bar}`);

/** The beat a bar begins on (bar 1 is beat 0); of `2.5` the middle of bar 2. */
export function barToBeat(map: BeatMap, bar: number): Beats {
  const whole = Math.floor(bar);
  const all = stretchesOf(map);
  const { beat, bar: first, beatsPerBar } = all.findLast((s) => s.bar <= whole) ?? all[0];
  const begins = beat + (whole - first) * beatsPerBar;
  return bar === whole ? begins : begins + (bar - whole) * beatsInBar(map, whole);
}

/** How many beats a bar has. */
export function beatsInBar(map: BeatMap, bar: number): number {
  const all = stretchesOf(map);
  const k = Math.max(
    0,
    all.findLastIndex((s) => s.bar <= bar),
  );
  const { beat, bar: first, beatsPerBar } = all[k];
  const end = all[k + 1]?.beat ?? Number.POSITIVE_INFINITY;
  return Math.min(beatsPerBar, end - beat - (bar - first) * beatsPerBar);
}

/** How many beats the bar has in which a beat lies. */
export const beatsPerBarAt = (map: BeatMap, beat: Beats): number => beatsInBar(map, barAndBeat(map, beat).bar);

/** Whether a whole beat opens a bar. */
export const isDownbeat = (map: BeatMap, beat: Beats): boolean => barAndBeat(map, beat).beat < 1.5;

/** The first beat of the bar in which a beat lies. */
export const barStart = (map: BeatMap, beat: Beats): Beats => barToBeat(map, barAndBeat(map, beat).bar);

/** The bar line nearest to a beat. */
export function nearestBarLine(map: BeatMap, beat: Beats): Beats {
  const from = barStart(map, beat);
  const to = from + beatsPerBarAt(map, beat);
  return beat - from < to - beat ? from : to;
}

/** Where the number of beats in a bar changes: the beat, the bar that begins there, and how many there are from there on. */
export const barChanges = (map: BeatMap): Stretch[] => stretchesOf(map).slice(1);

/** Bars of `beatsPerBar` from a whole beat on, up to the next change; at bar 1 or before it, from there. What changes nothing is not kept. */
export function withBarsFrom(map: BeatMap, beat: Beats, beatsPerBar: number): BeatMap {
  if (beat <= 0) return cleaned({ ...map, beatsPerBar: Math.max(2, beatsPerBar) });
  const at = Math.round(beat) + map.bar1;
  const others = (map.changes ?? []).filter((c) => c.at !== at);
  return cleaned({ ...map, changes: [...others, { at, beatsPerBar }].sort((a, b) => a.at - b.at) });
}

/** The same beats with a bar line on a beat: bars before the last change stay, those after it (or all, where none is before) move along. */
export function withBarLineAt(map: BeatMap, beat: Beats): BeatMap {
  const from = stretchAt(map, beat).beat;
  const by = Math.round(barAndBeat(map, beat).beat) - 1;
  if (from === 0) return cleaned({ ...map, bar1: map.bar1 + by });
  return cleaned({ ...map, changes: map.changes?.map((c) => (c.at - map.bar1 === from ? { ...c, at: c.at + by } : c)) });
}

/** All bar lines a beat later, changes with them. */
export const withBarsLater = (map: BeatMap): BeatMap => ({ ...map, bar1: map.bar1 + 1, ...movedChanges(map, (i) => i + 1) });

/** The map with bar 1 on another beat (an index of its list); bars from there on are as long as they were. */
export function withBar1(map: BeatMap, index: number): BeatMap {
  const { beatsPerBar } = stretchAt(map, index - map.bar1);
  return cleaned({ ...map, bar1: index, beatsPerBar });
}

/** Without changes that lie before bar 1, or that change nothing. */
function cleaned(map: BeatMap): BeatMap {
  const changes = (map.changes ?? []).filter(({ at, beatsPerBar }, i, all) => {
    const before = all[i - 1];
    const [from, long] = before && before.at > map.bar1 ? [before.at, before.beatsPerBar] : [map.bar1, map.beatsPerBar];
    return at > map.bar1 && (beatsPerBar !== long || (at - from) % long !== 0);
  });
  const { changes: _, ...rest } = map;
  return changes.length > 0 ? { ...rest, changes } : rest;
}

/**
 * The changes of a map whose beats were listed anew: `again` gives the index a beat has now, or null where it is gone. Of two that come to
 * lie on one beat the later counts.
 */
export function movedChanges(map: BeatMap, again: (index: number) => number | null): Pick<BeatMap, 'changes'> {
  if (!map.changes) return {};
  const moved = map.changes.flatMap((c) => {
    const at = again(c.at);
    return at === null ? [] : [{ ...c, at }];
  });
  return { changes: moved.filter(({ at }, i) => moved[i + 1]?.at !== at) };
}

/** Reads like `4 in a bar`, or `4 in a bar, 3 from bar 9`. */
export const inBars = (map: BeatMap): string =>
  [say`${map.beatsPerBar} in a bar`, ...barChanges(map).map(({ bar, beatsPerBar }) => say`${beatsPerBar} from bar ${bar}`)].join(', ');
