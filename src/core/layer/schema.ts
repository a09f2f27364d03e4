import * as z from 'zod/mini';
import { EFFECT_NAMES, effectKind } from '../effects';
import { EASING_NAMES, REPEATS, WAYS } from '../motion';
import { BLEND_MODES, COMBINES } from '../picture';
import { idSchema as id, sourceSchema } from '../sources';
import { LAYER_NUMBER_NAMES, maskNumber } from './numbers';

/** Any number a project may hold: far beyond what is ever meant, and small enough to reckon with. */
export const finite = z.number().check(z.gte(-1e7), z.lte(1e7));
/** The furthest beat there is: two hours at 300 beats a minute and then some. */
export const FURTHEST_BEAT = 40_000;
export const beatSchema = z.number().check(z.gte(-FURTHEST_BEAT), z.lte(FURTHEST_BEAT));
const offsetSchema = z.int().check(z.gte(-1e6), z.lte(1e6));
/** A place in the song: bar 1 beat 1 is beat 0; whole frames on top. In a shot's layers it counts from the beat the shot begins on. */
export const anchorSchema = z.object({ beat: beatSchema, offset: offsetSchema });

const share = finite.check(z.gte(0), z.lte(1));
const bezierSchema = z.object({ x1: share, y1: finite, x2: share, y2: finite });
/** A key sits on a beat of the shot, or frames from it; `easing` shapes the span that begins here. */
const keySchema = z.object({
  beat: beatSchema,
  offset: offsetSchema,
  value: finite,
  easing: z.union([z.enum(EASING_NAMES), bezierSchema]),
});
const keysSchema = z.array(keySchema).check(z.minLength(1), z.maxLength(20000));

const pointSchema = z.object({
  x: finite.check(z.gte(-50), z.lte(150)),
  y: finite.check(z.gte(-50), z.lte(150)),
  /** How wide the soft edge may be here, per cent of the frame's height: there is room on both sides. */
  soft: z.optional(finite.check(z.gte(0), z.lte(100))),
});
/** Where a measured seam runs from a second of the shot on: from top to bottom, or from left to right, in per cent of the reference take's picture. */
export const seamKeyframeSchema = z.object({
  from: finite.check(z.nonnegative()),
  across: z.optional(z.boolean()),
  points: z.array(pointSchema).check(z.minLength(2), z.maxLength(400)),
});

/** Whether the shot's move made it, and makes it anew, or it was added by hand. */
const madeBy = z.enum(['move', 'user']);

const mask = {
  id,
  madeBy,
  on: z.boolean(),
  invert: z.boolean(),
  combine: z.enum(COMBINES),
  /** True where the mask lies on the layer's picture and moves with it; else it stands in the frame. */
  attachedToLayer: z.boolean(),
  numbers: z.record(z.string().check(z.maxLength(12)), keysSchema),
};
const drawn = <Kind extends string>(kind: Kind) => z.object({ kind: z.literal(kind), ...mask });
const maskSchema = z
  .discriminatedUnion('kind', [
    drawn('line'),
    drawn('ellipse'),
    drawn('rectangle'),
    drawn('polygon'),
    drawn('outline'),
    z.object({ kind: z.literal('seam'), ...mask, keyframes: z.array(seamKeyframeSchema).check(z.minLength(1), z.maxLength(500)) }),
    z.object({ kind: z.literal('matte'), ...mask, matteId: id }),
    /** Where somebody is in a take, frame by frame; at the second shown by the layer named, by the mask's own layer with none. */
    z.object({ kind: z.literal('silhouette'), ...mask, silhouetteId: id, layerId: z.nullable(id) }),
    /** Somebody cut out on every frame of a take, kept as a grey film that begins at a second of it; whose second it follows as above. */
    z.object({ kind: z.literal('travelling'), ...mask, matteId: id, begins: finite, layerId: z.nullable(id) }),
  ])
  .check(
    z.refine((m) => Object.keys(m.numbers).every((name) => maskNumber(m.kind, name) !== null), 'a mask has numbers of its own kind only'),
  );

