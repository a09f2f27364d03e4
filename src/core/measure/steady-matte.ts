import type { Planes } from '../picture';
import { boxAround, cropped, pasted } from './around';
import { boxMean } from './grid';
import type { Matte } from './matte';
import { evenedByKernel, type Pair } from './steady-kernel';

/** Share of the matte before that is kept where the picture stands still. */
export const KEPT = 0.75;
/** Change of brightness from frame to frame, smoothed, from which on the picture moves: code values, and times what noise makes of it. */
const MOVES = { least: 1.5, noise: 2.2 };
/** Pixels around the matte that are looked at. */
const MARGIN = 8;
/** Pixels around one over which change is smoothed. */
export const AROUND = 2;
/** One change in so many tells what is usual; prime, so that no column of the box is looked at alone. */
const ONE_IN = 37;

/**
 * Evens a matte from frame to frame: where the picture stands still around a pixel its coverage is a running mean, so that the edge of
 * somebody who stands still does not crawl; where it moves the frame's own coverage stands. Frames in order, all of one size.
 */
export class SteadyMatte {
  private before: { alpha: Uint8Array; y: Uint8Array } | null = null;

  next(matte: Matte, { y }: Planes): Matte {
    const { width, height } = matte;
    const { before } = this;
    const alpha = matte.alpha.slice();
    if (before) {
      const box = boxAround([alpha, before.alpha], width, height, MARGIN);
      if (box) {
        const part = (plane: Uint8Array) => cropped(plane, width, box);
        const { width: w, height: h } = box;
        const pair: Pair = { now: part(y), last: part(before.y), alpha: part(alpha), old: part(before.alpha) };
        pasted(evenedByKernel(pair, w, h, AROUND, limitFor, KEPT) ?? evenedPlainly(pair, w, h), alpha, width, box);
      }
    }
    this.before = { alpha, y: y.slice() };
    return { width, height, alpha };
  }
}

/** The frame's coverage evened; the compiled pass must agree with it. */
export function evenedPlainly({ now, last, alpha, old }: Pair, width: number, height: number): Uint8Array {
  const change = new Float32Array(now.length);
  for (let i = 0; i < now.length; i++) change[i] = Math.abs(now[i] - last[i]);
  const smooth = boxMean(change, width, height, AROUND);
  const limit = limitFor(smooth);
  return alpha.map((own, i) => {
    const still = Math.max(0, Math.min(1, 2 - smooth[i] / limit));
    return Math.round(own + KEPT * still * (old[i] - own));
  });
}

/** Change, smoothed, from which on the picture moves, code values. */
export const limitFor = (smooth: Float32Array): number => Math.max(MOVES.least, MOVES.noise * usual(smooth));

/** The lower quarter of the changes, of one in so many: what noise alone makes, where less than three quarters move. */
function usual(change: Float32Array): number {
  const some = Float32Array.from({ length: Math.ceil(change.length / ONE_IN) }, (_, k) => change[ONE_IN * k]).sort();
  return some[some.length >> 2] ?? 0;
}
