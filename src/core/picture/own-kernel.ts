import { aligned, bytesFor, compiled, places } from '../compiled';
import { KERNEL_BASE64 } from './kernel-bytes';
import type { Planes } from './planes';

interface Passes {
  throughTable(y: number, u: number, v: number, width: number, height: number, table: number): void;
  recolour(y: number, u: number, v: number, width: number, x0: number, x1: number, from: number, to: number, m: number): void;
  boxRows(src: number, dst: number, width: number, height: number, reach: number): void;
  boxColumns(src: number, dst: number, width: number, height: number, reach: number, sums: number): void;
}

/** A memory of its own for passes over whole pictures, in which a table stays from frame to frame. */
const own = compiled<Passes>(KERNEL_BASE64);
let held: Float32Array | null = null;
/** The table of 33 entries a side stands first, so that it stays where it is when a larger picture comes. */
const TABLE = 0;
const DATA = aligned(33 ** 3 * 16);

/** Planes through a pass in compiled code, in place; false where there is none. */
function inPlace(planes: Planes, room: number, pass: (kernel: Passes, buffer: ArrayBuffer, at: readonly number[]) => void): boolean {
  const loaded = own();
  if (!loaded) return false;
  const { kernel, memory } = loaded;
  const parts = [planes.y, planes.u, planes.v];
  const { at, end } = places(DATA, [...parts.map((p) => p.length), room]);
  const bytes = bytesFor(memory, end);
  parts.forEach((part, i) => {
    bytes.set(part, at[i]);
  });
  pass(kernel, memory.buffer, at);
  parts.forEach((part, i) => {
    part.set(bytes.subarray(at[i], at[i] + part.length));
  });
  return true;
}

/** `throughTable` in compiled code; false where there is none. */
export const throughTableByKernel = (planes: Planes, table: Float32Array): boolean =>
  inPlace(planes, 0, (kernel, buffer, [y, u, v]) => {
    if (held !== table) {
      new Float32Array(buffer, TABLE, table.length).set(table);
      held = table;
    }
    kernel.throughTable(y, u, v, planes.width, planes.height, TABLE);
  });

/** A colour matrix over a whole picture in compiled code; false where there is none. */
export const recolourByKernel = (planes: Planes, matrix: readonly number[]): boolean =>
  inPlace(planes, 48, (kernel, buffer, [y, u, v, m]) => {
    new Float32Array(buffer, m, 12).set(matrix);
    kernel.recolour(y, u, v, planes.width, 0, planes.width, 0, planes.height, m);
  });

/** Three running means of 2·reach + 1 both ways over one plane, in compiled code; null where there is none. */
export function boxesByKernel(plane: Uint8Array, width: number, height: number, reach: number): Uint8Array | null {
  const loaded = own();
  if (!loaded) return null;
  const { kernel, memory } = loaded;
  const {
    at: [a, b, sums],
    end,
  } = places(DATA, [plane.length, plane.length, 4 * width]);
  const bytes = bytesFor(memory, end);
  bytes.set(plane, a);
  for (let pass = 0; pass < 3; pass++) {
    kernel.boxRows(a, b, width, height, reach);
    kernel.boxColumns(b, a, width, height, reach, sums);
  }
  return bytes.slice(a, a + plane.length);
}
