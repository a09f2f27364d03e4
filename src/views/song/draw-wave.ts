import { columnsOf, PEAK_SAMPLES, type Peaks } from '@/core/song';
import { type BeatMap, barAndBeat, beatsPerBarAt, secondsToBeat } from '@/core/time';
import type { HeardSong } from '@/media/song';
import type { Sound } from '@/media/sound';

/** A stretch of the song on a picture so many pixels wide. */
export interface View {
  from: number;
  to: number;
  width: number;
  height: number;
}

/** Decoded samples of a stretch, for looking closer than the kept extremes allow. */
export interface Close {
  from: number;
  sound: Sound;
}

/** Whether a view is so close that single samples are wanted. */
export const wantsSamples = (peaks: Peaks, { from, to, width }: View) => ((to - from) * peaks.sampleRate) / width < 2 * PEAK_SAMPLES;

export interface Inks {
  ink: string;
  faint: string;
  mark: string;
  warn: string;
}

const xOf = (view: View, time: number) => ((time - view.from) / (view.to - view.from)) * view.width;

/** Seconds around the view whose loudest sample sets how tall the waveform is drawn, and the most it is enlarged. */
const AROUND = 4;
const TALLEST = 40;

/** How much the waveform is enlarged, so that quiet music shows its strokes as well. */
export function enlargement(peaks: Peaks, { from, to }: View): number {
  const { low, high } = columnsOf(peaks, from - AROUND, to + AROUND, 1);
  return Math.min(TALLEST, 0.97 / Math.max(1e-6, high[0], -low[0]));
}

/** The waveform as columns of extremes, or as the line through its samples with a bead on each. */
function drawWave(c: CanvasRenderingContext2D, view: View, peaks: Peaks, close: Close | null, { ink }: Inks): void {
  const { height, width } = view;
  const [middle, half] = [height * 0.56, height * 0.4 * enlargement(peaks, view)];
  c.fillStyle = ink;
  c.strokeStyle = ink;
  c.globalAlpha = 0.55;
  const perPixel = ((view.to - view.from) * peaks.sampleRate) / width;
  const { sound } = close ?? {};
  const inside =
    close &&
    sound &&
    close.from <= view.from + 1e-3 &&
    close.from + sound.channels[0].length / sound.sampleRate >= Math.min(view.to, close.from + 1e9) - 0.05;
  if (sound && inside && perPixel < 2 * PEAK_SAMPLES) {
    const samples = sound.channels[0];
    const first = Math.max(0, Math.floor((view.from - close.from) * sound.sampleRate));
    const last = Math.min(samples.length - 1, Math.ceil((view.to - close.from) * sound.sampleRate));
    const y = (v: number) => middle - v * half;
    if (perPixel > 1) {
      for (let x = 0; x < width; x++) {
        const a = first + Math.floor(x * perPixel);
        let [low, high] = [0, 0];
        for (let i = a; i < Math.min(last, a + Math.ceil(perPixel)); i++) {
          low = Math.min(low, samples[i]);
          high = Math.max(high, samples[i]);
        }
        c.fillRect(x, y(high), 1, Math.max(1, (high - low) * half));
      }
      return;
    }
    c.globalAlpha = 0.8;
    c.beginPath();
    for (let i = first; i <= last; i++) c.lineTo(xOf(view, close.from + i / sound.sampleRate), y(samples[i]));
    c.stroke();
    if (perPixel < 0.25) for (let i = first; i <= last; i++) disc(c, xOf(view, close.from + i / sound.sampleRate), y(samples[i]), 2.5);
    return;
  }
  const { low, high } = columnsOf(peaks, view.from, view.to, Math.ceil(width));
  for (let x = 0; x < low.length; x++) c.fillRect(x, middle - high[x] * half, 1, Math.max(1, (high[x] - low[x]) * half));
}

