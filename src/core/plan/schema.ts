import * as z from 'zod/mini';

// Pages may not make code out of text, and a page that tried would say so in its console.
z.config({ jitless: true });

const id = z.string().check(z.minLength(1), z.maxLength(80));
const name = z.string().check(z.maxLength(100));
const between = (low: number, high: number) => z.number().check(z.gte(low), z.lte(high));
const whole = (low: number, high: number) => z.int().check(z.gte(low), z.lte(high));

/** Metres either side of the camera's axis, and along it away from the lens. The camera stands at 0, 0. */
const across = between(-60, 60);
const along = between(-30, 120);

const actionSchema = z.object({
  id,
  what: name,
  /** Beats from the shot's start. */
  from: between(0, 4000),
  to: between(0, 4000),
  /** How far the action reaches to the left and right of the place, metres. */
  left: between(0, 20),
  right: between(0, 20),
});

const placeSchema = z.object({
  id,
  name,
  tape: whole(0, 11),
  x: across,
  z: between(0.2, 120),
  height: between(0.3, 3),
  /** Arm reach sideways from the middle of the body, metres. */
  reach: between(0.1, 3),
  actions: z.array(actionSchema).check(z.maxLength(40)),
});

const propSchema = z.object({
  id,
  name,
  /** A structure is upright and may hide a seam; nothing else differs in the drawing. */
  kind: z.enum(['prop', 'structure', 'wall']),
  x: across,
  z: along,
  width: between(0.02, 60),
  depth: between(0.02, 60),
  height: between(0.02, 20),
  /** Height of its underside above the floor, metres. */
  base: between(0, 20),
});

const lampSchema = z.object({
  id,
  name,
  x: across,
  z: along,
  height: between(0.05, 20),
  /** Diameter of the light-giving face, metres. */
  size: between(0.005, 6),
});

const cameraSchema = z.object({
  sensor: z.object({ name, width: between(1, 80), height: between(1, 80) }),
  orientation: z.enum(['lying', 'upright']),
  /** Real focal length in millimetres. */
  focal: between(1, 1200),
  height: between(0.02, 20),
  /** Degrees; up is positive. */
  tilt: between(-60, 60),
  /** Longer side first, whatever the orientation. */
  captureWidth: whole(16, 16000),
  captureHeight: whole(16, 16000),
  captureFps: between(1, 1000),
  aperture: between(0.7, 64),
  iso: between(12, 409600),
  /** Exposure time in seconds. */
  shutter: between(1e-5, 4),
  /** Metres from the lens. */
  focus: between(0.05, 500),
  mains: z.union([z.literal(50), z.literal(60)]),
});

const outdoorsSchema = z.object({
  latitude: between(-90, 90),
  longitude: between(-180, 180),
  /** Minutes the local clock is ahead of UTC. */
  utcOffset: whole(-840, 840),
  /** Compass bearing the camera looks at, degrees from north through east. */
  bearing: between(0, 360),
});

const scheduleSchema = z.object({
  date: z.string().check(z.regex(/^\d{4}-\d{2}-\d{2}$/)),
  time: z.string().check(z.regex(/^([01]\d|2[0-3]):[0-5]\d$/)),
  setUpMinutes: between(0, 600),
  outfitMinutes: between(0, 120),
  rigMinutes: between(0, 120),
  lampMinutes: between(0, 120),
  breakMinutes: between(0, 120),
  /** Minutes of work between breaks. */
  breakEvery: between(20, 600),
  /** Megabits a second the camera records. */
  bitrate: between(0.5, 4000),
  cardGigabytes: between(0.5, 20000),
  batteryMinutes: between(5, 2000),
});

const deliverySchema = z.object({
  /** The slowest speed wanted in the edit, per cent of real time. */
  slowest: between(2, 100),
  /** Largest enlargement by moves, per cent. */
  scale: between(100, 1000),
  overscan: between(100, 200),
  stabilise: between(100, 200),
  /** Another shape of frame cut from the same take: width over height, 0 for none. */
  cropAspect: between(0, 4),
});

const dollySchema = z.object({
  /** Distance from lens to subject at the end, metres; the camera's own set-up is the start. */
  end: between(0.2, 120),
});

export const UNITS = ['metres', 'feet'] as const;

/** A shot as it is planned: its recipe, its set and camera, its order and times. Lengths in metres. */
export const plannedShotSchema = z.object({
  id,
  name: name.check(z.minLength(1)),
  recipe: id,
  /** Answers to the recipe's own questions, by key. */
  inputs: z.record(z.string(), z.union([z.number(), z.string().check(z.maxLength(200))])),
  /** First bar of the song (1 is bar 1) and how many bars the shot lasts. */
  bar: whole(-8, 2000),
  bars: between(0.25, 400),
  room: z.object({ left: between(0.3, 60), right: between(0.3, 60), back: between(0.5, 120), behind: between(0, 60) }),
  camera: cameraSchema,
  places: z.array(placeSchema).check(z.maxLength(24)),
  props: z.array(propSchema).check(z.maxLength(80)),
  lamps: z.array(lampSchema).check(z.maxLength(24)),
  delivery: deliverySchema,
  dolly: dollySchema,
  outdoors: z.nullable(outdoorsSchema),
  schedule: scheduleSchema,
  /** Slot ids in the user's own order; empty while the solver's stands. */
  order: z.array(id),
  /** Slots crossed off on set. */
  ticked: z.array(id),
});

export type PlannedShot = z.infer<typeof plannedShotSchema>;
export type Place = PlannedShot['places'][number];
export type PlaceAction = Place['actions'][number];
export type Prop = PlannedShot['props'][number];
export type Lamp = PlannedShot['lamps'][number];
export type PlanCamera = PlannedShot['camera'];
export type Schedule = PlannedShot['schedule'];
export type LengthUnit = (typeof UNITS)[number];
