import type { Seconds } from '../units';
import { TwoSpectra } from './two-spectra';

/** Values a second of every curve. */
export const FLUX_RATE = 100;
/** Seconds of sound that a value is heard in. */
const WINDOW: Seconds = 2048 / 44100;
/** Between which frequencies each of the five curves hears, hertz: kick and bass, toms and chords low, chords, voice and snare, cymbals. */
const GROUPS = [
  [27, 110],
  [110, 320],
  [320, 1200],
  [1200, 4500],
  [4500, 16000],
] as const;
/** Values of flux to one of chroma. */
export const CHROMA_HOP = 5;

/** What begins in a sound by range of frequencies, 100 values a second from second 0 on. */
export interface BandFlux {
  length: number;
  /** One curve for each range: how much its bands rise, natural logarithm. */
  flux: readonly Float32Array[];
  /** Twelve pitch classes, 20 a second; logarithm of their magnitude. */
  chroma: readonly Float64Array[];
  /** Root mean square of each value's stretch. */
  level: Float32Array;
}

interface Band {
  group: number;
  first: number;
  weights: Float64Array;
}

/** Triangular bands a fifth of an octave apart, as shares that sum to one; none where the sound's rate has no bins for it. */
function bandsFor(sampleRate: number, size: number): Band[] {
  const bands: Band[] = [];
  for (let centre = 40; centre < 16000; centre *= 2 ** 0.2) {
    const [low, high] = [centre * 2 ** -0.2, centre * 2 ** 0.2];
    const bins: [number, number][] = [];
    for (let k = 1; k < size / 2; k++) {
      const f = (k * sampleRate) / size;
      if (f > low && f < high) bins.push([k, f < centre ? (f - low) / (centre - low) : (high - f) / (high - centre)]);
    }
    const nearest = Math.round((centre * size) / sampleRate);
    if (bins.length === 0 && nearest < size / 2) bins.push([nearest, 1]);
    const group = GROUPS.findIndex(([from, to]) => centre >= from && centre < to);
    if (bins.length === 0 || group < 0) continue;
    const sum = bins.reduce((all, [, w]) => all + w, 0);
    bands.push({ group, first: bins[0][0], weights: Float64Array.from(bins, ([, w]) => w / sum) });
  }
  return bands;
}

/**
 * Hears what begins in a sound of any rate, piece by piece as it is decoded: rise of each band's log magnitude over what it and its
 * neighbours were two hundredths of a second before (Böck & Widmer 2013, "Maximum filter vibrato suppression for onset detection"),
 * mean over the bands of each range.
 */
export class FluxMeter {
  private readonly size: number;
  private readonly hann: Float64Array;
  private readonly spectra: TwoSpectra;
  /** Spectra of two values, one after the other. */
  private readonly powers: readonly [Float64Array, Float64Array];
  private readonly bands: Band[];
  private readonly counts: number[];
  private readonly classOf: Int8Array;
  private readonly before: Float64Array[];
  private readonly flux: number[][] = GROUPS.map(() => []);
  private readonly chroma: Float64Array[] = [];
  private readonly level: number[] = [];
  /** Mono samples from `at` on that a window still needs. */
  private held = new Float32Array(0);
  private at: number;

  constructor(private readonly sampleRate: number) {
    const length = 2 * Math.round((WINDOW * sampleRate) / 2);
    this.size = 2 ** Math.ceil(Math.log2(length));
    this.hann = Float64Array.from({ length }, (_, i) => ((0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length)) * 2048) / length);
    this.spectra = new TwoSpectra(this.size);
    this.powers = [new Float64Array(this.size / 2), new Float64Array(this.size / 2)];
    this.bands = bandsFor(sampleRate, this.size);
    this.counts = GROUPS.map((_, g) => this.bands.filter((b) => b.group === g).length);
    this.classOf = Int8Array.from({ length: this.size / 2 }, (_, k) => {
      const f = (k * sampleRate) / this.size;
      return f > 110 && f < 2500 ? ((Math.round(12 * Math.log2(f / 440)) % 12) + 12) % 12 : -1;
    });
    this.before = [0, 1, 2].map(() => new Float64Array(this.bands.length));
    // The first window's middle is the sound's beginning.
    this.at = -length / 2;
    this.held = new Float32Array(length / 2);
  }

  /** The next stretch: one array a channel, all of one length. */
  push(channels: readonly Float32Array[]): void {
    const n = channels[0]?.length ?? 0;
    const all = new Float32Array(this.held.length + n);
    all.set(this.held);
    for (const channel of channels) for (let i = 0; i < n; i++) all[this.held.length + i] += channel[i] / channels.length;
    this.held = all;
    this.drain();
  }

  private drain(): void {
    const { length } = this.hann;
    for (;;) {
      const t = this.level.length;
      const from = Math.round((t * this.sampleRate) / FLUX_RATE) - length / 2 - this.at;
      if (from + length > this.held.length) {
        const done = Math.min(this.held.length, Math.max(0, from));
        this.held = this.held.slice(done);
        this.at += done;
        return;
      }
      this.take(t, this.held.subarray(from, from + length));
    }
  }

  /** Takes a value's window; two are heard together. */
  private take(t: number, samples: Float32Array): void {
    const { hann, spectra } = this;
    const { windows } = spectra;
    let power = 0;
    for (let i = 0, to = t % 2; i < hann.length; i++, to += 2) {
      windows[to] = samples[i] * hann[i];
      power += samples[i] * samples[i];
    }
    this.level.push(Math.sqrt(power / hann.length));
    if (t % 2 === 0) return;
    spectra.powers(...this.powers);
    this.hear(t - 1, this.powers[0]);
    this.hear(t, this.powers[1]);
  }

  private hear(t: number, magnitude: Float64Array): void {
    for (let k = 0; k < magnitude.length; k++) magnitude[k] = Math.sqrt(magnitude[k]);
    const now = this.before[t % 3];
    const old = this.before[(t + 1) % 3];
    const rises = GROUPS.map(() => 0);
    this.bands.forEach(({ group, first, weights }, b) => {
      let sum = 0;
      for (let j = 0; j < weights.length; j++) sum += magnitude[first + j] * weights[j];
      now[b] = Math.log1p(4 * sum);
      const most = Math.max(old[b], old[b - 1] ?? 0, old[b + 1] ?? 0);
      if (t > 1 && now[b] > most) rises[group] += (now[b] - most) / this.counts[group];
    });
    rises.forEach((rise, g) => {
      this.flux[g].push(rise);
    });
    if (t % CHROMA_HOP > 0) return;
    const chroma = new Float64Array(12);
    for (let k = 1; k < magnitude.length; k++) if (this.classOf[k] >= 0) chroma[this.classOf[k]] += magnitude[k];
    this.chroma.push(chroma.map(Math.log1p));
  }

  /** What was heard; the sound is over. */
  read(): BandFlux {
    this.push([new Float32Array(this.hann.length / 2)]);
    const { flux, chroma, level } = this;
    const { length } = level;
    // The last of an odd number is heard with silence, which is left out again.
    if (length % 2) this.take(length, new Float32Array(this.hann.length));
    const kept = (values: number[]) => Float32Array.from(values.slice(0, length));
    return { length, flux: flux.map(kept), chroma: chroma.slice(0, Math.ceil(length / CHROMA_HOP)), level: kept(level) };
  }
}