/** Hits as wedges that point down at what they stand for, taller the stronger; stops and drops in the colour of marks. */
function drawHits(c: CanvasRenderingContext2D, view: View, { hits }: HeardSong, { ink, mark }: Inks): void {
  const fine = (view.to - view.from) / view.width < 0.02;
  for (const { time, kind, strength } of hits) {
    if (time < view.from || time > view.to || (kind === 'stroke' && !fine && strength < 0.7)) continue;
    const x = xOf(view, time);
    const tall = 4 + 12 * strength;
    c.globalAlpha = kind === 'stroke' ? 0.3 + 0.5 * strength : 1;
    c.fillStyle = kind === 'stroke' ? ink : mark;
    c.beginPath();
    // A stop opens to the left, where the sound was; a drop to the right, where it goes on; a stroke stands on its point.
    const [left, right] = kind === 'stop' ? [tall, 0] : kind === 'drop' ? [0, tall] : [tall / 2.6, tall / 2.6];
    c.moveTo(x - left, 0);
    c.lineTo(x + right, 0);
    c.lineTo(x, tall);
    c.fill();
  }
}

/** Beats as stems, downbeats taller with their bar's number; a pin on those set by hand. What would lie too close is left out. */
function drawBeats(c: CanvasRenderingContext2D, view: View, map: BeatMap, { ink, faint }: Inks): void {
  const gap = (view.width * (map.beats[1] - map.beats[0])) / (view.to - view.from);
  const bar = gap * beatsPerBarAt(map, secondsToBeat(map, view.from));
  const every = bar > 34 ? 1 : bar > 9 ? 4 : bar > 4 ? 8 : 16;
  c.font = '600 12px "Recursive Variable", sans-serif';
  c.strokeStyle = ink;
  for (const [i, time] of map.beats.entries()) {
    if (time < view.from || time > view.to) continue;
    const { bar: number, beat } = barAndBeat(map, i - map.bar1);
    const one = beat < 1.5;
    const counted = (number - 1) % every === 0;
    const room = one ? bar >= 4 || counted : gap >= 5;
    if (!room) continue;
    const x = Math.round(xOf(view, time)) + 0.5;
    const top = view.height * (one ? 0.16 : 0.5);
    c.globalAlpha = one ? 0.85 : 0.45;
    c.lineWidth = one ? 1.6 : 1;
    c.beginPath();
    c.moveTo(x, view.height);
    c.lineTo(x, top);
    c.stroke();
    c.globalAlpha = 1;
    c.fillStyle = faint;
    if (one && counted) c.fillText(String(number), x + 4, top + 9);
    c.fillStyle = ink;
    if (map.locked?.includes(i) && gap > 3) disc(c, x, top, 4);
  }
}

function disc(c: CanvasRenderingContext2D, x: number, y: number, radius: number): void {
  c.beginPath();
  c.arc(x, y, radius, 0, 7);
  c.fill();
}

/** Stretches in which the beats are not sure are hatched. */
function drawUnsure(c: CanvasRenderingContext2D, view: View, stretches: readonly [number, number][], { warn }: Inks): void {
  c.strokeStyle = warn;
  c.lineWidth = 1;
  c.globalAlpha = 0.35;
  for (const [from, to] of stretches) {
    const [a, b] = [Math.max(0, xOf(view, from)), Math.min(view.width, xOf(view, to))];
    for (let x = a; x < b; x += 7) {
      c.beginPath();
      c.moveTo(x, view.height);
      c.lineTo(x + 12, view.height - 12);
      c.stroke();
    }
  }
}

export function drawLoupe(
  c: CanvasRenderingContext2D,
  view: View,
  {
    heard,
    map,
    close,
    unsure,
    inks,
  }: { heard: HeardSong; map: BeatMap | null; close: Close | null; unsure: readonly [number, number][]; inks: Inks },
): void {
  c.clearRect(0, 0, view.width, view.height);
  drawWave(c, view, heard.peaks, close, inks);
  drawUnsure(c, view, unsure, inks);
  if (map) drawBeats(c, view, map, inks);
  drawHits(c, view, heard, inks);
  c.globalAlpha = 1;
}
