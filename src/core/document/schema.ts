import * as z from 'zod/mini';
import { anchorSchema, beatSchema, FURTHEST_BEAT, finite, id, layerSchema } from '../layer';
import { EASING_NAMES } from '../motion';
import { moveSchema } from '../moves';
import { plannedShotSchema, UNITS } from '../plan';
import { cutAlongSchema, trackedPointSchema } from './take-marks';
import { transitionSchema } from './transition';

/** The version of the project document written today. Older ones are migrated, newer ones refused. */
export const PROJECT_VERSION = 14;

const rateSchema = z
  .object({ num: z.int().check(z.positive(), z.lte(1e6)), den: z.int().check(z.positive(), z.lte(1e5)) })
  .check(z.refine(({ num, den }) => num / den >= 1 && num / den <= 240, 'a film runs at 1 to 240 frames a second'));
const side = z.int().check(z.nonnegative(), z.lte(16_384));
/** Seconds a file may last, at most: a day. */
const LONGEST = 86_400;
/** What the user's files are, without their bytes. Times in seconds, sizes in pixels as shown (after rotation). */
export const mediaSchema = z.object({
  id,
  kind: z.enum(['video', 'audio', 'matte', 'still', 'picture', 'font', 'colour table', 'silhouette', 'travelling matte']),
  name: z.string().check(z.maxLength(300)),
  type: z.string().check(z.maxLength(200)),
  bytes: z.int().check(z.nonnegative()),
  duration: z.number().check(z.nonnegative(), z.lte(LONGEST)),
  width: side,
  height: side,
  rotation: z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]),
  codec: z.string().check(z.maxLength(200)),
  fps: z.number().check(z.nonnegative(), z.lte(1000)),
  variableRate: z.boolean(),
  hasSound: z.boolean(),
  colour: z.object({ matrix: z.enum(['bt709', 'bt601']), fullRange: z.boolean() }),
  /** High dynamic range as it was filmed; its pictures are drawn in to BT.709 as they are read. */
  dynamic: z.optional(z.enum(['pq', 'hlg'])),
  /** Clear in places. */
  clear: z.optional(z.literal(true)),
  /** What a kept picture was worked out from; another is made when that changes. */
  madeFrom: z.optional(z.string().check(z.maxLength(80))),
});
/** What has no size as a picture has. */
const SIZELESS: ReadonlySet<string> = new Set<z.infer<typeof mediaSchema>['kind']>(['audio', 'font', 'colour table']);
/** A file in a project. */
const projectMediaSchema = mediaSchema.check(
  z.refine((m) => SIZELESS.has(m.kind) || (m.width >= 2 && m.height >= 2), 'a picture has a width and a height'),
);

const beatMapSchema = z.object({
  beats: z.array(z.number().check(z.gte(-LONGEST), z.lte(2 * LONGEST))).check(
    z.minLength(2),
    z.maxLength(FURTHEST_BEAT),
    z.refine((b) => b.every((t, i) => i === 0 || t > b[i - 1]), 'beats must ascend'),
  ),
  bar1: z.int().check(z.gte(-FURTHEST_BEAT), z.lte(FURTHEST_BEAT)),
  beatsPerBar: z.int().check(z.gte(2), z.lte(12)),
  /** Where the beats in a bar change: indices of beats, ascending. */
  changes: z.optional(
    z
      .array(z.object({ at: z.int().check(z.gte(-FURTHEST_BEAT), z.lte(FURTHEST_BEAT)), beatsPerBar: z.int().check(z.gte(1), z.lte(12)) }))
      .check(z.refine((all) => all.every((c, i) => i === 0 || c.at > all[i - 1].at), 'changes must ascend')),
  ),
  /** Indices of beats set by hand, ascending. */
  locked: z.optional(z.array(z.int().check(z.nonnegative()))),
});

