import { bytesFor, PAST, places, START } from '../compiled';
import type { Planes } from '../picture';
import type { Backdrop, Unlikeness } from './backdrop';
import { measuring, type Passes } from './passes';

/** What is usual at each contrast, from distances of brightness and of colour. */
type UsualFor = (
  values: Float32Array,
  plain: Float32Array,
  contrast: Uint8Array,
) => { usual: Float32Array; bright: Float32Array; tinted: Float32Array };

/** Places of what `unlikeAt` works out, n floats each. */
export interface UnlikePlaces {
  values: number;
  ratio: number;
  colour: number;
  /** No longer needed afterwards. */
  plain: number;
}

/**
 * Unlikeness as `unlikePlainly` has it, worked out in the memory of compiled passes, which keeps room for `more` bytes each after it; with what
 * is usual at each contrast. The width is a multiple of four.
 */
export function unlikeAt(
  { kernel, memory }: NonNullable<ReturnType<typeof measuring>>,
  frame: Planes,
  { planes, stray, contrast }: Backdrop,
  usualFor: UsualFor,
  widest: number,
  more: readonly number[] = [],
): { at: UnlikePlaces; more: number[]; bytes: Uint8Array; usual: Float32Array } {
  const { width, height } = planes;
  const n = width * height;
  const given = [frame.y, frame.u, frame.v, planes.y, planes.u, planes.v, contrast];
  const floats = [n, n, n, n, n, 16, 16];
  const { at, end } = places(START, [...given.map((b) => b.length + PAST), ...floats.map((f) => 4 * f + PAST), ...more]);
  const [fy, fu, fv, by, bu, bv, steps, far, values, ratio, colour, plain, bright, tinted] = at;
  const bytes = bytesFor(memory, end);
  given.forEach((b, i) => {
    bytes.set(b, at[i]);
  });
  const view = (place: number, length = n) => new Float32Array(bytes.buffer, place, length);
  view(far).set(stray);
  kernel.distances(fy, fu, fv, by, bu, bv, width, height, values, ratio, colour, plain);
  const { usual, ...limits } = usualFor(view(values), view(plain), contrast);
  view(bright, 16).set(limits.bright);
  view(tinted, 16).set(limits.tinted);
  kernel.weighed(values, colour, plain, far, steps, bright, tinted, widest, n);
  return { at: { values, ratio, colour, plain }, more: at.slice(given.length + floats.length), bytes, usual };
}

/** Unlikeness as `unlikePlainly` has it, in compiled code; null where that is needed. `usualFor` gives what is usual at each contrast. */
export function unlikenessByKernel(frame: Planes, backdrop: Backdrop, usualFor: UsualFor, widest: number): Unlikeness | null {
  const { width, height } = backdrop.planes;
  const loaded = width % 4 === 0 ? measuring() : null;
  if (!loaded) return null;
  const { at, bytes, usual } = unlikeAt(loaded, frame, backdrop, usualFor, widest);
  const list = (place: number) => new Float32Array(bytes.buffer, place, width * height).slice();
  return { values: list(at.values), ratio: list(at.ratio), colour: list(at.colour), usual };
}

/**
 * Unevenness of the values at `values`, into the first of four places of `room`, which have room for as many floats and `PAST` bytes; as
 * `unevenPlainly` has it.
 */
export function unevennessAt(kernel: Passes, values: number, width: number, height: number, reach: number, room: readonly number[]): void {
  const [out, squares, rows, means] = room;
  kernel.squared(values, squares, width * height);
  kernel.smallBoxMean(values, width, height, reach, rows, means);
  kernel.smallBoxMean(squares, width, height, reach, rows, out);
  kernel.unevenness(means, out, width * height);
}

/** Unevenness as `unevenPlainly` has it, in compiled code; null where that is needed. */
export function unevennessByKernel(ratio: Float32Array, width: number, height: number, reach: number): Float32Array | null {
  const loaded = measuring();
  if (!loaded) return null;
  const size = 4 * ratio.length + PAST;
  const { at, end } = places(START, [size, size, size, size, size]);
  const [values, ...room] = at;
  const { buffer } = bytesFor(loaded.memory, end);
  new Float32Array(buffer, values, ratio.length).set(ratio);
  unevennessAt(loaded.kernel, values, width, height, reach, room);
  return new Float32Array(buffer, room[0], ratio.length).slice();
}
