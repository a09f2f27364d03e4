import type { Frames } from '../units';
import type { Mask } from './grid';

/** What a seam is sought through, all on one grid. The first take is shown left of the seam, the second right of it. */
export interface SeamInput {
  width: number;
  height: number;
  /** Where the figure of each take is, frame by frame; null where it is not known. */
  first: readonly (Mask | null)[];
  second: readonly (Mask | null)[];
  /** Where shadows are, like the figures; a seam through one is allowed but costs. */
  firstShadow: readonly (Mask | null)[];
  secondShadow: readonly (Mask | null)[];
  /** Visible difference of the two takes where neither is occupied, code values, after their corrections. */
  difference: Float32Array;
  /** Brightness of the empty set, for structures to run along. */
  set: Uint8Array;
}

export type SeamKind = 'straight' | 'polyline' | 'free';

/** A seam from top to bottom: between columns `x[row] - 1` and `x[row]` of the grid, for the frames from `from` on. */
export interface SeamPath {
  from: Frames;
  kind: SeamKind;
  x: Float32Array;
}

/** Frames in which no clean seam exists, and why. */
export interface Crossing {
  from: Frames;
  to: Frames;
  /** Grid place of the worst overlap. */
  x: number;
  y: number;
  reason: string;
}

export interface SeamFound {
  paths: SeamPath[];
  crossings: Crossing[];
  /** Mean visible difference along the first path, code values, row by row. */
  cost: Float32Array;
  /** Step in light left across the seam, code values, and how many frames have a shadow on it. */
  step: number;
  shadowFrames: number;
}

const CUT = 1e4;
const SHADOW = 18;
/** Room wanted on both sides, columns, for the soft edge; and its price. */
const ROOM = 8;
const CLOSE = 3;
/** Steps sideways from row to row. */
const BEND = 2;

/** For each row of one frame: one past the last column of the first figure, and the first column of the second. */
export interface Extremes {
  last: Int16Array;
  first: Int16Array;
}

export function extremes(a: Mask | null, b: Mask | null, width: number, height: number): Extremes {
  const last = new Int16Array(height);
  const first = new Int16Array(height).fill(width);
  for (let y = 0; y < height; y++) {
    for (let x = width - 1; a && x >= 0; x--) {
      if (!a.data[y * width + x]) continue;
      last[y] = x + 1;
      break;
    }
    for (let x = 0; b && x < width; x++) {
      if (!b.data[y * width + x]) continue;
      first[y] = x;
      break;
    }
  }
  return { last, first };
}

/** The same figures, wider by the room a soft edge wants. */
function widened({ last, first }: Extremes, by: number, width: number): Extremes {
  return {
    last: last.map((x) => (x > 0 ? Math.min(width, x + by) : 0)),
    first: first.map((x) => (x < width ? Math.max(0, x - by) : width)),
  };
}

/** How often a seam at each place would cut something off: counts over frames, `height` rows of `width + 1` places. */
function cutCounts(frames: readonly Extremes[], width: number, height: number): Float32Array {
  const out = new Float32Array(height * (width + 1));
  for (const { last, first } of frames) {
    for (let y = 0; y < height; y++) {
      const row = y * (width + 1);
      // Left of the first figure's end it cuts it off; right of the second's begin likewise.
      for (let x = 0; x < last[y]; x++) out[row + x]++;
      for (let x = first[y] + 1; x <= width; x++) out[row + x]++;
    }
  }
  return out;
}

/** Cheap where an upright edge of the set stands, dear elsewhere: 0.35 to 1. */
function structure({ set, width, height }: SeamInput): Float32Array {
  const out = new Float32Array(height * (width + 1)).fill(1);
  const reach = 6;
  for (let x = 1; x < width; x++) {
    const edge = (y: number) => set[y * width + x] - set[y * width + x - 1];
    let sum = 0;
    for (let y = 0; y < Math.min(reach, height); y++) sum += edge(y);
    for (let y = 0; y < height; y++) {
      if (y + reach < height) sum += edge(y + reach);
      if (y - reach - 1 >= 0) sum -= edge(y - reach - 1);
      out[y * (width + 1) + x] = 1 - 0.65 * Math.min(1, Math.abs(sum) / (2 * reach + 1) / 24);
    }
  }
  return out;
}

interface Costs {
  /** Frames in which something would be cut off. */
  cut: Float32Array;
  /** What else it costs there. */
  soft: Float32Array;
}

