import type { Planes } from '../picture';
import { boxAround, cropped, pasted } from './around';
import { boxMean } from './grid';
import type { Matte } from './matte';

/** Share of the matte before that is kept where the picture stands still. */
const KEPT = 0.75;
/** Change of brightness from frame to frame, smoothed, from which on the picture moves: code values, and times what noise makes of it. */
const MOVES = { least: 1.5, noise: 2.2 };
/** Pixels around the matte that are looked at. */
const MARGIN = 8;
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
        const [now, then] = [cropped(y, width, box), cropped(before.y, width, box)];
        const own = cropped(alpha, width, box);
        const old = cropped(before.alpha, width, box);
        const change = new Float32Array(own.length);
        for (let i = 0; i < own.length; i++) change[i] = Math.abs(now[i] - then[i]);
        const smooth = boxMean(change, box.width, box.height, 2);
        const limit = Math.max(MOVES.least, MOVES.noise * usual(smooth));
        for (let i = 0; i < own.length; i++) {
          const still = smooth[i] <= limit ? 1 : Math.max(0, 2 - smooth[i] / limit);
          own[i] = Math.round(own[i] + KEPT * still * (old[i] - own[i]));
        }
        pasted(own, alpha, width, box);
      }
    }
    this.before = { alpha, y: y.slice() };
    return { width, height, alpha };
  }
}

/** The lower quarter of the changes, of one in so many: what noise alone makes, where less than three quarters move. */
function usual(change: Float32Array): number {
  const some = Float32Array.from({ length: Math.ceil(change.length / ONE_IN) }, (_, k) => change[ONE_IN * k]).sort();
  return some[some.length >> 2] ?? 0;
}
