import { boxPlane, type Planes } from '../picture';
import type { Pixels } from '../units';
import { thinnedByKernel } from './luma-kernel';

/** One plane of 8-bit brightness without row padding. */
export interface Luma {
  width: Pixels;
  height: Pixels;
  data: Uint8Array;
}

/** The brightness of a picture, without a copy. */
export function lumaOf({ width, height, y }: Planes): Luma {
  return { width, height, data: y };
}

/**
 * Brightness reduced by a whole factor, by averaging `factor`×`factor` boxes (from a factor of 4 on four
 * pixels of each, which is as good for finding movement and many times as quick); the remainder at the edges is dropped.
 */
export function shrink(luma: Luma, factor: number): Luma {
  const width = Math.floor(luma.width / factor);
  const height = Math.floor(luma.height / factor);
  const compiled = factor >= 4 ? thinnedByKernel(luma, factor) : null;
  if (compiled) return compiled;
  const data = new Uint8Array(width * height);
  const source = luma.data;
  if (factor >= 4) {
    // The four stand half a box apart, as if in the middles of its quarters.
    const [start, apart] = [(factor - 2) >> 2, factor >> 1];
    const below = apart * luma.width;
    for (let y = 0, out = 0; y < height; y++) {
      let at = (y * factor + start) * luma.width + start;
      for (let x = 0; x < width; x++, at += factor)
        data[out++] = (source[at] + source[at + apart] + source[at + below] + source[at + below + apart] + 2) >> 2;
    }
  } else boxPlane(source, luma.width, factor, data, width, height);
  return { width, height, data };
}

/** Pixel-wise median of up to 9 pictures of one size: noise halves, and what passes through leaves no trace. */
export function medianLuma(pictures: readonly Luma[]): Luma {
  const { width, height } = pictures[0];
  const data = new Uint8Array(width * height);
  const n = pictures.length;
  const values = new Uint8Array(n);
  for (let i = 0; i < data.length; i++) {
    for (let k = 0; k < n; k++) {
      const v = pictures[k].data[i];
      let at = k;
      while (at > 0 && values[at - 1] > v) {
        values[at] = values[at - 1];
        at--;
      }
      values[at] = v;
    }
    data[i] = values[n >> 1];
  }
  return { width, height, data };
}
