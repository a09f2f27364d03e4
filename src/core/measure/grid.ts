import { boxMeanByKernel, grownByKernel } from './grid-kernel';
import type { Labelled, Mask } from './mask';
import { labelledByKernel, turnedByKernel } from './parts-kernel';

export type { Mask } from './mask';

export function emptyMask(width: number, height: number): Mask {
  return { width, height, data: new Uint8Array(width * height) };
}

/** Grows (`by` over 0) or shrinks (under 0) a mask by whole pixels, square-wise; outside counts as what is at the edge. */
export const grow = (mask: Mask, by: number): Mask => grownByKernel(mask, by) ?? grownPlainly(mask, by);

/** By running counts, along the rows and then down the columns. The definition; the compiled pass must agree with it. */
export function grownPlainly({ width, height, data }: Mask, by: number): Mask {
  const want = by > 0 ? 1 : 0;
  const along = (from: Uint8Array, line: number, lines: number, step: number, next: number) => {
    const out = new Uint8Array(from.length).fill(1 - want);
    for (let k = 0; k < lines; k++)
      for (let i = 0, until = -1; i < line + Math.abs(by); i++) {
        if (i < line && from[k * next + i * step] === want) until = i + 2 * Math.abs(by);
        const at = i - Math.abs(by);
        if (at >= 0 && i <= until) out[k * next + at * step] = want;
      }
    return out;
  };
  return { width, height, data: along(along(data, width, height, 1, width), height, width, width, 1) };
}

/** A connected part of a mask (four neighbours). */
export interface Part {
  /** Indices of its pixels. */
  pixels: Int32Array;
  touchesEdge: boolean;
}

/** Runs of one value along the rows: first and one past the last index of each, in order. */
function runsOf({ width, height, data }: Mask, value: 0 | 1): Int32Array {
  const most = 2 * height * Math.ceil((width + 1) / 2);
  if (found.length < most) found = new Int32Array(most);
  const out = found;
  let n = 0;
  for (let row = 0; row < data.length; row += width) {
    const end = row + width;
    for (let i = row; i < end; ) {
      if (data[i] !== value) {
        i++;
        continue;
      }
      out[n++] = i;
      while (i < end && data[i] === value) i++;
      out[n++] = i;
    }
  }
  return out.slice(0, n);
}
/** Room for the runs of one mask, kept from call to call. */
let found = new Int32Array(0);

const labelled = (mask: Mask, value: 0 | 1): Labelled => labelledByKernel(mask, value) ?? labelledPlainly(mask, value);

/** Runs of the rows, joined where they lie above each other (Rosenfeld & Pfaltz 1966). The definition; the compiled pass must agree with it. */
export function labelledPlainly(mask: Mask, value: 0 | 1): Labelled {
  const { width, height } = mask;
  const runs = runsOf(mask, value);
  const count = runs.length / 2;
  const part = new Int32Array(count);
  for (let k = 0; k < count; k++) part[k] = k;
  const root = (k: number) => {
    let at = k;
    while (part[at] !== at) at = part[at] = part[part[at]];
    return at;
  };
  // Each run against those of the row before, both in order.
  for (let k = 0, above = 0; k < count; k++) {
    const [from, to] = [runs[2 * k] - width, runs[2 * k + 1] - width];
    while (above < k && runs[2 * above + 1] <= from) above++;
    for (let a = above; a < k && runs[2 * a] < to; a++) {
      const [p, q] = [root(a), root(k)];
      if (p !== q) part[Math.max(p, q)] = Math.min(p, q);
    }
  }
  const size = new Int32Array(count);
  const edge = new Uint8Array(count);
  for (let k = 0; k < count; k++) {
    const [from, to] = [runs[2 * k], runs[2 * k + 1]];
    const r = root(k);
    part[k] = r;
    size[r] += to - from;
    if (from % width === 0 || to % width === 0 || from < width || from >= width * (height - 1)) edge[r] = 1;
  }
  return { runs, part, size, edge };
}

/** The connected parts whose value is `value`. */
export function partsOf(mask: Mask, value: 0 | 1): Part[] {
  const { runs, part, size, edge } = labelled(mask, value);
  // All parts lie one after another in one list.
  const list = new Int32Array(size.reduce((a, b) => a + b, 0));
  const end = new Int32Array(size.length);
  const parts: Part[] = [];
  for (let k = 0, at = 0; k < size.length; k++) {
    if (part[k] !== k) continue;
    end[k] = at;
    parts.push({ pixels: list.subarray(at, at + size[k]), touchesEdge: edge[k] === 1 });
    at += size[k];
  }
  for (let k = 0; k < size.length; k++) {
    const r = part[k];
    for (let i = runs[2 * k]; i < runs[2 * k + 1]; i++) list[end[r]++] = i;
  }
  return parts;
}

/** Gives the parts of a value that are under `least` pixels the other one, in place; with `inner` those that touch the mask's edge stay. */
function turned(mask: Mask, value: 0 | 1, least: number, inner: boolean): void {
  if (!turnedByKernel(mask, value, least, inner)) turnedPlainly(mask, value, least, inner);
}

