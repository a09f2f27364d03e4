import { aligned, bytesFor, compiled } from '../compiled';
import type { Affine } from './affine';
import type { ColourMatrix } from './colour';
import type { Homography } from './homography';
import { KERNEL_BASE64 } from './kernel-bytes';
import type { Planes } from './planes';
import { fourTapWeights, passesOf, type Region, usesFourTaps } from './resample';

interface Kernel {
  /** See `kernels/resample.ts`. */
  perspective(src: number, width: number, height: number, dst: number, weights: number, below: number, ...map: Homography): void;
  across(
    src: number,
    sw: number,
    rowFirst: number,
    rows: number,
    x0: number,
    width: number,
    dst: number,
    weights: number,
    taps: number,
    stride: number,
    row: number,
    perX: number,
    perRow: number,
    base: number,
  ): void;
  down(
    src: number,
    width: number,
    rows: number,
    dst: number,
    y0: number,
    y1: number,
    weights: number,
    taps: number,
    stride: number,
    d: number,
    e: number,
    f: number,
    dx0: number,
    rowFirst: number,
  ): void;
  horizontal(
    src: number,
    sw: number,
    rowFirst: number,
    rows: number,
    x0: number,
    width: number,
    dst: number,
    weights: number,
    row: number,
    perX: number,
    perRow: number,
    base: number,
  ): void;
  vertical(
    src: number,
    width: number,
    rows: number,
    dst: number,
    ow: number,
    x0: number,
    y0: number,
    y1: number,
    weights: number,
    d: number,
    e: number,
    offset: number,
  ): void;
  recolour(y: number, u: number, v: number, width: number, x0: number, x1: number, from: number, to: number, m: number): void;
  tile(src: number, sw: number, sh: number, dst: number): void;
  addShifted(tiled: number, sw: number, sh: number, dst: number, ow: number, oh: number, x0: number, y0: number): void;
  addMapped(
    src: number,
    sw: number,
    sh: number,
    dst: number,
    ow: number,
    oh: number,
    a: number,
    b: number,
    c: number,
    d: number,
    e: number,
    f: number,
  ): void;
  cubicMapped(
    src: number,
    sw: number,
    sh: number,
    dst: number,
    ow: number,
    x0: number,
    x1: number,
    y0: number,
    y1: number,
    weights: number,
    mirror: number,
    a: number,
    b: number,
    c: number,
    d: number,
    e: number,
    f: number,
  ): void;
  reduce(src: number, sw: number, by: number, dst: number, w: number, h: number, columns: number): void;
  mean(sums: number, count: number, dst: number, added: number): void;
}

const WEIGHTS = 0;
const MATRIX = 2048;
const ROW = 4096;
/** Where the data of a call begins in the memory; before it stand weights, a matrix and a row. */
export const DATA = 32768;
/** Above this slope eight columns no longer share a phase to within a sixtieth of a pixel. */
const STEEPEST = 0.004;

/** The compiled passes that keep nothing from call to call, or null where the plain ones serve. */
export const load = compiled<Kernel>(KERNEL_BASE64, (memory) => new Int16Array(memory.buffer, WEIGHTS, 1024).set(fourTapWeights()));

/** Whole pixels of shift where a map only moves the picture; null where it does more. */
function shiftOf({ a, b, c, d, e, f }: Affine): [number, number] | null {
  const plain = Math.abs(a - 1) < 1e-9 && Math.abs(e - 1) < 1e-9 && Math.abs(b) < 1e-9 && Math.abs(d) < 1e-9;
  return plain ? [Math.floor(c + 0.5), Math.floor(f + 0.5)] : null;
}

/**
 * The mean of one plane laid through each of `maps` (up to 256), its nearest pixels taken and the plane mirrored at its edges, in compiled
 * code. Null where this machine needs the plain sums.
 */
export function meanByKernel(
  plane: Uint8Array,
  sw: number,
  sh: number,
  maps: readonly Affine[],
  ow: number,
  oh: number,
): Uint8Array | null {
  const at = load();
  if (!at || maps.length > 256) return null;
  const { kernel, memory } = at;
  const tiled = DATA + aligned(sw * sh);
  const sums = tiled + aligned(2 * sw * sh);
  const target = sums + aligned(2 * ow * oh);
  const bytes = bytesFor(memory, target + aligned(ow * oh));
  bytes.set(plane.subarray(0, sw * sh), DATA);
  bytes.fill(0, sums, sums + 2 * ow * oh);
  const shifts = maps.map(shiftOf);
  if (shifts.some((s) => s)) kernel.tile(DATA, sw, sh, tiled);
  maps.forEach(({ a, b, c, d, e, f }, i) => {
    const shift = shifts[i];
    if (shift) kernel.addShifted(tiled, sw, sh, sums, ow, oh, shift[0], shift[1]);
    else kernel.addMapped(DATA, sw, sh, sums, ow, oh, a, b, c, d, e, f);
  });
  kernel.mean(sums, ow * oh, target, maps.length);
  return bytes.slice(target, target + ow * oh);
}

