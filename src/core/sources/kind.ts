import type * as z from 'zod/mini';
import type { Affine, BlendMode, ChannelCurves, ClearPlanes, ColourMatrix, ColourSpace, Gains, Homography } from '../picture';
import type { Frames, Percent, Pixels, Seconds } from '../units';
import type { Run } from './title-parts';

export interface Size {
  width: Pixels;
  height: Pixels;
}

/** A take as a source sees it at a second: its file, how it was filmed, and how it is put right there. */
export interface TakeAt {
  mediaId: string;
  size: Size;
  /** Frames a second, 0 where not known, and seconds of the file. */
  fps: number;
  duration: Seconds;
  colour: ColourSpace;
  /** Whether it is clear in places. */
  clear: boolean;
  /** The measured move and light that are followed; null and 1 where it is not corrected. */
  move: { dx: Pixels; dy: Pixels; turn: number; scale: number } | null;
  /** How the reference is seen in it where moves alone do not say it; followed instead of `move`. */
  perspective: Homography | null;
  gains: Gains;
  /** What is left after the gains. */
  curves: ChannelCurves | null;
}

/** What a layer knows of itself and its project at a frame, for its source to describe what it shows. */
export interface SourceContext {
  frame: Size;
  overscan: Percent;
  /** The second of the source that is shown, within what there is of it. */
  second: Seconds;
  /** Frames and beats of the film since the layer began. */
  run: Run;
  frameInterpolation: 'repeat' | 'blend' | 'flow';
  take(takeId: string): TakeAt | null;
  /** The size of a kept picture; null where it is not in the project. */
  still(mediaId: string): Size | null;
  /** What a shot within this one shows; null where it is not there or lies too deep. */
  shot(shotId: string): NestedPicture | null;
}

/** A picture within a picture, of the same form; told apart by nobody here. */
export interface NestedPicture extends Size {
  layers: readonly unknown[];
}

/** What a source shows at a frame and how it lies in the film's frame before its layer moves it. */
export interface Described<D> {
  source: D;
  size: Size;
  /** Output pixels to pixels of the source. */
  base: Affine;
  colour: ColourMatrix;
  /** What is added to each channel after that. */
  curves?: ChannelCurves | null;
}

/** A frame of a file that has to be read. */
export interface FrameRequest {
  takeId: string;
  mediaId: string;
  time: Seconds;
}

/** Another layer of the shot, once more. */
export interface Again {
  layerId: string;
  /** Frames by which it comes later. */
  late: Frames;
  shown: 'as it is' | 'as a shadow';
  /** Over how much of its outline is soft. */
  soft: Percent;
}

/**
 * One kind of thing a layer can show. `S` is what the document keeps, `D` what is described for a frame: plain data. A kind is one file and
 * a line in `registry.ts`; one that reads files has its reader in `media/painting.ts`.
 */
export interface SourceKind<S extends { kind: string }, D extends { kind: string }> {
  readonly kind: S['kind'];
  readonly schema: z.ZodMiniType<S>;
  /** What it is called where it is offered, and a layer of it. */
  readonly name: string;
  /** What a layer of it begins with, where it needs nothing to begin with. */
  readonly fresh?: S;
  /** How a layer of it is laid over the others where it comes; by 'normal' where nothing is said. */
  readonly blend?: BlendMode;
  /** What is chosen of it. */
  readonly settings: readonly SourceSetting[];
  /** Whether there is something of it everywhere, however it is moved. */
  readonly endless: boolean;
  /** 'in part' where it may be clear in places, 'below' where its pixels are those it is laid on; else all that it covers. */
  readonly shows?: 'in part' | 'below';
  /** Whether this one may be clear in places, where most of its kind are not. */
  clear?(description: D): boolean;
  describe(context: SourceContext, source: S): Described<D> | null;
  /** Frames of takes it needs, in the order in which they are read. */
  requests(description: D): FrameRequest[];
  /** The kept pictures it needs. */
  stills(description: D): string[];
  /** The picture within it. */
  within?(description: D): NestedPicture;
  /** The same with another picture within it. */
  around?(description: D, picture: NestedPicture): D;
  /** Which layer it shows once more, where it shows one. */
  again?(source: S): Again;
  /** Its pixels at a size, where it is made by the application. */
  make?(description: D, size: Size): ClearPlanes;
}

/** Something that is chosen of a source: a colour (R'G'B' 0..1, kept as r, g and b), a number, words, one of several, a font. */
export type SourceSetting =
  /** `of` where its channels have other names. */
  | { is: 'colour'; label: string; of?: readonly [string, string, string] }
  | { is: 'text'; label: string; of: string }
  /** Another layer of its shot. */
  | { is: 'layer'; label: string; of: string }
  | { is: 'choice'; label: string; of: string; options: readonly (readonly [string, string])[] }
  /** One that ships, or a file of the user's own under `file`. */
  | { is: 'font'; label: string; of: string; file: string; options: readonly (readonly [string, string])[] }
  | { is: 'number'; label: string; unit: string; of: string; min: number; max: number; step: number; digits: number };
