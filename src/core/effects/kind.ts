import type { NumberKind } from '../motion';
import type { Chroma, ColourCube, ColourMatrix, Planes, Rgb } from '../picture';
import type { Frames, Pixels } from '../units';

/** Colour tables by their files. */
export type ColourCubes = ReadonlyMap<string, ColourCube>;

/** The frame an effect is done on: its size, and which of the film it is. */
export interface EffectFrame {
  width: Pixels;
  height: Pixels;
  index: Frames;
}

/** One kind of effect on a layer's picture. `R` is its numbers resolved for a frame, plain data. A kind is one file and a line in `registry.ts`. */
export interface EffectKind<R> {
  readonly kind: string;
  readonly name: string;
  /** What it does and is for, in a sentence. */
  readonly about: string;
  /** Its numbers, each of which can be keyed. */
  readonly numbers: Readonly<Record<string, NumberKind>>;
  /** What it is added with where the numbers by themselves would do nothing: so much that it is seen. */
  readonly usual?: Readonly<Record<string, number>>;
  /** What it is added with on a take before a coloured backing: chroma from the middle and how far it spreads, code values. */
  forBacking?(backing: Chroma & { spread: number }): Record<string, number>;
  /** Set where it goes by a colour table from a file, which is chosen. */
  readonly byTable?: true;
  /** What is done with these numbers on a frame, with the table that is chosen; null where nothing is. */
  resolve(numbers: Readonly<Record<string, number>>, frame: EffectFrame, tableId?: string): R | null;
  /** The same on a frame drawn at `factor` of its size. */
  scale(resolved: R, factor: number): R;
  /** How far from a pixel it looks. */
  reach(resolved: R): Pixels;
  /** Coded values to coded values (BT.709, limited range), where it treats every pixel alike. */
  colour?(resolved: R): ColourMatrix;
  /** What becomes of a colour (R'G'B', in place), where every pixel is treated alike but no matrix says it; nothing where its table is missing. */
  rgb?(resolved: R, tables: ColourCubes): ((rgb: Rgb) => void) | null;
  /** The colour tables it needs, by their files. */
  tables?(resolved: R): string[];
  /** How much of each pixel is left to be seen, 0 to 255, where it clears the picture in part; asked before the picture is laid on the frame. */
  clears?(planes: Planes, resolved: R): Uint8Array;
  /** The picture after it, where it does more; what is given may be kept but not changed. */
  apply?(planes: Planes, resolved: R): Planes;
}
