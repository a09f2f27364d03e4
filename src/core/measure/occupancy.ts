import type { Planes } from '../picture';
import type { Unit } from '../units';
import type { Backdrop, Unlikeness } from './backdrop';
import { boxMeanPlainly, dropSmall, emptyMask, type Mask, tidy } from './grid';
import { unevennessByKernel, unlikenessByKernel } from './occupancy-kernel';
import { usualError } from './usual-error';

/** Where the performer and their shadow are in one frame, on the backdrop's grid. */
export interface Occupied {
  figure: Mask;
  shadow: Mask;
}

/** From this many times the usual distance on it is no chance: 3.5 standard deviations of a normal, 3 of a colour distance. */
const BEYOND = { brightness: 5.2, colour: 2.6 };
/** The usual distance widens the limit by no more than this: a frame in other light is not excused. */
export const WIDEST = 3;

/** Brightness as a divisor: from black, and never so dark that a code value is a large share of it. */
const FROM_BLACK = Float64Array.from({ length: 256 }, (_, y) => Math.max(4, y - 10));

/** How unlike its backdrop each pixel of a frame is. The frame has the backdrop's size and lies on it. */
export function unlikeness(frame: Planes, backdrop: Backdrop): Unlikeness {
  return unlikenessByKernel(frame, backdrop, usualFor, WIDEST) ?? unlikePlainly(frame, backdrop);
}

/** What brightness usually is off at each contrast, and what is usual as it counts towards the limits of brightness and of colour. */
export function usualFor(
  values: Float32Array,
  plain: Float32Array,
  contrast: Uint8Array,
): { usual: Float32Array; bright: Float32Array; tinted: Float32Array } {
  const usual = usualError(values, contrast);
  return {
    usual,
    bright: usual.map((v) => BEYOND.brightness * v),
    tinted: usualError(plain, contrast).map((v) => BEYOND.colour * v),
  };
}

/** The definition of unlikeness; the compiled pass must agree with it. */
export function unlikePlainly(frame: Planes, { planes, stray, contrast }: Backdrop): Unlikeness {
  const { width, height } = planes;
  const values = new Float32Array(width * height);
  const ratio = new Float32Array(width * height);
  const colour = new Float32Array(width * height);
  const plain = new Float32Array(width * height);
  const half = width >> 1;
  for (let y = 0, i = 0; y < height; y++) {
    const row = (y >> 1) * half;
    for (let x = 0; x < width; x++, i++) {
      const j = row + (x >> 1);
      const is = frame.y[i];
      const was = planes.y[i];
      const r = FROM_BLACK[is] / FROM_BLACK[was];
      const bu = planes.u[j] - 128;
      const bv = planes.v[j] - 128;
      const du = frame.u[j] - 128;
      const dv = frame.v[j] - 128;
      const dim = r < 1.2 ? r : 1.2;
      const eu = du - dim * bu;
      const ev = dv - dim * bv;
      ratio[i] = r;
      colour[i] = Math.sqrt(eu * eu + ev * ev);
      plain[i] = Math.sqrt((du - bu) * (du - bu) + (dv - bv) * (dv - bv));
      values[i] = Math.abs(is - was);
    }
  }
  const { usual, bright, tinted } = usualFor(values, plain, contrast);
  for (let i = 0; i < values.length; i++) {
    const limit = widened(4 + 3.5 * stray[i], bright[contrast[i]]);
    const tint = widened(3.2 + 0.4 * stray[i], tinted[contrast[i]]);
    colour[i] /= tint;
    values[i] = Math.max(values[i] / limit, plain[i] / tint);
  }
  return { values, ratio, colour, usual };
}

const widened = (least: number, usual: number) => Math.max(least, Math.min(WIDEST * least, usual));

/** Local unevenness (standard deviation) of the brightness ratio: a shadow darkens evenly, a figure has a pattern of its own. */
function unevenness(ratio: Float32Array, width: number, height: number, reach: number): Float32Array {
  return unevennessByKernel(ratio, width, height, reach) ?? unevenPlainly(ratio, width, height, reach);
}

/** The definition of unevenness; the compiled pass must agree with it. */
export function unevenPlainly(ratio: Float32Array, width: number, height: number, reach: number): Float32Array {
  const squares = new Float32Array(ratio.length);
  for (let i = 0; i < ratio.length; i++) squares[i] = ratio[i] * ratio[i];
  const mean = boxMeanPlainly(ratio, width, height, reach);
  const out = boxMeanPlainly(squares, width, height, reach);
  for (let i = 0; i < out.length; i++) out[i] = Math.sqrt(Math.max(0, out[i] - mean[i] * mean[i])) / Math.max(0.2, mean[i]);
  return out;
}

