import type { Seconds } from '../units';
import { AT_ONCE, type Band, bandSums } from './band-sums';

/** Samples a second of the strength curve; one value every 8 ms at 16 kHz. */
const ANALYSIS_RATE = 16000;
const HOP = 128;
const WINDOW = 512;
const BANDS = 40;
/** Coarse bands kept for hearing where the arrangement changes, and how many mel bands make one. */
export const TIMBRE = 8;
const A_BAND = BANDS / TIMBRE;

/** How strongly something begins at each instant; `low` is the part under about 150 Hz. */
export interface OnsetStrength {
  /** Values a second. */
  rate: number;
  /** Song time of value 0. */
  start: Seconds;
  all: Float32Array;
  low: Float32Array;
  /** The part between about 150 and 2500 Hz: drums and chords without cymbals. */
  mid: Float32Array;
  /** Rise of loudness as it is (square root of power), not by octaves: strokes stand out from what merely begins. */
  loud: Float32Array;
  /** Mean power of the sound in each hop, for drawing and for telling silence. */
  energy: Float32Array;
  /** Level in `TIMBRE` bands a hop, decibels. */
  timbre: Float32Array;
  /** How much all bands together rise where something begins, decibels. */
  rises: number;
}

/** The curves that beats are looked for in. */
export type HeardOnsets = Pick<OnsetStrength, 'rate' | 'start' | 'all' | 'low' | 'mid' | 'loud'>;

/** The hop at an instant of the song; outside the curves before their start and after their end. */
export const hopAt = (onsets: Pick<OnsetStrength, 'rate' | 'start'>, time: Seconds): number =>
  Math.round((time - onsets.start) * onsets.rate);

/** Brings sound of any rate to mono at the analysis rate as it is decoded: means over channels and samples (a box filter, enough for onsets). */
export class Downsampler {
  private readonly out: Float32Array[] = [];
  private readonly step: number;
  private count = 0;
  private taken = 0;
  private sum = 0;
  private summed = 0;

  constructor(sampleRate: number) {
    this.step = sampleRate / ANALYSIS_RATE;
  }

  /** The next stretch: one array a channel, all of one length. */
  push(channels: readonly Float32Array[]): void {
    const n = channels[0]?.length ?? 0;
    const part = new Float32Array(Math.ceil(n / this.step) + 1);
    let { sum, summed, taken, count } = this;
    let written = 0;
    let end = Math.floor((count + 1) * this.step);
    for (let i = 0; i < n; i++) {
      for (let c = 0; c < channels.length; c++) sum += channels[c][i];
      summed += channels.length;
      taken++;
      if (taken < end) continue;
      const mean = sum / summed;
      // Slower sound than the analysis rate gives the same value more than once.
      do {
        part[written++] = mean;
        end = Math.floor((++count + 1) * this.step);
      } while (taken >= end);
      [sum, summed] = [0, 0];
    }
    Object.assign(this, { sum, summed, taken, count });
    this.out.push(part.subarray(0, written));
  }

  read(): Float32Array {
    const whole = new Float32Array(this.count);
    let at = 0;
    for (const part of this.out) {
      whole.set(part, at);
      at += part.length;
    }
    return whole;
  }
}

/** Mono at the analysis rate of a whole sound. */
export function toAnalysisRate(channels: readonly Float32Array[], sampleRate: number): Float32Array {
  const down = new Downsampler(sampleRate);
  down.push(channels);
  return down.read();
}

/** Triangular mel bands over the bins of one window (Stevens, Volkmann & Newman 1937 scale, HTK form). */
function melBands(): Band[] {
  const mel = (f: number) => 2595 * Math.log10(1 + f / 700);
  const hz = (m: number) => 700 * (10 ** (m / 2595) - 1);
  const top = mel(ANALYSIS_RATE / 2);
  const bottom = mel(30);
  const edge = (i: number) => (hz(bottom + ((top - bottom) * i) / (BANDS + 1)) * WINDOW) / ANALYSIS_RATE;
  return Array.from({ length: BANDS }, (_, b) => {
    const [l, c, r] = [edge(b), edge(b + 1), edge(b + 2)];
    const first = Math.floor(l);
    const last = Math.min(WINDOW / 2, Math.max(Math.ceil(r), first + 2));
    const weights = Float64Array.from({ length: last - first + 1 }, (_, i) =>
      Math.max(0, Math.min((first + i - l) / Math.max(c - l, 1), (r - first - i) / Math.max(r - c, 1))),
    );
    return { first, weights };
  });
}

