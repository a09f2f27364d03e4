import * as z from 'zod/mini';
import { anchorSchema, BETWEENS, finite, id, SOUNDS } from './layer-schema';

/** A take in a move: the second of it that meets the move's own instant. */
const useSchema = z.object({ takeId: id, sync: finite });
const per = finite.check(z.gte(0), z.lte(100));

/** Where somebody is in a take: seconds of its file, per cent of its picture. */
const courseSchema = z.array(z.object({ source: finite, x: finite, y: finite })).check(z.minLength(1), z.maxLength(20000));

const REVEALS = ['line', 'ring', 'rectangle', 'figure', 'drawn'] as const;
const revealSchema = z.object({
  kind: z.literal('reveal'),
  /** What uncovers the second take: a line that passes, a ring or rectangle that grows, somebody's outline that spreads, or what is drawn. */
  by: z.enum(REVEALS),
  /** Whose outline spreads. */
  outOf: z.enum(['before', 'after']),
  /** Whose figure the edge gives way to, and how far from the edge, per cent of the frame. */
  duck: z.enum(['nobody', 'before', 'after']),
  reach: per,
  /** Files that keep where somebody is in a take, frame by frame. */
  figures: z.array(z.object({ takeId: id, figureId: id })).check(z.maxLength(8)),
  /** 0 level, moving down; 90 upright, moving right. */
  angle: finite.check(z.gte(-180), z.lte(180)),
  start: anchorSchema,
  end: anchorSchema,
  /** Full width of the soft edge in per cent of the frame's height. */
  feather: per,
  /** Speed of both takes between start and end; 1 as filmed. */
  fallSpeed: finite.check(z.gte(0.1), z.lte(8)),
  before: useSchema,
  after: useSchema,
  /** What was seen falling: shares of the way across, evenly over its own length in seconds; null for a straight run. */
  path: z.nullable(z.object({ share: z.array(finite).check(z.minLength(2), z.maxLength(400)), seconds: finite.check(z.positive()) })),
});

export const SIDES = ['left', 'right', 'top', 'bottom'] as const;
const freezeSchema = z.object({
  kind: z.literal('freeze'),
  use: useSchema,
  /** Where the picture freezes, and for how long. */
  at: anchorSchema,
  until: anchorSchema,
  /** Cut-out parts that arrive, one every `every` beats from the freeze on, each from a side. */
  parts: z
    .array(
      z.object({
        matteId: id,
        /** The band of the frame that is this part, per cent from its top; null for all of the cut-out. */
        band: z.nullable(z.object({ from: finite, to: finite })),
        side: z.enum(SIDES),
        scale: finite.check(z.gte(1), z.lte(400)),
        turn: finite,
      }),
    )
    .check(z.maxLength(24)),
  every: finite.check(z.gte(0.25), z.lte(16)),
  /** Frames from setting off to landing. */
  flight: z.int().check(z.gte(2), z.lte(120)),
  /** Frames of shake as the last part lands, 0 for none; and how far, per cent of the height. */
  shake: z.int().check(z.gte(0), z.lte(60)),
  shakeSize: finite.check(z.gte(0), z.lte(20)),
  /** What is under the parts: the frozen picture, the take running on, or the empty set of a clean plate. */
  under: z.enum(['frozen', 'running', 'plate']),
  /** The clean plate, a picture kept with the project; null where there is none. */
  plate: z.nullable(id),
  /** Frames between repeated freezes that trail behind the figure, 0 for none; how many, and the opacity of the newest, per cent. */
  trail: z.object({ every: z.int().check(z.gte(0), z.lte(250)), count: z.int().check(z.gte(0), z.lte(40)), opacity: per }),
});

export const WHIP_WAYS = ['left', 'right', 'up', 'down', 'turn', 'zoom'] as const;
const whipSchema = z.object({
  kind: z.literal('whip'),
  out: useSchema,
  into: useSchema,
  cut: anchorSchema,
  /** Frames in all, the cut in their middle. */
  frames: z.int().check(z.gte(4), z.lte(120)),
  way: z.enum(WHIP_WAYS),
  /** Frame widths (heights, turns of 90°, doublings of size) travelled on each side of the cut. */
  travel: finite.check(z.gte(0.1), z.lte(8)),
  shutter: finite.check(z.gte(0), z.lte(720)),
});

const rampSchema = z.object({
  kind: z.literal('ramp'),
  takeId: id,
  /** Poses of the take and the beats they must hit; speed at the pose as a share of as filmed. */
  poses: z
    .array(z.extend(anchorSchema, { source: finite, speed: finite.check(z.gte(0), z.lte(16)) }))
    .check(z.minLength(2), z.maxLength(200)),
  hard: z.boolean(),
  fastest: finite.check(z.gte(0.1), z.lte(64)),
  acceleration: z.nullable(finite.check(z.positive())),
  between: z.enum(BETWEENS),
  sound: z.enum(SOUNDS),
  /** Whoever is held in the middle of the frame; null where the picture stays put. */
  track: z.nullable(courseSchema),
  /** Enlargement that leaves room to hold them, per cent. */
  hold: finite.check(z.gte(100), z.lte(400)),
  /** Enlargement on the poses by turns, per cent over 100; 0 for none. */
  zoom: finite.check(z.gte(0), z.lte(200)),
});

/** A panel's take, how its picture is enlarged and pushed within it (per cent of the frame), and whoever it follows. */
const panelSchema = z.extend(useSchema, {
  zoom: finite.check(z.gte(100), z.lte(600)),
  x: finite.check(z.gte(-200), z.lte(200)),
  y: finite.check(z.gte(-200), z.lte(200)),
  track: z.nullable(courseSchema),
});

const splitSchema = z.object({
  kind: z.literal('split'),
  panels: z.array(panelSchema).check(z.minLength(2), z.maxLength(9)),
  columns: z.int().check(z.gte(1), z.lte(9)),
  /** Lean of upright gutters, degrees. */
  slant: finite.check(z.gte(-45), z.lte(45)),
  /** Width of the gutters and softness of the edges, per cent of the height. */
  gutter: finite.check(z.gte(0), z.lte(20)),
  feather: finite.check(z.gte(0), z.lte(30)),
  open: anchorSchema,
  close: anchorSchema,
  /** Beats on which every panel lands one place on. */
  swaps: z.array(anchorSchema).check(z.maxLength(64)),
  /** Frames a panel takes to open, swap or close; beats from one panel to the next. */
  frames: z.int().check(z.gte(0), z.lte(120)),
  stagger: finite.check(z.gte(0), z.lte(8)),
  /** Seconds by which each panel lags behind the one before. */
  delay: finite.check(z.gte(0), z.lte(10)),
});

/** The inputs of a move, in the trade's words. All places count from the beat the shot begins on. */
export const moveSchema = z.discriminatedUnion('kind', [revealSchema, freezeSchema, whipSchema, rampSchema, splitSchema]);

export type Move = z.infer<typeof moveSchema>;
export type MoveOf<Kind extends Move['kind']> = Extract<Move, { kind: Kind }>;
