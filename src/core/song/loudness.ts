/** A second-order filter section, direct form I, normalised so that a0 is 1. */
interface Section {
  b: readonly [number, number, number];
  a: readonly [number, number];
}

/**
 * The K weighting of ITU-R BS.1770-4, annex 1, at any sample rate: a high shelf for the head and a high pass (RLB). The analogue
 * values behind the coefficients the standard prints for 48 kHz are those in common use (from memory); at 48 kHz they give them back.
 */
export function kWeighting(sampleRate: number): readonly [Section, Section] {
  const shelf = { f: 1681.974450955533, gain: 3.999843853973347, q: 0.7071752369554196 };
  const k = Math.tan((Math.PI * shelf.f) / sampleRate);
  const high = 10 ** (shelf.gain / 20);
  const middle = high ** 0.4996667741545416;
  const a0 = 1 + k / shelf.q + k * k;
  const head: Section = {
    b: [(high + (middle * k) / shelf.q + k * k) / a0, (2 * (k * k - high)) / a0, (high - (middle * k) / shelf.q + k * k) / a0],
    a: [(2 * (k * k - 1)) / a0, (1 - k / shelf.q + k * k) / a0],
  };
  const pass = { f: 38.13547087602444, q: 0.5003270373238773 };
  const p = Math.tan((Math.PI * pass.f) / sampleRate);
  const c0 = 1 + p / pass.q + p * p;
  return [head, { b: [1, -2, 1], a: [(2 * (p * p - 1)) / c0, (1 - p / pass.q + p * p) / c0] }];
}

/** What is measured of a programme. LUFS where absolute, LU where relative; -Infinity where there is nothing but silence. */
export interface Loudness {
  /** Of the whole, gated: BS.1770-4. */
  integrated: number;
  /** The loudest 400 ms and the loudest 3 s: EBU Tech 3341. */
  momentaryMax: number;
  shortTermMax: number;
  /** EBU Tech 3342, in LU. */
  range: number;
  /** Highest peak between the samples, dBTP: BS.1770-4, annex 2. */
  truePeak: number;
}

const STEP = 0.1;
const lufs = (power: number) => -0.691 + 10 * Math.log10(power);
const powerOf = (level: number) => 10 ** ((level + 0.691) / 10);
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

