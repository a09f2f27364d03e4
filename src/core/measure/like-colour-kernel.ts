import { bytesFor, places, START } from '../compiled';
import type { Planes } from '../picture';
import type { Mask } from './grid';
import { measuring } from './passes';

/** What `byLikeColour` gives plainly, in compiled code; null where that is needed. */
export function byLikeColourByKernel(
  { y, u, v }: Planes,
  values: Float32Array,
  { width, height, data: asked }: Mask,
  around: number,
  voice: Float32Array,
  chroma: number,
): Float32Array | null {
  const pass = measuring();
  if (!pass) return null;
  const parts = [y, u, v, values, asked, voice, values];
  const { at, end } = places(
    START,
    parts.map((part) => part.byteLength),
  );
  const bytes = bytesFor(pass.memory, end);
  parts.forEach((part, i) => {
    bytes.set(new Uint8Array(part.buffer, part.byteOffset, part.byteLength), at[i]);
  });
  pass.kernel.byLikeColour(at[0], at[1], at[2], at[3], at[4], width, height, around, at[5], chroma, at[6]);
  return new Float32Array(bytes.buffer, at[6], values.length).slice();
}
