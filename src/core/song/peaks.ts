import type { Seconds } from '../units';

/** Samples that make one pair of extremes. */
export const PEAK_SAMPLES = 256;

/** The waveform in little: lowest and highest sample (of all channels) of each 256 samples, times 32767. */
export interface Peaks {
  sampleRate: number;
  low: Int16Array;
  high: Int16Array;
}

/** Gathers a waveform's extremes as it is decoded. */
export class PeaksBuilder {
  private low: number[] = [];
  private high: number[] = [];
  private filled = 0;
  private least = 0;
  private most = 0;

  constructor(private readonly sampleRate: number) {}

  /** The next stretch: one array a channel, all of one length, -1..1. */
  push(channels: readonly Float32Array[]): void {
    const n = channels[0]?.length ?? 0;
    for (let from = 0; from < n; ) {
      const to = Math.min(n, from + PEAK_SAMPLES - this.filled);
      for (const channel of channels) this.look(channel, from, to);
      this.filled += to - from;
      from = to;
      if (this.filled === PEAK_SAMPLES) this.close();
    }
  }

  private look(samples: Float32Array, from: number, to: number): void {
    let { least, most } = this;
    for (let i = from; i < to; i++) {
      const v = samples[i];
      if (v < least) least = v;
      if (v > most) most = v;
    }
    [this.least, this.most] = [least, most];
  }

  private close(): void {
    this.low.push(Math.round(Math.max(-1, this.least) * 32767));
    this.high.push(Math.round(Math.min(1, this.most) * 32767));
    [this.filled, this.least, this.most] = [0, 0, 0];
  }

  read(): Peaks {
    if (this.filled) this.close();
    return { sampleRate: this.sampleRate, low: Int16Array.from(this.low), high: Int16Array.from(this.high) };
  }
}

/** Lowest and highest sample, -1..1, in each of `columns` equal stretches from `from` to `to` seconds; 0 outside the sound. */
export function columnsOf(peaks: Peaks, from: Seconds, to: Seconds, columns: number): { low: Float32Array; high: Float32Array } {
  const low = new Float32Array(columns);
  const high = new Float32Array(columns);
  const at = (k: number) => ((from + ((to - from) * k) / columns) * peaks.sampleRate) / PEAK_SAMPLES;
  for (let k = 0; k < columns; k++) {
    const first = Math.floor(at(k));
    const last = Math.max(first + 1, Math.ceil(at(k + 1)));
    for (let i = Math.max(0, first); i < Math.min(last, peaks.low.length); i++) {
      low[k] = Math.min(low[k], peaks.low[i] / 32767);
      high[k] = Math.max(high[k], peaks.high[i] / 32767);
    }
  }
  return { low, high };
}
