import { clamp, type Pixels, type Unit } from '../units';
import { type Affine, applied, chromaMap, inverted, STAY } from './affine';
import { type BlendMode, blender } from './blend';
import type { Box } from './box';
import { BT709, type ColourMatrix, fromRgbMatrix, IDENTITY_COLOUR, isIdentityColour, rgbOf } from './colour';
import type { Rgb } from './colour-table';
import { byRows, type Coverage, coverageRow, type Mattes, type RowCoverage, rowsOf } from './coverage-plane';
import { placeByKernel } from './kernel';
import { blurred, type Motion } from './motion-blur';
import { blacken, blackPlanes, type Planes } from './planes';
import { recolour, recoloured } from './recolour';
import { coveredColumns, fills, type Region } from './resample';
import { resampleQuickly } from './resample-kernel';
import { type Edge, samplePlanes } from './sample';

/** One layer with everything resolved: decoded planes and how they lie on the output. Bottom layer first. */
export interface ComposeLayer {
  planes: Planes;
  /** Output pixels to pixels of `planes`. */
  map: Affine;
  colour: ColourMatrix;
  /** null covers the whole frame. */
  coverage: Coverage | null;
  opacity: Unit;
  blend: BlendMode;
  /** What is beyond the source's edge: nothing, or the source mirrored. 'clear' where it is not given. */
  edge?: Edge | undefined;
  /** What is done to its picture as it lies on the frame, one after another; what they are given they may keep but not change. */
  effects?: readonly ((planes: Planes) => Planes)[] | undefined;
  /** Whether its picture is what lies below it, instead of `planes`. */
  below?: boolean | undefined;
  /** The layer through the exposure, in two samples or more, instead of `map` and `coverage`: it is averaged over them. */
  motion?: Motion | null | undefined;
}

/** A layer whose coverage can be asked row by row, with its motion averaged already. */
interface ReadyLayer extends Omit<ComposeLayer, 'coverage' | 'motion'> {
  coverage: RowCoverage | null;
}

function ready({ motion, coverage, ...layer }: ComposeLayer, { width, height }: Planes, mattes: Mattes): ReadyLayer {
  if (!motion || motion.samples.length < 2) return { ...layer, coverage: coverage && byRows(coverage, width, height, mattes) };
  const { planes, cover } = blurred(layer.planes, motion, width, height, layer.edge ?? 'clear', mattes);
  return { ...layer, planes, map: STAY, edge: 'clear', coverage: cover && rowsOf(cover, width, height) };
}

/** A picture as it is, over the whole frame. */
export const wholeLayer = (planes: Planes, more: Partial<ComposeLayer> = {}): ComposeLayer => ({
  planes,
  map: STAY,
  colour: IDENTITY_COLOUR,
  coverage: null,
  opacity: 1,
  blend: 'normal',
  ...more,
});

const spare = new Map<string, Planes>();

/** A reusable picture of this size; its contents are whatever was left there. */
function sparePlanes(width: Pixels, height: Pixels): Planes {
  const key = `${width}x${height}`;
  const known = spare.get(key);
  if (known) return known;
  const made = blackPlanes(width, height);
  spare.set(key, made);
  return made;
}

function isIdentityMap(map: Affine, planes: Planes, out: Planes): boolean {
  return (
    map.a === 1 &&
    map.b === 0 &&
    map.c === 0 &&
    map.d === 0 &&
    map.e === 1 &&
    map.f === 0 &&
    planes.width === out.width &&
    planes.height === out.height
  );
}

/** Rows (even, ends excluded) that a layer can touch at all. */
function touchedRows(layer: ReadyLayer, width: Pixels, height: Pixels): [number, number] {
  if (!layer.coverage) return [0, height];
  const row = new Uint16Array(width);
  let first = 0;
  while (first < height && coverageRow(layer.coverage, first, width, height, 1, row) === 0) first++;
  let last = height;
  while (last > first && coverageRow(layer.coverage, last - 1, width, height, 1, row) === 0) last--;
  return [first & ~1, Math.min(height, (last + 1) & ~1)];
}

/** Rows (even, ends excluded) that the layers above hide completely from the top or the bottom of the frame. */
function rowsStillSeen(layers: readonly ReadyLayer[], index: number, width: Pixels, height: Pixels): [number, number] {
  let [first, last] = [0, height];
  const row = new Uint16Array(width);
  for (const upper of layers.slice(index + 1)) {
    if (upper.below || upper.opacity < 1 || upper.blend !== 'normal' || !fillsFrame(upper, width, height)) continue;
    if (!upper.coverage) return [0, 0];
    while (first < last && coverageRow(upper.coverage, first, width, height, 1, row) === 256) first++;
    while (last > first && coverageRow(upper.coverage, last - 1, width, height, 1, row) === 256) last--;
  }
  return [first & ~1, Math.min(height, (last + 1) & ~1)];
}

