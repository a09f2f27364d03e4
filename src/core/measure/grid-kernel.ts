import { bytesFor, PAST, places, START } from '../compiled';
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

/** Bytes that are all 0, and what joins each of the first `n` with the one `further` on, in place. */
export interface Joinable {
  bytes: Uint8Array;
  join(further: number, n: number): void;
}

/** Room in the memory of the compiled passes, good until the next of them is called; null where they are not to be had. */
export function joinableByKernel(size: number): Joinable | null {
  const pass = measuring();
  if (!pass) return null;
  const { buffer } = bytesFor(pass.memory, START + size + PAST);
  const bytes = new Uint8Array(buffer, START, size);
  new Uint8Array(buffer, START, size + PAST).fill(0);
  return { bytes, join: (further, n) => pass.kernel.joined(START, further, n) };
}
