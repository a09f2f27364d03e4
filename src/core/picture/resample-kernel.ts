import { bytesFor, places } from '../compiled';
import type { Pixels } from '../units';
import type { Affine } from './affine';
import type { Homography } from './homography';
import { DATA, load } from './kernel';
import { type Kernel, kernelFor, passesOf, type Region, resamplePlane, scaleAcross } from './resample';

/** What `kernels/resample.ts` repeats at each side of a row; wider filters are left to the plain passes. */
const SIDE = 64;
const strideOf = ({ taps }: Kernel) => (taps + 7) & ~7;

/** Weights with the room after each phase that the compiled passes ask for; made once for a filter. */
const padded = new WeakMap<Kernel, Int16Array>();
function weightsOf(kernel: Kernel): Int16Array {
  const known = padded.get(kernel);
  if (known) return known;
  const { taps, weights } = kernel;
  const stride = strideOf(kernel);
  const made = new Int16Array((weights.length / taps) * stride);
  for (let p = 0; p * taps < weights.length; p++) made.set(weights.subarray(p * taps, (p + 1) * taps), p * stride);
  padded.set(kernel, made);
  return made;
}

/** Resamples one plane as `resamplePlane` does, to the bit, in compiled code where this machine has it. */
export function resampleQuickly(
  source: Uint8Array,
  sw: Pixels,
  sh: Pixels,
  out: Uint8Array,
  ow: Pixels,
  region: Region,
  map: Affine,
): void {
  const { x0, x1, y0, y1 } = region;
  const width = x1 - x0;
  if (width <= 0 || y1 <= y0) return;
  const [horizontal, vertical] = [kernelFor(scaleAcross(map)), kernelFor(Math.abs(map.e))];
  const at = horizontal.taps <= SIDE - 16 ? load() : null;
  if (!at) {
    resamplePlane(source, sw, sh, out, ow, region, map);
    return;
  }
  const { perX, perRow, base, d, e, f, rowFirst, rowLast } = passesOf(map, region, sh, vertical.taps);
  const rows = rowLast - rowFirst + 1;
  const [first, second] = [weightsOf(horizontal), weightsOf(vertical)];
  const sizes = [sw * rows, width * rows, width * (y1 - y0), 2 * first.length, 2 * second.length, sw + 2 * SIDE];
  // The passes read in words, a little over the end.
  const { at: found, end } = places(
    DATA,
    sizes.map((size) => size + 16),
  );
  const [from, between, to, weights, others, row] = found;
  const bytes = bytesFor(at.memory, end);
  bytes.set(source.subarray(rowFirst * sw, (rowLast + 1) * sw), from);
  new Int16Array(bytes.buffer, weights, first.length).set(first);
  new Int16Array(bytes.buffer, others, second.length).set(second);
  at.kernel.across(from, sw, rowFirst, rows, x0, width, between, weights, horizontal.taps, strideOf(horizontal), row, perX, perRow, base);
  at.kernel.down(between, width, rows, to, y0, y1, others, vertical.taps, strideOf(vertical), d, e, f, d * x0, rowFirst);
  for (let y = y0; y < y1; y++) out.set(bytes.subarray(to + (y - y0) * width, to + (y - y0 + 1) * width), y * ow + x0);
}

/** A plane seen through a homography as `planeThroughPlainly` does it, to the bit; null where this machine has no compiled code. */
export function perspectiveByKernel(
  source: Uint8Array,
  width: Pixels,
  height: Pixels,
  map: Homography,
  below: Uint8Array | null,
): Uint8Array | null {
  const at = load();
  if (!at) return null;
  const taps = weightsOf(kernelFor(1));
  const size = width * height;
  const { at: found, end } = places(
    DATA,
    [size, size, below ? size : 0, 2 * taps.length].map((bytes) => bytes + 16),
  );
  const [from, to, under, weights] = found;
  const bytes = bytesFor(at.memory, end);
  bytes.set(source, from);
  if (below) bytes.set(below, under);
  new Int16Array(bytes.buffer, weights, taps.length).set(taps);
  at.kernel.perspective(from, width, height, to, weights, below ? under : 0, ...map);
  return bytes.slice(to, to + size);
}
