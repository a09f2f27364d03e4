import { clamp, type Pixels } from '../units';
import type { Affine } from './affine';

/** A part of the output: columns x0..x1 and rows y0..y1, ends excluded. */
export interface Region {
  x0: Pixels;
  y0: Pixels;
  x1: Pixels;
  y1: Pixels;
}

const PHASES = 256;
const ONE = 1 << 14;

/** Catmull-Rom, Keys 1981 with a = -1/2. */
export function cubic(x: number): number {
  const t = Math.abs(x);
  if (t < 1) return 1 + t * t * (1.5 * t - 2.5);
  return t < 2 ? 2 + t * (-4 + t * (2.5 - 0.5 * t)) : 0;
}

export interface Kernel {
  taps: number;
  /** `PHASES` rows of `taps` weights summing to `ONE`. */
  weights: Int16Array;
}

const kernels = new Map<number, Kernel>();

/** Weights for a step of `scale` source pixels per output pixel; wider than 4 taps when the picture shrinks. */
export function kernelFor(scale: number): Kernel {
  const stretch = stretchOf(scale);
  const known = kernels.get(stretch);
  if (known) return known;
  const taps = 2 * Math.ceil(2 * stretch);
  const weights = new Int16Array(PHASES * taps);
  for (let p = 0; p < PHASES; p++) {
    const raw = Array.from({ length: taps }, (_, k) => cubic((k - taps / 2 + 1 - p / PHASES) / stretch));
    const sum = raw.reduce((s, v) => s + v, 0);
    let rest = ONE;
    raw.forEach((v, k) => {
      weights[p * taps + k] = Math.round((v / sum) * ONE);
      rest -= weights[p * taps + k];
    });
    weights[p * taps + taps / 2 - 1 + (p > PHASES / 2 ? 1 : 0)] += rest;
  }
  const kernel = { taps, weights };
  kernels.set(stretch, kernel);
  return kernel;
}

/** The weights of a picture that is not made smaller: 256 phases of four. */
export function fourTapWeights(): Int16Array {
  return kernelFor(1).weights;
}

/** The two passes of a map: coefficients for sample indices, and the source rows that the region needs. */
export interface Passes {
  perX: number;
  perRow: number;
  base: number;
  d: number;
  e: number;
  f: number;
  rowFirst: number;
  rowLast: number;
}

export const scaleAcross = (map: Affine) => Math.abs(map.a - (map.b * map.d) / map.e);
const stretchOf = (scale: number) => Math.max(1, Math.round(scale * 16) / 16);

/** True when neither pass shrinks the picture by more than a thirtieth. */
export function usesFourTaps(map: Affine): boolean {
  return stretchOf(scaleAcross(map)) === 1 && stretchOf(Math.abs(map.e)) === 1;
}

/** Works out the passes of `map` (see `resamplePlane`) for a source of `sh` rows and a vertical filter of `taps`. */
export function passesOf(map: Affine, region: Region, sh: Pixels, taps: number): Passes {
  const { a, b, d, e } = map;
  // Centres at whole numbers plus a half, moved to sample indices.
  const c = map.c + 0.5 * (a + b) - 0.5;
  const f = map.f + 0.5 * (d + e) - 0.5;
  const corners = [region.x0, region.x1 - 1].flatMap((x) => [region.y0, region.y1 - 1].map((y) => d * x + e * y + f));
  return {
    perX: a - (b * d) / e,
    perRow: b / e,
    base: c - (b * f) / e,
    d,
    e,
    f,
    rowFirst: clamp(Math.floor(Math.min(...corners)) - taps / 2 + 1, 0, sh - 1),
    rowLast: clamp(Math.floor(Math.max(...corners)) + taps / 2, 0, sh - 1),
  };
}

let scratch = new Uint8Array(0);

/**
 * Resamples one plane through `map` into `region` of `out`, by a horizontal then a vertical pass of cubic filters
 * (two-pass method of Catmull & Smith 1980; good for turns well under 45°). Beyond the source its edge is repeated.
 */
export function resamplePlane(source: Uint8Array, sw: Pixels, sh: Pixels, out: Uint8Array, ow: Pixels, region: Region, map: Affine): void {
  const { x0, x1, y0, y1 } = region;
  if (x1 <= x0 || y1 <= y0) return;
  const across = kernelFor(scaleAcross(map));
  const down = kernelFor(Math.abs(map.e));
  const { perX, perRow, base, d, e, f, rowFirst, rowLast } = passesOf(map, region, sh, down.taps);
  const width = x1 - x0;
  const rows = rowLast - rowFirst + 1;
  if (scratch.length < width * rows) scratch = new Uint8Array(width * rows);
  horizontalPass(source, sw, rowFirst, rows, x0, width, across, perX, perRow, base);
  verticalPass(out, ow, region, rowFirst, rows, down, d, e, f);
}

