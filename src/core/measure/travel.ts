import { median, type Pixels, type Seconds } from '../units';
import { say } from '../words';
import type { Similarity } from './similarity';

/** Readings of a take, frame by frame. */
export interface Path {
  times: readonly Seconds[];
  readings: readonly (Similarity & { trusted: boolean })[];
}

/** A camera that moves by intent: a slider, a dolly, a pan. */
export interface Travel {
  from: Seconds;
  to: Seconds;
  /** How far the picture's middle and, for a push or a pull, its corner go from beginning to end, pixels of the take. */
  dx: Pixels;
  dy: Pixels;
  grows: Pixels;
}

/** The moments of one take in another that its camera passes alike: `theirs = offset + rate × mine`. */
export interface TimeMatch {
  offset: Seconds;
  rate: number;
  /** Median distance of the moments from that line, seconds. */
  spread: Seconds;
}

/** Frames over which a speed is evened: what is quicker than half of them is a knock. */
const EVEN = 31;
/** Part of the frame's width that a camera goes at least, and goes a second while it moves. */
const FAR = 0.02;
const FAST = 0.003;

type Vector = [number, number, number, number];

/** Readings as places: shift, and what turn and growth move at the corner, pixels; null where they cannot be trusted. */
function placesOf({ readings }: Path, halfDiagonal: Pixels): (Vector | null)[] {
  return readings.map((r) => (r.trusted ? [r.dx, r.dy, (r.scale - 1) * halfDiagonal, ((r.turn * Math.PI) / 180) * halfDiagonal] : null));
}

/** Steps from frame to frame, evened by a running median: knocks and noise are gone. Frames that cannot be trusted step by nothing of their own. */
function evenSteps(places: readonly (Vector | null)[]): Vector[] {
  const steps = places.map((place, i): Vector | null => {
    const before = places[i - 1];
    return place && before ? (place.map((v, c) => v - before[c]) as Vector) : null;
  });
  return steps.map((_, i) => {
    const near = steps.slice(Math.max(0, i - (EVEN >> 1)), i + (EVEN >> 1) + 1).filter((s) => s !== null);
    return (near.length ? [0, 1, 2, 3].map((c) => median(near.map((s) => s[c]))) : [0, 0, 0, 0]) as Vector;
  });
}

const lengthOf = (v: readonly number[]) => Math.hypot(...v);

/** The camera's move in a take; null where it stands, is knocked, or slides a little in its stand. `width` and `height` are the picture's. */
export function travelOf(path: Path, width: Pixels, height: Pixels): Travel | null {
  const { times } = path;
  if (times.length < EVEN) return null;
  const steps = evenSteps(placesOf(path, Math.hypot(width, height) / 2));
  const rate = (times.length - 1) / (times[times.length - 1] - times[0]);
  const moving = steps.map((s) => lengthOf(s) * rate > FAST * width);
  const first = moving.indexOf(true);
  const last = moving.lastIndexOf(true);
  if (first < 0) return null;
  const along = steps.slice(first, last + 1).reduce((sum, s) => sum.map((v, c) => v + s[c]) as Vector, [0, 0, 0, 0] as Vector);
  if (lengthOf(along.slice(0, 3)) < FAR * width) return null;
  return { from: times[Math.max(0, first - 1)], to: times[last], dx: along[0], dy: along[1], grows: along[2] };
}

/** Readings without the camera's own even move, so that what is left are its knocks. */
export function withoutTravel<R extends Similarity & { trusted: boolean }>(readings: readonly R[]): R[] {
  const steps = evenSteps(placesOf({ times: [], readings }, 1));
  let gone: Vector = [0, 0, 0, 0];
  return readings.map((r, i) => {
    gone = gone.map((v, c) => v + steps[i][c]) as Vector;
    return { ...r, dx: r.dx - gone[0], dy: r.dy - gone[1], scale: r.scale - gone[2], turn: r.turn - (gone[3] * 180) / Math.PI };
  });
}

/** Frames of a take that are looked for in the other at most. */
const LOOKED = 120;

