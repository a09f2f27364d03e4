import { clamp, type Pixels } from '../units';
import { type LineCoverage, lineCoverageRow, type PathCoverage, pathCoverageRow } from './coverage';
import type { Affine } from './resample';
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

/** Coverage already worked out for every pixel of the frame, 0..256. */
export interface PlaneCoverage {
  kind: 'plane';
  cover: Uint16Array;
}

export type Coverage = LineCoverage | PathCoverage | ShapeCoverage | MatteCoverage | ManyCoverage | PlaneCoverage;

/** A stored cut-out: how much of each pixel belongs to the figure, 0..255. */
export interface Raster {
  width: Pixels;
  height: Pixels;
  alpha: Uint8Array;
}

export type Mattes = ReadonlyMap<string, Raster>;

/** A cut-out laid on the frame, between its pixels linear. */
function mattePlane({ matteId, map }: MatteCoverage, width: number, height: number, mattes: Mattes): Uint16Array {
  const out = new Uint16Array(width * height);
  const matte = mattes.get(matteId);
  if (!matte) return out;
  const { alpha, width: mw, height: mh } = matte;
  for (let y = 0; y < height; y++) {
    let u = map.a * 0.5 + map.b * (y + 0.5) + map.c - 0.5;
    let v = map.d * 0.5 + map.e * (y + 0.5) + map.f - 0.5;
    for (let x = 0; x < width; x++, u += map.a, v += map.d) {
      if (u <= -0.5 || v <= -0.5 || u >= mw - 0.5 || v >= mh - 0.5) continue;
      const [x0, y0] = [Math.floor(u), Math.floor(v)];
      const [fx, fy] = [u - x0, v - y0];
      const [xa, xb] = [x0 < 0 ? 0 : x0, x0 + 1 < mw ? x0 + 1 : mw - 1];
      const [ra, rb] = [(y0 < 0 ? 0 : y0) * mw, (y0 + 1 < mh ? y0 + 1 : mh - 1) * mw];
      const top = alpha[ra + xa] + fx * (alpha[ra + xb] - alpha[ra + xa]);
      const low = alpha[rb + xa] + fx * (alpha[rb + xb] - alpha[rb + xa]);
      out[y * width + x] = Math.round(((top + fy * (low - top)) * 256) / 255);
    }
  }
  return out;
}

/** Coverage of every pixel of the frame, 0..256, by any kind. */
export function coveragePlane(coverage: Coverage, width: Pixels, height: Pixels, mattes: Mattes): Uint16Array {
  switch (coverage.kind) {
    case 'plane':
      return coverage.cover;
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
  let out: Uint16Array | null = null;
  for (const { coverage, combine, invert } of parts) {
    const plane = coveragePlane(coverage, width, height, mattes);
    const value = (i: number) => (invert ? 256 - plane[i] : plane[i]);
    if (!out) {
      // The first stands as it is, or as what it is taken away from.
      const first = combine === 'subtract';
      out = Uint16Array.from({ length: plane.length }, (_, i) => (first ? 256 - value(i) : value(i)));
    } else if (combine === 'add') for (let i = 0; i < out.length; i++) out[i] = Math.max(out[i], value(i));
    else if (combine === 'intersect') for (let i = 0; i < out.length; i++) out[i] = Math.min(out[i], value(i));
    else for (let i = 0; i < out.length; i++) out[i] = Math.min(out[i], 256 - value(i));
  }
  return out ?? new Uint16Array(width * height).fill(256);
}

/** A coverage that can be asked row by row: lines, paths and planes; others are worked out for the whole frame first. */
export type RowCoverage = LineCoverage | PathCoverage | PlaneCoverage;

export function byRows(coverage: Coverage, width: Pixels, height: Pixels, mattes: Mattes): RowCoverage {
  return coverage.kind === 'line' || coverage.kind === 'path' || coverage.kind === 'plane'
    ? coverage
    : { kind: 'plane', cover: coveragePlane(coverage, width, height, mattes) };
}

/** One row of a plane; the half-size chroma row is the mean of four. */
function planeRow(cover: Uint16Array, row: number, width: Pixels, scale: 1 | 2, out: Uint16Array): number {
  const columns = width / scale;
  const at = row * scale * width;
  let [low, high] = [256, 0];
  for (let x = 0; x < columns; x++) {
    const k = at + x * scale;
    const value = scale === 1 ? cover[k] : (cover[k] + cover[k + 1] + cover[k + width] + cover[k + width + 1] + 2) >> 2;
    out[x] = value;
    low = value < low ? value : low;
    high = value > high ? value : high;
  }
  return low === high ? clamp(low, 0, 256) : -1;
}

/** Coverage of one row; see `lineCoverageRow`. */
export function coverageRow(coverage: RowCoverage, row: number, width: Pixels, height: Pixels, scale: 1 | 2, out: Uint16Array): number {
  if (coverage.kind === 'plane') return planeRow(coverage.cover, row, width, scale, out);
  return coverage.kind === 'line'
    ? lineCoverageRow(coverage, row, width, height, scale, out)
    : pathCoverageRow(coverage, row, width / scale, scale, out);
}
