import * as z from 'zod/mini';
import { plannedShotSchema, UNITS } from '../plan';
import { anchorSchema, finite, id, layerSchema } from './layer-schema';
import { migrated } from './migrate';
import { moveSchema } from './move-schema';

/** The version of the project document written today. Older ones are migrated, newer ones refused. */
export const PROJECT_VERSION = 8;

const rateSchema = z.object({ num: z.int().check(z.positive()), den: z.int().check(z.positive()) });
/** What the user's files are, without their bytes. Times in seconds, sizes in pixels as shown (after rotation). */
const mediaSchema = z.object({
  id,
  kind: z.enum(['video', 'audio', 'matte', 'still', 'figure']),
  name: z.string().check(z.maxLength(300)),
  type: z.string(),
  bytes: z.int().check(z.nonnegative()),
  duration: finite.check(z.nonnegative()),
  width: z.int().check(z.nonnegative()),
  height: z.int().check(z.nonnegative()),
  rotation: z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]),
  codec: z.string(),
  fps: finite.check(z.nonnegative()),
  variableRate: z.boolean(),
  hasSound: z.boolean(),
  colour: z.object({ matrix: z.enum(['bt709', 'bt601']), fullRange: z.boolean() }),
});

const beatMapSchema = z.object({
  beats: z.array(finite).check(
    z.minLength(2),
    z.refine((b) => b.every((t, i) => i === 0 || t > b[i - 1]), 'beats must ascend'),
  ),
  bar1: z.int(),
  beatsPerBar: z.int().check(z.gte(2), z.lte(12)),
  /** Indices of beats set by hand, ascending. */
  locked: z.optional(z.array(z.int().check(z.nonnegative()))),
});

const decibels = finite.check(z.gte(-60), z.lte(12));
/** A part of the song, from a beat to the next part. */
const partSchema = z.object({ beat: finite, name: z.string().check(z.maxLength(60)), tape: z.int().check(z.gte(0), z.lte(11)) });

const songSchema = z.object({
  mediaId: id,
  map: z.nullable(beatMapSchema),
  parts: z.array(partSchema).check(z.maxLength(500)),
});

/** A gain on a thread at a beat; between two, decibels go evenly. */
const gainKeySchema = z.object({ beat: finite, gain: decibels });
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
});
const threadSchema = z.object({ on: z.boolean(), gains: z.array(gainKeySchema).check(z.maxLength(2000)) });
/** What is heard: the song, sound of takes and effects, each on a thread of its own. */
const soundSchema = z.object({
  song: z.extend(threadSchema, { fadeIn: finite.check(z.nonnegative(), z.lte(60)), fadeOut: finite.check(z.nonnegative(), z.lte(60)) }),
  takes: threadSchema,
  effects: threadSchema,
  clips: z.array(clipSchema).check(z.maxLength(1000)),
});

