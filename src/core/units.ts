/** Named number types. They cost nothing at run time; they say what a number means and its range. */

/** A whole count of frames at some stated rate. May be negative for offsets. */
export type Frames = number;
/** Time in seconds. */
export type Seconds = number;
/** Musical time in beats; 0 is bar 1 beat 1; fractions are allowed. */
export type Beats = number;
/** Length in pixels of a stated picture; sub-pixel fractions are allowed. */
export type Pixels = number;
/** Hundredths of a stated whole. */
export type Percent = number;
/** 0 to 1 inclusive. */
export type Unit = number;
/** Angle in degrees, counter-clockwise as seen on screen unless stated. */
export type Degrees = number;
/** Exposure difference in stops (EV): +1 is twice the light. */
export type Stops = number;
/** Length in metres. */
export type Metres = number;

/** Limits `value` to `low`..`high`. */
export function clamp(value: number, low: number, high: number): number {
  return value < low ? low : value > high ? high : value;
}

/** Median of `values` (mean of the middle two when even). NaN for an empty list. The input is not changed. */
export function median(values: ArrayLike<number>): number {
  const n = values.length;
  if (n === 0) return Number.NaN;
  const sorted = Float64Array.from(values).sort();
  const middle = n >> 1;
  return n % 2 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/** Length of (x, y): several times as quick as `Math.hypot`, for loops over pixels. */
export const lengthOf = (x: number, y: number): number => Math.sqrt(x * x + y * y);

/** What is left of a value after whole turns of `turn` (more than 0): from 0 up to it, for values below 0 too. */
export const around = (value: number, turn: number): number => ((value % turn) + turn) % turn;
