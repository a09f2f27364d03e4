import type { AppliedEffect } from '../effects';
import type { Affine, BlendMode, ColourMatrix, Coverage, Edge, Motion } from '../picture';
import type { Size, SourceDescription } from '../sources';
import type { Frames, Pixels, Unit } from '../units';

/** One layer of a picture with all numbers resolved; plain data. */
export interface LayerDescription {
  layerId: string;
  source: SourceDescription;
  /** Of its source, pixels. */
  size: Size;
  /** Output pixels to pixels of the upright source. */
  map: Affine;
  colour: ColourMatrix;
  coverage: Coverage | null;
  opacity: Unit;
  blend: BlendMode;
  edge: Edge;
  /** What is done to its picture as it lies on the frame, one after another. */
  effects: AppliedEffect[];
  /** Stands through the exposure where the layer moves enough to smear; null where it does not. */
  motion: Motion | null;
}

/** What one frame of the film shows, bottom layer first, without those that others hide whole. No layers is black. */
export interface PictureDescription {
  frame: Frames;
  width: Pixels;
  height: Pixels;
  shotId: string | null;
  layers: LayerDescription[];
}