/** True when the layer shows something at every pixel of the frame. */
const fillsFrame = (layer: ReadyLayer, width: Pixels, height: Pixels) => layer.edge === 'mirror' || reaches(layer, width, height);

/** True when the layer's source, without its mirrored edges, reaches every pixel of the frame. */
const reaches = ({ planes, map }: ReadyLayer, width: Pixels, height: Pixels) => fills(map, planes, { width, height });

/** The part of the frame a layer can touch in some rows; columns in sixteens, so that compiled passes fill them. */
function regionOf({ coverage, planes, map, edge }: ReadyLayer, [y0, y1]: [number, number], width: Pixels): Region {
  const region = { x0: 0, x1: width, y0, y1 };
  if (coverage?.kind === 'rows' && coverage.box) meet(region, coverage.box);
  if (edge !== 'mirror') meet(region, boundsThrough(planes, map));
  return { ...region, x0: region.x0 & ~15, x1: Math.min(width, (region.x1 + 15) & ~15) };
}

/** Narrows a region to what it shares with a box; its rows stay even. */
function meet(region: Region, { left, top, right, bottom }: Box): void {
  region.x0 = Math.max(region.x0, left);
  region.x1 = Math.max(region.x0, Math.min(region.x1, right));
  region.y0 = Math.max(region.y0, top & ~1);
  region.y1 = Math.max(region.y0, Math.min(region.y1, (bottom + 1) & ~1));
}

/** Outside which a source laid through `map` cannot reach, output pixels; two to spare. */
function boundsThrough({ width, height }: Planes, map: Affine): Box {
  const back = inverted(map);
  const corners = [0, width].flatMap((x) => [0, height].map((y) => applied(back, { x, y })));
  const [xs, ys] = [corners.map((c) => c.x), corners.map((c) => c.y)];
  const box = { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs), bottom: Math.max(...ys) };
  return {
    left: Math.floor(box.left) - 2,
    top: Math.floor(box.top) - 2,
    right: Math.ceil(box.right) + 2,
    bottom: Math.ceil(box.bottom) + 2,
  };
}

/** Whether a map can be split into two passes without one of them squeezing the picture: turned by less than about 20°, not turned over. */
const inTwoPasses = ({ a, b, d, e }: Affine) => a > 0 && e > 0 && Math.abs(d) < 0.36 * e && Math.abs(b) < 0.36 * a;

/** The layer's picture on the output grid for the region asked for: its own planes when nothing needs doing. */
function place(layer: ReadyLayer, out: Planes, region: Region): Planes {
  const { planes, map, colour } = layer;
  const plain = isIdentityColour(colour);
  if (isIdentityMap(map, planes, out) && plain) return planes;
  if ((layer.edge === 'mirror' && !reaches(layer, out.width, out.height)) || !inTwoPasses(map)) {
    const placed = sparePlanes(out.width, out.height);
    samplePlanes(planes, map, placed, region, layer.edge ?? 'clear');
    if (!plain) recolour(placed, colour, region);
    return placed;
  }
  const quick = placeByKernel(planes, map, plain ? null : colour, out.width, out.height, region);
  return quick ?? placeByPasses(layer, out, region, plain);
}

/** Placing a layer through any map that the quickest passes leave: made smaller, or turned. */
function placeByPasses({ planes, map, colour }: ReadyLayer, out: Planes, region: Region, plain: boolean): Planes {
  const placed = sparePlanes(out.width, out.height);
  const half: Region = { x0: region.x0 / 2, x1: region.x1 / 2, y0: region.y0 / 2, y1: region.y1 / 2 };
  const halfMap = chromaMap(map);
  resampleQuickly(planes.y, planes.width, planes.height, placed.y, out.width, region, map);
  resampleQuickly(planes.u, planes.width / 2, planes.height / 2, placed.u, out.width / 2, half, halfMap);
  resampleQuickly(planes.v, planes.width / 2, planes.height / 2, placed.v, out.width / 2, half, halfMap);
  if (!plain) recolour(placed, colour, region);
  return placed;
}

function mixSpan(
  out: Uint8Array,
  top: Uint8Array,
  from: number,
  count: number,
  cover: Uint16Array,
  first: number,
  shared: number,
  opacity: number,
): void {
  if (shared >= 0) {
    const a = Math.round(shared * opacity);
    if (a === 256) out.set(top.subarray(from, from + count), from);
    else if (a > 0) for (let i = from; i < from + count; i++) out[i] += ((top[i] - out[i]) * a + 128) >> 8;
    return;
  }
  for (let i = 0; i < count; i++) {
    const a = opacity === 1 ? cover[first + i] : (cover[first + i] * opacity) | 0;
    if (a === 0) continue;
    const at = from + i;
    if (a < 256) {
      out[at] += ((top[at] - out[at]) * a + 128) >> 8;
      continue;
    }
    // Where the layer covers fully, a whole run is copied.
    let end = i + 1;
    while (end < count && cover[first + end] === 256) end++;
    if (end - i > 8) out.set(top.subarray(at, from + end), at);
    else for (let k = at; k < from + end; k++) out[k] = top[k];
    i = end - 1;
  }
}

