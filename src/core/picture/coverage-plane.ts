import type { Pixels } from '../units';
import type { Affine } from './affine';
import { type Box, boundsOf } from './box';
import { type LineCoverage, lineCoverageRow, type PathCoverage, pathCoverageRow } from './coverage';
import { coveredColumns } from './resample';
import { type Point, shapePlane } from './shape';

/** A closed shape on the frame, its corners in pixels; how far its edge is soft to the inside and to the outside, pixels. */
export interface ShapeCoverage {
  kind: 'shape';
  points: readonly Point[];
  inside: Pixels;
  outside: Pixels;
}

/** A cut-out kept as a picture of its own: `map` leads from pixels of the frame to pixels of the cut-out. Nothing beyond its edge. */
export interface MatteCoverage {
  kind: 'matte';
  matteId: string;
  map: Affine;
}

export const COMBINES = ['add', 'subtract', 'intersect'] as const;
export type Combine = (typeof COMBINES)[number];

/** Several coverages one after another: added (the greater), taken away, or cut with what was there (the lesser); after Zadeh 1965. */
export interface ManyCoverage {
  kind: 'many';
  parts: readonly { coverage: Coverage; combine: Combine; invert: boolean }[];
}

/** A plane of coverage ready to be asked row by row: at full and at half size, and for each row the one value all its columns share, or -1. */
interface RowsCoverage {
  kind: 'rows';
  full: Uint16Array;
  half: Uint16Array;
  shared: [Int16Array, Int16Array];
}

export type Coverage = LineCoverage | PathCoverage | ShapeCoverage | MatteCoverage | ManyCoverage;

/** A stored cut-out: how much of each pixel belongs to the figure, 0..255. */
export interface Raster {
  width: Pixels;
  height: Pixels;
  alpha: Uint8Array;
}

export type Mattes = ReadonlyMap<string, Raster>;

const figures = new WeakMap<Uint8Array, Box | null>();

/** The part of a cut-out outside which there is nothing; looked for once. */
function figureOf({ alpha, width, height }: Raster): Box | null {
  if (!figures.has(alpha)) figures.set(alpha, boundsOf(alpha, width, height));
  return figures.get(alpha) ?? null;
}

/** A cut-out laid on the frame, between its pixels linear. */
function mattePlane({ matteId, map }: MatteCoverage, width: number, height: number, mattes: Mattes): Uint16Array {
  const out = new Uint16Array(width * height);
  const matte = mattes.get(matteId);
  const figure = matte && figureOf(matte);
  if (!matte || !figure) return out;
  const { alpha, width: mw, height: mh } = matte;
  const { left, top, right, bottom } = figure;
  const near = { ...map, c: map.c - left + 1, f: map.f - top + 1 };
  for (let y = 0; y < height; y++) {
    const [from, to] = coveredColumns(near, y, right - left + 2, bottom - top + 2, width);
    for (let x = from; x < to; x++) {
      const u = map.a * (x + 0.5) + map.b * (y + 0.5) + map.c - 0.5;
      const v = map.d * (x + 0.5) + map.e * (y + 0.5) + map.f - 0.5;
      if (u <= -0.5 || v <= -0.5 || u >= mw - 0.5 || v >= mh - 0.5) continue;
      const [x0, y0] = [Math.floor(u), Math.floor(v)];
      const [fx, fy] = [u - x0, v - y0];
      const [xa, xb] = [x0 < 0 ? 0 : x0, x0 + 1 < mw ? x0 + 1 : mw - 1];
      const [ra, rb] = [(y0 < 0 ? 0 : y0) * mw, (y0 + 1 < mh ? y0 + 1 : mh - 1) * mw];
      const upper = alpha[ra + xa] + fx * (alpha[ra + xb] - alpha[ra + xa]);
      const lower = alpha[rb + xa] + fx * (alpha[rb + xb] - alpha[rb + xa]);
      out[y * width + x] = ((upper + fy * (lower - upper)) * 256) / 255 + 0.5;
    }
  }
  return out;
}

/** Coverage of every pixel of the frame, 0..256, by any kind. */
export function coveragePlane(coverage: Coverage, width: Pixels, height: Pixels, mattes: Mattes): Uint16Array {
  switch (coverage.kind) {
    case 'shape':
      return shapePlane(coverage.points, coverage.inside, coverage.outside, width, height);
    case 'matte':
      return mattePlane(coverage, width, height, mattes);
    case 'many':
      return combined(coverage, width, height, mattes);
    default: {
      const out = new Uint16Array(width * height);
      for (let y = 0; y < height; y++) {
        const row = out.subarray(y * width, (y + 1) * width);
        const shared = coverageRow(coverage, y, width, height, 1, row);
        if (shared >= 0) row.fill(shared);
      }
      return out;
    }
  }
}

function combined({ parts }: ManyCoverage, width: number, height: number, mattes: Mattes): Uint16Array {
  const out = new Uint16Array(width * height).fill(256);
  parts.forEach(({ coverage, combine, invert }, k) => {
    const plane = coveragePlane(coverage, width, height, mattes);
    // Taking away is keeping what is outside; the first of all stands as it is, or is taken away from everything.
    const outside = (combine === 'subtract') !== invert;
    const add = combine === 'add' && k > 0;
    for (let i = 0; i < out.length; i++) {
      const value = outside ? 256 - plane[i] : plane[i];
      if (add ? value > out[i] : value < out[i]) out[i] = value;
    }
  });
  return out;
}

/** A coverage that can be asked row by row; shapes and cut-outs are worked out for the whole frame first. */
export type RowCoverage = LineCoverage | PathCoverage | RowsCoverage;

export function byRows(coverage: Coverage, width: Pixels, height: Pixels, mattes: Mattes): RowCoverage {
  if (coverage.kind === 'line' || coverage.kind === 'path') return coverage;
  return rowsOf(coveragePlane(coverage, width, height, mattes), width, height);
}

/** A plane of coverage, 0..256, made ready to be asked row by row. */
export function rowsOf(full: Uint16Array, width: Pixels, height: Pixels): RowsCoverage {
  const half = new Uint16Array(full.length / 4);
  const across = width / 2;
  for (let y = 0, k = 0; y < height / 2; y++)
    for (let x = 0, at = 2 * y * width; x < across; x++, k++, at += 2)
      half[k] = (full[at] + full[at + 1] + full[at + width] + full[at + width + 1] + 2) >> 2;
  return { kind: 'rows', full, half, shared: [sharedIn(full, width), sharedIn(half, across)] };
}

/** For each row the value all its columns have, or -1. */
function sharedIn(plane: Uint16Array, width: number): Int16Array {
  return new Int16Array(plane.length / width).map((_, y) => {
    const first = plane[y * width];
    for (let i = y * width + 1; i < (y + 1) * width; i++) if (plane[i] !== first) return -1;
    return first;
  });
}

/** Coverage of one row; see `lineCoverageRow`. */
export function coverageRow(coverage: RowCoverage, row: number, width: Pixels, height: Pixels, scale: 1 | 2, out: Uint16Array): number {
  if (coverage.kind === 'line') return lineCoverageRow(coverage, row, width, height, scale, out);
  if (coverage.kind === 'path') return pathCoverageRow(coverage, row, width / scale, scale, out);
  const shared = coverage.shared[scale - 1][row];
  const columns = width / scale;
  if (shared < 0) out.set((scale === 1 ? coverage.full : coverage.half).subarray(row * columns, (row + 1) * columns));
  return shared;
}
