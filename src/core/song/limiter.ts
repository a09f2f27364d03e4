import type { Seconds } from '../units';

/** How far ahead a limiter looks, and how long it takes to let go of two thirds of what it took away. Common practice. */
const [AHEAD, RELEASE]: [Seconds, Seconds] = [0.005, 0.08];

/**
 * Keeps a programme below a ceiling: it is taken down smoothly before each peak and let go after it. Samples are given in order, block by
 * block; no sample that comes out passes the ceiling (linear, of full scale).
 */
export class Limiter {
  /** Samples beyond a block that have to be given with it. */
  readonly ahead: number;
  private readonly letGo: number;
  /** Nothing was held before the first sample: what it needs is taken to have been held all along. */
  private begun = false;
  private held = 1;
  /** What was held on the last samples, as many as are looked ahead, in a ring; and their sum. */
  private readonly recent: Float64Array;
  private sum: number;
  private at = 0;

  constructor(
    rate: number,
    private readonly ceiling: number,
    private readonly gain: number,
  ) {
    this.ahead = Math.max(1, Math.round(AHEAD * rate));
    this.letGo = 1 - Math.exp(-1 / (RELEASE * rate));
    this.recent = new Float64Array(this.ahead + 1).fill(1);
    this.sum = this.ahead + 1;
  }

  /** The first `count` samples of a block, in place; `ahead` more follow in each channel. */
  run(channels: readonly Float32Array[], count: number): void {
    const need = new Float64Array(count + this.ahead);
    for (let i = 0; i < need.length; i++) {
      let peak = 0;
      for (const samples of channels) peak = Math.max(peak, Math.abs(samples[i] ?? 0));
      need[i] = Math.min(1, this.ceiling / Math.max(1e-9, this.gain * peak));
    }
    // The least that is needed from each sample to as far as is looked ahead: a queue of candidates, the least first.
    const queue = new Int32Array(need.length);
    let [first, last] = [0, 0];
    for (let i = 0, seen = 0; i < count; i++) {
      for (; seen <= i + this.ahead; seen++) {
        while (last > first && need[queue[last - 1]] >= need[seen]) last--;
        queue[last++] = seen;
      }
      while (queue[first] < i) first++;
      const least = need[queue[first]];
      if (!this.begun) {
        [this.begun, this.held, this.sum] = [true, least, least * this.recent.length];
        this.recent.fill(least);
      }
      this.held = least < this.held ? least : Math.min(least, this.held + (1 - this.held) * this.letGo);
      // The mean of what was held while this sample was ahead is never more than it needs.
      this.sum += this.held - this.recent[this.at];
      this.recent[this.at] = this.held;
      this.at = (this.at + 1) % this.recent.length;
      const by = (this.gain * this.sum) / this.recent.length;
      for (const samples of channels) samples[i] *= by;
    }
  }
}
