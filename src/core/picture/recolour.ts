import type { ColourMatrix } from './colour';
import { recolourByKernel } from './own-kernel';
import { copiedPlanes, type Planes } from './planes';
import type { Region } from './resample';

/** Applies a colour matrix in place to the given region (even). */
export function recolour(planes: Planes, m: ColourMatrix, { x0, x1, y0, y1 }: Region): void {
  const { width, y, u, v } = planes;
  const half = width >> 1;
  const luma = Float32Array.from({ length: 256 }, (_, i) => m[0] * i + m[3] + 0.5);
  for (let row = y0; row < y1; row += 2) {
    for (let x = x0 >> 1; x < x1 >> 1; x++) {
      const k = (row >> 1) * half + x;
      const at = row * width + 2 * x;
      const cu = u[k];
      const cv = v[k];
      const mean = (y[at] + y[at + 1] + y[at + width] + y[at + width + 1]) / 4;
      const add = m[1] * cu + m[2] * cv;
      y[at] = byte(luma[y[at]] + add);
      y[at + 1] = byte(luma[y[at + 1]] + add);
      y[at + width] = byte(luma[y[at + width]] + add);
      y[at + width + 1] = byte(luma[y[at + width + 1]] + add);
      u[k] = byte(m[4] * mean + m[5] * cu + m[6] * cv + m[7] + 0.5);
      v[k] = byte(m[8] * mean + m[9] * cu + m[10] * cv + m[11] + 0.5);
    }
  }
}

/** A picture through a colour matrix. */
export function recoloured(planes: Planes, matrix: ColourMatrix): Planes {
  const { width, height } = planes;
  const out = copiedPlanes(planes);
  if (!recolourByKernel(out, matrix)) recolour(out, matrix, { x0: 0, x1: width, y0: 0, y1: height });
  return out;
}

function byte(value: number): number {
  return value < 0 ? 0 : value > 255 ? 255 : value | 0;
}
