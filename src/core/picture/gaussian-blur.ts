import type { Pixels } from '../units';
import { boxesByKernel } from './own-kernel';
import type { Planes } from './planes';

/** Running mean over 2·reach + 1 samples along lines of a plane, the edge repeated. `step` to the next sample, `stride` to the next line. */
function boxLines(source: Uint8Array, out: Uint8Array, count: number, step: number, lines: number, stride: number, reach: number): void {
  const share = 1 / (2 * reach + 1);
  for (let l = 0; l < lines; l++) {
    const base = l * stride;
    let sum = source[base] * (reach + 1);
    for (let k = 1; k <= reach; k++) sum += source[base + Math.min(k, count - 1) * step];
    for (let i = 0; i < count; i++) {
      out[base + i * step] = sum * share + 0.5;
      sum += source[base + Math.min(i + reach + 1, count - 1) * step] - source[base + Math.max(i - reach, 0) * step];
    }
  }
}

function softPlane(plane: Uint8Array, width: number, height: number, deviation: number): Uint8Array {
  // Three boxes of width d come near a Gaussian of deviation s for d = s·3·√(2π)/4 + 0.5 (W3C Filter Effects Level 1, feGaussianBlur).
  const reach = Math.round((deviation * 3 * Math.sqrt(2 * Math.PI)) / 8);
  if (reach < 1) return plane;
  return boxesByKernel(plane, width, height, reach) ?? boxesPlainly(plane, width, height, reach);
}

/** The definition of the three means; the compiled passes must agree with it. */
export function boxesPlainly(plane: Uint8Array, width: number, height: number, reach: number): Uint8Array {
  const [from, to] = [plane.slice(), new Uint8Array(plane.length)];
  for (let pass = 0; pass < 3; pass++) {
    boxLines(from, to, width, 1, height, width, reach);
    boxLines(to, from, height, width, width, 1, reach);
  }
  return from;
}

/** A picture blurred as by a Gaussian of this standard deviation in pixels; three box means (W3C Filter Effects Level 1). */
export function gaussianBlur(planes: Planes, deviation: Pixels): Planes {
  if (deviation < 0.35) return planes;
  const { width, height } = planes;
  return {
    width,
    height,
    y: softPlane(planes.y, width, height, deviation),
    u: softPlane(planes.u, width / 2, height / 2, deviation / 2),
    v: softPlane(planes.v, width / 2, height / 2, deviation / 2),
  };
}
