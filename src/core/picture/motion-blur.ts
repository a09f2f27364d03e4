import type { Pixels } from '../units';
import { type Affine, applied, chromaMap, inverted, STAY } from './affine';
import type { Box } from './box';
import { type Coverage, coveragePlane, type Mattes, rowsFor } from './coverage-plane';
import { meanByKernel } from './kernel';
import { blackPlanes, type Planes } from './planes';
import { coveredColumns } from './resample';
import { addNearest, type Edge, indexFor, reducedFor, samplePlanes } from './sample';

/** Where a layer stands at one instant of the exposure, and what of it is seen then; null for all. */
export interface MotionSample {
  map: Affine;
  coverage: Coverage | null;
}

/**
 * A layer through the exposure. Where all its masks ride on its picture, `rest` is what they let through with the layer at rest, and each
 * stand's `ride` leads from pixels of the frame to where they are at rest; its own `coverage` is then not looked at.
 */
export interface Motion {
  rest: Coverage | null;
  stands: readonly (MotionSample & { ride: Affine | null })[];
}

/** Pixels of travel between two samples at most, until `MOST_SAMPLES` are reached. */
const SPACING: Pixels = 3;
const MOST_SAMPLES = 48;

/** The way, in output pixels, that the corner which moves furthest covers between two stands of a layer. */
export function travelOf(from: Affine, to: Affine, width: Pixels, height: Pixels): Pixels {
  const scale = Math.min(Math.hypot(from.a, from.d), Math.hypot(to.a, to.d)) || 1;
  return (
    Math.max(
      ...[0, width].flatMap((x) =>
        [0, height].map((y) =>
          Math.hypot((to.a - from.a) * x + (to.b - from.b) * y + to.c - from.c, (to.d - from.d) * x + (to.e - from.e) * y + to.f - from.f),
        ),
      ),
    ) / scale
  );
}

/** How many samples of the exposure a travel needs; 1 where nothing would be seen of it. */
export function samplesFor(travel: Pixels): number {
  return travel < 0.75 ? 1 : Math.max(3, Math.min(MOST_SAMPLES, Math.ceil(travel / SPACING)));
}

/** A layer averaged over an exposure: its picture on the output grid, and its coverage (null for all of the frame). */
export interface Blurred {
  planes: Planes;
  cover: Uint16Array | null;
}

/**
 * Motion blur by what causes it: the layer is laid at each of the stands of the exposure and the layings are averaged, each weighted by
 * its own coverage. Stands are taken at equal times (common practice: a shutter that opens and closes at once).
 */
export function blurred(source: Planes, motion: Motion, width: Pixels, height: Pixels, edge: Edge, mattes: Mattes): Blurred {
  const whole = edge === 'mirror' && motion.rest === null && motion.stands.every((s) => s.coverage === null);
  return whole ? blurredWhole(source, motion.stands, width, height) : blurredCut(source, motion, width, height, edge, mattes);
}

const planeNames = ['y', 'u', 'v'] as const;

/** The average of layings that all cover the whole frame. */
function blurredWhole(source: Planes, stands: readonly MotionSample[], width: number, height: number): Blurred {
  return byKernel(source, stands, width, height) ?? plainly(source, stands, width, height);
}

/** A picture as large as it is seen, where all stands only shift it; whole pixels are then shifted, which is quick. As it was where they do more. */
function asSeen(source: Planes, maps: readonly Affine[]): { source: Planes; maps: readonly Affine[] } {
  const [{ a, e }] = maps;
  const shifts = maps.every((m) => m.b === 0 && m.d === 0 && Math.abs(m.a - a) < 1e-9 && Math.abs(m.e - e) < 1e-9);
  if (!shifts || a < 0.5 || e < 0.5 || (a === 1 && e === 1)) return { source, maps };
  const seen = blackPlanes(2 * Math.round(source.width / a / 2), 2 * Math.round(source.height / e / 2));
  const map = { a: source.width / seen.width, b: 0, c: 0, d: 0, e: source.height / seen.height, f: 0 };
  samplePlanes(source, map, seen, { x0: 0, x1: seen.width, y0: 0, y1: seen.height }, 'mirror');
  return { source: seen, maps: maps.map(({ c, f }) => ({ a: 1, b: 0, c: c / a, d: 0, e: 1, f: f / e })) };
}

