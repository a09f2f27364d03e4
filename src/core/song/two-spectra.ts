import FFT from 'fft.js';

/** Powers of the spectra of two windows of sound from one transform: one is its real part, the other its imaginary part (Press et al. 1992, 12.3). */
export class TwoSpectra {
  private readonly fft: FFT;
  private readonly out: number[];
  /** Both windows, sample by sample in turn: 2 × `size` values. */
  readonly windows: number[];

  constructor(readonly size: number) {
    this.fft = new FFT(size);
    this.out = this.fft.createComplexArray();
    // Plain arrays: `fft.js` is slower on typed ones.
    this.windows = this.fft.createComplexArray();
  }

  /** Writes the power at each frequency, from none to half the sample rate: up to `size / 2 + 1` values of each window. */
  powers(first: Float64Array, second: Float64Array): void {
    const { fft, out, size } = this;
    fft.transform(out, this.windows);
    const last = Math.min(first.length - 1, size / 2);
    for (let k = 0; k <= last; k++) {
      const a = 2 * k;
      const b = k === 0 ? 0 : 2 * (size - k);
      const re = out[a] + out[b];
      const im = out[a + 1] - out[b + 1];
      const otherRe = out[a + 1] + out[b + 1];
      const otherIm = out[b] - out[a];
      first[k] = (re * re + im * im) / 4;
      second[k] = (otherRe * otherRe + otherIm * otherIm) / 4;
    }
  }
}