/** The definition; the compiled pass must agree with it. */
export function turnedPlainly(mask: Mask, value: 0 | 1, least: number, inner: boolean): void {
  const { runs, part, size, edge } = labelledPlainly(mask, value);
  for (let k = 0; k < part.length; k++)
    if (size[part[k]] < least && !(inner && edge[part[k]])) mask.data.fill(1 - value, runs[2 * k], runs[2 * k + 1]);
}

/** Removes specks smaller than `least` pixels and fills holes smaller than `hole`, in place. */
export function tidy(mask: Mask, least: number, hole: number): Mask {
  if (least > 1) turned(mask, 1, least, false);
  if (hole > 1) turned(mask, 0, hole, true);
  return mask;
}

/** Drops parts under a fiftieth of the largest, in place: leftovers of light and edges, not a hand or a thrown thing. */
export function dropSmall(mask: Mask): Mask {
  const largest = labelled(mask, 1).size.reduce((a, b) => Math.max(a, b), 0);
  turned(mask, 1, 0.02 * largest, false);
  return mask;
}

export function countOf(mask: Mask): number {
  let n = 0;
  for (const v of mask.data) n += v;
  return n;
}

/** Where the pixels of a mask lie in the mean, and how many they are; the place is NaN with none. */
export function centreOf({ width, data }: Mask): { x: number; y: number; count: number } {
  let [n, sx, sy] = [0, 0, 0];
  for (let i = 0; i < data.length; i++) {
    if (!data[i]) continue;
    n++;
    sx += i % width;
    sy += Math.floor(i / width);
  }
  return { x: sx / n, y: sy / n, count: n };
}

/** The box around a mask, right and bottom past its last pixels, and its share of the whole; null when it is empty. */
export function boxOf({ width, height, data }: Mask): { left: number; top: number; right: number; bottom: number; share: number } | null {
  let [left, top, right, bottom, n] = [width, height, 0, 0, 0];
  for (let i = 0; i < data.length; i++) {
    if (!data[i]) continue;
    const x = i % width;
    const y = (i - x) / width;
    n++;
    left = Math.min(left, x);
    right = Math.max(right, x + 1);
    top = Math.min(top, y);
    bottom = y + 1;
  }
  return n ? { left, top, right, bottom, share: n / data.length } : null;
}

/** Packs a mask into bits, eight pixels a byte. */
export function packed(mask: Mask): Uint8Array {
  const out = new Uint8Array(Math.ceil(mask.data.length / 8));
  for (let i = 0; i < mask.data.length; i++) if (mask.data[i]) out[i >> 3] |= 1 << (i & 7);
  return out;
}

export function unpacked(bits: Uint8Array, width: number, height: number): Mask {
  const mask = emptyMask(width, height);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = (bits[i >> 3] >> (i & 7)) & 1;
  return mask;
}

/** Means along the rows, over `2·reach + 1` pixels around each, cut at the edges. */
function rowMeans(values: Float32Array, width: number, reach: number): Float32Array {
  const rows = new Float32Array(values.length);
  const whole = Math.max(reach + 1, width - reach);
  for (let row = 0; row < values.length; row += width) {
    let [sum, n] = [0, Math.min(reach, width)];
    for (let i = 0; i < n; i++) sum += values[row + i];
    let i = 0;
    for (; i <= reach && i < width; i++) {
      if (i + reach < width) {
        sum += values[row + i + reach];
        n++;
      }
      rows[row + i] = sum / n;
    }
    const share = 1 / n;
    for (; i < width - reach; i++) {
      sum += values[row + i + reach] - values[row + i - reach - 1];
      rows[row + i] = sum * share;
    }
    for (i = whole; i < width; i++) {
      sum -= values[row + i - reach - 1];
      rows[row + i] = sum / --n;
    }
  }
  return rows;
}

/** Mean over a square of `2·reach + 1` pixels around each pixel; the square is cut at the edges. */
export const boxMean = (values: Float32Array, width: number, height: number, reach: number): Float32Array =>
  boxMeanByKernel(values, width, height, reach) ?? boxMeanPlainly(values, width, height, reach);

/** By running sums. */
export function boxMeanPlainly(values: Float32Array, width: number, height: number, reach: number): Float32Array {
  const rows = rowMeans(values, width, reach);
  const out = new Float32Array(values.length);
  // All columns at once, row by row: memory is read as it lies.
  const sums = new Float64Array(width);
  let n = Math.min(reach, height);
  for (let i = 0; i < n * width; i++) sums[i % width] += rows[i];
  for (let y = 0; y < height; y++) {
    const [next, last, here] = [(y + reach) * width, (y - reach - 1) * width, y * width];
    const [enters, leaves] = [y + reach < height, y > reach];
    n += (enters ? 1 : 0) - (leaves ? 1 : 0);
    const share = 1 / n;
    if (enters && leaves) {
      for (let x = 0; x < width; x++) {
        sums[x] += rows[next + x] - rows[last + x];
        out[here + x] = sums[x] * share;
      }
      continue;
    }
    if (enters) for (let x = 0; x < width; x++) sums[x] += rows[next + x];
    if (leaves) for (let x = 0; x < width; x++) sums[x] -= rows[last + x];
    for (let x = 0; x < width; x++) out[here + x] = sums[x] * share;
  }
  return out;
}
