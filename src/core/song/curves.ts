/** A curve between its values; 0 outside. */
export function valueAt(curve: ArrayLike<number>, at: number): number {
  if (at < 0 || at > curve.length - 1) return 0;
  const i = Math.floor(at);
  return i + 1 < curve.length ? curve[i] + (at - i) * (curve[i + 1] - curve[i]) : curve[i];
}

/** A bell of `sigma` values to three of them on each side, 1 in the middle. */
function bell(sigma: number): Float64Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  return Float64Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-0.5 * ((i - reach) / sigma) ** 2));
}

/** What lies within a bell of `sigma` values around each value, weighed by it; `share` of that. */
export function gathered(curve: Float32Array, sigma: number, share = 1): Float32Array {
  const weights = bell(sigma);
  const reach = weights.length >> 1;
  return curve.map((_, t) => {
    let sum = 0;
    for (let k = Math.max(-reach, -t); k <= reach && t + k < curve.length; k++) sum += curve[t + k] * weights[k + reach];
    return sum * share;
  });
}

/** Gaussian smoothing of `sigma` values. */
export const smoothed = (curve: Float32Array, sigma: number): Float32Array =>
  gathered(curve, sigma, 1 / bell(sigma).reduce((a, b) => a + b, 0));

/** Mean over `reach` values to each side, fewer at the ends. */
export function boxMean(curve: Float32Array, reach: number): Float32Array {
  const sums = new Float64Array(curve.length + 1);
  for (let i = 0; i < curve.length; i++) sums[i + 1] = sums[i] + curve[i];
  return curve.map((_, i) => {
    const [from, to] = [Math.max(0, i - reach), Math.min(curve.length, i + reach + 1)];
    return (sums[to] - sums[from]) / (to - from);
  });
}

/** The highest value within `reach` of a place; 0 outside. */
export function peakNear(curve: Float32Array, at: number, reach: number): number {
  const middle = Math.round(at);
  let most = 0;
  for (let i = Math.max(0, middle - reach); i <= Math.min(curve.length - 1, middle + reach); i++) most = Math.max(most, curve[i]);
  return most;
}

export const mean = (values: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i];
  return values.length ? sum / values.length : 0;
};

/** Shares of one, by logarithms of how much speaks for each (softmax). */
export function sharesOf(scores: readonly number[]): number[] {
  const most = scores.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  const weights = scores.map((v) => Math.exp(v - most));
  const whole = weights.reduce((a, b) => a + b, 0);
  return weights.map((w) => w / whole);
}
