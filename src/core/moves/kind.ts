import * as z from 'zod/mini';
import { finite, id, type Layer, type Place, type Scene } from '../layer';
import type { SoundKind } from '../sounds';
import type { BeatMap, FrameRate } from '../time';
import type { Beats, Frames, Percent, Seconds } from '../units';
import type { FactId, Facts } from './facts';
import type { Field } from './fields';

/** A take in a move: the second of it that meets the move's own instant. */
export const takeUseSchema = z.object({ takeId: id, sync: finite });
export type TakeUse = z.infer<typeof takeUseSchema>;
export const percentSchema = finite.check(z.gte(0), z.lte(100));
/** Where somebody is in a take: seconds of its file, per cent of its picture. */
export const courseSchema = z.array(z.object({ source: finite, x: finite, y: finite })).check(z.minLength(1), z.maxLength(20000));

/** What of a take a move reckons with: its file's name and frames a second (0 where not known), and the seconds of the file that are the take. */
export interface TakeFootage {
  name: string;
  fps: number;
  from: Seconds;
  to: Seconds;
}

/** From per cent of a take's picture to per cent of the frame it fills. */
export type OnFrame = (point: { x: Percent; y: Percent }) => { x: Percent; y: Percent };

/** Where a move is laid out: its shot in the film, and the takes of the project. */
export interface MoveContext {
  scene: Scene;
  frame: { width: number; height: number };
  footage(takeId: string): TakeFootage;
  /** Makes a layer of the move that shows a take, on the take's own tape. */
  take(id: string, name: string, takeId: string, timeRemap: Layer['timeRemap'], more: Partial<Layer>): Layer;
  /** Makes a layer of the move that shows a kept picture. */
  picture(id: string, name: string, mediaId: string, timeRemap: Layer['timeRemap'], more: Partial<Layer>): Layer;
  /** Makes a layer of the move that shows what the application makes: a colour, a title, light. */
  made(id: string, name: string, source: Layer['source'], more: Partial<Layer>): Layer;
  onFrame(takeId: string): OnFrame;
}

/** A sound that goes with a move: the place of the shot it meets (`offset` frames ahead of a beat are below 0), how long it lasts and how loud, decibels. */
export interface SoundCue {
  sound: SoundKind;
  at: Place;
  seconds?: Seconds;
  gain?: number;
}

/** Where and of what a move is to be made. */
export interface ProposeContext {
  map: BeatMap;
  rate: FrameRate;
  /** The beat of the song that the move's own instant meets. */
  beat: Beats;
  /** `alike` gives the second at which the take's camera is where that of the first take is, where both move alike. */
  takes: readonly { takeId: string; footage: TakeFootage; alike?: (first: Seconds) => Seconds | null }[];
}

/** A move with sensible numbers. Its places count from the shot's start, `lead` beats before the beat asked for; the shot ends `tail` beats after. */
export interface Proposal<M> {
  lead: Beats;
  tail: Beats;
  move: M;
  /** What to know of it, or ''. */
  said: string;
}

/** Why a move cannot be as asked, in a sentence, and the nearest that can; null where only the user can choose. */
export interface Problem<M> {
  text: string;
  nearest: { label: string; move: M } | null;
}

/** Places of a move that are moved together: what is to be checked against its beat has an `event` name. `map` gives the move with each changed. */
export interface Anchors<M> {
  event: string | null;
  map(move: M, change: (place: Place) => Place): M;
}

/** One kind of move: all that the application knows of it. A kind is one file and a line in `registry.ts`. */
export interface MoveKind<M extends { kind: string }, Needs extends FactId = FactId> {
  readonly kind: M['kind'];
  readonly schema: z.ZodMiniType<M>;
  /** Its name, what is said while it is made ready, and what it does in a sentence. */
  readonly words: { name: string; working: string; about: string };
  /** How many takes it is made of, and how many where nothing says otherwise; fewer may stand in for several. */
  readonly takes: { min: number; max: number; usual?: number };
  /** What is measured before it is proposed. */
  readonly needs: readonly Needs[];
  /** Whether its takes are mixed in one picture, so that they must lie on one another. */
  readonly mixes: boolean;
  /** The planned recipe whose slots are its likely takes. */
  readonly planned?: {
    recipe: string;
    /** Those of its takes, or all but the empty sets in the order they are planned. */
    slots: readonly string[] | 'all';
    /** The input that says on which beat of the shot it is, the first being 1; without it the shot's first. */
    beat?: string;
  };
  /** Sensible inputs from the beats, the takes and what was measured in them. */
  propose(context: ProposeContext, facts: Pick<Facts, Needs>): Proposal<M>;
  /** Its layers, bottom first: ordinary keys, remap keys and masks. */
  layers(context: MoveContext, move: M): Layer[];
  problems(context: MoveContext, move: M): Problem<M>[];
  readonly anchors: readonly Anchors<M>[];
  /** The move with each of its takes chosen anew, by the take it is and the second of it that is pinned. */
  withTakes(move: M, choose: (takeId: string, second: Seconds) => string): M;
  /** Outlines of the performer over time that it needs: the takes that have none yet, and the move with some that were found. */
  readonly outlines?: { missing(move: M): string[]; add(move: M, found: readonly { takeId: string; silhouetteId: string }[]): M };
  /** What is heard of it, made by the application: which sound meets which of its places. */
  sounds?(context: MoveContext, move: M): readonly SoundCue[];
  /** The frame on which it is best looked at. */
  poster(context: MoveContext, move: M): Frames;
  /** What is typed or chosen of it; the form and what is kept as a preset are made from these. */
  readonly fields: readonly Field<M>[];
}

/** A take in use, chosen anew. */
export const chosen = <U extends TakeUse>(use: U, choose: (takeId: string, second: Seconds) => string): U => ({
  ...use,
  takeId: choose(use.takeId, use.sync),
});

/** Anchors of a move that are single places. */
export const anchorAt = <M extends { kind: string }>(key: keyof M & string, event: string | null): Anchors<M> => ({
  event,
  map: (move, change) => ({ ...move, [key]: change(move[key] as Place) }),
});

/** Anchors of a move that are a list of places, with what else each holds. */
export const anchorsIn = <M extends { kind: string }>(key: keyof M & string, event: string | null): Anchors<M> => ({
  event,
  map: (move, change) => ({
    ...move,
    [key]: (move[key] as Place[]).map((place) => ({ ...place, ...change({ beat: place.beat, offset: place.offset }) })),
  }),
});