/**
 * Resamples and recolours planes onto a `width`×`height` grid in the region given (even rows, columns in eights), in compiled code. The
 * planes returned are views that hold until the next call. Null when this map, or this machine, needs the plain passes.
 */
export function placeByKernel(
  planes: Planes,
  map: Affine,
  colour: ColourMatrix | null,
  width: number,
  height: number,
  { x0, x1, y0, y1 }: Region,
): Planes | null {
  if (!usesFourTaps(map) || Math.abs(map.d) > STEEPEST || planes.width + 128 > DATA - ROW) return null;
  const at = load();
  if (!at) return null;
  const { kernel, memory } = at;
  const luma = width * height;
  const chroma = luma / 4;
  const source = aligned(planes.width * planes.height);
  const scratch = aligned(width * (planes.height + 8));
  const target = DATA + source + scratch;
  const need = target + aligned(luma) + 2 * aligned(chroma);
  const bytes = bytesFor(memory, need);
  const offsets = { y: target, u: target + aligned(luma), v: target + aligned(luma) + aligned(chroma) };
  for (const name of ['y', 'u', 'v'] as const) {
    const scale = name === 'y' ? 1 : 2;
    const [sw, sh, ow] = [planes.width / scale, planes.height / scale, width / scale];
    const region = { x0: x0 / scale, x1: x1 / scale, y0: y0 / scale, y1: y1 / scale };
    const wide = region.x1 - region.x0;
    const passes = passesOf({ ...map, c: map.c / scale, f: map.f / scale }, region, sh, 4);
    const count = passes.rowLast - passes.rowFirst + 1;
    bytes.set(planes[name].subarray(passes.rowFirst * sw, (passes.rowLast + 1) * sw), DATA);
    // Only the rows needed are copied in, so row numbers start at rowFirst.
    const base = passes.base + passes.perRow * passes.rowFirst;
    kernel.horizontal(DATA, sw, 0, count, region.x0, wide, DATA + source, WEIGHTS, ROW, passes.perX, passes.perRow, base);
    kernel.vertical(
      DATA + source,
      wide,
      count,
      offsets[name],
      ow,
      region.x0,
      region.y0,
      region.y1,
      WEIGHTS,
      passes.d,
      passes.e,
      passes.f - passes.rowFirst,
    );
  }
  if (colour) {
    new Float32Array(memory.buffer, MATRIX, 12).set(colour);
    kernel.recolour(offsets.y, offsets.u, offsets.v, width, x0, x1, y0, y1, MATRIX);
  }
  return {
    width,
    height,
    y: bytes.subarray(offsets.y, offsets.y + luma),
    u: bytes.subarray(offsets.u, offsets.u + chroma),
    v: bytes.subarray(offsets.v, offsets.v + chroma),
  };
}

/**
 * One plane through any affine map by the cubic filter of 4×4 taps, in compiled code, into the region of `out`. False where this machine
 * needs the plain filter.
 */
export function sampleByKernel(
  source: Uint8Array,
  sw: number,
  sh: number,
  out: Uint8Array,
  ow: number,
  { x0, x1, y0, y1 }: Region,
  { a, b, c, d, e, f }: Affine,
  mirror: boolean,
): boolean {
  const at = load();
  if (!at) return false;
  const { kernel, memory } = at;
  const target = DATA + aligned(sw * sh);
  const size = ow * y1;
  const bytes = bytesFor(memory, target + aligned(size));
  bytes.set(source.subarray(0, sw * sh), DATA);
  kernel.cubicMapped(DATA, sw, sh, target, ow, x0, x1, y0, y1, WEIGHTS, mirror ? 1 : 0, a, b, c, d, e, f);
  for (let y = y0; y < y1; y++) out.set(bytes.subarray(target + y * ow + x0, target + y * ow + x1), y * ow + x0);
  return true;
}

/** A plane reduced by averaging boxes of `by`×`by` in compiled code into `out` of `width`×`height`. False where the plain sums are needed. */
export function reduceByKernel(source: Uint8Array, sw: number, by: number, out: Uint8Array, width: number, height: number): boolean {
  const at = by >= 2 && by <= 256 ? load() : null;
  if (!at) return false;
  const used = sw * height * by;
  const columns = DATA + aligned(used + 16);
  const target = columns + aligned(2 * (width * by + 16));
  const bytes = bytesFor(at.memory, target + aligned(width * height));
  bytes.set(source.subarray(0, used), DATA);
  at.kernel.reduce(DATA, sw, by, target, width, height, columns);
  out.set(bytes.subarray(target, target + width * height));
  return true;
}
