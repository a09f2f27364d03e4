/** Correlation coefficient of the old curve around `middle` with the new one around `at`, which runs at `rate`. */
export function agreement(a: Float32Array, b: Float32Array, middle: number, at: number, half: number, rate: number): number {
  let [sa, sb, aa, bb, ab, n] = [0, 0, 0, 0, 0, 0];
  for (let k = -half; k <= half; k++) {
    const x = a[middle + k] ?? 0;
    const place = at + k * rate;
    const i = Math.floor(place);
    const y = i < 0 || i + 1 >= b.length ? 0 : b[i] + (place - i) * (b[i + 1] - b[i]);
    sa += x;
    sb += y;
    aa += x * x;
    bb += y * y;
    ab += x * y;
    n++;
  }
  return (ab - (sa * sb) / n) / Math.sqrt(Math.max(1e-9, (aa - (sa * sa) / n) * (bb - (sb * sb) / n)));
}
