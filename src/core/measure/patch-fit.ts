import type { Degrees, Pixels, Unit } from '../units';
import type { Luma } from './luma';

/** Where a patch is in a picture: its middle, how it is turned (clockwise as seen) and how large it is against the patch. */
export interface PatchPose {
  x: Pixels;
  y: Pixels;
  turn: Degrees;
  scale: number;
}

/** A round patch of a picture to be found again in others, sampled on a square grid about its middle. */
export interface Patch {
  /** Radius in pixels of the picture it was taken from, at a scale of 1. */
  radius: Pixels;
  /** Samples from the middle to the edge; the grid is twice that and one. */
  half: number;
  /** Brightness at each sample, less its weighted mean. */
  values: Float64Array;
  /** Of each sample, falling towards the edge, 0 outside the round. Sum 1. */
  weights: Float64Array;
  /** Weighted sum of squares of `values`. */
  energy: number;
  /** How brightness changes with a shift across and down, with size and with turn; free of what a change of light does. Four a sample. */
  slopes: Float64Array;
}

/** Samples from the middle of a patch to its edge, at most. */
const MOST_HALF = 20;

/** Brightness between pixels by Catmull-Rom's cubic, the edge going on outside. */
function sampleCubic({ data, width, height }: Luma, x: number, y: number): number {
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const wx0 = fx * (-0.5 + fx * (1 - 0.5 * fx));
  const wx1 = 1 + fx * fx * (-2.5 + 1.5 * fx);
  const wx2 = fx * (0.5 + fx * (2 - 1.5 * fx));
  const wx3 = fx * fx * (-0.5 + 0.5 * fx);
  const wy0 = fy * (-0.5 + fy * (1 - 0.5 * fy));
  const wy1 = 1 + fy * fy * (-2.5 + 1.5 * fy);
  const wy2 = fy * (0.5 + fy * (2 - 1.5 * fy));
  const wy3 = fy * fy * (-0.5 + 0.5 * fy);
  const inside = x0 >= 1 && y0 >= 1 && x0 < width - 2 && y0 < height - 2;
  const clampX = (v: number) => (v < 0 ? 0 : v < width ? v : width - 1);
  const clampY = (v: number) => (v < 0 ? 0 : v < height ? v : height - 1);
  const row = (v: number): number => {
    if (inside) {
      const at = v * width + x0;
      return wx0 * data[at - 1] + wx1 * data[at] + wx2 * data[at + 1] + wx3 * data[at + 2];
    }
    const at = clampY(v) * width;
    return (
      wx0 * data[at + clampX(x0 - 1)] + wx1 * data[at + clampX(x0)] + wx2 * data[at + clampX(x0 + 1)] + wx3 * data[at + clampX(x0 + 2)]
    );
  };
  return wy0 * row(y0 - 1) + wy1 * row(y0) + wy2 * row(y0 + 1) + wy3 * row(y0 + 2);
}

/** A patch's samples of a picture in a pose, in rows; places count from the middles of pixels. */
function sampled(picture: Luma, { half, radius }: Pick<Patch, 'half' | 'radius'>, pose: PatchPose, out: Float64Array): void {
  const a = (pose.turn * Math.PI) / 180;
  const step = (radius / half) * pose.scale;
  const [c, s] = [Math.cos(a) * step, Math.sin(a) * step];
  for (let j = -half, i = 0; j <= half; j++)
    for (let k = -half; k <= half; k++, i++) out[i] = sampleCubic(picture, pose.x + c * k - s * j - 0.5, pose.y + s * k + c * j - 0.5);
}

