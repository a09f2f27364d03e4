import { clamp } from '../units';
import type { Rgb } from './colour-table';

/** What becomes of colours, R'G'B' to R'G'B': of each channel by itself (1D) or of all three together (3D, red changing fastest). */
export interface ColourCube {
  kind: '1D' | '3D';
  /** Entries along each side. */
  side: number;
  /** The values of each channel that the first and the last entry stand for. */
  low: readonly number[];
  high: readonly number[];
  /** Three numbers an entry. */
  values: Float32Array;
}

/** What a table makes of a colour, in place: linear between entries, in 3D within the tetrahedron it lies in (Sakamoto & Itooka 1981). */
export function throughCube({ kind, side, low, high, values }: ColourCube): (rgb: Rgb) => void {
  const place = (value: number, c: number) => clamp(((value - low[c]) / (high[c] - low[c])) * (side - 1), 0, side - 1);
  if (kind === '1D')
    return (rgb) => {
      for (let c = 0; c < 3; c++) {
        const at = place(rgb[c], c);
        const i = Math.min(side - 2, Math.floor(at));
        const [a, b] = [values[3 * i + c], values[3 * i + 3 + c]];
        rgb[c] = a + (at - i) * (b - a);
      }
    };
  const steps = [3, 3 * side, 3 * side * side];
  const [cell, part] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  const order = [0, 1, 2];
  return (rgb) => {
    for (let c = 0; c < 3; c++) {
      const at = place(rgb[c], c);
      cell[c] = Math.min(side - 2, Math.floor(at));
      part[c] = at - cell[c];
    }
    // Along the axes from the one gone furthest to the least: three steps from corner to corner.
    order.sort((p, q) => part[q] - part[p]);
    let entry = cell[0] * steps[0] + cell[1] * steps[1] + cell[2] * steps[2];
    const out: Rgb = [0, 0, 0];
    let before = 1;
    for (let s = 0; s < 4; s++) {
      const share = before - (s < 3 ? part[order[s]] : 0);
      for (let c = 0; c < 3; c++) out[c] += share * values[entry + c];
      if (s < 3) {
        before = part[order[s]];
        entry += steps[order[s]];
      }
    }
    for (let c = 0; c < 3; c++) rgb[c] = out[c];
  };
}