const decibels = finite.check(z.gte(-60), z.lte(12));
/** A part of the song, from a beat to the next part. */
const partSchema = z.object({ beat: beatSchema, name: z.string().check(z.maxLength(60)), tape: z.int().check(z.gte(0), z.lte(11)) });

const songSchema = z.object({
  mediaId: id,
  map: z.nullable(beatMapSchema),
  parts: z.array(partSchema).check(z.maxLength(500)),
});

/** A gain on a thread at a beat; between two, decibels go evenly. */
const gainKeySchema = z.object({ beat: beatSchema, gain: decibels });
/** A sound on a thread: a stretch of a file, from `from` to `to` seconds of it, that begins at an anchor. */
const clipSchema = z.object({
  id,
  thread: z.enum(['takes', 'effects']),
  mediaId: id,
  from: finite.check(z.nonnegative()),
  to: finite.check(z.positive()),
  start: anchorSchema,
  /** Seconds from the anchor on, up to a frame: where a take's sound was heard in the song. */
  nudge: finite.check(z.gte(-1), z.lte(1)),
  gain: decibels,
  fadeIn: finite.check(z.nonnegative(), z.lte(60)),
  fadeOut: finite.check(z.nonnegative(), z.lte(60)),
  /** How fast it runs, as recorded 1, and whether from its end to its beginning. */
  speed: z.optional(finite.check(z.gte(0.25), z.lte(4))),
  reverse: z.optional(z.literal(true)),
  /** Semitones it is higher than recorded, however fast it runs; without, its pitch goes with its speed. */
  pitch: z.optional(finite.check(z.gte(-24), z.lte(24))),
  /** From -100 on the left to 100 on the right. */
  pan: z.optional(finite.check(z.gte(-100), z.lte(100))),
  /** Decibels by which the song is lower while it is heard. */
  duck: z.optional(finite.check(z.gte(0), z.lte(40))),
});
const threadSchema = z.object({ on: z.boolean(), gains: z.array(gainKeySchema).check(z.maxLength(2000)) });
/** What is heard: the song, sound of takes and effects, each on a thread of its own. */
const soundSchema = z.object({
  song: z.extend(threadSchema, { fadeIn: finite.check(z.nonnegative(), z.lte(60)), fadeOut: finite.check(z.nonnegative(), z.lte(60)) }),
  takes: threadSchema,
  effects: threadSchema,
  clips: z.array(clipSchema).check(z.maxLength(1000)),
  /** Loudness the delivered film is brought to, LUFS; as it is mixed without. */
  target: z.optional(finite.check(z.gte(-40), z.lte(-5))),
});

const curveSchema = z.array(finite.check(z.minimum(-1), z.maximum(1))).check(z.length(17));

/** How a take is put right before it is used: the measured move and light against the reference take, over source time. */
export const correctionSchema = z.object({
  enabled: z.boolean(),
  /** The take measured against; its picture is the one matched. */
  referenceTakeId: id,
  /**
   * How the reference lies in the take before `moves` are followed, as eight numbers of a homography between the middles of the pictures in
   * source pixels; only where the camera was moved so that a shift, a turn and a scale leave something.
   */
  perspective: z.optional(z.array(finite).check(z.length(8))),
  /** Measured move in source pixels at source times (seconds), ascending; between them linear. */
  moves: z.array(z.object({ time: finite, dx: finite, dy: finite, turn: finite, scale: finite.check(z.positive()) })).check(z.minLength(1)),
  /** Measured linear gains of this take over the reference at source times (seconds), ascending; between them linear. */
  gains: z
    .array(z.object({ time: finite, r: finite.check(z.positive()), g: finite.check(z.positive()), b: finite.check(z.positive()) }))
    .check(z.minLength(1)),
  /** When the reference passes the places that this take passes, where both cameras move alike: at `offset + rate × time` seconds of its file. */
  moments: z.optional(z.object({ offset: finite, rate: finite.check(z.gte(0.5), z.lte(2)) })),
  /** What is left after the gains, where the cameras' tone curves are no plain gain apart: what is added to R', G' and B' at every sixteenth. */
  curves: z.optional(z.object({ r: curveSchema, g: curveSchema, b: curveSchema })),
});

