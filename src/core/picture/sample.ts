import { around, type Pixels } from '../units';
import { type Affine, chromaMap } from './affine';
import { sampleByKernel } from './kernel';
import { blackPlanes, type Planes } from './planes';
import { boxPlane } from './reduce';
import { cubic, type Region } from './resample';

/** What lies beyond a picture's edge: the edge repeated (and nothing shown), or the picture mirrored again and again. */
export type Edge = 'clear' | 'mirror';

/** Index into `size` samples, mirrored at both ends without end. */
export function mirrored(i: number, size: number): number {
  if (i >= 0 && i < size) return i;
  const period = 2 * size;
  const k = around(i, period);
  return k < size ? k : period - 1 - k;
}

/** The sample that stands for each index: at the nearest end, or mirrored there. */
export const indexFor = (edge: Edge, size: number) =>
  edge === 'mirror' ? (i: number) => mirrored(i, size) : (i: number) => (i < 0 ? 0 : i >= size ? size - 1 : i);

const PHASES = 64;
const WEIGHTS = Float32Array.from({ length: PHASES * 4 }, (_, i) => cubic((i & 3) - 1 - (i >> 2) / PHASES));

/** One plane through any affine map by a 4×4 cubic filter (Keys 1981), edges clamped or mirrored: the definition, with which the compiled one must agree. `map` leads from output to source pixels. */
export function cubicPlane(
  source: Uint8Array,
  sw: number,
  sh: number,
  out: Uint8Array,
  ow: number,
  { x0: left, x1: right, y0: top, y1: bottom }: Region,
  map: Affine,
  edge: Edge,
): void {
  const column = indexFor(edge, sw);
  const line = indexFor(edge, sh);
  for (let y = top; y < bottom; y++) {
    let u = map.a * (left + 0.5) + map.b * (y + 0.5) + map.c - 0.5;
    let v = map.d * (left + 0.5) + map.e * (y + 0.5) + map.f - 0.5;
    for (let x = left; x < right; x++, u += map.a, v += map.d) {
      const x0 = Math.floor(u);
      const y0 = Math.floor(v);
      const wx = ((u - x0) * PHASES) << 2;
      const wy = ((v - y0) * PHASES) << 2;
      const safe = x0 >= 1 && y0 >= 1 && x0 + 2 < sw && y0 + 2 < sh;
      let sum = 0;
      for (let j = 0; j < 4; j++) {
        const row = (safe ? y0 - 1 + j : line(y0 - 1 + j)) * sw;
        const across = safe
          ? source[row + x0 - 1] * WEIGHTS[wx & ~3] +
            source[row + x0] * WEIGHTS[(wx & ~3) + 1] +
            source[row + x0 + 1] * WEIGHTS[(wx & ~3) + 2] +
            source[row + x0 + 2] * WEIGHTS[(wx & ~3) + 3]
          : source[row + column(x0 - 1)] * WEIGHTS[wx & ~3] +
            source[row + column(x0)] * WEIGHTS[(wx & ~3) + 1] +
            source[row + column(x0 + 1)] * WEIGHTS[(wx & ~3) + 2] +
            source[row + column(x0 + 2)] * WEIGHTS[(wx & ~3) + 3];
        sum += across * WEIGHTS[(wy & ~3) + j];
      }
      out[y * ow + x] = sum <= 0 ? 0 : sum >= 255 ? 255 : sum + 0.5;
    }
  }
}

/** How many source pixels an output pixel spans at its widest. */
const reduction = (map: Affine) => Math.max(Math.hypot(map.a, map.d), Math.hypot(map.b, map.e));

/** A picture made smaller by a whole factor before it is sampled, and the map to it. */
export function reducedFor(planes: Planes, map: Affine): { planes: Planes; map: Affine } {
  const by = Math.min(Math.floor(reduction(map) + 0.25), planes.width >> 2, planes.height >> 2);
  if (by < 2) return { planes, map };
  const small = blackPlanes(2 * Math.floor(planes.width / by / 2), 2 * Math.floor(planes.height / by / 2));
  for (const name of ['y', 'u', 'v'] as const) {
    const half = name === 'y' ? 1 : 2;
    boxPlane(planes[name], planes.width / half, by, small[name], small.width / half, small.height / half);
  }
  const { a, b, c, d, e, f } = map;
  return { planes: small, map: { a: a / by, b: b / by, c: c / by, d: d / by, e: e / by, f: f / by } };
}

/** Planes through any affine map (any turn, mirrored edges) into a region of `out` (even). */
export function samplePlanes(given: Planes, givenMap: Affine, out: Planes, region: Region, edge: Edge): void {
  const { planes, map } = reducedFor(given, givenMap);
  for (const name of ['y', 'u', 'v'] as const) {
    const half = name === 'y' ? 1 : 2;
    const [sw, sh, ow] = [planes.width / half, planes.height / half, out.width / half];
    const part = { x0: region.x0 / half, x1: region.x1 / half, y0: region.y0 / half, y1: region.y1 / half };
    const through = half === 1 ? map : chromaMap(map);
    if (!sampleByKernel(planes[name], sw, sh, out[name], ow, part, through, edge === 'mirror'))
      cubicPlane(planes[name], sw, sh, out[name], ow, part, through, edge);
  }
}

/** Adds the source pixel nearest to each output pixel to `sum`, all of the plane. For many samples that are averaged. */
export function addNearest(
  source: Uint8Array,
  sw: Pixels,
  sh: Pixels,
  sum: Uint16Array,
  ow: Pixels,
  oh: Pixels,
  map: Affine,
  edge: Edge,
): void {
  const column = indexFor(edge, sw);
  const line = indexFor(edge, sh);
  for (let y = 0, at = 0; y < oh; y++) {
    let u = map.a * 0.5 + map.b * (y + 0.5) + map.c;
    let v = map.d * 0.5 + map.e * (y + 0.5) + map.f;
    for (let x = 0; x < ow; x++, at++, u += map.a, v += map.d) {
      const [i, j] = [Math.floor(u), Math.floor(v)];
      sum[at] += i >= 0 && j >= 0 && i < sw && j < sh ? source[j * sw + i] : source[line(j) * sw + column(i)];
    }
  }
}