/** Takes a round patch out of a picture, as it lies in a pose. Radius in pixels of a picture at a scale of 1, 2 or more. */
export function makePatch(picture: Luma, pose: PatchPose, radius: Pixels): Patch {
  const half = Math.max(3, Math.min(MOST_HALF, Math.round(radius)));
  const side = 2 * half + 1;
  const patch: Patch = {
    radius,
    half,
    values: new Float64Array(side * side),
    weights: new Float64Array(side * side),
    energy: 0,
    slopes: new Float64Array(4 * side * side),
  };
  const { values, weights, slopes } = patch;
  sampled(picture, patch, pose, values);
  let sum = 0;
  for (let j = -half, i = 0; j <= half; j++)
    for (let k = -half; k <= half; k++, i++) {
      const far = (k * k + j * j) / (half * half);
      weights[i] = far <= 1 ? Math.exp(-1.5 * far) : 0;
      sum += weights[i];
    }
  let mean = 0;
  for (let i = 0; i < weights.length; i++) {
    weights[i] /= sum;
    mean += weights[i] * values[i];
  }
  for (let i = 0; i < values.length; i++) {
    values[i] -= mean;
    patch.energy += weights[i] * values[i] ** 2;
  }
  const at = (k: number, j: number) => values[Math.max(0, Math.min(side - 1, j)) * side + Math.max(0, Math.min(side - 1, k))];
  for (let j = 0, i = 0; j < side; j++)
    for (let k = 0; k < side; k++, i++) {
      const [across, down] = [(at(k + 1, j) - at(k - 1, j)) / 2, (at(k, j + 1) - at(k, j - 1)) / 2];
      const [u, v] = [k - half, j - half];
      slopes.set([across, down, across * u + down * v, down * u - across * v], 4 * i);
    }
  withoutLight(patch);
  return patch;
}

/** Takes out of the slopes what a change of brightness or contrast would explain as well. */
function withoutLight({ values, weights, energy, slopes }: Patch): void {
  for (let n = 0; n < 4; n++) {
    let [mean, along] = [0, 0];
    for (let i = 0; i < weights.length; i++) {
      mean += weights[i] * slopes[4 * i + n];
      along += weights[i] * slopes[4 * i + n] * values[i];
    }
    const share = energy > 0 ? along / energy : 0;
    for (let i = 0; i < weights.length; i++) slopes[4 * i + n] -= mean + share * values[i];
  }
}

/** Solves a symmetric system of four by Cholesky's method, in place; false where it has no solution. */
function solveFour(h: Float64Array, b: Float64Array): boolean {
  for (let i = 0; i < 4; i++)
    for (let j = 0; j <= i; j++) {
      let sum = h[4 * i + j];
      for (let k = 0; k < j; k++) sum -= h[4 * i + k] * h[4 * j + k];
      if (i === j) {
        if (sum <= 1e-9) return false;
        h[4 * i + i] = Math.sqrt(sum);
      } else h[4 * i + j] = sum / h[4 * j + j];
    }
  for (let i = 0; i < 4; i++) {
    for (let k = 0; k < i; k++) b[i] -= h[4 * i + k] * b[k];
    b[i] /= h[4 * i + i];
  }
  for (let i = 3; i >= 0; i--) {
    for (let k = i + 1; k < 4; k++) b[i] -= h[4 * k + i] * b[k];
    b[i] /= h[4 * i + i];
  }
  return true;
}

/** A patch found in a picture, and how alike it is there: the correlation of both, 1 the same but for brightness and contrast. */
export interface PatchFit extends PatchPose {
  alike: Unit;
}

/** How a picture's samples lie over a patch's: their correlation, and what takes the one to the other. */
interface Likeness {
  alike: Unit;
  gain: number;
  mean: number;
  /** The patch's own mean over what is trusted. */
  own: number;
}

/** The likeness over what is trusted of the samples. */
function likeness({ values, weights }: Patch, seen: Float64Array, trust: Float64Array): Likeness {
  let [sum, mean, own] = [0, 0, 0];
  for (let i = 0; i < seen.length; i++) {
    const w = weights[i] * trust[i];
    sum += w;
    mean += w * seen[i];
    own += w * values[i];
  }
  mean /= sum || 1;
  own /= sum || 1;
  let [along, there, here] = [0, 0, 0];
  for (let i = 0; i < seen.length; i++) {
    const w = weights[i] * trust[i];
    const [s, v] = [seen[i] - mean, values[i] - own];
    along += w * s * v;
    there += w * s * s;
    here += w * v * v;
  }
  const both = Math.sqrt(there * here);
  return { alike: both > 1e-9 ? Math.max(0, along / both) : 0, gain: there > 1e-9 ? Math.sqrt(here / there) : 1, mean, own };
}