const settingsSchema = z.object({
  shutter: z.string().check(z.maxLength(20)),
  aperture: z.string().check(z.maxLength(20)),
  iso: z.string().check(z.maxLength(20)),
  whiteBalance: z.string().check(z.maxLength(20)),
  lens: z.string().check(z.maxLength(40)),
});

/** Figures seen live while recording, against the set-up's reference. */
const liveSchema = z.object({
  /** Largest shift of a corner at the end, pixels. */
  corner: finite.check(z.nonnegative()),
  exposure: z.nullable(finite),
  bumps: z.array(z.object({ time: finite, size: finite.check(z.nonnegative()) })),
});

/** Pairs of x and y in a reference and x and y in a take, source pixels from the middles. */
export const pointPairs = z.array(z.tuple([finite, finite, finite, finite])).check(z.minLength(2), z.maxLength(4));

/** The same spots of the set in two takes, set by hand: where the camera was moved so far that they cannot be found. */
const handPointsSchema = z.object({
  referenceTakeId: id,
  pairs: pointPairs,
});

const takeSchema = z.object({
  id,
  mediaId: id,
  /** The part of the file that is this take, seconds; null for all of it. */
  part: z.nullable(
    z.object({ from: finite.check(z.nonnegative()), to: finite }).check(z.refine((p) => p.to > p.from, 'a part must end after it begins')),
  ),
  /** The planned shot and its slot that the take fills; a take without a plan has neither. */
  plan: z.nullable(id),
  slot: z.nullable(z.string().check(z.maxLength(200))),
  number: z.int().check(z.positive()),
  tape: z.int().check(z.gte(0), z.lte(11)),
  rating: z.int().check(z.gte(0), z.lte(3)),
  note: z.string().check(z.maxLength(2000)),
  settings: settingsSchema,
  /** When it was filmed, milliseconds since 1970; null when not known. */
  filmedAt: z.nullable(z.number().check(z.gte(-1e14), z.lte(1e14))),
  /** What was called out while it was being recorded here; null for files from elsewhere. */
  live: z.nullable(liveSchema),
  correction: z.nullable(correctionSchema),
  byHand: z.optional(handPointsSchema),
  /** A graphic or anything else that was not filmed on the set: it is part of no set-up and is measured against nothing. */
  overlay: z.optional(z.literal(true)),
  /** A microphone's file that is heard in the place of its own sound: what is at `t` seconds of the take's file is at `offset + t · rate` there. */
  mic: z.optional(z.object({ mediaId: id, offset: finite, rate: finite.check(z.gte(0.99), z.lte(1.01)) })),
  cutAlong: z.optional(cutAlongSchema),
  /** Places that are followed through it. */
  points: z.optional(z.array(trackedPointSchema).check(z.maxLength(100))),
});

/** Largest enlargement of a shot that hides its takes' edges, per cent: beyond it too little of the picture is left. */
export const MOST_OVERSCAN = 150;
/** Beats a shot may last, at most. */
const LONGEST_SHOT = 8000;

const partKeySchema = z.object({
  ...anchorSchema.shape,
  x: finite.check(z.gte(0), z.lte(100)),
  y: finite.check(z.gte(0), z.lte(100)),
  easing: z.enum(EASING_NAMES),
});

