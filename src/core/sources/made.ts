import * as z from 'zod/mini';
import { fromRgba, IDENTITY_COLOUR, type Planes, STAY } from '../picture';
import type { Frames } from '../units';
import type { Described, Size, SourceContext } from './kind';

/** What the numbers of sources that the application makes may be. */
export const share = z.number().check(z.gte(0), z.lte(1));
export const within = (low: number, high: number) => z.number().check(z.gte(low), z.lte(high));

/** A source that is made for the frame: as large as it, where it lies. */
export const overFrame = <D>({ frame }: SourceContext, source: D): Described<D> => ({
  source,
  size: frame,
  base: STAY,
  colour: IDENTITY_COLOUR,
});

/** Planes from a rule that puts R, G and B (0..255) of each pixel into bytes. */
export function painted({ width, height }: Size, put: (x: number, y: number, rgb: Uint8ClampedArray, at: number) => void): Planes {
  const rgba = new Uint8ClampedArray(4 * width * height);
  for (let y = 0, at = 0; y < height; y++) for (let x = 0; x < width; x++, at += 4) put(x, y, rgba, at);
  return fromRgba(new Uint8Array(rgba.buffer), width, height);
}

/** A source as it is kept, and the frame since it began: for what moves by itself. */
export type Moving<S> = S & { frame: Frames };
