import type { Pixels } from '../units';
import { reduceByKernel } from './kernel';
import { blackPlanes, type Planes } from './planes';

/**
 * One plane reduced by a whole factor by averaging `by`×`by` boxes into `out` of `width`×`height`; what does not fill
 * a box is cut off right and below.
 */
export function boxPlane(source: Uint8Array, sourceWidth: Pixels, by: number, out: Uint8Array, width: Pixels, height: Pixels): void {
  if (!reduceByKernel(source, sourceWidth, by, out, width, height)) boxPlainly(source, sourceWidth, by, out, width, height);
}

/** The definition of reducing a plane; the compiled pass must agree with it. */
export function boxPlainly(source: Uint8Array, sourceWidth: Pixels, by: number, out: Uint8Array, width: Pixels, height: Pixels): void {
  const area = by * by;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = area >> 1;
      for (let j = 0; j < by; j++) {
        const from = (y * by + j) * sourceWidth + x * by;
        for (let i = from; i < from + by; i++) sum += source[i];
      }
      out[y * width + x] = sum / area;
    }
  }
}

/** Planes reduced by a whole factor by averaging; what does not fill a whole even size is cut off right and below. */
export function reducedPlanes(planes: Planes, by: number): Planes {
  if (by <= 1) return planes;
  const out = blackPlanes(2 * Math.floor(planes.width / by / 2), 2 * Math.floor(planes.height / by / 2));
  boxPlane(planes.y, planes.width, by, out.y, out.width, out.height);
  boxPlane(planes.u, planes.width / 2, by, out.u, out.width / 2, out.height / 2);
  boxPlane(planes.v, planes.width / 2, by, out.v, out.width / 2, out.height / 2);
  return out;
}