const shotSchema = z
  .object({
    id,
    name: z.string().check(z.maxLength(100)),
    start: anchorSchema,
    end: anchorSchema,
    /** Enlargement in per cent that hides the edges of corrected takes. */
    overscan: finite.check(z.gte(100), z.lte(MOST_OVERSCAN)),
    /** Bottom layer first. Their places count from the beat the shot begins on. */
    layers: z.array(layerSchema).check(z.maxLength(200)),
    /**
     * Which part of it a version in another shape shows: from the left (0) to the right (100) of what does not fit, and from the top down;
     * the middle without. With more than one key it pans from each to the next, places counted from the beat the shot begins on.
     */
    part: z.optional(z.array(partKeySchema).check(z.minLength(1), z.maxLength(2000))),
    /** How it takes the place of what lies before it; a cut without. */
    transition: z.optional(transitionSchema),
    /** The move that made the layers, or null where they were laid by hand. */
    move: z.nullable(moveSchema),
    /** What was set by hand and stays when the move is run again: `layer.number`, `layer.mask.number` or `layer.remap keys`. */
    overrides: z.array(z.string().check(z.maxLength(260))).check(z.maxLength(5000)),
  })
  .check(z.refine((s) => s.end.beat - s.start.beat <= LONGEST_SHOT, 'a shot lasts 8000 beats at most'));

const even = z.int().check(z.positive(), z.multipleOf(2), z.lte(7680));
/** What a project's fields hold that is not a list. */
export const fieldSchemas = {
  version: z.literal(PROJECT_VERSION),
  id,
  name: z.string().check(z.minLength(1), z.maxLength(100)),
  frame: z.object({
    width: even,
    height: even,
    rate: rateSchema,
    /** The frame of the film, where this is a version of it in another shape: each shot shows a part of that. Versions are made to be delivered and not kept. */
    cutFrom: z.optional(z.object({ width: even, height: even })),
  }),
  song: z.nullable(songSchema),
  sound: soundSchema,
  /** The one of `nestedShots` that lies over the whole film, whatever is seen beneath. */
  overAll: z.optional(id),
  /** How lengths are shown. */
  units: z.enum(UNITS),
};
/** What one item of each list holds, and how many there may be. */
export const listSchemas = {
  media: { item: projectMediaSchema, most: 20_000 },
  takes: { item: takeSchema, most: 10_000 },
  shots: { item: shotSchema, most: 5000 },
  /** Shots that are only seen within other shots. */
  nestedShots: { item: shotSchema, most: 5000 },
  /** Shots whose place is no longer in the song. */
  unplacedShots: { item: shotSchema, most: 5000 },
  /** Shots as planned, before they are filmed. */
  plans: { item: plannedShotSchema, most: 200 },
};
const list = <S extends z.ZodMiniType>({ item, most }: { item: S; most: number }) => z.array(item).check(z.maxLength(most));

export const projectSchema = z.object({
  ...fieldSchemas,
  media: list(listSchemas.media),
  takes: list(listSchemas.takes),
  shots: list(listSchemas.shots),
  nestedShots: list(listSchemas.nestedShots),
  unplacedShots: list(listSchemas.unplacedShots),
  plans: list(listSchemas.plans),
});

export type Media = z.infer<typeof mediaSchema>;
export type Take = z.infer<typeof takeSchema>;
export type TakeSettings = z.infer<typeof settingsSchema>;
export type TakeLive = z.infer<typeof liveSchema>;
export type Correction = z.infer<typeof correctionSchema>;
export type Shot = z.infer<typeof shotSchema>;
type Sound = z.infer<typeof soundSchema>;
export type SoundClip = z.infer<typeof clipSchema>;
export type Part = z.infer<typeof partSchema>;
export type Project = z.infer<typeof projectSchema>;

/** Threads with nothing on them but the song as it is. */
function silentThreads(): Sound {
  return {
    song: { on: true, gains: [], fadeIn: 0, fadeOut: 0 },
    takes: { on: true, gains: [] },
    effects: { on: true, gains: [] },
    clips: [],
  };
}

/** A project with nothing in it yet. */
export function emptyProject(id: string, name: string): Project {
  return {
    version: PROJECT_VERSION,
    id,
    name,
    frame: { width: 1280, height: 720, rate: { num: 25, den: 1 } },
    media: [],
    song: null,
    sound: silentThreads(),
    takes: [],
    shots: [],
    nestedShots: [],
    unplacedShots: [],
    plans: [],
    units: 'metres',
  };
}