/** Subtracts the local mean (over half a second each way), keeps what is above it, scales to unit deviation; gives back what that was. */
function normalise(curve: Float32Array, rate: number): number {
  const reach = Math.round(rate / 2);
  const sums = new Float64Array(curve.length + 1);
  for (let i = 0; i < curve.length; i++) sums[i + 1] = sums[i] + curve[i];
  let square = 0;
  const source = curve.slice();
  for (let i = 0; i < curve.length; i++) {
    const a = Math.max(0, i - reach);
    const b = Math.min(curve.length, i + reach + 1);
    curve[i] = Math.max(0, source[i] - (sums[b] - sums[a]) / (b - a));
    square += curve[i] * curve[i];
  }
  const deviation = Math.sqrt(square / Math.max(1, curve.length)) || 1;
  for (let i = 0; i < curve.length; i++) curve[i] /= deviation;
  return deviation;
}

/**
 * Onset strength from log-mel flux: power in 40 mel bands in decibels, first difference, positive part,
 * summed over bands. Ellis 2007, "Beat Tracking by Dynamic Programming", section 2.
 * `samples` are mono at 16 kHz (see `toAnalysisRate`).
 */
export function onsetStrength(samples: Float32Array): OnsetStrength {
  const frames = Math.max(0, Math.floor((samples.length - WINDOW) / HOP) + 1);
  const hann = Float64Array.from({ length: WINDOW }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / WINDOW));
  const whole = { first: 0, weights: new Float64Array(WINDOW / 2 + 1).fill(1) };
  const sums = bandSums({ hann, size: WINDOW, given: 'power', bands: [...melBands(), whole] });
  let rows: readonly Float32Array[] = [];
  const previous = new Float64Array(BANDS);
  const out: OnsetStrength = {
    rate: ANALYSIS_RATE / HOP,
    // A log rise peaks while the stroke is still entering the window: 5 ms before it on synthetic strokes.
    start: WINDOW / 2 / ANALYSIS_RATE + 0.005,
    all: new Float32Array(frames),
    low: new Float32Array(frames),
    mid: new Float32Array(frames),
    loud: new Float32Array(frames),
    energy: new Float32Array(frames),
    timbre: new Float32Array(frames * TIMBRE),
    rises: 0,
  };
  for (let n = 0; n < frames; n++) {
    if (n % AT_ONCE === 0)
      rows = sums(
        samples,
        Array.from({ length: Math.min(AT_ONCE, frames - n) }, (_, w) => (n + w) * HOP),
      );
    const row = rows[n % AT_ONCE];
    const energy = row[BANDS];
    out.energy[n] = energy;
    let flux = 0;
    let low = 0;
    let mid = 0;
    for (let b = 0; b < BANDS; b++) {
      const db = 10 * Math.log10(row[b] + 1e-4);
      const rise = n === 0 ? 0 : Math.max(0, db - previous[b]);
      previous[b] = db;
      out.timbre[n * TIMBRE + Math.floor(b / A_BAND)] += db / A_BAND;
      flux += rise;
      if (b < 3) low += rise;
      else if (b < 24) mid += rise;
    }
    out.all[n] = flux;
    out.loud[n] = n === 0 ? 0 : Math.max(0, Math.sqrt(energy) - Math.sqrt(out.energy[n - 1]));
    out.low[n] = low;
    out.mid[n] = mid;
  }
  out.rises = normalise(out.all, out.rate);
  normalise(out.low, out.rate);
  normalise(out.mid, out.rate);
  normalise(out.loud, out.rate);
  return out;
}
