import { bytesFor, compiled, places } from '../compiled';
import type { Pixels } from '../units';
import type { Block, BlockShift } from './blocks';
import { KERNEL_BASE64 } from './kernel-bytes';
import type { Luma } from './luma';

interface Passes {
  distances(
    fy: number,
    fu: number,
    fv: number,
    by: number,
    bu: number,
    bv: number,
    width: number,
    height: number,
    values: number,
    ratio: number,
    colour: number,
    plain: number,
  ): void;
  weighed(
    values: number,
    colour: number,
    plain: number,
    stray: number,
    contrast: number,
    bright: number,
    tinted: number,
    widest: number,
    n: number,
  ): void;
  boxMean(values: number, w: number, h: number, reach: number, rows: number, sums: number, out: number): void;
  unevenness(means: number, squares: number, n: number): void;
  follow(
    luma: number,
    width: number,
    height: number,
    heads: number,
    values: number,
    count: number,
    size: number,
    reach: number,
    rows: number,
  ): void;
}

/** The compiled measures, or null where the plain ones serve. */
export const measuring = compiled<Passes>(KERNEL_BASE64);
/** Numbers of a block in `kernels/measure.ts`. */
const HEAD = 13;
const START = 1024;

/** The values of blocks one after another, as the compiled search reads them; made once for a set of blocks. */
const values = new WeakMap<readonly Block[], Float32Array>();

function valuesOf(blocks: readonly Block[]): Float32Array {
  const known = values.get(blocks);
  if (known) return known;
  const n = blocks[0].size ** 2;
  const made = new Float32Array(3 * n * blocks.length);
  blocks.forEach(({ template, gx, gy }, i) => {
    for (const [k, part] of [template, gx, gy].entries()) made.set(part, (3 * i + k) * n);
  });
  values.set(blocks, made);
  return made;
}

/**
 * Blocks of one size followed in another frame from guesses (x and y of each, one after another), as by `matchBlock`, in compiled code.
 * Null where the plain search is needed.
 */
export function followByKernel(
  blocks: readonly Block[],
  { data, width, height }: Luma,
  guesses: Float64Array,
  reach: Pixels,
): (BlockShift | null)[] | null {
  if (blocks.length === 0) return [];
  const { size } = blocks[0];
  const at = size % 4 === 0 ? measuring() : null;
  if (!at) return null;
  const own = valuesOf(blocks);
  const sizes = [width * height + 16, 4 * own.length, 8 * HEAD * blocks.length, 4 * size * (size + 3)];
  const {
    at: [luma, place, heads, rows],
    end,
  } = places(START, sizes);
  const bytes = bytesFor(at.memory, end);
  bytes.set(data.subarray(0, width * height), luma);
  new Float32Array(bytes.buffer, place, own.length).set(own);
  const head = new Float64Array(bytes.buffer, heads, HEAD * blocks.length);
  blocks.forEach(({ x, y, inverse, energy, tx, ty }, i) => {
    head.set([x, y, guesses[2 * i], guesses[2 * i + 1], ...inverse, energy, tx, ty], HEAD * i);
  });
  at.kernel.follow(luma, width, height, heads, place, blocks.length, size, reach, rows);
  return blocks.map((_, i) => {
    const [dx, dy, fit] = head.subarray(HEAD * i + 10, HEAD * i + 13);
    return fit < -1 ? null : { dx, dy, fit };
  });
}
