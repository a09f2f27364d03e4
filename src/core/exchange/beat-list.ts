import Papa from 'papaparse';
import { type BeatMap, barAndBeat, beatsPerBarAt, beatToSeconds, secondsToBeat, withBarsFrom } from '../time';
import { clamp, median, type Seconds } from '../units';
import { say } from '../words';
import { toCsv } from './csv';
import { checkedMap, type MapRead, type NamedBeat } from './map-read';

/** Seconds of `12.345`, `1:02.345` or `1:02:03.4`, a comma for the point allowed; null for what is no time. */
function timeIn(text: string): Seconds | null {
  const match = /^(?:(\d+):)?(?:(\d+):)?(\d+(?:[.,]\d+)?)(?:\s*s)?$/.exec(text);
  if (!match) return null;
  const [, a, b, s] = match;
  const [hours, minutes] = b === undefined ? [0, Number(a ?? 0)] : [Number(a), Number(b)];
  return 3600 * hours + 60 * minutes + Number(s.replace(',', '.'));
}

interface Listed {
  time: Seconds;
  /** As counted aloud, from 1; null where the list does not say. */
  bar: number | null;
  beat: number | null;
  part: string;
}

/** The bars of a list that are counted through from one to the next: the index of their first beat, and how many they have. */
function wholeBars(listed: readonly Listed[]): { at: number; beats: number }[] {
  const ones = listed.flatMap(({ beat }, i) => (beat === 1 ? [i] : []));
  return ones.slice(0, -1).flatMap((at, k) => {
    const beats = ones[k + 1] - at;
    return beats <= 12 && listed.slice(at, at + beats).every(({ beat }, i) => beat === i + 1) ? [{ at, beats }] : [];
  });
}

/** The map with its bars as long as the list counts them. */
const counting = (map: BeatMap, bars: readonly { at: number; beats: number }[]): BeatMap =>
  bars.reduce((now, { at, beats }) => {
    const beat = at - now.bar1;
    return beat > 0 && beatsPerBarAt(now, beat) !== beats ? withBarsFrom(now, beat, beats) : now;
  }, map);

/** The columns of a list: by its header, or else a time, and then a beat of the bar or a bar and a beat. */
function columnsOf(header: readonly string[] | null): (cells: readonly string[]) => Omit<Listed, 'time'> & { at: string } {
  const whole = (text: string | undefined) => (text !== undefined && /^-?\d+$/.test(text) ? Number(text) : null);
  if (header) {
    const find = (pattern: RegExp) => header.findIndex((name) => pattern.test(name));
    const [time, bar, beat, part] = [find(/^(time|start|seconds|from)/), find(/^bar/), find(/^beat/), find(/^(part|section|name|label)/)];
    return (cells) => ({ at: cells[Math.max(0, time)] ?? '', bar: whole(cells[bar]), beat: whole(cells[beat]), part: cells[part] ?? '' });
  }
  return ([at = '', second, third]) => {
    const [pair, bar, beat] = /^(-?\d+)[.:|](\d+)$/.exec(second ?? '') ?? [];
    if (pair && third === undefined && !/^\d+[.,]\d{2,}$/.test(second)) return { at, bar: Number(bar), beat: Number(beat), part: '' };
    return third === undefined
      ? { at, bar: null, beat: whole(second), part: '' }
      : { at, bar: whole(second), beat: whole(third), part: '' };
  };
}

/** What parts the cells of a line without a header: a comma only where the point is there for decimals. */
const markOf = (line: string) => /[\t;]/.exec(line)?.[0] ?? (line.includes(',') && line.includes('.') ? ',' : ' ');

/** The cells of one line; quoted ones may hold the mark (RFC 4180). */
function cellsOf(line: string, mark: string): string[] {
  const text = mark === ' ' ? line.replace(/\s+/g, ' ') : line;
  return (Papa.parse<string[]>(text, { delimiter: mark }).data[0] ?? []).map((cell) => cell.trim());
}

/**
 * Reads beats from a text: one time a line, in seconds or minutes and seconds, and beside it, where it is known, the beat of the bar,
 * or the bar and the beat; cells parted by commas, semicolons, tabs or spaces; a header and lines that begin with # are allowed. The file
 * written by `beatListCsv` comes back as it was. Where the list says nothing of bars, bar 1 is its first beat and bars have four.
 */