/** An effect of the layer's chain, with its keyed numbers. */
export const effectSchema = z
  .object({
    id,
    madeBy,
    on: z.boolean(),
    kind: z.enum(EFFECT_NAMES),
    numbers: z.record(z.string().check(z.maxLength(20)), keysSchema),
    /** The file that says what becomes of each colour, where the effect goes by one. */
    tableId: z.optional(id),
  })
  .check(
    z.refine(
      (e) => Object.keys(e.numbers).every((name) => name in effectKind(e.kind).numbers),
      'an effect has numbers of its own kind only',
    ),
  );

/** A second of the take pinned to a place of the shot; null where the remap keys around it decide. */
const timeRemapKeySchema = z.object({
  beat: beatSchema,
  offset: offsetSchema,
  source: z.nullable(finite),
  /** As filmed 1; below 0 backwards. */
  speed: finite.check(z.gte(-64), z.lte(64)),
  way: z.enum(WAYS),
});

/** What is shown between two frames of the take: the one before again, both blended, or both moved towards each other along what moves. */
export const FRAME_INTERPOLATIONS = ['repeat', 'blend', 'flow'] as const;
/** What is heard of the take: nothing, its sound as recorded from the layer's start on, or run as the picture runs, with its pitch or not. */
export const SOUNDS = ['none', 'kept', 'stretched', 'pitch kept'] as const;

/** One layer of a shot; the first is the lowest. */
export const layerSchema = z.object({
  id,
  madeBy,
  name: z.string().check(z.maxLength(100)),
  on: z.boolean(),
  tape: z.int().check(z.gte(0), z.lte(11)),
  source: sourceSchema,
  /** When it is there; null from the shot's start, to its end. */
  from: z.nullable(anchorSchema),
  to: z.nullable(anchorSchema),
  timeRemap: z.array(timeRemapKeySchema).check(z.minLength(1), z.maxLength(500)),
  /** The span of its source's seconds that is run through again and again; without it the source runs on until it ends. */
  repeat: z.optional(
    z
      .object({ from: finite.check(z.nonnegative()), to: finite, how: z.enum(REPEATS) })
      .check(z.refine((r) => r.to > r.from, 'a repeated span must end after it begins')),
  ),
  /** What smooth runs between remap keys may not exceed: speed as a share of as filmed, and change of speed a second (null for no limit). */
  limits: z.nullable(z.object({ fastest: finite.check(z.positive()), acceleration: z.nullable(finite.check(z.positive())) })),
  frameInterpolation: z.enum(FRAME_INTERPOLATIONS),
  sound: z.enum(SOUNDS),
  numbers: z.partialRecord(z.enum(LAYER_NUMBER_NAMES), keysSchema),
  /** Settings of its source that are keyed, by their names; they take the place of what the source holds. */
  sourceNumbers: z.optional(z.record(z.string().check(z.maxLength(20)), keysSchema)),
  /** What is done to its picture, one after another. */
  effects: z.array(effectSchema).check(z.maxLength(50)),
  masks: z.array(maskSchema).check(z.maxLength(50)),
  blend: z.enum(BLEND_MODES),
  /** What is beyond the picture's edge: nothing, or the picture mirrored. */
  edge: z.enum(['clear', 'mirror']),
  /** Shutter angle of the motion blur, degrees; 0 for none. */
  shutter: finite.check(z.gte(0), z.lte(720)),
});

export type Effect = z.infer<typeof effectSchema>;
export type Place = z.infer<typeof anchorSchema>;
export type Key = z.infer<typeof keySchema>;
export type Mask = z.infer<typeof maskSchema>;
export type TimeRemapKey = z.infer<typeof timeRemapKeySchema>;
export type Layer = z.infer<typeof layerSchema>;
export type SeamKeyframe = z.infer<typeof seamKeyframeSchema>;