/** The middle of the samples within the round and how far half of them are from it at most: what covers a part of them does not count. */
function middleOf(values: Float64Array, weights: Float64Array): { middle: number; spread: number } {
  const inside = values.filter((_, i) => weights[i] > 0).sort();
  const middle = inside[inside.length >> 1];
  const away = inside.map((v) => Math.abs(v - middle)).sort();
  return { middle, spread: away[away.length >> 1] };
}

/** Rounds in which only a shift is looked for. */
const SHIFTS = 5;

/** What a fit works with, from round to round. */
interface Fitting {
  patch: Patch;
  seen: Float64Array;
  errors: Float64Array;
  /** How much each sample counts, 0..1: what passes before the patch does not fit. */
  trust: Float64Array;
  /** Of the patch itself. */
  known: ReturnType<typeof middleOf>;
}

/** Works out how far each sample is from what it should be, light apart, and how much it counts. */
function weigh({ patch, seen, errors, trust, known }: Fitting, round: number): void {
  const { values, weights } = patch;
  let { gain, mean, own } = likeness(patch, seen, trust);
  if (round < SHIFTS) {
    // Nothing is known yet of what covers it: by the middle of all.
    const now = middleOf(seen, weights);
    [gain, mean, own] = [now.spread > 0.5 ? known.spread / now.spread : 1, now.middle, known.middle];
  }
  for (let i = 0; i < seen.length; i++) errors[i] = gain * (seen[i] - mean) - (values[i] - own);
  const limit = Math.max(2, 2.5 * middleOf(errors, weights).spread);
  for (let i = 0; i < trust.length; i++) trust[i] = round === 0 ? 1 : Math.min(1, (limit / (Math.abs(errors[i]) || 1)) ** 2);
}

/** The shift, growth and turn of the patch, in its own samples, that explain the errors best; null where they cannot be told. */
function stepOf({ patch: { weights, slopes }, errors, trust }: Fitting, round: number): Float64Array | null {
  const h = new Float64Array(16);
  const b = new Float64Array(4);
  for (let i = 0; i < errors.length; i++) {
    const w = weights[i] * trust[i];
    if (w === 0) continue;
    const at = 4 * i;
    for (let n = 0; n < 4; n++) {
      const s = w * slopes[at + n];
      b[n] += s * errors[i];
      for (let m = 0; m <= n; m++) h[4 * n + m] += s * slopes[at + m];
    }
  }
  // A shift first: while little is known of what covers it, a turn or another size would be taken up too soon.
  if (round < SHIFTS) for (const n of [2, 3]) h[5 * n] *= 1000;
  return solveFour(h, b) ? b : null;
}

/** The pose after the patch was moved by a step the other way: it follows with the inverse, as complex numbers. */
function stepped(pose: PatchPose, [tx, ty, grown, turned]: Float64Array, samples: Pixels): PatchPose {
  const ma = 1 + grown;
  const size = ma * ma + turned * turned;
  const [ux, uy] = [-(ma * tx + turned * ty) / size, -(ma * ty - turned * tx) / size];
  const a = (pose.turn * Math.PI) / 180;
  const [c, s] = [Math.cos(a) * pose.scale * samples, Math.sin(a) * pose.scale * samples];
  return {
    x: pose.x + c * ux - s * uy,
    y: pose.y + s * ux + c * uy,
    turn: pose.turn - (Math.atan2(turned, ma) * 180) / Math.PI,
    scale: pose.scale / Math.sqrt(size),
  };
}

const ROUNDS = 40;
/** Share of a patch that must be seen for its likeness to count in full. */
const ENOUGH = 0.6;