function costsOf(input: SeamInput, bodies: readonly Extremes[], shadows: readonly Extremes[], like: Float32Array): Costs {
  const { width, height, difference } = input;
  const soft = new Float32Array(height * (width + 1));
  const shade = cutCounts(shadows, width, height);
  const near = [ROOM, ROOM / 2].map((by) =>
    cutCounts(
      bodies.map((b) => widened(b, by, width)),
      width,
      height,
    ),
  );
  const frames = Math.max(1, shadows.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x <= width; x++) {
      const at = y * (width + 1) + x;
      const d = (difference[y * width + Math.max(0, x - 1)] + difference[y * width + Math.min(width - 1, x)]) / 2;
      // The last two columns at each side leave no room for a feather.
      const edge = x < 2 || x > width - 2 ? 40 : 0;
      soft[at] = (d + 0.6) * like[at] + (SHADOW * shade[at] + CLOSE * (near[0][at] + near[1][at])) / frames + edge;
    }
  }
  return { cut: cutCounts(bodies, width, height), soft };
}

/** Minimum-error boundary from top to bottom by dynamic programming (Efros & Freeman 2001), drawn to `near` when given. */
function freePath({ cut, soft }: Costs, width: number, height: number, near: Float32Array | null): Float32Array {
  const wide = width + 1;
  const total = new Float64Array(height * wide);
  const came = new Int8Array(height * wide);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < wide; x++) {
      const at = y * wide + x;
      let best = y === 0 ? 0 : Number.POSITIVE_INFINITY;
      for (let d = -BEND; y > 0 && d <= BEND; d++) {
        if (x + d < 0 || x + d >= wide) continue;
        const value = total[at - wide + d] + 0.35 * Math.abs(d);
        if (value < best) {
          best = value;
          came[at] = d;
        }
      }
      const pull = near ? 0.05 * Math.abs(x - near[y]) : 0;
      total[at] = best + CUT * cut[at] + soft[at] + pull;
    }
  }
  const path = new Float32Array(height);
  let x = 0;
  const bottom = (height - 1) * wide;
  for (let k = 1; k < wide; k++) if (total[bottom + k] < total[bottom + x]) x = k;
  for (let y = height - 1; y >= 0; y--) {
    path[y] = x;
    x += came[y * wide + x];
  }
  return path;
}

function along({ cut, soft }: Costs, path: Float32Array, width: number): { cuts: number; soft: number } {
  let [cuts, sum] = [0, 0];
  path.forEach((x, y) => {
    const at = y * (width + 1) + Math.round(x);
    cuts += cut[at];
    sum += soft[at];
  });
  return { cuts, soft: sum / path.length };
}

function straightPath(costs: Costs, width: number, height: number): Float32Array {
  let best: Float32Array | null = null;
  let least = Number.POSITIVE_INFINITY;
  const path = new Float32Array(height);
  for (let top = 2; top < width - 1; top += 2) {
    for (let bottom = Math.max(2, top - height); bottom < Math.min(width - 1, top + height); bottom += 2) {
      let sum = 0;
      for (let y = 0; y < height && sum < least; y += 2) {
        const at = y * (width + 1) + Math.round(top + ((bottom - top) * y) / (height - 1));
        sum += CUT * costs.cut[at] + costs.soft[at];
      }
      if (sum >= least) continue;
      least = sum;
      for (let y = 0; y < height; y++) path[y] = top + ((bottom - top) * y) / (height - 1);
      best = path.slice();
    }
  }
  return best ?? path.fill(width / 2);
}

/** The path with as few corners as keep within `off` columns of it (Ramer 1972, Douglas & Peucker 1973). */
function simplified(path: Float32Array, off: number): Float32Array {
  const out = path.slice();
  const between = (a: number, b: number) => {
    let worst = -1;
    let most = off;
    for (let y = a + 1; y < b; y++) {
      const d = Math.abs(path[y] - (path[a] + ((path[b] - path[a]) * (y - a)) / (b - a)));
      if (d > most) {
        most = d;
        worst = y;
      }
    }
    if (worst > 0) {
      between(a, worst);
      between(worst, b);
    } else for (let y = a + 1; y < b; y++) out[y] = path[a] + ((path[b] - path[a]) * (y - a)) / (b - a);
  };
  between(0, path.length - 1);
  return out;
}

/** The simplest path that is as clean as the free one and costs little more. */
function simplest(costs: Costs, width: number, height: number, near: Float32Array | null): Omit<SeamPath, 'from'> {
  const free = freePath(costs, width, height, near);
  const best = along(costs, free, width);
  const fits = (x: Float32Array) => {
    const cost = along(costs, x, width);
    return cost.cuts <= best.cuts && cost.soft <= best.soft * 1.25 + 0.5;
  };
  const straight = straightPath(costs, width, height);
  if (fits(straight)) return { kind: 'straight', x: straight };
  for (const off of [14, 8, 4, 2.5]) {
    const poly = simplified(free, off);
    if (fits(poly)) return { kind: 'polyline', x: poly };
  }
  return { kind: 'free', x: free };
}

