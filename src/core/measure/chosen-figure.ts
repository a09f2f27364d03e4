import type { Frames, Pixels } from '../units';
import { emptyMask, grow, type Mask, partsOf } from './grid';

/** Grid pixels by which a figure may go on from one frame to the next. */
const REACH = 4;
/** Times as large as before from which on two figures are taken to have come together. */
const MERGED = 1.6;

/** The part of a mask that holds a place, or the nearest; null of an empty one. */
function partAt(mask: Mask, x: Pixels, y: Pixels): Mask | null {
  let [best, nearest] = [null as Int32Array | null, Number.POSITIVE_INFINITY];
  for (const { pixels } of partsOf(mask, 1))
    for (const i of pixels) {
      const far = ((i % mask.width) - x) ** 2 + (Math.floor(i / mask.width) - y) ** 2;
      if (far < nearest) [best, nearest] = [pixels, far];
    }
  if (!best) return null;
  const out = emptyMask(mask.width, mask.height);
  for (const i of best) out.data[i] = 1;
  return out;
}

const size = ({ data }: Mask) => data.reduce((sum, v) => sum + v, 0);

/** What of a frame goes on from a figure of the frame beside it; null where nothing does. */
function goesOn(mask: Mask, from: Mask): Mask | null {
  const near = grow(from, REACH);
  const out = emptyMask(mask.width, mask.height);
  let any = false;
  for (const { pixels } of partsOf(mask, 1)) {
    if (!pixels.some((i) => near.data[i])) continue;
    any = true;
    for (const i of pixels) out.data[i] = 1;
  }
  if (!any) return null;
  // Of figures that have come together only what lies near goes on.
  if (size(out) > MERGED * size(from)) for (let i = 0; i < out.data.length; i++) out.data[i] &= near.data[i];
  return out;
}

/**
 * One figure among several over a take: the one at or nearest to a place (grid pixels) on a frame, followed forwards and backwards by
 * what overlaps from frame to frame. Frames in which it is not seen, or that could not be told, have null; it is taken up again where
 * it was seen last.
 */
export function chosenFigure(masks: readonly (Mask | null)[], frame: Frames, x: Pixels, y: Pixels): (Mask | null)[] {
  const out: (Mask | null)[] = masks.map(() => null);
  const here = masks[frame];
  const begin = here && partAt(here, x, y);
  if (!begin) return out;
  out[frame] = begin;
  for (const step of [1, -1]) {
    let last = begin;
    for (let f = frame + step; f >= 0 && f < masks.length; f += step) {
      const mask = masks[f];
      const next = mask && goesOn(mask, last);
      out[f] = next;
      if (next && size(next) > 0) last = next;
    }
  }
  return out;
}
