import type { Degrees, Pixels } from '../units';
import { say } from '../words';

/**
 * A map between two views of a flat scene, or of any scene from one spot: (x, y) goes to ((ax + by + c) / w, (dx + ey + f) / w) with
 * w = gx + hy + 1, as a to h in a row. Points are counted from the middles of the pictures. Hartley & Zisserman 2004, section 2.3.
 */
export type Homography = readonly [number, number, number, number, number, number, number, number];

/** Eight numbers as a map. Throws RangeError where there are not eight. */
export function asHomography(numbers: readonly number[]): Homography {
  if (numbers.length !== 8) throw new RangeError(say`A homography is eight numbers, not ${numbers.length}.`);
  return numbers as unknown as Homography;
}

export const UNMOVED: Homography = [1, 0, 0, 0, 1, 0, 0, 0];

/** A shift, a turn and a scale about the middle. */
export function ofMove({ dx, dy, turn, scale }: { dx: Pixels; dy: Pixels; turn: Degrees; scale: number }): Homography {
  const angle = (turn * Math.PI) / 180;
  const [c, s] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
  return [c, -s, dx, s, c, dy, 0, 0];
}

/** Where a point goes. What lies behind the eye goes nowhere near: infinitely far. */
export function through([a, b, c, d, e, f, g, h]: Homography, x: Pixels, y: Pixels): [Pixels, Pixels] {
  const w = g * x + h * y + 1;
  if (w <= 1e-9) return [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  return [(a * x + b * y + c) / w, (d * x + e * y + f) / w];
}

function normal(m: readonly number[]): Homography {
  const [a, b, c, d, e, f, g, h, w] = m;
  return [a / w, b / w, c / w, d / w, e / w, f / w, g / w, h / w];
}

/** `after` applied to what `first` gives. */
export function chained(after: Homography, first: Homography): Homography {
  const [p, q] = [
    [...after, 1],
    [...first, 1],
  ];
  return normal(
    Array.from({ length: 9 }, (_, i) => {
      const [row, column] = [3 * Math.floor(i / 3), i % 3];
      return p[row] * q[column] + p[row + 1] * q[3 + column] + p[row + 2] * q[6 + column];
    }),
  );
}

/** A move after a perspective (eight numbers), which may be none: how a reference is seen in a take that was corrected by both. */
export const seenBy = (move: Parameters<typeof ofMove>[0], perspective: readonly number[] | null | undefined): Homography =>
  perspective ? chained(ofMove(move), asHomography(perspective)) : ofMove(move);

/** The map back. */
export function undone([a, b, c, d, e, f, g, h]: Homography): Homography {
  return normal([e - f * h, c * h - b, b * f - c * e, f * g - d, a - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d]);
}

/** The same map between pictures `by` times as large. */
export const enlarged = ([a, b, c, d, e, f, g, h]: Homography, by: number): Homography => [a, b, c * by, d, e, f * by, g / by, h / by];

/** How far two maps put a corner of a `width`×`height` frame apart, at most. */
export function cornersApart(one: Homography, other: Homography, width: Pixels, height: Pixels): Pixels {
  let most = 0;
  for (const x of [-width / 2, width / 2]) {
    for (const y of [-height / 2, height / 2]) {
      const [[px, py], [qx, qy]] = [through(one, x, y), through(other, x, y)];
      most = Math.max(most, Math.hypot(px - qx, py - qy));
    }
  }
  return most;
}