/** Why no seam is clean, the graver after the lesser. */
const WHY = ['a hand or prop crosses', 'the performers overlap', 'the performers stand in each other’s place'] as const;
/** Share of the smaller figure that the other covers from which on it is more than a hand. */
const MORE_THAN_A_HAND = 0.12;

/** Share of the smaller of two figures that lies where the other is. */
function overlapOf(a: Mask | null, b: Mask | null): number {
  if (!a || !b) return 0;
  let [both, one, other] = [0, 0, 0];
  for (let i = 0; i < a.data.length; i++) {
    one += a.data[i];
    other += b.data[i];
    both += a.data[i] & b.data[i];
  }
  return both / Math.max(1, Math.min(one, other));
}

/** Frames in which the figures reach past each other on some row, so that every seam cuts one. */
function crossingsOf(
  bodies: readonly Extremes[],
  { width, first: left, second: right }: SeamInput,
): { crossings: Crossing[]; crossed: Set<number> } {
  const crossings: (Crossing & { grave: number })[] = [];
  const crossed = new Set<number>();
  bodies.forEach(({ last, first }, f) => {
    // A single column is within what occupancy can tell.
    let worst = 1;
    let at = -1;
    last.forEach((end, y) => {
      if (end - first[y] > worst) {
        worst = end - first[y];
        at = y;
      }
    });
    if (at < 0) return;
    crossed.add(f);
    const open = crossings.at(-1);
    const x = (last[at] + first[at]) / 2;
    // What reaches past by a quarter of the frame is a body in the wrong place, not a hand.
    const grave = worst > width / 4 ? 2 : overlapOf(left[f], right[f]) > MORE_THAN_A_HAND ? 1 : 0;
    if (open && f - open.to <= 2) Object.assign(open, { to: f, grave: Math.max(open.grave, grave) });
    else crossings.push({ from: f, to: f, x, y: at, reason: '', grave });
  });
  return { crossings: crossings.map(({ grave, ...crossing }) => ({ ...crossing, reason: WHY[grave] })), crossed };
}

/**
 * The seam between two takes over a span of frames: of least visible difference, never through a figure where a free path
 * exists, along structures of the set where they stand. It stands still unless no standing path is free; then it moves between
 * as few stands as will do. Frames in which the figures cross are told and left out.
 */
export function findSeam(input: SeamInput): SeamFound {
  const { width, height, first, second } = input;
  const bodies = first.map((mask, f) => extremes(mask, second[f], width, height));
  const shadows = first.map((_, f) => extremes(input.firstShadow[f], input.secondShadow[f], width, height));
  const { crossings, crossed } = crossingsOf(bodies, input);
  const like = structure(input);
  const clean = bodies.map((_, f) => f).filter((f) => !crossed.has(f));
  const within = (frames: readonly number[]) =>
    costsOf(
      input,
      frames.map((f) => bodies[f]),
      frames.map((f) => shadows[f]),
      like,
    );
  const all = within(clean);
  const standing = simplest(all, width, height, null);
  const paths: SeamPath[] = [];
  if (along(all, standing.x, width).cuts === 0) paths.push({ from: 0, ...standing });
  else {
    for (let at = 0; at < clean.length; ) {
      // The longest run from here that one path serves, by halving.
      const cutsUpTo = (n: number) => {
        const costs = within(clean.slice(at, at + n));
        return along(costs, freePath(costs, width, height, null), width).cuts;
      };
      let [low, high] = [1, clean.length - at];
      while (low < high) {
        const middle = (low + high + 1) >> 1;
        if (cutsUpTo(middle) === 0) low = middle;
        else high = middle - 1;
      }
      const path = simplest(within(clean.slice(at, at + low)), width, height, paths.at(-1)?.x ?? null);
      paths.push({ from: at === 0 ? 0 : clean[at], ...path });
      at += low;
    }
  }
  if (paths.length === 0) paths.push({ from: 0, ...standing });
  return { paths, crossings, ...leftOver(input, paths[0], shadows) };
}

/** What remains to be seen along a path: its difference row by row, its mean, and frames with a shadow on it. */
function leftOver(
  { width, difference }: SeamInput,
  { x }: SeamPath,
  shadows: readonly Extremes[],
): { cost: Float32Array; step: number; shadowFrames: number } {
  const cost = x.map((at, y) => difference[y * width + Math.min(width - 1, Math.round(at))]);
  const step = cost.reduce((s, v) => s + v, 0) / cost.length;
  const shadowFrames = shadows.filter(({ last, first }) => x.some((at, y) => last[y] > at || first[y] < at)).length;
  return { cost, step, shadowFrames };
}
