import type { Planes } from '../picture';
import type { Pixels } from '../units';
import { boxMean, type Mask } from './grid';

/** Numbers that `ownColour` gives of each two by two pixels: means of Y, U and V, their variances, and how much of the figure was near. */
export const OWN = 7;
export const OWN_VARIANCE = 3;
export const OWN_NEAR = 6;

/**
 * A figure's own colour around each two by two pixels, read from the pixels of `core` within `reach` of them: the means of Y, U and V, their
 * variances (code values squared), and the share of `core` there, 0..1; all are 0 where none of it is near. Colour changes slowly, and
 * chroma has no more places than these.
 */
export function ownColour({ width, y, u, v }: Planes, core: Mask, reach: Pixels): Float32Array {
  const [w, h] = [width >> 1, core.height >> 1];
  const sums = Array.from({ length: OWN }, () => new Float32Array(w * h));
  const [light, blue, red, light2, blue2, red2, share] = sums;
  for (let row = 0, j = 0; row < h; row++) {
    for (let i = 2 * row * width, end = i + 2 * w; i < end; i += 2, j++) {
      const n = (core.data[i] + core.data[i + 1] + core.data[i + width] + core.data[i + width + 1]) / 4;
      if (n === 0) continue;
      share[j] = n;
      blue[j] = n * u[j];
      red[j] = n * v[j];
      blue2[j] = blue[j] * u[j];
      red2[j] = red[j] * v[j];
      for (let k = i; k <= i + width; k += width) {
        const [a, b] = [core.data[k] * y[k], core.data[k + 1] * y[k + 1]];
        light[j] += (a + b) / 4;
        light2[j] += (a * a + b * b) / 4;
      }
    }
  }
  const near = sums.map((s) => boxMean(s, w, h, reach >> 1));
  const out = new Float32Array(OWN * w * h);
  for (let j = 0, at = 0; j < w * h; j++, at += OWN) {
    const n = near[OWN_NEAR][j];
    if (n < 1e-4) continue;
    out[at + OWN_NEAR] = n;
    for (let c = 0; c < 3; c++) {
      const mean = near[c][j] / n;
      out[at + c] = mean;
      out[at + OWN_VARIANCE + c] = Math.max(0, near[OWN_VARIANCE + c][j] / n - mean * mean);
    }
  }
  return out;
}
