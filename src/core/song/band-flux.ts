import { around, type Seconds } from '../units';
import { AT_ONCE, type Band, type BandSums, bandSums } from './band-sums';

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

interface GroupedBand extends Band {
  group: number;
}

/** Triangular bands a fifth of an octave apart, as shares that sum to one; none where the sound's rate has no bins for it. */
function bandsFor(sampleRate: number, size: number): GroupedBand[] {
  const bands: GroupedBand[] = [];
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

/** The twelve pitch classes between 110 and 2500 Hz. */
function chromaBands(sampleRate: number, size: number): Band[] {
  const classes: number[][] = Array.from({ length: 12 }, () => []);
  for (let k = 1; k < size / 2; k++) {
    const f = (k * sampleRate) / size;
    if (f > 110 && f < 2500) classes[around(Math.round(12 * Math.log2(f / 440)), 12)].push(k);
  }
  return classes.map((bins) => {
    const first = bins[0] ?? 0;
    const weights = new Float64Array(bins.length ? bins[bins.length - 1] - first + 1 : 0);
    for (const k of bins) weights[k - first] = 1;
    return { first, weights };
  });
}

function addTo(sum: Float32Array, samples: Float32Array, share: number): void {
  for (let i = 0; i < sum.length; i++) sum[i] += samples[i] * share;
}

/**
 * Hears what begins in a sound of any rate, piece by piece as it is decoded: rise of each band's log magnitude over what it and its
 * neighbours were two hundredths of a second before (Böck & Widmer 2013, "Maximum filter vibrato suppression for onset detection"),
 * mean over the bands of each range.
 */
export class FluxMeter {
  /** Samples of a window. */
  private readonly length: number;
  private readonly sums: BandSums;
  private readonly bands: GroupedBand[];
  private readonly counts: number[];
  private readonly before: Float64Array[];
  private readonly flux: number[][] = GROUPS.map(() => []);
  private readonly chroma: Float64Array[] = [];
  private readonly level: number[] = [];
  /** Mono samples from `at` on that a window still needs. */
  private held = new Float32Array(0);
  private at: number;

  constructor(private readonly sampleRate: number) {
    const length = 2 * Math.round((WINDOW * sampleRate) / 2);
    this.length = length;
    const size = 2 ** Math.ceil(Math.log2(length));
    const hann = Float64Array.from({ length }, (_, i) => ((0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length)) * 2048) / length);
    this.bands = bandsFor(sampleRate, size);
    this.sums = bandSums({ hann, size, given: 'magnitude', bands: [...this.bands, ...chromaBands(sampleRate, size)] });
    this.counts = GROUPS.map((_, g) => this.bands.filter((b) => b.group === g).length);
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
    const fresh = all.subarray(this.held.length);
    for (const channel of channels) addTo(fresh, channel, 1 / channels.length);
    this.held = all;
    this.drain(AT_ONCE);
  }

  /** Hears the values whose windows have come, as long as there are `least` of them. */
  private drain(least: number): void {
    const { length } = this;
    const startOf = (t: number) => Math.round((t * this.sampleRate) / FLUX_RATE) - length / 2 - this.at;
    for (;;) {
      const t = this.level.length;
      const starts: number[] = [];
      while (starts.length < AT_ONCE && startOf(t + starts.length) + length <= this.held.length) starts.push(startOf(t + starts.length));
      if (starts.length < least) break;
      this.sums(this.held, starts).forEach((row, w) => {
        this.hear(t + w, row);
      });
    }
    const done = Math.min(this.held.length, Math.max(0, startOf(this.level.length)));
    this.held = this.held.slice(done);
    this.at += done;
  }

  private hear(t: number, row: Float32Array): void {
    const count = this.bands.length;
    const now = this.before[t % 3];
    const old = this.before[(t + 1) % 3];
    const rises = GROUPS.map(() => 0);
    this.bands.forEach(({ group }, b) => {
      now[b] = Math.log1p(4 * row[b]);
      const most = Math.max(old[b], b > 0 ? old[b - 1] : 0, b + 1 < count ? old[b + 1] : 0);
      if (t > 1 && now[b] > most) rises[group] += (now[b] - most) / this.counts[group];
    });
    rises.forEach((rise, g) => {
      this.flux[g].push(rise);
    });
    this.level.push(Math.sqrt(row[row.length - 1]));
    if (t % CHROMA_HOP === 0) this.chroma.push(Float64Array.from(row.subarray(count, count + 12), Math.log1p));
  }

  /** What was heard; the sound is over. */
  read(): BandFlux {
    this.push([new Float32Array(this.length / 2)]);
    this.drain(1);
    const { flux, chroma, level } = this;
    return { length: level.length, flux: flux.map((values) => Float32Array.from(values)), chroma, level: Float32Array.from(level) };
  }
}