/**
 * Fits a patch to a picture from a pose near it, by the inverse compositional method for a shift, a turn and a scale (Baker & Matthews
 * 2004), whatever the change of brightness and contrast; pixels that do not fit (something passes before it) count less, the further off
 * the less (re-weighted least squares, Holland & Welsch 1977). Null where it runs away by more than the patch's radius or by half its size.
 */
export function fitPatch(picture: Luma, patch: Patch, from: PatchPose): PatchFit | null {
  const { values, weights, radius, half } = patch;
  const size = values.length;
  const [seen, errors, trust] = [new Float64Array(size), new Float64Array(size), new Float64Array(size).fill(1)];
  const fitting: Fitting = { patch, seen, errors, trust, known: middleOf(values, weights) };
  let pose = from;
  for (let round = 0; round < ROUNDS; round++) {
    sampled(picture, patch, pose, seen);
    weigh(fitting, round);
    const step = stepOf(fitting, round);
    if (!step) return null;
    const before = pose;
    pose = stepped(pose, step, radius / half);
    const grown = pose.scale / from.scale;
    if (Math.hypot(pose.x - from.x, pose.y - from.y) > radius * from.scale || grown > 1.5 || grown < 0.67) return null;
    if (round > SHIFTS && Math.hypot(pose.x - before.x, pose.y - before.y) < 1e-3 && Math.abs(step[2]) + Math.abs(step[3]) < 1e-4) break;
  }
  sampled(picture, patch, pose, seen);
  const covered = weights.reduce((sum, w, i) => sum + w * trust[i], 0);
  return { ...pose, alike: likeness(patch, seen, trust).alike * Math.min(1, covered / ENOUGH) };
}

/** The samples of a patch in a pose as whole pixels about its middle. */
function placesOf(
  { half, radius, values, weights }: Patch,
  { turn, scale }: PatchPose,
): { dx: number; dy: number; w: number; v: number }[] {
  const a = (turn * Math.PI) / 180;
  const step = (radius / half) * scale;
  const [c, s] = [Math.cos(a) * step, Math.sin(a) * step];
  const places = Array.from(values, (v, i) => {
    const [k, j] = [(i % (2 * half + 1)) - half, Math.floor(i / (2 * half + 1)) - half];
    return { dx: Math.round(c * k - s * j), dy: Math.round(s * k + c * j), w: weights[i], v };
  });
  return places.filter(({ w }) => w > 0);
}

/** How much less alike, as a share, the furthest place may be than the nearest and still be preferred. */
const NEARER = 0.1;

/**
 * Where within `reach` pixels of a pose a patch is most alike, by whole pixels; of two alike the nearer. The place is the pose itself where
 * nothing within the picture is.
 */
export function searchPatch({ data, width, height }: Luma, patch: Patch, from: PatchPose, reach: number): PatchPose {
  const places = placesOf(patch, from);
  const [x0, y0] = [Math.round(from.x - 0.5), Math.round(from.y - 0.5)];
  const likenessAt = (x: number, y: number) => {
    let [sum, square, along] = [0, 0, 0];
    for (const { dx, dy, w, v } of places) {
      const [px, py] = [Math.max(0, Math.min(width - 1, x + dx)), Math.max(0, Math.min(height - 1, y + dy))];
      const seen = data[py * width + px];
      sum += w * seen;
      square += w * seen * seen;
      along += w * seen * v;
    }
    const own = square - sum * sum;
    return own > 0.5 ? along / Math.sqrt(own) : Number.NEGATIVE_INFINITY;
  };
  let [best, most] = [from, Number.NEGATIVE_INFINITY];
  const away = NEARER * Math.sqrt(patch.energy);
  for (let y = Math.max(0, y0 - reach); y <= Math.min(height - 1, y0 + reach); y++)
    for (let x = Math.max(0, x0 - reach); x <= Math.min(width - 1, x0 + reach); x++) {
      const score = likenessAt(x, y) - (away * ((x - x0) ** 2 + (y - y0) ** 2)) / (reach * reach + 1);
      if (score > most) [best, most] = [{ ...from, x: x + 0.5, y: y + 0.5 }, score];
    }
  return best;
}
