import { bytesFor, PAST, placesFor, putIn, START } from '../compiled';
import { measuring } from './passes';

/** Part of a frame and of the one before, with what was found of the figure in both. */
export interface Pair {
  now: Uint8Array;
  last: Uint8Array;
  alpha: Uint8Array;
  old: Uint8Array;
}

/**
 * Coverage evened from frame to frame as `evenedPlainly` does it, change smoothed over `around` pixels, in compiled code; null where that is needed.
 */
export function evenedByKernel(
  { now, last, alpha, old }: Pair,
  width: number,
  height: number,
  around: number,
  limitFor: (smooth: Float32Array) => number,
  kept: number,
): Uint8Array | null {
  const pass = measuring();
  if (!pass) return null;
  const n = width * height;
  const [bytes, floats] = [n + PAST, 4 * n + PAST];
  const { at, end } = placesFor(START, { now: bytes, last: bytes, alpha: bytes, old: bytes, change: floats, rows: floats, smooth: floats });
  const all = bytesFor(pass.memory, end);
  putIn(all, at, { now, last, alpha, old });
  pass.kernel.changes(at.now, at.last, at.change, n);
  pass.kernel.smallBoxMean(at.change, width, height, around, at.rows, at.smooth);
  pass.kernel.evened(at.alpha, at.old, at.smooth, limitFor(new Float32Array(all.buffer, at.smooth, n)), kept, n);
  return all.slice(at.alpha, at.alpha + n);
}
