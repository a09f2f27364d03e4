import { type Planes, reducedPlanes } from '../picture';
import { boxMean } from './grid';
import type { CleanPlate } from './plate';
import { contrastOf } from './usual-error';

/** What a frame is compared with to see who stands in it: the empty set, reduced, and how far each pixel strays by itself. */
export interface Backdrop {
  planes: Planes;
  /** Usual straying of brightness, code values. */
  stray: Float32Array;
  /** 1 where fewer than four in five frames agreed: somebody passed, or the set moves by itself. */
  doubtful: Uint8Array;
  /** How contrasty the set is around each pixel: steps of brightness to its neighbours, in octaves. */
  contrast: Uint8Array;
  /** Pixels of the take to one of these. */
  factor: number;
}

/** How unlike the backdrop a pixel is, in multiples of what is usual there: 1 is the limit of chance. */
export interface Unlikeness {
  /** By brightness and colour. */
  values: Float32Array;
  /** Brightness against the backdrop's, 1 the same; for telling shadow. */
  ratio: Float32Array;
  /** By colour alone, after the darkening is taken out. */
  colour: Float32Array;
  /** How far brightness usually is from the backdrop's at each contrast, code values. */
  usual: Float32Array;
}

/** Width that frames are reduced to. */
const GRID_WIDTH = 320;

/** Brightness from which a camera's curve no longer follows the light. Limited range, white is 235. */
const BLOWN = 218;

/** Share of frames that must agree on the set for its difference to be trusted alone. */
const AGREED = 0.8;

/** By how much a picture of this width is reduced for occupancy. */
export function gridFactor(width: number): number {
  return Math.max(1, Math.round(width / GRID_WIDTH));
}

/** The backdrop of a set from its clean plate; `exact` 1 keeps the plate's own size. */
export function makeBackdrop(plate: CleanPlate, factor = gridFactor(plate.planes.width)): Backdrop {
  const planes = reducedPlanes(plate.planes, factor);
  const { width, height } = planes;
  const stray = new Float32Array(width * height);
  const doubtful = new Uint8Array(width * height);
  const wide = plate.planes.width;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let [sum, hole, agreed] = [0, 0, 0];
      for (let j = 0; j < factor; j++) {
        for (let i = 0; i < factor; i++) {
          const at = (y * factor + j) * wide + x * factor + i;
          sum += plate.spread[at] / 4;
          hole |= plate.holes.data[at];
          agreed += plate.agree[at];
        }
      }
      doubtful[y * width + x] = agreed < AGREED * 255 * factor ** 2 ? 1 : 0;
      // Noise of single pixels averages out; leaves that move do not.
      const mean = sum / factor ** 2;
      // In a hole nothing is known; where light is blown out, matching it to another take's leaves a step that says nothing.
      const blown = planes.y[y * width + x] > BLOWN ? 12 : 0;
      stray[y * width + x] = hole ? 60 : (mean > 5 ? mean : mean / Math.min(factor, 2)) + blown;
    }
  }
  return { planes, stray: boxMean(stray, width, height, 1), doubtful, contrast: contrastOf(planes), factor };
}
