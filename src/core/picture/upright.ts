import type { Pixels } from '../units';
import { BT709, type ColourSpace, fromRgbMatrix } from './colour';
import { blackPlanes, type Planes } from './planes';

/** One plane turned clockwise by a quarter, half or three quarters. */
function turnPlane(source: Uint8Array, width: Pixels, height: Pixels, turn: 90 | 180 | 270, out: Uint8Array): void {
  if (turn === 180) {
    for (let i = 0, k = width * height - 1; k >= 0; i++, k--) out[i] = source[k];
    return;
  }
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = turn === 90 ? x * height + (height - 1 - y) : (width - 1 - x) * height + y;
      out[at] = source[y * width + x];
    }
  }
}

/** Planes turned clockwise as a file's rotation flag asks, so that up is up. 0 gives the same planes back. */
export function rotateToDisplay(planes: Planes, turn: 0 | 90 | 180 | 270): Planes {
  if (turn === 0) return planes;
  const { width, height } = planes;
  const out = turn === 180 ? blackPlanes(width, height) : blackPlanes(height, width);
  turnPlane(planes.y, width, height, turn, out.y);
  turnPlane(planes.u, width / 2, height / 2, turn, out.u);
  turnPlane(planes.v, width / 2, height / 2, turn, out.v);
  return out;
}

/** RGBA bytes (full-range R'G'B') to planes of a colour space, BT.709 limited unless given; an odd last row or column is dropped. */
export function fromRgba(rgba: Uint8Array, width: Pixels, height: Pixels, space: ColourSpace = BT709): Planes {
  const out = blackPlanes(width & ~1, height & ~1);
  const half = out.width >> 1;
  const m = fromRgbMatrix(space).map((v, i) => (i % 4 === 3 ? v + 0.5 : v / 255));
  for (let y = 0; y < out.height; y += 2) {
    for (let x = 0; x < half; x++) {
      let [r, g, b] = [0, 0, 0];
      for (let q = 0; q < 4; q++) {
        const row = y + (q >> 1);
        const column = 2 * x + (q & 1);
        const at = 4 * (row * width + column);
        out.y[row * out.width + column] = m[0] * rgba[at] + m[1] * rgba[at + 1] + m[2] * rgba[at + 2] + m[3];
        r += rgba[at] / 4;
        g += rgba[at + 1] / 4;
        b += rgba[at + 2] / 4;
      }
      const at = (y >> 1) * half + x;
      out.u[at] = Math.min(255, m[4] * r + m[5] * g + m[6] * b + m[7]);
      out.v[at] = Math.min(255, m[8] * r + m[9] * g + m[10] * b + m[11]);
    }
  }
  return out;
}