/** What a shadow does: darker by up to two thirds, but by more than noise, and evenly so over pixels around. */
export const SHADOW = { darkest: 0.4, lightest: 0.97, uneven: 0.085, around: 2 };

/**
 * Tells shadow from figure: darker than the backdrop by up to two thirds, evenly so over a few pixels, and of the backdrop's own
 * hue (after Horprasert, Harwood & Davis 1999).
 */
export function shadowOf(unlike: Unlikeness, width: number, height: number): Uint8Array {
  const rough = unevenness(unlike.ratio, width, height, SHADOW.around);
  const out = new Uint8Array(width * height);
  for (let i = 0; i < out.length; i++) {
    const r = unlike.ratio[i];
    out[i] = r > SHADOW.darkest && r < SHADOW.lightest && unlike.colour[i] < 1 && rough[i] < SHADOW.uneven ? 1 : 0;
  }
  return out;
}

/**
 * Where a figure and its shadow are in a frame that lies on the backdrop, matched in light. Specks under a two-thousandth of the
 * frame are dropped, small gaps are closed. Null when over 85 % of the frame is unlike the backdrop: then it says nothing.
 */
export function occupied(frame: Planes, backdrop: Backdrop): Occupied | null {
  const { width, height } = backdrop.planes;
  const unlike = unlikeness(frame, backdrop);
  const shade = shadowOf(unlike, width, height);
  const figure = emptyMask(width, height);
  const shadow = emptyMask(width, height);
  let different = 0;
  for (let i = 0; i < shade.length; i++) {
    if (unlike.values[i] <= 1) continue;
    different++;
    if (shade[i]) shadow.data[i] = 1;
    else figure.data[i] = 1;
  }
  if (different > 0.85 * shade.length) return null;
  bridge(figure);
  const speck = Math.max(6, (width * height) / 2000);
  tidy(figure, speck, speck);
  dropSmall(figure);
  for (let i = 0; i < shade.length; i++) if (figure.data[i]) shadow.data[i] = 0;
  tidy(shadow, speck, speck);
  return { figure, shadow };
}

/** Closes one-pixel gaps and drops single pixels, by majority of the eight neighbours, in place. */
function bridge(mask: Mask): void {
  const { width, height, data } = mask;
  const before = data.slice();
  for (let y = 1; y < height - 1; y++) {
    const row = y * width;
    const down = (i: number) => before[i - width] + before[i] + before[i + width];
    let [left, middle] = [down(row), down(row + 1)];
    for (let i = row + 1; i < row + width - 1; i++) {
      const right = down(i + 1);
      const n = left + middle + right - before[i];
      if (before[i] ? n < 2 : n >= 5) data[i] = before[i] ? 0 : 1;
      left = middle;
      middle = right;
    }
  }
}

/** Share of frames in which each pixel is occupied, 0..255 for 0..1. */
export function unionOf(masks: Iterable<Mask>, width: number, height: number): Uint8Array {
  const sums = new Uint32Array(width * height);
  let n = 0;
  for (const mask of masks) {
    n++;
    for (let i = 0; i < sums.length; i++) sums[i] += mask.data[i];
  }
  // Anything that was ever occupied shows, however short.
  return Uint8Array.from(sums, (s) => (s ? Math.max(8, Math.round((255 * s) / n)) : 0));
}

/** A stretch of frames in which figures of two takes overlap. */
export interface Collision {
  from: number;
  /** The last frame that overlaps. */
  to: number;
  /** The frame of largest overlap, its share of the frame, and its middle on the grid. */
  worst: number;
  share: Unit;
  x: number;
  y: number;
}

/**
 * Stretches in which the figures of two takes overlap by more than `least` grid pixels; gaps of up to two frames do not end one.
 * `a(f)` and `b(f)` give the masks of frame f, null where a take has none.
 */
export function collisions(frames: number, a: (frame: number) => Mask | null, b: (frame: number) => Mask | null, least = 12): Collision[] {
  const out: Collision[] = [];
  let open: Collision | null = null;
  for (let f = 0; f < frames; f++) {
    const [p, q] = [a(f), b(f)];
    if (!p || !q) continue;
    let [n, sx, sy] = [0, 0, 0];
    for (let i = 0; i < p.data.length; i++) {
      if (!(p.data[i] & q.data[i])) continue;
      n++;
      sx += i % p.width;
      sy += Math.floor(i / p.width);
    }
    if (n <= least) continue;
    const share = n / p.data.length;
    if (!open || f - open.to > 3) {
      open = { from: f, to: f, worst: f, share: 0, x: 0, y: 0 };
      out.push(open);
    }
    open.to = f;
    if (share > open.share) Object.assign(open, { worst: f, share, x: sx / n, y: sy / n });
  }
  return out;
}