/** Taps of each of the four phases of the filter that looks between the samples: a sinc under a Hann window. */
const PHASES = 4;
const TAPS = 24;
/** A peak between two samples is no more than so many times the higher of them: 1.41 for a sine at a quarter of the rate. */
const NEAR = 1.6;
const between = Array.from({ length: PHASES }, (_, phase) =>
  Float64Array.from({ length: TAPS }, (_, i) => {
    const x = i - TAPS / 2 + 1 - phase / PHASES;
    return (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * (0.5 + 0.5 * Math.cos((Math.PI * x) / (TAPS / 2 + 0.5)));
  }),
);

/**
 * Loudness by ITU-R BS.1770-4 as EBU Tech 3341 wants it read, taken in as it is decoded. Sound of any rate, -1..1; channels in the
 * order left, right, centre, then (with five) the two surrounds, which count 1.41 times; without the low-frequency channel.
 */
export class LoudnessMeter {
  private readonly sections: readonly [Section, Section];
  private readonly states: Float64Array[] = [];
  private readonly tails: Float32Array[] = [];
  /** Weighted mean square of each 100 ms. */
  private readonly steps: number[] = [];
  private readonly perStep: number;
  private filled = 0;
  private sum = 0;
  private peak = 0;

  constructor(sampleRate: number) {
    this.sections = kWeighting(sampleRate);
    this.perStep = Math.round(sampleRate * STEP);
  }

  /** The next stretch: one array a channel, all of one length. */
  push(channels: readonly Float32Array[]): void {
    const count = channels[0]?.length ?? 0;
    while (this.states.length < channels.length) {
      this.states.push(new Float64Array(8));
      this.tails.push(new Float32Array(TAPS));
    }
    for (let from = 0; from < count; ) {
      const to = Math.min(count, from + this.perStep - this.filled);
      channels.forEach((samples, c) => {
        this.sum += (c > 2 ? 1.41 : 1) * this.square(samples, from, to, this.states[c]);
      });
      this.filled += to - from;
      from = to;
      if (this.filled === this.perStep) {
        this.steps.push(this.sum / this.perStep);
        [this.filled, this.sum] = [0, 0];
      }
    }
    channels.forEach((samples, c) => {
      this.look(samples, this.tails[c]);
    });
  }

  /** Sum of the squares of the weighted samples. */
  private square(samples: Float32Array, from: number, to: number, s: Float64Array): number {
    const [{ b, a }, { a: d }] = this.sections;
    let [x1, x2, y1, y2, z1, z2] = s;
    let sum = 0;
    for (let i = from; i < to; i++) {
      const x = samples[i];
      const y = b[0] * x + b[1] * x1 + b[2] * x2 - a[0] * y1 - a[1] * y2;
      const z = y - 2 * y1 + y2 - d[0] * z1 - d[1] * z2;
      [x2, x1, y2, y1, z2, z1] = [x1, x, y1, y, z1, z];
      sum += z * z;
    }
    s.set([x1, x2, y1, y2, z1, z2]);
    return sum;
  }

  /** Looks for the highest peak: at each sample, and between two where one of them is near enough to what is known to pass it. */
  private look(samples: Float32Array, tail: Float32Array): void {
    const heard = new Float32Array(TAPS + samples.length);
    heard.set(tail);
    heard.set(samples, TAPS);
    // The filter's middle: half of its taps lie before a sample, half of them after.
    let here = Math.abs(heard[TAPS / 2]);
    let near = this.peak / NEAR;
    for (let i = 0; i < samples.length; i++) {
      const last = here;
      here = Math.abs(heard[i + TAPS / 2 + 1]);
      if (last < near && here < near) continue;
      this.peak = Math.max(this.peak, last, here);
      for (let phase = 1; phase < PHASES; phase++) {
        const taps = between[phase];
        let sum = 0;
        for (let t = 0; t < TAPS; t++) sum += taps[t] * heard[i + 1 + t];
        this.peak = Math.max(this.peak, Math.abs(sum));
      }
      near = this.peak / NEAR;
    }
    tail.set(heard.subarray(samples.length));
  }

  /** Levels of windows of so many steps, one a step, in mean square. */
  private windows(length: number): number[] {
    const out: number[] = [];
    let sum = 0;
    for (let i = 0; i < this.steps.length; i++) {
      sum += this.steps[i] - (i >= length ? this.steps[i - length] : 0);
      if (i >= length - 1) out.push(Math.max(0, sum) / length);
    }
    return out;
  }

  read(): Loudness {
    // The last samples have not been looked between yet: silence follows them.
    for (const tail of this.tails) this.look(new Float32Array(TAPS), tail.slice());
    const blocks = this.windows(4);
    const loudest = (values: readonly number[]) => lufs(values.reduce((most, v) => Math.max(most, v), 0));
    const shortTerm = this.windows(30);
    return {
      integrated: gated(blocks, -10).level,
      momentaryMax: loudest(blocks),
      shortTermMax: loudest(shortTerm),
      range: spread(gated(shortTerm, -20).kept),
      truePeak: 20 * Math.log10(this.peak),
    };
  }
}

/** Mean of what passes -70 LUFS and then the relative gate, and what that is. */
function gated(powers: readonly number[], relative: number): { level: number; kept: number[] } {
  const heard = powers.filter((p) => p >= powerOf(-70));
  if (!heard.length) return { level: Number.NEGATIVE_INFINITY, kept: [] };
  const limit = mean(heard) * 10 ** (relative / 10);
  const kept = heard.filter((p) => p >= limit);
  return { level: lufs(mean(kept)), kept };
}

/** From the tenth to the ninety-fifth in a hundred. */
function spread(powers: readonly number[]): number {
  if (!powers.length) return 0;
  const levels = Float64Array.from(powers, lufs).sort();
  const at = (share: number) => levels[Math.round(share * (levels.length - 1))];
  return at(0.95) - at(0.1);
}

/** Loudness of a whole sound at once. */
export function loudnessOf(channels: readonly Float32Array[], sampleRate: number): Loudness {
  const meter = new LoudnessMeter(sampleRate);
  meter.push(channels);
  return meter.read();
}
