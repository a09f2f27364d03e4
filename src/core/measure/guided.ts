import type { Pixels } from '../units';
import { boxMean } from './grid';

/** How values follow a guide around each pixel: as the guide times `slope` plus `offset`. */
interface GuidedLine {
  slope: Float32Array;
  offset: Float32Array;
}

/**
 * The guided filter (He, Sun & Tang 2010): around each pixel, `reach` pixels to every side, the line of least squares from the guide to the
 * values, its mean over all it belongs to. Contrast of the guide under `smooth`, its units squared, is let pass.
 */
export function guidedLine(
  guide: Float32Array,
  values: Float32Array,
  width: Pixels,
  height: Pixels,
  reach: Pixels,
  smooth: number,
): GuidedLine {
  const mean = (v: Float32Array) => boxMean(v, width, height, reach);
  const [i, p] = [mean(guide), mean(values)];
  const ii = mean(guide.map((g) => g * g));
  const ip = mean(guide.map((g, k) => g * values[k]));
  const a = i.map((m, k) => (ip[k] - m * p[k]) / (ii[k] - m * m + smooth));
  const b = p.map((m, k) => m - a[k] * i[k]);
  return { slope: mean(a), offset: mean(b) };
}
