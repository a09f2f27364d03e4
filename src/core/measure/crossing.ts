import type { Degrees, Pixels, Seconds, Unit } from '../units';
import type { Luma } from './luma';

/** What crosses the lens: when it comes in and has left, and where its trailing edge is in between. */
export interface Crossing {
  from: Seconds;
  to: Seconds;
  /** 90 to the right, -90 to the left, with the lean of its edge: 80 to the right leaning over its foot. */
  angle: Degrees;
  /** Shares of the way across of the trailing edge, evenly from `from` to `to`; never decreasing. */
  position: Unit[];
  /** How much of the frame's height it covers where it is. */
  cover: Unit;
}

/** Pixels across of what is looked at. */
export const CROSSING_WIDTH = 96;
/** Brightness by which a pixel must differ from what stands behind, of 255. */
const STEP = 18;
/** Share of a column's height that must be covered, and of the frame's width that must be at once. */
const [TALL, WIDE] = [0.62, 0.08];
/** Bands in which the edge is looked for by itself, to tell its lean. */
const BANDS = 6;

/** The stretch of columns that is covered, in a band of rows: first and one past the last; null where none is wide enough. */
function covered({ width, data }: Luma, behind: Uint8Array, top: Pixels, bottom: Pixels): [Pixels, Pixels] | null {
  let [best, from] = [null as [Pixels, Pixels] | null, -1];
  for (let x = 0; x <= width; x++) {
    let n = 0;
    if (x < width) for (let y = top; y < bottom; y++) if (Math.abs(data[y * width + x] - behind[y * width + x]) > STEP) n++;
    const is = x < width && n >= TALL * (bottom - top);
    if (is && from < 0) from = x;
    if (!is && from >= 0) {
      if (!best || x - from > best[1] - best[0]) best = [from, x];
      from = -1;
    }
  }
  return best && best[1] - best[0] >= WIDE * width ? best : null;
}

/** The picture behind all that passes: each pixel's median over frames spread evenly. */
function standing(frames: readonly Luma[]): Uint8Array {
  const step = Math.max(1, Math.floor(frames.length / 31));
  const some = frames.filter((_, i) => i % step === 0);
  const out = new Uint8Array(frames[0].data.length);
  const values = new Uint8Array(some.length);
  for (let i = 0; i < out.length; i++) {
    some.forEach(({ data }, k) => {
      values[k] = data[i];
    });
    out[i] = values.toSorted()[some.length >> 1];
  }
  return out;
}

/** Lean of an edge from its places in bands, degrees from upright: over its foot to the right is above 0. */
function leanOf(places: readonly (Pixels | null)[], height: Pixels): Degrees {
  const known = places.flatMap((x, band) => (x === null ? [] : [{ x, y: ((band + 0.5) / places.length) * height }]));
  if (known.length < 4) return 0;
  const mean = (of: (p: { x: number; y: number }) => number) => known.reduce((sum, p) => sum + of(p), 0) / known.length;
  const [mx, my] = [mean((p) => p.x), mean((p) => p.y)];
  const [sxy, syy] = [mean((p) => (p.x - mx) * (p.y - my)), mean((p) => (p.y - my) ** 2)];
  return (-Math.atan2(sxy, syy) * 180) / Math.PI;
}

/**
 * What passes close before the lens in a take whose camera stands still: tall, and in at one side and out at the other. Frames small
 * (`CROSSING_WIDTH` across) and in order. Null where nothing does; of several the one that covers most.
 */
export function findCrossing(frames: readonly Luma[], times: readonly Seconds[]): Crossing | null {
  if (frames.length < 5) return null;
  const { width, height } = frames[0];
  const behind = standing(frames);
  const runs = frames.map((frame) => covered(frame, behind, 0, height));
  let best: Crossing | null = null;
  for (let i = 0; i < runs.length; ) {
    if (!runs[i]) {
      i++;
      continue;
    }
    let end = i;
    while (end < runs.length && runs[end]) end++;
    const found = crossingOf(frames, times, runs, behind, [i, end], { width, height });
    if (found && (!best || found.cover > best.cover)) best = found;
    i = end;
  }
  return best;
}

function crossingOf(
  frames: readonly Luma[],
  times: readonly Seconds[],
  runs: readonly ([Pixels, Pixels] | null)[],
  behind: Uint8Array,
  [first, end]: [number, number],
  { width, height }: { width: Pixels; height: Pixels },
): Crossing | null {
  const seen = runs.slice(first, end).flatMap((r) => (r ? [r] : []));
  const middle = ([a, b]: [Pixels, Pixels]) => (a + b) / 2;
  const way = middle(seen[seen.length - 1]) - middle(seen[0]);
  if (seen.length < 2 || Math.abs(way) < 0.2 * width) return null;
  const right = way > 0;
  const edge = ([a, b]: [Pixels, Pixels]) => (right ? a : width - b) / width;
  // In at one side: while it still comes in its trailing edge is beyond it.
  const enters = right ? seen[0][0] <= 1 : seen[0][1] >= width - 1;
  const leaves = right ? seen[seen.length - 1][1] >= width - 1 : seen[seen.length - 1][0] <= 1;
  if (!enters || !leaves) return null;
  // Only where its edge is well within the frame does it say how it leans.
  const leans: Degrees[] = [];
  let cover = 0;
  for (let i = first; i < end; i++) {
    const run = runs[i];
    if (!run) continue;
    cover = Math.max(cover, (run[1] - run[0]) / width);
    if (edge(run) < 0.15 || edge(run) > 0.85) continue;
    const bands = Array.from({ length: BANDS }, (_, k) => {
      const [top, bottom] = [Math.floor((k * height) / BANDS), Math.floor(((k + 1) * height) / BANDS)];
      const part = covered(frames[i], behind, top, bottom);
      return part && (right ? part[0] : part[1]);
    });
    leans.push(leanOf(bands, height));
  }
  const lean = leans.length > 0 ? leans.sort((a, b) => a - b)[leans.length >> 1] : 0;
  const step = times[1] - times[0];
  // The line starts as the thing does, and is across when nothing of it is left.
  const [from, to] = [times[first] - step, times[end] ?? times[end - 1] + step];
  const knots = [{ time: from, share: 0 }, ...seen.map((run, k) => ({ time: times[first + k], share: edge(run) })), { time: to, share: 1 }];
  let most = 0;
  const position = Array.from({ length: 101 }, (_, k) => {
    const at = from + ((to - from) * k) / 100;
    const after = Math.max(
      1,
      knots.findIndex((p) => p.time >= at - 1e-9),
    );
    const [a, b] = [knots[after - 1], knots[after]];
    const share = a.share + ((b.share - a.share) * (at - a.time)) / Math.max(1e-9, b.time - a.time);
    most = Math.max(most, Math.min(1, share));
    return most;
  });
  return { from, to, angle: right ? 90 - lean : -90 - lean, position, cover };
}
