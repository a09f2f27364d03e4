import { bytesFor, PAST, places, START } from '../compiled';
import type { Planes } from '../picture';
import type { Backdrop, Unlikeness } from './backdrop';
import { measuring } from './passes';

/** Unlikeness as `unlikePlainly` has it, in compiled code; null where that is needed. `usual` gives what is usual at each contrast. */
export function unlikenessByKernel(
  frame: Planes,
  { planes, stray, contrast }: Backdrop,
  usual: (
    values: Float32Array,
    plain: Float32Array,
    contrast: Uint8Array,
  ) => { usual: Float32Array; bright: Float32Array; tinted: Float32Array },
  widest: number,
): Unlikeness | null {
  const { width, height } = planes;
  const loaded = width % 4 === 0 ? measuring() : null;
  if (!loaded) return null;
  const n = width * height;
  const bytesOf = [frame.y, frame.u, frame.v, planes.y, planes.u, planes.v, contrast];
  const floats = [n, n, n, n, n, 16, 16];
  const { at, end } = places(START, [...bytesOf.map((b) => b.length + 16), ...floats.map((f) => 4 * f)]);
  const [fy, fu, fv, by, bu, bv, steps, far, values, ratio, colour, plain, bright, tinted] = at;
  const bytes = bytesFor(loaded.memory, end);
  bytesOf.forEach((b, i) => {
    bytes.set(b, at[i]);
  });
  const view = (place: number, length = n) => new Float32Array(bytes.buffer, place, length);
  view(far).set(stray);
  loaded.kernel.distances(fy, fu, fv, by, bu, bv, width, height, values, ratio, colour, plain);
  const limits = usual(view(values), view(plain), contrast);
  view(bright, 16).set(limits.bright);
  view(tinted, 16).set(limits.tinted);
  loaded.kernel.weighed(values, colour, plain, far, steps, bright, tinted, widest, n);
  return { values: view(values).slice(), ratio: view(ratio).slice(), colour: view(colour).slice(), usual: limits.usual };
}

/** Unevenness as `unevenPlainly` has it, in compiled code; null where that is needed. */
export function unevennessByKernel(ratio: Float32Array, width: number, height: number, reach: number): Float32Array | null {
  const loaded = measuring();
  if (!loaded) return null;
  const n = width * height;
  const size = 4 * n + PAST;
  const { at, end } = places(START, [size, size, size, size, size]);
  const [values, squares, rows, means, meanSquares] = at;
  const bytes = bytesFor(loaded.memory, end);
  const view = (place: number) => new Float32Array(bytes.buffer, place, n);
  view(values).set(ratio);
  const square = view(squares);
  for (let i = 0; i < n; i++) square[i] = ratio[i] * ratio[i];
  loaded.kernel.smallBoxMean(values, width, height, reach, rows, means);
  loaded.kernel.smallBoxMean(squares, width, height, reach, rows, meanSquares);
  loaded.kernel.unevenness(means, meanSquares, n);
  return view(meanSquares).slice();
}
