import { describe, expect, it } from 'vitest';
import type { Peaks } from '@/core/song';
import { PEAK_SAMPLES } from '@/core/song';
import { constantBeatMap, withBarsFrom } from '@/core/time';
import type { HeardSong } from '@/media/song';
import { drawLoupe, enlargement, wantsSamples } from './draw-wave';

const INKS = { ink: 'ink', faint: 'faint', mark: 'mark', warn: 'warn' };
const RATE = 48_000;

/** A canvas that notes what is drawn on it. */
function paper() {
  const done: { what: string; at: number[]; style: string; alpha: number }[] = [];
  const texts: [string, number][] = [];
  const state = { fillStyle: '', strokeStyle: '', globalAlpha: 1, lineWidth: 1, font: '' };
  const note =
    (what: string) =>
    (...at: number[]) =>
      done.push({ what, at, style: what === 'fillRect' ? state.fillStyle : state.strokeStyle, alpha: state.globalAlpha });
  const context = Object.assign(state, {
    ...Object.fromEntries(
      ['clearRect', 'fillRect', 'beginPath', 'moveTo', 'lineTo', 'stroke', 'fill', 'arc'].map((what) => [what, note(what)]),
    ),
    fillText: (text: string, x: number) => texts.push([text, x]),
  }) as unknown as CanvasRenderingContext2D;
  return { context, done, texts };
}

/** A song of so many seconds, as loud as said at each of its pieces. */
function peaksOf(seconds: number, loud: (t: number) => number): Peaks {
  const n = Math.ceil((seconds * RATE) / PEAK_SAMPLES);
  const high = Int16Array.from({ length: n }, (_, i) => Math.round(32767 * loud((i * PEAK_SAMPLES) / RATE)));
  return { sampleRate: RATE, low: high.map((v) => -v), high };
}
const heard = (hits: HeardSong['hits'], loud: (t: number) => number = () => 0.5) => ({ hits, peaks: peaksOf(20, loud) }) as HeardSong;
const view = (from: number, to: number) => ({ from, to, width: 1000, height: 100 });
const drawn = (v: ReturnType<typeof view>, song: HeardSong, map = constantBeatMap(120, 0, 41), unsure: [number, number][] = []) => {
  const sheet = paper();
  drawLoupe(sheet.context, v, { heard: song, map, close: null, unsure, inks: INKS });
  return sheet;
};

describe('the song looked at closely', () => {
  it('quiet music is enlarged until its loudest sample near fills the height, forty times at most', () => {
    expect(
      enlargement(
        peaksOf(20, () => 0.5),
        view(5, 8),
      ),
    ).toBeCloseTo(0.97 / 0.5, 1);
    expect(
      enlargement(
        peaksOf(20, () => 0.008),
        view(5, 8),
      ),
    ).toBe(40);
    // What is loud within four seconds counts, so that the height does not jump.
    expect(
      enlargement(
        peaksOf(20, (t) => (t > 10 ? 1 : 0.1)),
        view(5, 8),
      ),
    ).toBeLessThan(1);
    expect(
      enlargement(
        peaksOf(20, (t) => (t > 14 ? 1 : 0.1)),
        view(5, 8),
      ),
    ).toBeGreaterThan(8);
  });

  it('single samples are wanted only where two pieces of the overview are a pixel or more', () => {
    const peaks = peaksOf(20, () => 0.5);
    const seconds = (2 * PEAK_SAMPLES * 1000) / RATE;
    expect(wantsSamples(peaks, view(0, 0.9 * seconds))).toBe(true);
    expect(wantsSamples(peaks, view(0, 1.1 * seconds))).toBe(false);
  });

  it('beats stand on their seconds, bar lines taller and numbered, also where the bars change', () => {
    const map = withBarsFrom(constantBeatMap(120, 0, 41), 8, 3);
    const { done, texts } = drawn(view(0, 10), heard([]), map);
    const stems = done.filter((d, i) => d.what === 'moveTo' && d.at[1] === 100 && done[i + 1].what === 'lineTo').map((d) => d.at[0]);
    expect(stems).toEqual(Array.from({ length: 21 }, (_, k) => Math.round((k * 1000) / 20) + 0.5));
    const tall = done
      .filter((d, i) => d.what === 'lineTo' && done[i - 1]?.what === 'moveTo' && d.at[1] === 16)
      .map((d) => Math.round((d.at[0] - 0.5) / 50));
    expect(tall).toEqual([0, 4, 8, 11, 14, 17, 20]);
    expect(texts.map(([text]) => text)).toEqual(['1', '2', '3', '4', '5', '6', '7']);
  });

  it('from far away only every fourth bar is numbered and the beats between are left out', () => {
    const { texts, done } = drawn(view(0, 100), heard([]), constantBeatMap(120, 0, 200));
    expect(texts.map(([text]) => text)).toEqual(['1', '5', '9', '13', '17', '21', '25', '29', '33', '37', '41', '45', '49']);
    const stems = done.filter((d) => d.what === 'moveTo' && d.at[1] === 100);
    expect(stems).toHaveLength(200);
    expect(
      drawn(view(0, 160), heard([]), constantBeatMap(120, 0, 320)).done.filter((d) => d.what === 'moveTo' && d.at[1] === 100),
    ).toHaveLength(80);
  });

  it('hits point at their second; weak strokes only from near', () => {
    const hits: HeardSong['hits'] = [
      { time: 2, kind: 'stroke', strength: 0.3 },
      { time: 4, kind: 'stroke', strength: 0.9 },
      { time: 6, kind: 'drop', strength: 0.5 },
      { time: 30, kind: 'stop', strength: 1 },
    ];
    const points = (v: ReturnType<typeof view>) =>
      drawn(v, heard(hits), constantBeatMap(120, 100, 4))
        .done.filter((d, i, all) => d.what === 'lineTo' && all[i + 1]?.what === 'fill')
        .map((d) => (d.at[0] / 1000) * (v.to - v.from) + v.from);
    expect(points(view(0, 50)).map(Math.round)).toEqual([4, 6, 30]);
    expect(points(view(0, 10)).map(Math.round)).toEqual([2, 4, 6]);
  });

  it('what is not sure is hatched from its beginning to its end', () => {
    const { done } = drawn(view(0, 10), heard([]), constantBeatMap(120, 100, 4), [[2, 4]]);
    const hatches = done.filter((d) => d.what === 'moveTo' && d.style === 'warn').map((d) => d.at[0]);
    expect([hatches[0], hatches.length]).toEqual([200, Math.ceil(200 / 7)]);
  });
});
