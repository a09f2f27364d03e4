import { PAST } from '../compiled';
import type { Planes } from '../picture';
import type { Backdrop } from './backdrop';
import type { Mask } from './mask';
import { SHADOW, usualFor, WIDEST } from './occupancy';
import { unevennessAt, unlikeAt } from './occupancy-kernel';
import { type PartsPlaces, partsRoom, turnedAt } from './parts-kernel';
import { cutting } from './passes';

/** What of a frame is the figure, at the first look; with what was seen. */
export interface FigureFound {
  mask: Mask;
  /** How unlike the set each pixel is, smoothed over its neighbours, in multiples of what sets the figure apart there: 1 is the limit. */
  apart: Float32Array;
  /** 1 where a shadow lies on the set. */
  shade: Uint8Array;
  /** How far brightness usually is from the set's at each contrast, code values. */
  usual: Float32Array;
}

/**
 * A figure as `findPlainly` finds it, in compiled code; null where that is needed. `surely` is the unlikeness from which on a pixel is no part of
 * the set, `limitsAround` gives the limits of chance from sums over squares of four by four pixels, and `least` the smallest parts, in pixels.
 */
export function figureByKernel(
  frame: Planes,
  backdrop: Backdrop,
  surely: number,
  limitsAround: (sums: Float32Array, taken: Uint8Array, width: number, height: number) => Float32Array,
  least: { sure: number; part: number },
): FigureFound | null {
  const { width, height } = backdrop.planes;
  const loaded = width % 4 === 0 ? cutting() : null;
  if (!loaded) return null;
  const { kernel } = loaded;
  const n = width * height;
  const squares = (width / 4) * Math.ceil(height / 4);
  const [floats, bytes, coarse] = [4 * n + PAST, n + PAST, 4 * squares + PAST];
  const room = [floats, floats, floats, floats, bytes, bytes, bytes, coarse, coarse, coarse, ...partsRoom(width, height)];
  const { at, more, bytes: all, usual } = unlikeAt(loaded, frame, backdrop, usualFor, WIDEST, room);
  const [rough, even, rows, means, shade, sure, mask, sums, taken, limits, ...lists] = more;
  const parts = lists as unknown as PartsPlaces;
  const [runs, part, size] = parts;
  unevennessAt(kernel, at.ratio, width, height, SHADOW.around, [rough, even, rows, means]);
  kernel.shaded(at.ratio, at.colour, rough, SHADOW.darkest, SHADOW.lightest, SHADOW.uneven, shade, n);
  const [smooth, apart] = [at.plain, even];
  kernel.smallBoxMean(at.values, width, height, 1, rows, smooth);
  kernel.surely(smooth, shade, surely, sure, n);
  turnedAt(kernel, sure, backdrop.planes, 1, least.sure, false, parts);
  kernel.coarsened(smooth, sure, width, height, surely, sums, taken);
  const view = (place: number, length: number) => new Float32Array(all.buffer, place, length);
  view(limits, squares).set(limitsAround(view(sums, squares), all.slice(taken, taken + squares), width, height));
  kernel.apartFrom(smooth, at.values, shade, limits, width, height, apart, mask);
  // Only parts that hold something sure stay.
  const count = kernel.labelled(mask, width, height, 1, ...parts);
  kernel.among(sure, runs, part, size, count);
  kernel.turned(mask, 1, ...parts, count, Math.ceil(least.sure), 0);
  turnedAt(kernel, mask, backdrop.planes, 1, least.part, false, parts);
  turnedAt(kernel, mask, backdrop.planes, 0, least.part, true, parts);
  return {
    mask: { width, height, data: all.slice(mask, mask + n) },
    apart: view(apart, n).slice(),
    shade: all.slice(shade, shade + n),
    usual,
  };
}
