import type { Frames, Pixels } from '../units';
import type { Mask } from './grid';

/** Where a figure reaches furthest towards its partner, on one frame of one take. Grid pixels and grid pixels a frame. */
export interface Reach {
  take: string;
  frame: Frames;
  x: Pixels;
  y: Pixels;
  vx: number;
  vy: number;
  /** Exposure against the set-up, EV; 0 when not measured. */
  exposure: number;
}

/** The furthest point of a mask towards a side: the mean of its outermost column's four nearest, and their height. */
function tip(mask: Mask, side: 'left' | 'right', around: number | null): [number, number] | null {
  const { width, height, data } = mask;
  const rows =
    around === null ? [0, height] : [Math.max(0, Math.round(around - height / 8)), Math.min(height, Math.round(around + height / 8))];
  const order = (x: number) => (side === 'right' ? width - 1 - x : x);
  for (let k = 0; k < width; k++) {
    const x = order(k);
    let [n, sum] = [0, 0];
    for (let y = rows[0]; y < rows[1]; y++) {
      if (data[y * width + x]) {
        n++;
        sum += y;
      }
    }
    if (n > 0) return [side === 'right' ? x + 1 : x, sum / n];
  }
  return null;
}

/**
 * Where a figure reaches towards its partner at a marked frame, with speed and direction from two frames before to the frame
 * itself. `around` is the row the contact is expected near, null for the whole figure. Null when nobody is there.
 */
export function reachAt(
  take: string,
  masks: readonly (Mask | null)[],
  frame: Frames,
  side: 'left' | 'right',
  around: number | null,
  exposure = 0,
): Reach | null {
  const at = (f: number) => {
    const mask = masks[f];
    return mask ? tip(mask, side, around) : null;
  };
  const here = at(frame);
  if (!here) return null;
  const before = at(Math.max(0, frame - 2)) ?? here;
  const gap = Math.max(1, Math.min(2, frame));
  return { take, frame, x: here[0], y: here[1], vx: (here[0] - before[0]) / gap, vy: (here[1] - before[1]) / gap, exposure };
}

/** The first frame on which a figure reaches furthest towards a side, to one pixel; null when nobody is there. */
export function furthestReach(masks: readonly (Mask | null)[], side: 'left' | 'right'): Frames | null {
  const tips = masks.map((mask) => (mask ? tip(mask, side, null) : null));
  const towards = ([x]: [number, number]) => (side === 'right' ? x : -x);
  const most = Math.max(...tips.map((t) => (t ? towards(t) : Number.NEGATIVE_INFINITY)));
  const found = tips.findIndex((t) => t !== null && towards(t) >= most - 1);
  return found < 0 ? null : found;
}

/** Where two figures meet: the places of both that are nearest to each other, grid pixels, and what lies between them; under 0 they overlap. */
export interface Meeting {
  a: { x: Pixels; y: Pixels };
  b: { x: Pixels; y: Pixels };
  gap: Pixels;
}

/** The pixels of a mask that have one outside beside them. */
function edgeOf({ width, height, data }: Mask): [number, number][] {
  const out: [number, number][] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (!data[i]) continue;
      const inside = x > 0 && y > 0 && x < width - 1 && y < height - 1 && data[i - 1] && data[i + 1] && data[i - width] && data[i + width];
      if (!inside) out.push([x + 0.5, y + 0.5]);
    }
  return out;
}

/**
 * Where figure A (at the left) and figure B (at the right) meet on one grid: hands, or whatever is nearest. Overlapping, it is the middle of
 * what both cover, by how wide that is. Null where one of them is not there.
 */
export function meetingOf(a: Mask, b: Mask): Meeting | null {
  const { width } = a;
  let [n, sx, sy, left, right] = [0, 0, 0, width, 0];
  for (let i = 0; i < a.data.length; i++) {
    if (!(a.data[i] & b.data[i])) continue;
    const x = i % width;
    [n, sx, sy, left, right] = [n + 1, sx + x + 0.5, sy + Math.floor(i / width) + 0.5, Math.min(left, x), Math.max(right, x + 1)];
  }
  if (n > 0) {
    const [y, wide] = [sy / n, right - left];
    return { a: { x: sx / n + wide / 2, y }, b: { x: sx / n - wide / 2, y }, gap: -wide };
  }
  let [best, nearest] = [null as Meeting | null, Number.POSITIVE_INFINITY];
  const other = edgeOf(b);
  for (const [ax, ay] of edgeOf(a))
    for (const [bx, by] of other) {
      const far = (bx - ax) ** 2 + (by - ay) ** 2;
      if (far < nearest) [nearest, best] = [far, { a: { x: ax, y: ay }, b: { x: bx, y: by }, gap: Math.sqrt(far) - 1 }];
    }
  return best;
}

/** How well take A (at the left, reaching right) and take B (at the right) meet. */
export interface PairFit {
  a: Reach;
  b: Reach;
  /** Pixels of the take between the two at the contact; under 0 they overlap. */
  gap: Pixels;
  /** How much lower B's point is than A's, pixels of the take. */
  height: Pixels;
  /** Speed at which they close, pixels of the take a frame, and the direction of A's approach in degrees, 0 to the right. */
  closing: number;
  direction: number;
  /** Light difference, EV. */
  light: number;
  /** Cost of the seam between them, when it was sought: code values of visible difference. */
  seam: number | null;
  /** 0 a perfect fit; rises with gap, overlap, height and light. */
  cost: number;
}

/**
 * Every take A against every take B at their marked instants, best first. `factor` is pixels of the take to one of the grid;
 * `tall` the frame's height in pixels; `seamOf` gives the seam's cost for a pair, `meetOf` where they meet, null when not known: then the
 * furthest points of both are taken.
 */
export function rankPairs(
  first: readonly Reach[],
  second: readonly Reach[],
  factor: number,
  tall: Pixels,
  seamOf: (a: Reach, b: Reach) => number | null = () => null,
  meetOf: (a: Reach, b: Reach) => Meeting | null = () => null,
): PairFit[] {
  const fits = first.flatMap((own) =>
    second.map((theirs): PairFit => {
      const met = meetOf(own, theirs);
      const [a, b] = met
        ? [
            { ...own, ...met.a },
            { ...theirs, ...met.b },
          ]
        : [own, theirs];
      const gap = (met ? met.gap : b.x - a.x) * factor;
      const height = (b.y - a.y) * factor;
      const light = b.exposure - a.exposure;
      const seam = seamOf(own, theirs);
      // An overlap must be cut out by hand and counts for more than a gap of the same size.
      const apart = (gap >= 0 ? gap : -1.5 * gap) / tall;
      const cost = 10 * apart + 6 * (Math.abs(height) / tall) + 2 * Math.abs(light) + (seam ?? 0) / 20;
      return {
        a,
        b,
        gap,
        height,
        closing: (a.vx - b.vx) * factor,
        direction: (Math.atan2(-a.vy, a.vx) * 180) / Math.PI,
        light,
        seam,
        cost,
      };
    }),
  );
  return fits.sort((p, q) => p.cost - q.cost);
}
