import type { Seconds, Unit } from '../units';
import { say } from '../words';
import type { OrderRule } from './order';
import type { Lamp, Place, PlannedShot, Prop } from './schema';

/** A question a recipe asks, with the answer it starts from. */
export type RecipeInput =
  | { key: string; label: string; kind: 'number'; unit: string; value: number; min: number; max: number; step: number }
  | { key: string; label: string; kind: 'text'; value: string };

/** A take the recipe needs. */
export interface Slot {
  id: string;
  name: string;
  /** What to do in front of the camera. */
  what: string;
  /** Why it is needed and what to mind. */
  why: string;
  /** Beyond the song's span: waiting, holding, seconds. */
  hold: Seconds;
  /** Whether it is acted to the song over the shot's bars. */
  toSong: boolean;
  /** Empty set: first or last of all. */
  plate: 'first' | 'last' | null;
  /** The place it is acted at, by id. */
  place: string | null;
  /** Clothes and props that take time to change. */
  outfit: string;
  /** Camera support and where it stands. */
  rig: string;
  light: string;
  /** 1 plain, 2 needs practice, 3 only luck and patience. */
  difficulty: 1 | 2 | 3;
  mess: boolean;
}

/** What the score will build from the slots. */
export interface BuildStep {
  move: string;
  text: string;
}

/** A stretch of frame that shows a slot: shares of the frame's width and height from its upper left corner. */
export interface Region {
  left: Unit;
  top: Unit;
  right: Unit;
  bottom: Unit;
}

/** One layer of the dry run at one instant. */
export interface DryLayer {
  slot: string;
  /** null shows the whole frame. */
  region: Region | null;
  opacity: Unit;
  /** Performers seen in it. */
  figures: DryFigure[];
  /** Enlargement about the frame's middle, shift in shares of the frame, turn in degrees. */
  zoom?: number;
  shiftX?: number;
  shiftY?: number;
  turn?: number;
  blur?: Unit;
}

export interface DryFigure {
  place: string;
  /** 0 standing, 1 arms up; between them on the way. */
  arms: Unit;
  /** Metres right of the place and above the floor. */
  dx?: number;
  lift?: number;
  /** Which of two outfits. */
  outfit?: 0 | 1;
}

/** Something drawn over the dry run: a line, panels' gutters, a flash. */
export interface DryMark {
  kind: 'line' | 'seam' | 'flash' | 'object';
  /** Shares of the frame. */
  x: Unit;
  y: Unit;
  /** Degrees; 0 is level. */
  angle: number;
  strength: Unit;
}

export interface DryFrame {
  layers: DryLayer[];
  marks: DryMark[];
  /** Metres the camera has walked forward, and the enlargement of the picture. */
  dolly: number;
  zoom: number;
}

/** What a recipe may look at while it writes its plan. */
export interface PlanContext {
  shot: PlannedShot;
  /** A number or text the user answered, or the recipe's own start value. */
  number: (key: string) => number;
  text: (key: string) => string;
  /** Seconds a bar and a beat last. */
  barSeconds: Seconds;
  beatSeconds: Seconds;
  /** Seams of the set, as shares of the frame's width, left to right. */
  seams: readonly Unit[];
  /** Places in the frame from left to right. */
  places: readonly Place[];
}

/** A recipe: what to film, in which order, what to mind, what comes of it. Data and a few functions; nothing of the screen. */
export interface Recipe {
  id: string;
  name: string;
  idea: string;
  inputs: readonly RecipeInput[];
  /** Whether its takes are laid side by side, so that seams are needed between the places. */
  sideBySide?: boolean;
  /** Bars a shot of it usually lasts. */
  bars: number;
  /** The set it starts from: places to the right of the axis and away from the lens. */
  places: readonly Omit<Place, 'id' | 'tape'>[];
  props?: readonly Omit<Prop, 'id'>[];
  lamps?: readonly Omit<Lamp, 'id'>[];
  slots: (c: PlanContext) => Slot[];
  rules: (c: PlanContext) => OrderRule[];
  marks: (c: PlanContext) => string[];
  kit: (c: PlanContext) => string[];
  cautions: (c: PlanContext) => string[];
  builds: (c: PlanContext) => BuildStep[];
  checks: (c: PlanContext) => string[];
  /** The picture at share `u` of the shot, 0..1. */
  dryRun: (c: PlanContext, u: Unit) => DryFrame;
}

/** A slot with the usual answers filled in. */
export function slot(id: string, name: string, what: string, why: string, more: Partial<Slot> = {}): Slot {
  return {
    id,
    name,
    what,
    why,
    hold: 4,
    toSong: true,
    plate: null,
    place: null,
    outfit: 'as dressed',
    rig: 'tripod',
    light: 'as set',
    difficulty: 1,
    mess: false,
    ...more,
  };
}

/** The empty set, filmed before everything. */
export function firstPlate(
  why = say`Before anyone can knock the camera or leave something in the frame. It mends whatever goes wrong later.`,
): Slot {
  return slot(
    'plate',
    say`Clean plate`,
    say`The empty set: nobody in it, nothing moving, shadows gone too. Keep rolling for eight seconds.`,
    why,
    {
      plate: 'first',
      hold: 8,
      toSong: false,
      outfit: '',
    },
  );
}

/** The empty set again, filmed after everything. */
export function lastPlate(why = say`Last: if the light has drifted or the camera was touched, this one fits the later takes.`): Slot {
  return slot('plate-end', say`Clean plate again`, say`The empty set once more, as it is at the end. Eight seconds.`, why, {
    plate: 'last',
    hold: 8,
    toSong: false,
    outfit: '',
  });
}

/** A place as recipes write it. */
export function place(name: string, x: number, z: number, more: Partial<Omit<Place, 'id' | 'tape'>> = {}): Omit<Place, 'id' | 'tape'> {
  return { name, x, z, height: 1.72, reach: 0.45, actions: [], ...more };
}

/** Advice for every locked camera. Common practice. */
export const LOCKED_CAMERA = [
  say`Camera: tape round all three feet of the tripod. Nobody touches it between takes; start it by remote, or one unbroken recording for all takes.`,
  say`Everything by hand: focus, exposure, white balance; stabiliser off. Write the settings down.`,
] as const;

export const BASIC_KIT = [
  say`Camera, charged, card empty`,
  say`Tripod and sandbag`,
  say`Cloth tape in several colours, tape measure`,
  say`Speaker for the song`,
  say`Remote or second phone`,
] as const;

/** The caution that closes every list. */
export const LOCAL_RULES = say`Follow local rules, and leave rigging, electrics and anything dangerous to those licensed for it.`;

/** A still dry-run frame to build on. */
export function still(layers: DryLayer[], marks: DryMark[] = []): DryFrame {
  return { layers, marks, dolly: 0, zoom: 1 };
}

export function layer(slotId: string, figures: DryFigure[], more: Partial<DryLayer> = {}): DryLayer {
  return { slot: slotId, region: null, opacity: 1, figures, ...more };
}

/** Smooth 0..1 between `a` and `b`. */
export function ramp(a: number, b: number, u: number): Unit {
  const t = Math.min(1, Math.max(0, (u - a) / (b - a)));
  return t * t * (3 - 2 * t);
}

/** Arms that go up and down on each beat of `beats` over the shot. */
export function swing(u: Unit, beats: number): Unit {
  return 0.5 - 0.5 * Math.cos(u * beats * Math.PI);
}
