import { aligned, bytesFor, compiled } from '../compiled';
import { KERNEL_BASE64 } from './kernel-bytes';
import type { Planes } from './planes';

interface Passes {
  throughTable(y: number, u: number, v: number, width: number, height: number, table: number): void;
}

/** A memory of its own, in which the table stays from frame to frame. */
const own = compiled<Passes>(KERNEL_BASE64);
let held: Float32Array | null = null;

/** `throughTable` in compiled code; false where there is none. */
export function throughTableByKernel({ width, height, y, u, v }: Planes, table: Float32Array): boolean {
  const loaded = own();
  if (!loaded) return false;
  const { kernel, memory } = loaded;
  // The table stands first, so that it stays where it is when a larger picture comes.
  const first = 0;
  const luma = aligned(first + table.byteLength);
  const blue = aligned(luma + y.length);
  const red = aligned(blue + u.length);
  const bytes = bytesFor(memory, red + v.length);
  if (held !== table) {
    new Float32Array(memory.buffer, first, table.length).set(table);
    held = table;
  }
  bytes.set(y, luma);
  bytes.set(u, blue);
  bytes.set(v, red);
  kernel.throughTable(luma, blue, red, width, height, first);
  y.set(bytes.subarray(luma, luma + y.length));
  u.set(bytes.subarray(blue, blue + u.length));
  v.set(bytes.subarray(red, red + v.length));
  return true;
}
