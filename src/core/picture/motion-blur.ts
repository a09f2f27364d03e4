import type { Pixels } from '../units';
import { type Affine, chromaMap, STAY } from './affine';
import { type Coverage, coveragePlane, type Mattes, rowsFor } from './coverage-plane';
import { meanByKernel } from './kernel';
import { blackPlanes, type Planes } from './planes';
import { addNearest, type Edge, reducedFor, samplePlanes } from './sample';
import { Weighted } from './weighted';

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
  samples: readonly (MotionSample & { ride: Affine | null })[];
}

/** Pixels of travel between two samples at most, until `MOST_SAMPLES` are reached. */
const SPACING: Pixels = 3;
const MOST_SAMPLES = 48;

/** The way, in output pixels, that the corner which moves furthest covers between two samples of a layer. */
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
 * Motion blur by what causes it: the layer is laid at each of the samples of the exposure and the layings are averaged, each weighted by
 * its own coverage. Stands are taken at equal times (common practice: a shutter that opens and closes at once).
 */
export function blurred(source: Planes, motion: Motion, width: Pixels, height: Pixels, edge: Edge, mattes: Mattes): Blurred {
  const whole = edge === 'mirror' && motion.rest === null && motion.samples.every((s) => s.coverage === null);
  return whole ? blurredWhole(source, motion.samples, width, height) : blurredCut(source, motion, width, height, edge, mattes);
}

const planeNames = ['y', 'u', 'v'] as const;

/** The average of layings that all cover the whole frame. */
function blurredWhole(source: Planes, samples: readonly MotionSample[], width: number, height: number): Blurred {
  return byKernel(source, samples, width, height) ?? plainly(source, samples, width, height);
}

/** A picture as large as it is seen, where all samples only shift it; whole pixels are then shifted, which is quick. As it was where they do more. */
function asSeen(source: Planes, maps: readonly Affine[]): { source: Planes; maps: readonly Affine[] } {
  const [{ a, e }] = maps;
  const shifts = maps.every((m) => m.b === 0 && m.d === 0 && Math.abs(m.a - a) < 1e-9 && Math.abs(m.e - e) < 1e-9);
  if (!shifts || a < 0.5 || e < 0.5 || (a === 1 && e === 1)) return { source, maps };
  const seen = blackPlanes(2 * Math.round(source.width / a / 2), 2 * Math.round(source.height / e / 2));
  const map = { a: source.width / seen.width, b: 0, c: 0, d: 0, e: source.height / seen.height, f: 0 };
  samplePlanes(source, map, seen, { x0: 0, x1: seen.width, y0: 0, y1: seen.height }, 'mirror');
  return { source: seen, maps: maps.map(({ c, f }) => ({ a: 1, b: 0, c: c / a, d: 0, e: 1, f: f / e })) };
}

/** The mean of a picture laid by each of the maps (pixels of the result to pixels of the picture), mirrored beyond its edges. */
export const meanOfMaps = (planes: Planes, maps: readonly Affine[]): Planes =>
  blurredWhole(
    planes,
    maps.map((map) => ({ map, coverage: null })),
    planes.width,
    planes.height,
  ).planes;

/** The compiled sums, where no stand makes the picture so small that it must be averaged first. */
function byKernel(given: Planes, samples: readonly MotionSample[], width: number, height: number): Blurred | null {
  if (samples.some(({ map }) => reducedFor(given, map).planes !== given)) return null;
  const { source, maps } = asSeen(
    given,
    samples.map((s) => s.map),
  );
  const halves = maps.map(chromaMap);
  const y = meanByKernel(source.y, source.width, source.height, maps, width, height);
  const [u, v] = [source.u, source.v].map((p) => meanByKernel(p, source.width / 2, source.height / 2, halves, width / 2, height / 2));
  return y && u && v && { planes: { width, height, y, u, v }, cover: null };
}

/** The definition of the sums; the compiled ones must agree with it. */
function plainly(source: Planes, samples: readonly MotionSample[], width: number, height: number): Blurred {
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

/** The average of layings that cover parts of the frame. */
function blurredCut(source: Planes, { rest, samples }: Motion, width: number, height: number, edge: Edge, mattes: Mattes): Blurred {
  const sums = new Weighted(width, height, source);
  const all = new Uint16Array(rest ? 0 : width * height).fill(256);
  const { full: resting, box } = rest ? rowsFor(rest, width, height, mattes) : { full: null, box: null };
  for (const { map: given, coverage, ride } of samples) {
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
  for (let i = 0; i < cover.length; i++) cover[i] = sums.cover[i] / samples.length + 0.5;
  return { planes: sums.mean(), cover };
}
