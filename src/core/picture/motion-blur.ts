import type { Pixels } from '../units';
import { type Coverage, coveragePlane, type Mattes } from './coverage-plane';
import { blackPlanes, type Planes } from './planes';
import type { Affine } from './resample';
import { addNearest, chromaMap, type Edge, reducedFor } from './sample';

/** Where a layer stands at one instant of the exposure. */
export interface MotionSample {
  map: Affine;
  coverage: Coverage | null;
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

/** True where a source pixel is under each output pixel, as 0 or 256. */
function withinSource(map: Affine, planes: Planes, width: number, height: number): Uint16Array {
  const out = new Uint16Array(width * height);
  for (let y = 0, at = 0; y < height; y++) {
    let u = map.a * 0.5 + map.b * (y + 0.5) + map.c;
    let v = map.d * 0.5 + map.e * (y + 0.5) + map.f;
    for (let x = 0; x < width; x++, at++, u += map.a, v += map.d)
      if (u >= 0 && v >= 0 && u < planes.width && v < planes.height) out[at] = 256;
  }
  return out;
}

/** A layer averaged over an exposure: its picture on the output grid, and its coverage (null for all of the frame). */
export interface Blurred {
  planes: Planes;
  cover: Uint16Array | null;
}

/**
 * Motion blur by what causes it: the layer is laid at each of the samples of the exposure and the layings are averaged, each weighted by
 * its own coverage. Samples are taken at equal times (common practice: a shutter that opens and closes at once).
 */
export function blurred(
  source: Planes,
  samples: readonly MotionSample[],
  width: Pixels,
  height: Pixels,
  edge: Edge,
  mattes: Mattes,
): Blurred {
  const whole = edge === 'mirror' && samples.every((s) => s.coverage === null);
  return whole ? blurredWhole(source, samples, width, height) : blurredCut(source, samples, width, height, edge, mattes);
}

const planeNames = ['y', 'u', 'v'] as const;

/** The average of layings that all cover the whole frame. */
function blurredWhole(source: Planes, samples: readonly MotionSample[], width: number, height: number): Blurred {
  const out = blackPlanes(width, height);
  const sums = planeNames.map((name) => new Uint16Array(out[name].length));
  for (const { map: given } of samples) {
    const { planes, map } = reducedFor(source, given);
    addNearest(planes.y, planes.width, planes.height, sums[0], width, height, map, 'mirror');
    for (const k of [1, 2])
      addNearest(planes[planeNames[k]], planes.width / 2, planes.height / 2, sums[k], width / 2, height / 2, chromaMap(map), 'mirror');
  }
  const share = 1 / samples.length;
  for (const [k, name] of planeNames.entries()) {
    const [sum, plane] = [sums[k], out[name]];
    for (let i = 0; i < plane.length; i++) plane[i] = sum[i] * share + 0.5;
  }
  return { planes: out, cover: null };
}

/** Sums of a layer's laid pictures, each pixel weighted by how much of the layer is there; chroma by its four pixels of luma. */
class Weighted {
  readonly cover: Uint32Array;
  private readonly chroma: Float32Array;
  private readonly sums: Float32Array[];

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    const luma = width * height;
    this.cover = new Uint32Array(luma);
    this.chroma = new Float32Array(luma / 4);
    this.sums = [luma, luma / 4, luma / 4].map((n) => new Float32Array(n));
  }

  add([y, u, v]: readonly Uint16Array[], alpha: Uint16Array): void {
    const { width, cover, chroma, sums } = this;
    for (let i = 0; i < alpha.length; i++) {
      cover[i] += alpha[i];
      sums[0][i] += alpha[i] * y[i];
    }
    for (let i = 0; i < chroma.length; i++) {
      const half = width >> 1;
      const at = 2 * ((i / half) | 0) * width + 2 * (i % half);
      const a = alpha[at] + alpha[at + 1] + alpha[at + width] + alpha[at + width + 1];
      chroma[i] += a;
      sums[1][i] += a * u[i];
      sums[2][i] += a * v[i];
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
function blurredCut(source: Planes, samples: readonly MotionSample[], width: number, height: number, edge: Edge, mattes: Mattes): Blurred {
  const sums = new Weighted(width, height);
  for (const { map: given, coverage } of samples) {
    const { planes, map } = reducedFor(source, given);
    const alpha = coverage ? coveragePlane(coverage, width, height, mattes) : new Uint16Array(width * height).fill(256);
    if (edge === 'clear') {
      const within = withinSource(map, planes, width, height);
      for (let i = 0; i < alpha.length; i++) if (!within[i]) alpha[i] = 0;
    }
    const laid = planeNames.map((_, k) => new Uint16Array(k ? (width * height) / 4 : width * height));
    addNearest(planes.y, planes.width, planes.height, laid[0], width, height, map, edge);
    for (const k of [1, 2])
      addNearest(planes[planeNames[k]], planes.width / 2, planes.height / 2, laid[k], width / 2, height / 2, chromaMap(map), edge);
    sums.add(laid, alpha);
  }
  return { planes: sums.mean(), cover: Uint16Array.from(sums.cover, (a) => Math.round(a / samples.length)) };
}