export function mapOfList(text: string): MapRead {
  const lines = text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .map((line, i) => ({ number: i + 1, line: line.trim() }))
    .filter(({ line }) => line && !line.startsWith('#'));
  const header = lines[0] && timeIn(lines[0].line.split(/[\s,;\t]/)[0].replace(/"/g, '')) === null ? lines[0].line : null;
  const mark = header ? (/[\t;]/.exec(header)?.[0] ?? ',') : null;
  const pick = columnsOf(header && mark ? cellsOf(header.toLowerCase(), mark) : null);
  const listed: Listed[] = [];
  for (const { number, line } of lines.slice(header ? 1 : 0)) {
    const { at, ...rest } = pick(cellsOf(line, mark ?? markOf(line)));
    const time = timeIn(at);
    if (time === null)
      return { ok: false, reason: say`Line ${number} (“${line.slice(0, 40)}”) does not begin with a time. Your beat map is as it was.` };
    listed.push({ time, ...rest });
  }
  if (listed.length < 2) return { ok: false, reason: say`There are no two times in this list. Your beat map is as it was.` };
  const beats = listed.map((l) => l.time);
  const counted = listed.map((l) => l.beat).filter((b) => b !== null);
  const bars = wholeBars(listed);
  const most = counted.reduce((most, b) => Math.max(most, b), 2);
  const beatsPerBar = counted.length ? clamp(bars[0]?.beats ?? most, 2, 12) : 4;
  const known = listed.findIndex((l) => l.bar !== null && l.beat !== null);
  const one = listed.findIndex((l) => l.beat === 1);
  const bar1 =
    known >= 0 ? known - ((listed[known].bar as number) - 1) * beatsPerBar - ((listed[known].beat as number) - 1) : Math.max(0, one);
  const parts = listed.flatMap((l, i) => (l.part && l.part !== listed[i - 1]?.part ? [{ beat: i - bar1, name: l.part }] : []));
  const notes = counted.length ? [] : [say`The list says nothing of bars: bar 1 is its first beat, and four beats make a bar.`];
  const gaps = beats.slice(1).map((t, i) => t - beats[i]);
  const missing = gaps.filter((gap) => gap > 1.6 * median(gaps)).length;
  if (missing)
    notes.push(say`${missing === 1 ? say`One gap is` : say`${missing} gaps are`} longer than the others: beats may be missing there.`);
  return checkedMap(counting({ beats, bar1, beatsPerBar }, bars), parts, notes);
}

/** Name of the part a beat lies in; empty before the first. */
const partAt = (parts: readonly NamedBeat[], beat: number) => parts.findLast((p) => p.beat <= beat + 1e-6)?.name ?? '';

/** The beats of a map as comma-separated values: time, bar, beat, tempo until the next beat, part. */
export function beatListCsv(map: BeatMap, parts: readonly NamedBeat[] = []): string {
  const ordered = parts.toSorted((a, b) => a.beat - b.beat);
  return toCsv([
    ['time_s', 'bar', 'beat', 'tempo_bpm', 'part'],
    ...map.beats.map((time, i) => {
      const { bar, beat } = barAndBeat(map, i - map.bar1);
      const length = i + 1 < map.beats.length ? map.beats[i + 1] - time : time - map.beats[i - 1];
      return [time.toFixed(6), bar, Math.round(beat), (60 / length).toFixed(3), partAt(ordered, i - map.bar1)];
    }),
  ]);
}

/** `hh:mm:ss.ttt`, as WebVTT wants it. */
function vttTime(time: Seconds): string {
  const ms = Math.round(Math.max(0, time) * 1000);
  const two = (v: number) => String(Math.floor(v)).padStart(2, '0');
  return `${two(ms / 3_600_000)}:${two((ms / 60_000) % 60)}:${two((ms / 1000) % 60)}.${String(ms % 1000).padStart(3, '0')}`;
}

/**
 * The parts of a song as WebVTT chapters (W3C WebVTT, section 1.3 "chapter cues"): one cue from each part to the next, the last to
 * `duration` seconds; what comes before the first named part is "Lead-in". Parts that begin after the sound has ended are left out.
 */
export function chaptersVtt(map: BeatMap, parts: readonly NamedBeat[], duration: Seconds): string {
  const starts = parts
    .map((p) => ({ name: p.name, at: Math.max(0, beatToSeconds(map, p.beat)) }))
    .filter((p) => p.at < duration)
    .sort((a, b) => a.at - b.at);
  if (!starts.length || starts[0].at > 0.0005) starts.unshift({ name: starts.length ? 'Lead-in' : 'Song', at: 0 });
  const escaped = (name: string) =>
    name.replace(/\s+/g, ' ').replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').trim() || '–';
  const cues = starts.map(({ name, at }, i) => {
    const beat = Math.floor(secondsToBeat(map, at) + 1e-6);
    const { bar } = barAndBeat(map, beat);
    return `bar ${bar}\n${vttTime(at)} --> ${vttTime(starts[i + 1]?.at ?? duration)}\n${escaped(name)}`;
  });
  return `WEBVTT\n\n${cues.join('\n\n')}\n`;
}