/** The compiled sums, where no stand makes the picture so small that it must be averaged first. */
function byKernel(given: Planes, stands: readonly MotionSample[], width: number, height: number): Blurred | null {
  if (stands.some(({ map }) => reducedFor(given, map).planes !== given)) return null;
  const { source, maps } = asSeen(
    given,
    stands.map((s) => s.map),
  );
  const halves = maps.map(chromaMap);
  const y = meanByKernel(source.y, source.width, source.height, maps, width, height);
  const [u, v] = [source.u, source.v].map((p) => meanByKernel(p, source.width / 2, source.height / 2, halves, width / 2, height / 2));
  return y && u && v && { planes: { width, height, y, u, v }, cover: null };
}

/** The definition of the sums; the compiled ones must agree with it. */
function plainly(source: Planes, stands: readonly MotionSample[], width: number, height: number): Blurred {
  const out = blackPlanes(width, height);
  const sums = planeNames.map((name) => new Uint16Array(out[name].length));
  for (const { map: given } of stands) {
    const { planes, map } = reducedFor(source, given);
    addNearest(planes.y, planes.width, planes.height, sums[0], width, height, map, 'mirror');
    for (const k of [1, 2])
      addNearest(planes[planeNames[k]], planes.width / 2, planes.height / 2, sums[k], width / 2, height / 2, chromaMap(map), 'mirror');
  }
  const share = 1 / stands.length;
  for (const [k, name] of planeNames.entries()) {
    const [sum, plane] = [sums[k], out[name]];
    for (let i = 0; i < plane.length; i++) plane[i] = sum[i] * share + 0.5;
  }
  return { planes: out, cover: null };
}

/** Even rows of the frame that a stand can reach, by the corners of what it shows. */
function reachedRows({ left, top, right, bottom }: Box, ride: Affine, height: number): [number, number] {
  const back = inverted(ride);
  const ys = [top, bottom].flatMap((y) => [left, right].map((x) => applied(back, { x, y }).y));
  return [Math.max(0, Math.floor(Math.min(...ys))) & ~1, Math.min(height, (Math.ceil(Math.max(...ys)) + 2) & ~1)];
}

