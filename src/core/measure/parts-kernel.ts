import { bytesFor, places, START } from '../compiled';
import type { Labelled, Mask } from './mask';
import { measuring, type Passes } from './passes';

/** Where the runs of a mask's rows and their parts stand in the memory of the compiled passes. */
export type PartsPlaces = readonly [runs: number, part: number, size: number, edge: number];

/** Bytes for the runs of a mask and their parts. */
export function partsRoom(width: number, height: number): number[] {
  const most = height * ((width + 1) >> 1);
  return [8 * most, 4 * most, 4 * most, most];
}

/** Gives the parts of a value in a mask at `mask` that are under `least` pixels the other value; with `inner` those at its edge stay. */
export function turnedAt(
  kernel: Passes,
  mask: number,
  { width, height }: Pick<Mask, 'width' | 'height'>,
  value: 0 | 1,
  least: number,
  inner: boolean,
  [runs, part, size, edge]: PartsPlaces,
): void {
  const count = kernel.labelled(mask, width, height, value, runs, part, size, edge);
  kernel.turned(mask, value, runs, part, size, edge, count, Math.ceil(least), inner ? 1 : 0);
}

/** A mask in the memory of the compiled passes with room for its parts; null where the plain ones serve. */
function loaded({ width, height, data }: Mask) {
  const pass = measuring();
  if (!pass) return null;
  const {
    at: [mask, ...lists],
    end,
  } = places(START, [data.length, ...partsRoom(width, height)]);
  const bytes = bytesFor(pass.memory, end);
  bytes.set(data, mask);
  return { kernel: pass.kernel, bytes, mask, lists: lists as unknown as PartsPlaces };
}

/** What `labelled` gives plainly, in compiled code; null where that is needed. */
export function labelledByKernel(of: Mask, value: 0 | 1): Labelled | null {
  const pass = loaded(of);
  if (!pass) return null;
  const [runs, part, size, edge] = pass.lists;
  const count = pass.kernel.labelled(pass.mask, of.width, of.height, value, runs, part, size, edge);
  const list = (at: number, n: number) => new Int32Array(pass.bytes.buffer, at, n).slice();
  return { runs: list(runs, 2 * count), part: list(part, count), size: list(size, count), edge: pass.bytes.slice(edge, edge + count) };
}

/** What `turned` does plainly, in compiled code and in place; false where that is needed. */
export function turnedByKernel(of: Mask, value: 0 | 1, least: number, inner: boolean): boolean {
  const pass = loaded(of);
  if (!pass) return false;
  turnedAt(pass.kernel, pass.mask, of, value, least, inner, pass.lists);
  of.data.set(pass.bytes.subarray(pass.mask, pass.mask + of.data.length));
  return true;
}
