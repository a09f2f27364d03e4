import { bytesFor, PAST, places, START } from '../compiled';
import type { Mask } from './mask';
import { measuring } from './passes';

/** Reaches up to which a square is quicker summed anew than carried along. */
const SMALL = 8;

/** Means over small squares as `boxMean` gives them plainly, in compiled code; null where that is needed. */
export function boxMeanByKernel(values: Float32Array, width: number, height: number, reach: number): Float32Array | null {
  const pass = reach <= SMALL ? measuring() : null;
  if (!pass) return null;
  const size = 4 * values.length + PAST;
  const {
    at: [from, rows, out],
    end,
  } = places(START, [size, size, size]);
  const { buffer } = bytesFor(pass.memory, end);
  new Float32Array(buffer, from, values.length).set(values);
  pass.kernel.smallBoxMean(from, width, height, reach, rows, out);
  return new Float32Array(buffer, out, values.length).slice();
}

/** Bytes of scratch for growing a mask. */
export const growthRoom = (width: number, height: number, by: number): number =>
  (width + 2 * Math.abs(by) + 15) * (height + 2 * Math.abs(by)) + PAST;

/** A mask grown or shrunk as `grow` does it plainly, in compiled code; null where that is needed. */
export function grownByKernel({ width, height, data }: Mask, by: number): Mask | null {
  const pass = measuring();
  if (!pass) return null;
  const {
    at: [mask, pad],
    end,
  } = places(START, [data.length + PAST, growthRoom(width, height, by)]);
  const bytes = bytesFor(pass.memory, end);
  bytes.set(data, mask);
  pass.kernel.grown(mask, width, height, by, pad, mask);
  return { width, height, data: bytes.slice(mask, mask + data.length) };
}
