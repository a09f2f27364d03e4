import { bytesFor, places, START } from '../compiled';
import type { Pixels } from '../units';
import type { Block, BlockShift } from './blocks';
import type { Luma } from './luma';
import { ownPasses } from './passes';

/** Numbers of a block in `kernels/measure.ts`. */
const HEAD = 13;

/** A take is followed against its own first second and another's by turns: the values of both stay in memory from frame to frame. */
const followers = [0, 1].map(() => ({ passes: ownPasses(), held: null as readonly Block[] | null }));

/** The one that holds these blocks, or that was used longest ago. */
function followerOf(blocks: readonly Block[]) {
  if (followers[1].held === blocks) followers.reverse();
  else if (followers[0].held !== blocks) followers.unshift(...followers.splice(1));
  return followers[0];
}

/** The values of blocks one after another, as the compiled search reads them. */
function putValues(blocks: readonly Block[], out: Float32Array): void {
  const n = blocks[0].size ** 2;
  blocks.forEach(({ template, gx, gy }, i) => {
    for (const [k, part] of [template, gx, gy].entries()) out.set(part, (3 * i + k) * n);
  });
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
  const follower = followerOf(blocks);
  const at = size % 4 === 0 ? follower.passes() : null;
  if (!at) return null;
  const count = 3 * size ** 2 * blocks.length;
  const sizes = [4 * count, 8 * HEAD * blocks.length, 4 * (size * (size + 4) + 4), width * height + 16];
  const {
    at: [place, heads, rows, luma],
    end,
  } = places(START, sizes);
  const bytes = bytesFor(at.memory, end);
  if (follower.held !== blocks) putValues(blocks, new Float32Array(bytes.buffer, place, count));
  follower.held = blocks;
  bytes.set(data.subarray(0, width * height), luma);
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
