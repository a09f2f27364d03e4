import * as z from 'zod/mini';
import { idSchema as id } from '../sources';

/** How a shot takes the place of what lies before it, beside a plain cut. */
export const TRANSITIONS = ['dissolve', 'dip', 'slide', 'wipe', 'iris', 'mask'] as const;

const share = z.number().check(z.gte(0), z.lte(1));
export const transitionSchema = z.object({
  kind: z.enum(TRANSITIONS),
  /** Frames it takes in all, half of them before the cut. */
  frames: z.int().check(z.gte(2), z.lte(250)),
  /** Where a slide or a wipe comes from: 0° from the top, 90° from the left. */
  angle: z.number().check(z.gte(-360), z.lte(360)),
  /** The colour that is dipped to, R'G'B'. */
  r: share,
  g: share,
  b: share,
  /** The mask of one of the shot's layers, switched on there or not, within which it is seen. */
  mask: z.optional(z.object({ layerId: id, maskId: id })),
});
export type Transition = z.infer<typeof transitionSchema>;
