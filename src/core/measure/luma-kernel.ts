import { bytesFor, places, START } from '../compiled';
import { measuring } from './passes';

interface Plane {
  width: number;
  height: number;
  data: Uint8Array;
}

/** A plane in the memory of the compiled measures, with room for `more` bytes after it. */
function loaded({ data, width, height }: Plane, more: number) {
  const pass = measuring();
  if (!pass) return null;
  const { at, end } = places(START, [width * height + 16, more]);
  const bytes = bytesFor(pass.memory, end);
  bytes.set(data.subarray(0, width * height), at[0]);
  return { kernel: pass.kernel, bytes, luma: at[0], out: at[1] };
}

/** Brightness reduced by a factor from 4 on as `shrink` does it plainly, in compiled code; null where that is needed. */
export function thinnedByKernel(frame: Plane, factor: number): Plane | null {
  const [width, height] = [Math.floor(frame.width / factor), Math.floor(frame.height / factor)];
  const pass = loaded(frame, width * height + 16);
  if (!pass) return null;
  pass.kernel.thinned(pass.luma, frame.width, factor, pass.out, width, height);
  return { width, height, data: pass.bytes.slice(pass.out, pass.out + width * height) };
}

/** What `rowSums` gives plainly, in compiled code; null where that is needed. */
export function rowSumsByKernel(frame: Plane, step: number, high: number, low: number): Float64Array | null {
  const pass = loaded(frame, 6 * 8);
  if (!pass) return null;
  pass.kernel.rowSums(pass.luma, frame.width, frame.height, step, high, low, pass.out);
  return new Float64Array(pass.bytes.buffer.slice(pass.out, pass.out + 48));
}
