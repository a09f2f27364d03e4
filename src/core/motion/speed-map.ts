import type { Seconds } from '../units';

/** A pose of a take and when the film must show it: output second, source second, and the speed wanted there (null: what suits). */
export interface Pose {
  at: Seconds;
  source: Seconds;
  speed: number | null;
}

/** What a ramp may not exceed; speeds are shares of as filmed (1 is 100 %), acceleration in speed a second. */
export interface SpeedLimits {
  fastest: number;
  /** Greatest change of speed a second; Infinity for none. */
  acceleration: number;
}

export const NO_LIMITS: SpeedLimits = { fastest: Number.POSITIVE_INFINITY, acceleration: Number.POSITIVE_INFINITY };

/**
 * One stretch between two poses: speed goes from `v0` to the plateau `v` over `ramp` seconds, stays, and goes to `v1` over
 * `ramp` seconds. Both ramps are smooth steps, so speed has no corner at a pose.
 */
export interface SpeedSpan {
  from: Seconds;
  to: Seconds;
  source: Seconds;
  v0: number;
  v: number;
  v1: number;
  ramp: Seconds;
}

/** Where the limits could not be kept: the span's number, and the least that would do. */
export interface Impossible {
  span: number;
  /** Speed the two poses need at least on the way, as a share. */
  needs: number;
  /** Earliest output second at which the second pose can be met within the limit. */
  earliest: Seconds;
}

/** Slopes at the poses where none is wanted: harmonic means of the neighbouring secants (Fritsch & Butland 1984), which keep the map monotone as Fritsch & Carlson 1980 ask. */
function slopesOf(poses: readonly Pose[]): number[] {
  const secants = poses.slice(1).map((p, i) => (p.source - poses[i].source) / (p.at - poses[i].at));
  return poses.map(({ speed }, i) => {
    if (speed !== null) return speed;
    const [left, right] = [secants[i - 1], secants[i]];
    if (left === undefined || right === undefined) return left ?? right ?? 1;
    return left + right > 0 ? (2 * left * right) / (left + right) : 0;
  });
}

/** The plateau that covers `way` in `time` with ramps of `ramp` at both ends. */
const plateau = (way: number, time: number, v0: number, v1: number, ramp: number) => (way - (ramp * (v0 + v1)) / 2) / (time - ramp);

/** A stretch with exact ends. The ramps are as long, hence as soft, as the fastest speed allows; ends too fast for a short way are slowed. */
function spanOf(from: Pose, to: Pose, v0: number, v1: number, { fastest }: SpeedLimits): SpeedSpan {
  const time = to.at - from.at;
  const way = to.source - from.source;
  let [a, b] = [Math.min(v0, Math.max(fastest, way / time)), Math.min(v1, Math.max(fastest, way / time))];
  let ramp = time / 2;
  // With the softest ramps the plateau may not run backwards: the ends give way.
  const least = (ramp * (a + b)) / 2;
  if (least > way) {
    a *= way / least;
    b *= way / least;
  }
  if (plateau(way, time, a, b, ramp) > fastest) {
    // (way - ramp (a + b) / 2) / (time - ramp) = fastest
    const slack = fastest - (a + b) / 2;
    ramp = slack > 1e-9 ? Math.min(ramp, Math.max(0, (fastest * time - way) / slack)) : 0;
  }
  return { from: from.at, to: to.at, source: from.source, v0: a, v: plateau(way, time, a, b, ramp), v1: b, ramp };
}

/** The greatest change of speed a second in a stretch; a smooth step is steepest in its middle, at one and a half times its mean. */
export function accelerationOf({ v0, v, v1, ramp }: SpeedSpan): number {
  const jump = Math.max(Math.abs(v - v0), Math.abs(v - v1));
  return jump < 1e-9 ? 0 : ramp > 0 ? (1.5 * jump) / ramp : Number.POSITIVE_INFINITY;
}

/**
 * A map of output to source time through `poses` (two or more, ascending in `at` and not descending in `source`): smooth, monotone,
 * exact at every pose, at the speeds wanted there wherever the way is long enough, and no faster than `limits` where that is possible at all.
 * Each stretch that the limits forbid is named with the least it needs; the map then exceeds them by just that.
 * Throws RangeError for poses out of order.
 */
export function solveSpeed(poses: readonly Pose[], limits: SpeedLimits): { spans: SpeedSpan[]; impossible: Impossible[] } {
  poses.forEach((p, i) => {
    if (i > 0 && !(p.at > poses[i - 1].at && p.source >= poses[i - 1].source))
      throw new RangeError('solveSpeed: poses must ascend in output time and not go back in the take');
  });
  const slopes = slopesOf(poses);
  const impossible: Impossible[] = [];
  const spans = poses.slice(1).map((to, i) => {
    const from = poses[i];
    const mean = (to.source - from.source) / (to.at - from.at);
    const span = spanOf(from, to, slopes[i], slopes[i + 1], limits);
    const tooFast = mean > limits.fastest + 1e-9;
    if (tooFast || accelerationOf(span) > limits.acceleration + 1e-9)
      impossible.push({
        span: i,
        needs: tooFast ? mean : span.v,
        earliest: earliestFor(to.source - from.source, span, limits) + from.at,
      });
    return span;
  });
  return { spans, impossible };
}

/** The least time in which a way can be covered from `v0` to `v1` within the limits, seconds. */
function earliestFor(way: number, { v0, v1 }: SpeedSpan, limits: SpeedLimits): Seconds {
  const top = Math.min(limits.fastest, 1e6);
  const jump = Math.max(top - v0, top - v1, 0);
  const ramp = limits.acceleration === Number.POSITIVE_INFINITY ? 0 : (1.5 * jump) / limits.acceleration;
  const time = (way - (ramp * (v0 + v1)) / 2) / top + ramp;
  return Math.max(time, 2 * ramp);
}

/** Distance covered in a smooth-step ramp from `a` to `b` over `ramp` seconds, `x` of it done (0..1). */
const rampWay = (a: number, b: number, ramp: Seconds, x: number) => ramp * (a * x + (b - a) * (x ** 3 - x ** 4 / 2));

/** Source second at an output second inside a stretch. Exact integral of its speed. */
export function sourceInSpan(span: SpeedSpan, at: Seconds): Seconds {
  const { from, to, source, v0, v, v1, ramp } = span;
  const t = at - from;
  const time = to - from;
  if (ramp > 0 && t < ramp) return source + rampWay(v0, v, ramp, t / ramp);
  const begun = (ramp * (v0 + v)) / 2;
  if (t <= time - ramp) return source + begun + v * (t - ramp);
  return source + begun + v * (time - 2 * ramp) + rampWay(v, v1, ramp, (t - time + ramp) / ramp);
}

/** Speed at an output second inside a stretch, a share of as filmed. */
export function speedInSpan({ from, to, v0, v, v1, ramp }: SpeedSpan, at: Seconds): number {
  const t = at - from;
  const left = to - at;
  const step = (x: number) => x * x * (3 - 2 * x);
  if (ramp > 0 && t < ramp) return v0 + (v - v0) * step(t / ramp);
  if (ramp > 0 && left < ramp) return v1 + (v - v1) * step(left / ramp);
  return v;
}
