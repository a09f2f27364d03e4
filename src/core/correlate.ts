import FFT from 'fft.js';

/** A spectrum of a real signal, interleaved complex, `size` long before transforming. */
export type Spectrum = Float64Array;

const plans = new Map<number, FFT>();

function plan(size: number): FFT {
  const known = plans.get(size) ?? new FFT(size);
  plans.set(size, known);
  return known;
}

/** Smallest power of two that holds `length` samples. */
export function fftSize(length: number): number {
  let size = 2;
  while (size < length) size *= 2;
  return size;
}

/** Spectrum of `signal`, padded with silence to `size` (a power of two). */
export function spectrumOf(signal: ArrayLike<number>, size: number): Spectrum {
  const padded = new Float64Array(size);
  for (let i = 0; i < signal.length; i++) padded[i] = signal[i];
  const out = new Float64Array(2 * size);
  plan(size).realTransform(out, padded);
  plan(size).completeSpectrum(out);
  return out;
}

/**
 * Generalised cross-correlation with phase transform (Knapp & Carter 1976): value k is how well `b` fits `a` when it is
 * moved k samples later (negative lags stand at the end). Only bins from `low` to `high` (shares of the sampling rate,
 * 0..0.5) count; `whiten` 1 is the pure phase transform, 0 plain correlation.
 */
export function gccPhat(a: Spectrum, b: Spectrum, low: number, high: number, whiten: number): Float64Array {
  const size = a.length / 2;
  const product = new Float64Array(2 * size);
  for (let k = Math.max(1, Math.floor(low * size)); k <= high * size; k++) {
    const re = a[2 * k] * b[2 * k] + a[2 * k + 1] * b[2 * k + 1];
    const im = a[2 * k + 1] * b[2 * k] - a[2 * k] * b[2 * k + 1];
    const level = (re * re + im * im) ** (whiten / 2) || 1;
    product[2 * k] = re / level;
    product[2 * k + 1] = im / level;
    if (k < size - k) {
      product[2 * (size - k)] = re / level;
      product[2 * (size - k) + 1] = -im / level;
    }
  }
  const out = new Float64Array(2 * size);
  plan(size).inverseTransform(out, product);
  const lags = new Float64Array(size);
  for (let i = 0; i < size; i++) lags[i] = out[2 * i];
  return lags;
}

/** Place of a peak between samples, by the parabola through it and its neighbours, -0.5..0.5. */
export function parabola(left: number, peak: number, right: number): number {
  const bend = left - 2 * peak + right;
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (left - right)) / bend)) : 0;
}
