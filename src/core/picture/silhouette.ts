import type { Pixels, Seconds } from '../units';
import { type Affine, applied } from './affine';

/** Where somebody is on every frame of a take: one bit a pixel of a coarse grid, row after row, the lowest bit of a byte first. */
export interface MovingSilhouette {
  /** Size of the grid. */
  width: number;
  height: number;
  /** Seconds of the take's file at which its frames are shown, ascending. */
  times: readonly Seconds[];
  frames: readonly Uint8Array[];
}

/**
 * The figure of a take as it is at a second of it. `map` leads from pixels of the frame to pixels of the picture it was seen in,
 * which is `across` pixels wide; `grow` pushes its outline outward, `feather` is the full width of its soft edge, in frame pixels.
 */
export interface FigureCoverage {
  kind: 'silhouette';
  silhouetteId: string;
  time: Seconds;
  map: Affine;
  across: Pixels;
  grow: Pixels;
  feather: Pixels;
}

const FAR = 1e12;

/** Squared distance from each place of a line to the nearest minimum of `f` plus its value there, in place of `f` (Felzenszwalb & Huttenlocher 2012). */
function distanceAlong(f: Float64Array, n: number, hulls: Int32Array, bounds: Float64Array, out: Float64Array): void {
  let k = 0;
  hulls[0] = 0;
  bounds[0] = Number.NEGATIVE_INFINITY;
  bounds[1] = Number.POSITIVE_INFINITY;
  for (let q = 1; q < n; q++) {
    let s: number;
    for (;;) {
      const p = hulls[k];
      s = (f[q] + q * q - (f[p] + p * p)) / (2 * (q - p));
      if (s > bounds[k] || k === 0) break;
      k--;
    }
    if (s > bounds[k]) k++;
    hulls[k] = q;
    bounds[k] = s;
    bounds[k + 1] = Number.POSITIVE_INFINITY;
  }
  for (let q = 0, at = 0; q < n; q++) {
    while (bounds[at + 1] < q) at++;
    out[q] = (q - hulls[at]) ** 2 + f[hulls[at]];
  }
}

/** Distance of each pixel to the nearest of those `inside` says, pixels; `FAR`'s root where there is none. */
function distances(width: number, height: number, inside: (i: number) => boolean): Float32Array {
  const longest = Math.max(width, height);
  const [line, out] = [new Float64Array(longest), new Float64Array(longest)];
  const [hulls, bounds] = [new Int32Array(longest), new Float64Array(longest + 1)];
  const square = Float64Array.from({ length: width * height }, (_, i) => (inside(i) ? 0 : FAR));
  for (let x = 0; x < width; x++) {
    for (let y = 0; y < height; y++) line[y] = square[y * width + x];
    distanceAlong(line, height, hulls, bounds, out);
    for (let y = 0; y < height; y++) square[y * width + x] = out[y];
  }
  const far = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    line.set(square.subarray(y * width, (y + 1) * width));
    distanceAlong(line, width, hulls, bounds, out);
    for (let x = 0; x < width; x++) far[y * width + x] = Math.sqrt(out[x]);
  }
  return far;
}

/**
 * How deep inside a figure each pixel of its grid lies, pixels: positive inside, negative outside, 0 on its outline between two pixels.
 * With nobody there, minus a million everywhere.
 */
export function depthOf(bits: Uint8Array, width: number, height: number): Float32Array {
  const inside = (i: number) => ((bits[i >> 3] >> (i & 7)) & 1) === 1;
  const toFigure = distances(width, height, inside);
  const toGround = distances(width, height, (i) => !inside(i));
  // Centres of pixels lie half a pixel from the outline between them.
  return toFigure.map((d, i) => (d > 0 ? 0.5 - d : toGround[i] - 0.5));
}

/** Smooths the steps of single pixels out of an outline: the mean of nine. */
function eased(depth: Float32Array, width: number, height: number): Float32Array {
  const out = depth.slice();
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      let sum = 0;
      for (let j = i - width; j <= i + width; j += width) sum += depth[j - 1] + depth[j] + depth[j + 1];
      out[i] = sum / 9;
    }
  return out;
}

/** The frame of a figure shown at a second of its take: the last begun by then, the first before them all. */
export function figureFrame({ times }: MovingSilhouette, time: Seconds): number {
  let [low, high] = [0, times.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (times[middle] <= time + 1e-4) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Outlines last asked for: an exposure asks for the same one many times. */
const recent = new Map<Uint8Array, Float32Array>();
const KEPT = 6;

function depthAt(figure: MovingSilhouette, time: Seconds): Float32Array {
  const bits = figure.frames[figureFrame(figure, time)];
  const known = recent.get(bits);
  if (known) return known;
  const { width, height } = figure;
  const made = eased(depthOf(bits, width, height), width, height);
  if (recent.size >= KEPT) recent.delete(recent.keys().next().value as Uint8Array);
  recent.set(bits, made);
  return made;
}

/** Coverage of every pixel of the frame by a moving figure, 0..256. */
export function figurePlane(coverage: FigureCoverage, figure: MovingSilhouette, width: Pixels, height: Pixels): Uint16Array {
  const out = new Uint16Array(width * height);
  const { map, across, time, grow, feather } = coverage;
  const depth = depthAt(figure, time);
  const [w, h] = [figure.width, figure.height];
  // The grid was made by a whole factor, so its last column may be cut.
  const factor = Math.max(1, Math.round(across / w));
  /** Pixels of the frame to one of the grid. */
  const size = factor / Math.hypot(map.a, map.d);
  const soft = Math.max(1, feather);
  for (let y = 0; y < height; y++) {
    const start = applied(map, { x: 0.5, y: y + 0.5 });
    let [u, v] = [start.x / factor - 0.5, start.y / factor - 0.5];
    const [du, dv] = [map.a / factor, map.d / factor];
    for (let x = 0; x < width; x++, u += du, v += dv) {
      const a = u <= 0 ? 0 : u >= w - 1 ? w - 1 : u;
      const b = v <= 0 ? 0 : v >= h - 1 ? h - 1 : v;
      const [x0, y0] = [a | 0, b | 0];
      const [fx, fy] = [a - x0, b - y0];
      const i = y0 * w + x0;
      const right = x0 + 1 < w ? 1 : 0;
      const below = y0 + 1 < h ? w : 0;
      const upper = depth[i] + fx * (depth[i + right] - depth[i]);
      const lower = depth[i + below] + fx * (depth[i + below + right] - depth[i + below]);
      const t = ((upper + fy * (lower - upper)) * size + grow) / soft + 0.5;
      out[y * width + x] = t <= 0 ? 0 : t >= 1 ? 256 : Math.round(256 * t * t * (3 - 2 * t));
    }
  }
  return out;
}