/** Sums of a layer's laid pictures, each pixel weighted by how much of the layer is there; chroma by its four pixels of luma. */
class Weighted {
  readonly cover: Uint32Array;
  private readonly chroma: Float32Array;
  private readonly sums: Float32Array[];
  private readonly alpha: Uint16Array;

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    const luma = width * height;
    this.cover = new Uint32Array(luma);
    this.chroma = new Float32Array(luma / 4);
    this.sums = [luma, luma / 4, luma / 4].map((n) => new Float32Array(n));
    this.alpha = new Uint16Array(luma);
  }

  /**
   * Lays a source through `map` with the coverage `plane`, which is 0 outside its box, seen through `ride`; source pixels beyond the edge
   * are not there unless mirrored.
   */
  lay(source: Planes, map: Affine, plane: Uint16Array, box: Box, ride: Affine, edge: Edge): void {
    const rows = reachedRows(box, ride, this.height);
    this.layLuma(source, map, plane, box, ride, rows, edge);
    this.layChroma(source, chromaMap(map), rows, edge);
  }

  private layLuma(
    { y: luma, width: sw, height: sh }: Planes,
    map: Affine,
    plane: Uint16Array,
    box: Box,
    ride: Affine,
    rows: [number, number],
    edge: Edge,
  ): void {
    const { width, height, cover, alpha } = this;
    const [sum] = this.sums;
    const [column, line] = [indexFor(edge, sw), indexFor(edge, sh)];
    alpha.fill(0, rows[0] * width, rows[1] * width);
    const inBox = { ...ride, c: ride.c - box.left, f: ride.f - box.top };
    for (let y = rows[0]; y < rows[1]; y++) {
      const [from, to] = coveredColumns(inBox, y, box.right - box.left, box.bottom - box.top, width);
      for (let x = from; x < to; x++) {
        const at = y * width + x;
        const ru = ride.a * (x + 0.5) + ride.b * (y + 0.5) + ride.c;
        const rv = ride.d * (x + 0.5) + ride.e * (y + 0.5) + ride.f;
        if (ru < 0 || rv < 0 || ru >= width || rv >= height) continue;
        const a = plane[(rv | 0) * width + (ru | 0)];
        if (a === 0) continue;
        const i = Math.floor(map.a * (x + 0.5) + map.b * (y + 0.5) + map.c);
        const j = Math.floor(map.d * (x + 0.5) + map.e * (y + 0.5) + map.f);
        if (edge === 'clear' && (i < 0 || j < 0 || i >= sw || j >= sh)) continue;
        alpha[at] = a;
        cover[at] += a;
        sum[at] += a * luma[line(j) * sw + column(i)];
      }
    }
  }

  private layChroma({ u: blue, v: red, width, height }: Planes, map: Affine, rows: [number, number], edge: Edge): void {
    const { alpha, chroma } = this;
    const [, sumU, sumV] = this.sums;
    const [half, sw, sh] = [this.width >> 1, width >> 1, height >> 1];
    const [column, line] = [indexFor(edge, sw), indexFor(edge, sh)];
    for (let y = rows[0] >> 1; y < rows[1] >> 1; y++)
      for (let x = 0; x < half; x++) {
        const at = 2 * y * this.width + 2 * x;
        const a = alpha[at] + alpha[at + 1] + alpha[at + this.width] + alpha[at + this.width + 1];
        if (a === 0) continue;
        const i = column(Math.floor(map.a * (x + 0.5) + map.b * (y + 0.5) + map.c));
        const j = line(Math.floor(map.d * (x + 0.5) + map.e * (y + 0.5) + map.f));
        const k = y * half + x;
        chroma[k] += a;
        sumU[k] += a * blue[j * sw + i];
        sumV[k] += a * red[j * sw + i];
      }
  }

  mean(): Planes {
    const out = blackPlanes(this.width, this.height);
    const { cover, chroma, sums } = this;
    for (let i = 0; i < cover.length; i++) if (cover[i] > 0) out.y[i] = sums[0][i] / cover[i] + 0.5;
    for (let i = 0; i < chroma.length; i++) {
      if (chroma[i] === 0) continue;
      out.u[i] = sums[1][i] / chroma[i] + 0.5;
      out.v[i] = sums[2][i] / chroma[i] + 0.5;
    }
    return out;
  }
}

/** The average of layings that cover parts of the frame. */
function blurredCut(source: Planes, { rest, stands }: Motion, width: number, height: number, edge: Edge, mattes: Mattes): Blurred {
  const sums = new Weighted(width, height);
  const all = new Uint16Array(rest ? 0 : width * height).fill(256);
  const { full: resting, box } = rest ? rowsFor(rest, width, height, mattes) : { full: null, box: null };
  for (const { map: given, coverage, ride } of stands) {
    const { planes, map } = reducedFor(source, given);
    if (resting && ride) {
      if (box) sums.lay(planes, map, resting, box, ride, edge);
    } else
      sums.lay(
        planes,
        map,
        coverage ? coveragePlane(coverage, width, height, mattes) : all,
        { left: 0, top: 0, right: width, bottom: height },
        STAY,
        edge,
      );
  }
  const cover = new Uint16Array(width * height);
  for (let i = 0; i < cover.length; i++) cover[i] = sums.cover[i] / stands.length + 0.5;
  return { planes: sums.mean(), cover };
}