/** How a take is put right before it is used: the measured move and light against the reference take, over source time. */
const correctionSchema = z.object({
  enabled: z.boolean(),
  /** The take measured against; its picture is the one matched. */
  referenceTakeId: id,
  /** Measured move in source pixels at source times (seconds), ascending; between them linear. */
  moves: z.array(z.object({ time: finite, dx: finite, dy: finite, turn: finite, scale: finite.check(z.positive()) })).check(z.minLength(1)),
  /** Measured linear gains of this take over the reference at source times (seconds), ascending; between them linear. */
  gains: z
    .array(z.object({ time: finite, r: finite.check(z.positive()), g: finite.check(z.positive()), b: finite.check(z.positive()) }))
    .check(z.minLength(1)),
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

const takeSchema = z.object({
  id,
  mediaId: id,
  /** The part of the file that is this take, seconds; null for all of it. */
  part: z.nullable(
    z.object({ from: finite.check(z.nonnegative()), to: finite }).check(z.refine((p) => p.to > p.from, 'a part must end after it begins')),
  ),
  /** The planned shot and its slot that the take fills; a take without a plan has neither. */
  plan: z.nullable(id),
  slot: z.nullable(z.string()),
  number: z.int().check(z.positive()),
  tape: z.int().check(z.gte(0), z.lte(11)),
  rating: z.int().check(z.gte(0), z.lte(3)),
  note: z.string().check(z.maxLength(2000)),
  settings: settingsSchema,
  /** When it was filmed, milliseconds since 1970; null when not known. */
  filmedAt: z.nullable(finite),
  /** What was called out while it was being recorded here; null for files from elsewhere. */
  live: z.nullable(liveSchema),
  correction: z.nullable(correctionSchema),
});

const shotSchema = z.object({
  id,
  name: z.string().check(z.maxLength(100)),
  start: anchorSchema,
  end: anchorSchema,
  /** Enlargement in per cent that hides the edges of corrected takes. */
  overscan: finite.check(z.gte(100), z.lte(150)),
  /** Bottom layer first. Their places count from the beat the shot begins on. */
  layers: z.array(layerSchema).check(z.maxLength(200)),
  /** The move that made the layers, or null where they were laid by hand. */
  move: z.nullable(moveSchema),
  /** What was taken over by hand and stays when the move is run again: `layer.number`, `layer.mask.number` or `layer.pins`. */
  hand: z.array(z.string().check(z.maxLength(260))).check(z.maxLength(5000)),
});

const projectSchema = z.object({
  version: z.literal(PROJECT_VERSION),
  id,
  name: z.string().check(z.minLength(1), z.maxLength(100)),
  frame: z.object({
    width: z.int().check(z.positive(), z.multipleOf(2), z.lte(7680)),
    height: z.int().check(z.positive(), z.multipleOf(2), z.lte(7680)),
    rate: rateSchema,
  }),
  media: z.array(mediaSchema),
  song: z.nullable(songSchema),
  sound: soundSchema,
  takes: z.array(takeSchema),
  shots: z.array(shotSchema),
  /** Shots that are only seen within other shots. */
  inner: z.array(shotSchema),
  /** Shots whose place is no longer in the song. */
  aside: z.array(shotSchema),
  /** Shots as planned, before they are filmed. */
  plans: z.array(plannedShotSchema).check(z.maxLength(200)),
  /** How lengths are shown. */
  units: z.enum(UNITS),
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
    inner: [],
    aside: [],
    plans: [],
    units: 'metres',
  };
}

/** What reading a project document gave: the project, or a sentence for the user. */
export type ProjectReading = { ok: true; project: Project } | { ok: false; reason: string };

/** Validates a project document from a file, the data base or a worker. Never throws. */
export function readProject(value: unknown): ProjectReading {
  const version = (value as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > PROJECT_VERSION) {
    return {
      ok: false,
      reason: `This project was saved by a newer version of Fickle Ribbon (format ${version}; this one reads ${PROJECT_VERSION}). It was left untouched. Reload the page to get the newer version.`,
    };
  }
  const parsed = projectSchema.safeParse(migrated(value));
  if (parsed.success) {
    const circle = nestedCircle(parsed.data);
    if (circle)
      return {
        ok: false,
        reason: `This is not a project this version can read: the shot “${circle}” lies within itself. Nothing was changed.`,
      };
    return { ok: true, project: parsed.data };
  }
  const [issue] = parsed.error.issues;
  return {
    ok: false,
    reason: `This is not a project this version can read: ${issue.path.join('.') || 'document'}: ${issue.message}. Nothing was changed.`,
  };
}

/** The name of a shot that lies within itself, however deep; null where none does. */
function nestedCircle(project: Pick<Project, 'shots' | 'inner'>): string | null {
  const all = new Map([...project.shots, ...project.inner].map((s) => [s.id, s]));
  const clear = new Set<string>();
  const within = (shot: Shot, above: readonly string[]): string | null => {
    if (above.includes(shot.id)) return shot.name;
    if (clear.has(shot.id)) return null;
    for (const { source } of shot.layers) {
      const next = source.kind === 'shot' ? all.get(source.shotId) : undefined;
      const found = next ? within(next, [...above, shot.id]) : null;
      if (found) return found;
    }
    clear.add(shot.id);
    return null;
  };
  for (const shot of all.values()) {
    const found = within(shot, []);
    if (found) return found;
  }
  return null;
}
