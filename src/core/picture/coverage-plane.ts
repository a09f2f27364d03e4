import type { Pixels, Seconds } from '../units';
import type { Affine } from './affine';
import { type Box, boundsOf } from './box';
import type { Combine } from './combine';
import { type LineCoverage, lineCoverageRow, type PathCoverage, pathCoverageRow, stoodUp } from './coverage';
import { coveredColumns } from './resample';
import { type Point, shapePlane } from './shape';
import { type FigureCoverage, figurePlane, type MovingSilhouette } from './silhouette';

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
  /** Second of it, where it is a film; of a picture there is none. */
  time?: Seconds;
  map: Affine;
}

/** Under what name a cut-out's picture is asked for: a film has one for each of its seconds. */
export const matteKey = ({ matteId, time }: MatteCoverage): string => (time === undefined ? matteId : `${matteId}@${time}`);

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
  /** Outside which there is nothing; null where there is nothing at all. */
  box: Box | null;
}

export type Coverage = LineCoverage | PathCoverage | ShapeCoverage | MatteCoverage | FigureCoverage | ManyCoverage;

/** A stored cut-out: how much of each pixel belongs to the figure, 0..255. */
export interface Raster {
  width: Pixels;
  height: Pixels;
  alpha: Uint8Array;
}

/** Cut-outs and figures over time, by the files that keep them. */
export type Mattes = ReadonlyMap<string, Raster | MovingSilhouette>;

const figures = new WeakMap<Uint8Array, Box | null>();

/** The part of a cut-out outside which there is nothing; looked for once. */
function figureOf({ alpha, width, height }: Raster): Box | null {
  if (!figures.has(alpha)) figures.set(alpha, boundsOf(alpha, width, height));
  return figures.get(alpha) ?? null;
}

/** A cut-out laid on the frame, between its pixels linear. */
function mattePlane(coverage: MatteCoverage, width: number, height: number, mattes: Mattes): Uint16Array {
  const { map } = coverage;
  const out = new Uint16Array(width * height);
  const matte = mattes.get(matteKey(coverage));
  if (!matte || !('alpha' in matte)) return out;
  const figure = figureOf(matte);
  if (!figure) return out;
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
    case 'silhouette': {
      const figure = mattes.get(coverage.silhouetteId);
      return figure && 'times' in figure ? figurePlane(coverage, figure, width, height) : new Uint16Array(width * height);
    }
    case 'many':
      return combined(coverage, width, height, mattes);
    case 'path':
      if (coverage.across) return acrossPlane(coverage, width, height);
      return planeOfRows(coverage, width, height);
    default:
      return planeOfRows(coverage, width, height);
  }
}

function planeOfRows(coverage: RowCoverage, width: number, height: number): Uint16Array {
  const out = new Uint16Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = out.subarray(y * width, (y + 1) * width);
    const shared = coverageRow(coverage, y, width, height, 1, row);
    if (shared >= 0) row.fill(shared);
  }
  return out;
}

/** A path from left to right: worked out as one from top to bottom, and turned. */
function acrossPlane(path: PathCoverage, width: number, height: number): Uint16Array {
  const upright = planeOfRows(stoodUp(path), height, width);
  const out = new Uint16Array(width * height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[y * width + x] = upright[x * height + y];
  return out;
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
  const asked = coverage.kind === 'line' || (coverage.kind === 'path' && !coverage.across);
  return asked ? coverage : rowsFor(coverage, width, height, mattes);
}

/** Planes asked for last: what stands still is asked for again on every frame. */
const recent = new Map<string, RowsCoverage>();
/** Pixels of them that are kept: twelve frames of 1280×720. */
const KEPT = 12 * 1280 * 720;

/** Numbers for kept cut-outs, so that two under one name are told apart. */
const serials = new WeakMap<object, number>();
let lastSerial = 0;
function serialOf(matte: object | undefined): number {
  if (!matte) return 0;
  const known = serials.get(matte) ?? ++lastSerial;
  serials.set(matte, known);
  return known;
}

function serialsIn(coverage: Coverage, mattes: Mattes): number[] {
  if (coverage.kind === 'many') return coverage.parts.flatMap((part) => serialsIn(part.coverage, mattes));
  if (coverage.kind === 'matte') return [serialOf(mattes.get(matteKey(coverage)))];
  return coverage.kind === 'silhouette' ? [serialOf(mattes.get(coverage.silhouetteId))] : [];
}

/** What a coverage lets through, row by row, worked out once for as long as it is among the last asked for. */
export function rowsFor(coverage: Coverage, width: Pixels, height: Pixels, mattes: Mattes): RowsCoverage {
  const key = `${width} ${height} ${serialsIn(coverage, mattes)} ${JSON.stringify(coverage)}`;
  const made = recent.get(key) ?? rowsOf(coveragePlane(coverage, width, height, mattes), width, height);
  recent.delete(key);
  while (recent.size > 1 && (recent.size + 1) * width * height > KEPT) recent.delete(recent.keys().next().value as string);
  recent.set(key, made);
  return made;
}

/** A plane of coverage, 0..256, made ready to be asked row by row. */
export function rowsOf(full: Uint16Array, width: Pixels, height: Pixels): RowsCoverage {
  const half = new Uint16Array(full.length / 4);
  const box = boundsOf(full, width, height);
  const across = width / 2;
  const [x0, x1, y0, y1] = box ? [box.left >> 1, (box.right + 1) >> 1, box.top >> 1, (box.bottom + 1) >> 1] : [0, 0, 0, 0];
  for (let y = y0; y < y1; y++)
    for (let x = x0, k = y * across + x0, at = 2 * (y * width + x0); x < x1; x++, k++, at += 2)
      half[k] = (full[at] + full[at + 1] + full[at + width] + full[at + width + 1] + 2) >> 2;
  return { kind: 'rows', full, half, shared: [sharedIn(full, width), sharedIn(half, across)], box };
}

/** For each row the value all its columns have, or -1. */
function sharedIn(plane: Uint16Array, width: number): Int16Array {
  return new Int16Array(plane.length / width).map((_, y) => {
    const start = y * width;
    const first = plane[start];
    // Most rows that differ do so between their ends and their middle.
    if (plane[start + width - 1] !== first || plane[start + (width >> 1)] !== first) return -1;
    for (let i = start + 1; i < start + width; i++) if (plane[i] !== first) return -1;
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