/**
 * When two takes of one move pass the same places: both paths are counted from the reference's first second. Each frame of the take
 * that moves is looked for on the reference's path, and a line laid through the moments that most agree on (Theil 1950, Sen 1968).
 * Null where fewer than eight moments are found, or they do not agree to a tenth of a second.
 */
export function matchTravel(mine: Path, theirs: Path, halfDiagonal: Pixels): TimeMatch | null {
  const [a, b] = [placesOf(mine, halfDiagonal), placesOf(theirs, halfDiagonal)];
  const speeds = evenSteps(a).map(lengthOf);
  const quick = Math.max(...speeds) / 4;
  const wanted = mine.times.map((_, i) => i).filter((i) => a[i] && speeds[i] > quick);
  const every = Math.max(1, Math.floor(wanted.length / LOOKED));
  const moments = wanted
    .filter((_, k) => k % every === 0)
    .flatMap((i) => {
      const at = momentOn(b, theirs.times, a[i] as Vector);
      return at === null ? [] : [[mine.times[i], at] as const];
    });
  if (moments.length < 8) return null;
  const slopes = moments.flatMap(([t, u], i) => moments.slice(i + 1).flatMap(([s, v]) => (s - t > 0.2 ? [(v - u) / (s - t)] : [])));
  if (slopes.length === 0) return null;
  const rate = median(slopes);
  const offset = median(moments.map(([t, u]) => u - rate * t));
  const spread = median(moments.map(([t, u]) => Math.abs(u - offset - rate * t)));
  return spread < 0.1 && rate > 0.5 && rate < 2 ? { offset, rate, spread } : null;
}

/** When a path comes nearest to a place, between its frames; null where that is at one of its ends. */
function momentOn(path: readonly (Vector | null)[], times: readonly Seconds[], place: Vector): Seconds | null {
  let [best, least] = [-1, Number.POSITIVE_INFINITY];
  path.forEach((p, i) => {
    const apart = p ? lengthOf(p.map((v, c) => v - place[c])) : Number.POSITIVE_INFINITY;
    if (apart < least) [best, least] = [i, apart];
  });
  const [before, here, after] = [path[best - 1], path[best], path[best + 1]];
  if (!before || !here || !after) return null;
  // Where the place lies on the way from the frame before to the frame after.
  const way = after.map((v, c) => v - before[c]);
  const square = way.reduce((sum, v) => sum + v * v, 0);
  if (square < 1e-6) return null;
  const share = way.reduce((sum, v, c) => sum + v * (place[c] - before[c]), 0) / square;
  return times[best - 1] + Math.min(1, Math.max(0, share)) * (times[best + 1] - times[best - 1]);
}

/** In words: where the camera goes. */
export function travelWords({ from, to, dx, dy, grows }: Travel): string {
  const side = Math.abs(dx) >= Math.abs(dy);
  // The picture goes the other way than the camera.
  const way = side ? (dx < 0 ? say`to the right` : say`to the left`) : dy < 0 ? 'down' : 'up';
  const shift = Math.hypot(dx, dy);
  const how =
    Math.abs(grows) > shift
      ? say`${grows > 0 ? say`in` : say`out`} by ${Math.abs(grows).toFixed(0)} px at the corner`
      : say`${way} by ${shift.toFixed(0)} px`;
  return say`The camera moves ${how} from ${from.toFixed(1)} to ${to.toFixed(1)} s.`;
}

/** In words: when the other take passes the same places. */
export function matchWords({ offset, rate }: TimeMatch): string {
  const when =
    Math.abs(offset) < 0.005
      ? say`at the same seconds`
      : `${Math.abs(offset).toFixed(2)} s ${offset > 0 ? say`earlier than there` : say`later than there`}`;
  const pace = Math.abs(rate - 1) < 0.001 ? '' : say`, and ${Math.abs(100 * (rate - 1)).toFixed(1)} % ${rate > 1 ? 'faster' : 'slower'}`;
  return `${when}${pace}`;
}

/** What is to be done where one camera is quicker than the other; else ''. */
export const paceWords = ({ rate }: TimeMatch): string =>
  Math.abs(rate - 1) < 0.002 ? '' : say` At a speed of ${(100 / rate).toFixed(1)} % it stays with it.`;
