import type { Pixels } from '../units';
import { enlarged, type Homography } from './homography';
import type { Planes } from './planes';
import { fourTapWeights } from './resample';
import { perspectiveByKernel } from './resample-kernel';

/** A place in 65536ths of a pixel, no further out than a picture can reach. */
const fixedPlace = (at: number) => Math.floor(Math.min(Math.max(at, -30000), 30000) * 65536 + 0.5);
/** Pixels from one place that is worked out to the next; between them it goes straight, which is right to a hundredth of a pixel. */
const RUN = 16;

/**
 * One plane as seen through `map` (pixels of the result to pixels of the source, both counted from the middle), by Catmull-Rom in both
 * directions. Beyond the source's edge lies `below`, or its outermost pixels where nothing is given. The definition; the compiled pass
 * must agree with it.
 */
export function planeThroughPlainly(
  source: Uint8Array,
  width: Pixels,
  height: Pixels,
  [a, b, c, d, e, f, g, h]: Homography,
  below: Uint8Array | null,
): Uint8Array {
  const out = new Uint8Array(width * height);
  const weights = fourTapWeights();
  const [right, bottom] = [width - 1, height - 1];
  const kept = (i: number, last: number) => Math.min(Math.max(i, 0), last);
  for (let row = 0, at = 0; row < height; row++) {
    const y = row + 0.5 - height / 2;
    const [bc, ef, h1] = [b * y + c, e * y + f, h * y + 1];
    const placeAt = (column: number): [number, number] => {
      const x = column + 0.5 - width / 2;
      const w = g * x + h1;
      if (w <= 0) return [fixedPlace(-30000), fixedPlace(-30000)];
      return [fixedPlace((a * x + bc) / w + width / 2 - 0.5), fixedPlace((d * x + ef) / w + height / 2 - 0.5)];
    };
    let [u, v] = placeAt(0);
    for (let column = 0; column < width; column += RUN) {
      const next = placeAt(column + RUN);
      const [stepU, stepV] = [(next[0] - u) >> 4, (next[1] - v) >> 4];
      const end = Math.min(column + RUN, width);
      for (let k = column; k < end; k++, at++, u += stepU, v += stepV) {
        if (u <= -32768 || v <= -32768 || u >= (right << 16) + 32768 || v >= (bottom << 16) + 32768) {
          out[at] = below ? below[at] : source[kept((v + 32768) >> 16, bottom) * width + kept((u + 32768) >> 16, right)];
          continue;
        }
        const [left, top, across, down] = [u >> 16, v >> 16, 4 * ((u >> 8) & 255), 4 * ((v >> 8) & 255)];
        let sum = 1 << 21;
        for (let j = 0; j < 4; j++) {
          const from = kept(top - 1 + j, bottom) * width;
          let line = 32;
          for (let i = 0; i < 4; i++) line += weights[across + i] * source[from + kept(left - 1 + i, right)];
          sum += (line >> 6) * weights[down + j];
        }
        out[at] = kept(sum >> 22, 255);
      }
      [u, v] = next;
    }
  }
  return out;
}

/** The same in compiled code where this machine has it. */
export function planeThrough(source: Uint8Array, width: Pixels, height: Pixels, map: Homography, below: Uint8Array | null): Uint8Array {
  return perspectiveByKernel(source, width, height, map, below) ?? planeThroughPlainly(source, width, height, map, below);
}

/** A picture as seen through `map`, of the same size; `below` shows where it does not reach. */
export function seenThrough(planes: Planes, map: Homography, below: Planes | null = null): Planes {
  const { width, height } = planes;
  const half = enlarged(map, 0.5);
  return {
    width,
    height,
    y: planeThrough(planes.y, width, height, map, below?.y ?? null),
    u: planeThrough(planes.u, width / 2, height / 2, half, below?.u ?? null),
    v: planeThrough(planes.v, width / 2, height / 2, half, below?.v ?? null),
  };
}