function horizontalPass(
  source: Uint8Array,
  sw: number,
  rowFirst: number,
  rows: number,
  x0: number,
  width: number,
  kernel: Kernel,
  perX: number,
  perRow: number,
  base: number,
): void {
  const { taps, weights } = kernel;
  const before = taps / 2 - 1;
  const step = Math.round(perX * 65536);
  for (let r = 0; r < rows; r++) {
    const row = (rowFirst + r) * sw;
    let fixed = Math.round((base + perRow * (rowFirst + r) + perX * x0) * 65536);
    const target = r * width;
    for (let x = 0; x < width; x++, fixed += step) {
      const i = (fixed >> 16) - before;
      const w = ((fixed >> 8) & 255) * taps;
      let sum = ONE >> 1;
      if (i >= 0 && i + taps <= sw) {
        const at = row + i;
        if (taps === 4)
          sum +=
            source[at] * weights[w] + source[at + 1] * weights[w + 1] + source[at + 2] * weights[w + 2] + source[at + 3] * weights[w + 3];
        else for (let k = 0; k < taps; k++) sum += source[at + k] * weights[w + k];
      } else {
        for (let k = 0; k < taps; k++) sum += source[row + clamp(i + k, 0, sw - 1)] * weights[w + k];
      }
      const value = sum >> 14;
      scratch[target + x] = value < 0 ? 0 : value > 255 ? 255 : value;
    }
  }
}

function verticalPass(
  out: Uint8Array,
  ow: number,
  region: Region,
  rowFirst: number,
  rows: number,
  kernel: Kernel,
  d: number,
  e: number,
  f: number,
): void {
  const { taps, weights } = kernel;
  const { x0, x1, y0, y1 } = region;
  const width = x1 - x0;
  const before = taps / 2 - 1;
  const step = Math.round(d * 65536);
  for (let y = y0; y < y1; y++) {
    let fixed = Math.round((e * y + f + d * x0 - rowFirst) * 65536);
    const target = y * ow + x0;
    for (let x = 0; x < width; x++, fixed += step) {
      const i = (fixed >> 16) - before;
      const w = ((fixed >> 8) & 255) * taps;
      let sum = ONE >> 1;
      if (i >= 0 && i + taps <= rows) {
        const at = i * width + x;
        if (taps === 4)
          sum +=
            scratch[at] * weights[w] +
            scratch[at + width] * weights[w + 1] +
            scratch[at + 2 * width] * weights[w + 2] +
            scratch[at + 3 * width] * weights[w + 3];
        else for (let k = 0; k < taps; k++) sum += scratch[at + k * width] * weights[w + k];
      } else {
        for (let k = 0; k < taps; k++) sum += scratch[clamp(i + k, 0, rows - 1) * width + x] * weights[w + k];
      }
      const value = sum >> 14;
      out[target + x] = value < 0 ? 0 : value > 255 ? 255 : value;
    }
  }
}

/** Whether a source of a size reaches every pixel of a frame through `map`. */
export function fills(map: Affine, source: { width: Pixels; height: Pixels }, frame: { width: Pixels; height: Pixels }): boolean {
  return [0, frame.height - 1].every((y) => {
    const [from, to] = coveredColumns(map, y, source.width, source.height, frame.width);
    return from === 0 && to === frame.width;
  });
}

/** Columns of row `y` (first, and one past the last) whose centres fall inside a source of `sw`×`sh`. */
export function coveredColumns(map: Affine, y: number, sw: Pixels, sh: Pixels, columns: number): [number, number] {
  let low = 0;
  let high = columns;
  const limit = (slope: number, at: number, size: number) => {
    // 0 <= slope·(x + 0.5) + at <= size, with a hundredth of a pixel to spare
    const tolerance = 0.01;
    if (Math.abs(slope) < 1e-12) {
      if (at < -tolerance || at > size + tolerance) high = low;
      return;
    }
    const p = (-tolerance - at) / slope - 0.5;
    const q = (size + tolerance - at) / slope - 0.5;
    low = Math.max(low, Math.ceil(Math.min(p, q)));
    high = Math.min(high, Math.floor(Math.max(p, q)) + 1);
  };
  limit(map.a, map.b * (y + 0.5) + map.c, sw);
  limit(map.d, map.e * (y + 0.5) + map.f, sh);
  return low < high ? [low, high] : [0, 0];
}