/** Columns of a row (first, and one past the last) that a layer's picture reaches. */
function reachedColumns({ edge, map, planes }: ReadyLayer, row: number, scale: 1 | 2, columns: number): [number, number] {
  if (edge === 'mirror') return [0, columns];
  return coveredColumns(scale === 1 ? map : chromaMap(map), row, planes.width / scale, planes.height / scale, columns);
}

function mixPlane(out: Uint8Array, top: Uint8Array, layer: ReadyLayer, frame: Planes, scale: 1 | 2, { x0, x1, y0, y1 }: Region): void {
  const columns = frame.width / scale;
  const cover = new Uint16Array(columns);
  for (let row = y0 / scale; row < y1 / scale; row++) {
    const shared = layer.coverage ? coverageRow(layer.coverage, row, frame.width, frame.height, scale, cover) : 256;
    if (shared === 0) continue;
    const [reached, past] = reachedColumns(layer, row, scale, columns);
    const [from, to] = [Math.max(reached, x0 / scale), Math.min(past, x1 / scale)];
    if (to > from) mixSpan(out, top, row * columns + from, to - from, cover, from, shared, layer.opacity);
  }
}

/** Layers with another blend than normal: mixed in R'G'B' pixel by pixel; a layer's chroma is shared by its 2×2 pixels. */
function blendLayer(out: Planes, top: Planes, layer: ReadyLayer, { x0, x1, y0, y1 }: Region): void {
  const { width, height } = out;
  const half = width >> 1;
  const m = fromRgbMatrix(BT709);
  const mix = blender(layer.blend);
  const mixed: Rgb = [0, 0, 0];
  const cover = [new Uint16Array(width), new Uint16Array(width)];
  for (let row = y0; row < y1; row += 2) {
    for (const k of [0, 1]) {
      const shared = layer.coverage ? coverageRow(layer.coverage, row + k, width, height, 1, cover[k]) : 256;
      if (shared >= 0) cover[k].fill(shared);
      const [from, to] = reachedColumns(layer, row + k, 1, width);
      cover[k].fill(0, 0, from).fill(0, to);
    }
    for (let x = x0 >> 1; x < x1 >> 1; x++) {
      const k = (row >> 1) * half + x;
      let [u, v] = [0, 0];
      for (let q = 0; q < 4; q++) {
        const line = q >> 1;
        const column = 2 * x + (q & 1);
        const at = (row + line) * width + column;
        const alpha = (cover[line][column] / 256) * layer.opacity;
        const below = rgbOf(out.y[at], out.u[k], out.v[k]);
        const above = rgbOf(top.y[at], top.u[k], top.v[k]);
        mix(below, above, mixed);
        const [red, green, blue] = below.map((b, c) => b + alpha * (mixed[c] - b));
        const code = (r: number) => m[r] * red + m[r + 1] * green + m[r + 2] * blue + m[r + 3];
        out.y[at] = clamp(Math.round(code(0)), 0, 255);
        u += code(4) / 4;
        v += code(8) / 4;
      }
      out.u[k] = clamp(Math.round(u), 0, 255);
      out.v[k] = clamp(Math.round(v), 0, 255);
    }
  }
}

/**
 * Lays `layers` (bottom first) over black into `out`, whose width and height are the frame. Source-over of
 * W3C Compositing and Blending Level 1 on coded values. Where a layer's picture does not reach, what is below shows.
 * Parts hidden by layers above, or that a layer does not touch, are not computed. `mattes` are the stored cut-outs the coverages name.
 */
export function compose(given: readonly ComposeLayer[], out: Planes, mattes: Mattes = new Map()): void {
  const { width, height } = out;
  blacken(out);
  const layers = given.filter((layer) => layer.opacity > 0).map((layer) => ready(layer, out, mattes));
  layers.forEach((layer, index) => {
    const touched = touchedRows(layer, width, height);
    const seen = rowsStillSeen(layers, index, width, height);
    const rows: [number, number] = [Math.max(touched[0], seen[0]), Math.min(touched[1], seen[1])];
    if (rows[1] <= rows[0]) return;
    const region = regionOf(layer, rows, width);
    if (region.x0 >= region.x1 || region.y0 >= region.y1) return;
    const whole = { x0: 0, x1: width, y0: 0, y1: height };
    const effects = layer.effects ?? [];
    const placed = effects.reduce(
      (planes, effect) => effect(planes),
      layer.below ? recoloured(out, layer.colour) : place(layer, out, effects.length > 0 ? whole : region),
    );
    if (layer.blend !== 'normal') {
      blendLayer(out, placed, layer, region);
      return;
    }
    mixPlane(out.y, placed.y, layer, out, 1, region);
    mixPlane(out.u, placed.u, layer, out, 2, region);
    mixPlane(out.v, placed.v, layer, out, 2, region);
  });
}
