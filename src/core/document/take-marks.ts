import * as z from 'zod/mini';
import { finite, id } from '../layer';

/** A second of the take's file. */
const second = finite.check(z.nonnegative());
/** A place in the take's picture, per cent of its width and height; a little beyond its edge is let be. */
const place = { x: finite.check(z.gte(-20), z.lte(120)), y: finite.check(z.gte(-20), z.lte(120)) };

/** One stroke of a brush or one line of a lasso; the brush's radius in per cent of the picture's height. */
const strokeSchema = z.object({
  by: z.enum(['brush', 'lasso']),
  /** What it covers: the figure, the set, or whatever was measured there. */
  says: z.enum(['figure', 'set', 'measured']),
  radius: finite.check(z.nonnegative(), z.lte(100)),
  points: z.array(z.tuple([place.x, place.y])).check(z.minLength(1), z.maxLength(2000)),
});

/** How somebody is told apart on every frame of a take. */
const CUT_WAYS = ['set', 'key', 'person'] as const;

/** How a take is cut out along its whole length, and where the user put it right. */
export const cutAlongSchema = z.object({
  way: z.enum(CUT_WAYS),
  /** How much counts as backing, per cent; for cutting out by a coloured backing. */
  tolerance: finite.check(z.gte(0), z.lte(100)),
  /** The one figure that is meant, at a second; null for all. */
  chosen: z.nullable(z.object({ time: second, ...place })),
  /** Painted on frames, in order of time; each is carried along until the next. */
  corrections: z
    .array(z.object({ time: second, strokes: z.array(strokeSchema).check(z.minLength(1), z.maxLength(500)) }))
    .check(z.maxLength(500)),
});

/** A place that is followed through a take: where it was marked, and where it was put right. */
export const trackedPointSchema = z.object({
  id,
  name: z.string().check(z.minLength(1), z.maxLength(60)),
  /** How far around it belongs to it, per cent of the picture's height. */
  radius: finite.check(z.gte(0.5), z.lte(50)),
  /** In order of time; the first is where it was marked. */
  keys: z.array(z.object({ time: second, ...place })).check(z.minLength(1), z.maxLength(500)),
});

export type CutAlong = z.infer<typeof cutAlongSchema>;
export type Stroke = z.infer<typeof strokeSchema>;
export type TrackedPoint = z.infer<typeof trackedPointSchema>;

/** A take's way of being cut out before anything is said of it. */
export const PLAIN_CUT: CutAlong = { way: 'set', tolerance: 30, chosen: null, corrections: [] };
