import type { Planes } from '../picture';
import type { Pixels } from '../units';
import { type Box, boxAround, cropped, croppedPlanes, pasted } from './around';
import type { Backdrop } from './backdrop';
import { settledEdge } from './figure-edge';
import { findFigure } from './figure-found';
import type { FigureFound } from './figure-kernel';
import { boxMean, dropSmall, emptyMask, grow, type Mask, partsOf, tidy } from './grid';
import { SMEARED, softEdge } from './soft-edge';

/** How much of each pixel belongs to the figure, 0..255. */
export interface Matte {
  width: Pixels;
  height: Pixels;
  alpha: Uint8Array;
}

/** What the user painted over the matte: 1 figure, 2 background, 0 as measured. */
export type Strokes = Uint8Array;

export interface MatteOptions {
  /** How far the figure moved during the exposure, pixels: how wide its soft edge may be, and which way it is smeared. */
  blur: { dx: Pixels; dy: Pixels };
  strokes: Strokes | null;
}

/** Values with what was painted over them, in place: `most` where it is the figure, 0 where it is the background. */
export function withStrokes(values: Uint8Array, strokes: Strokes | null, most: number): Uint8Array {
  if (strokes) for (let i = 0; i < strokes.length; i++) if (strokes[i]) values[i] = strokes[i] === 1 ? most : 0;
  return values;
}

/** How far apart from the set what belongs to the figure must be for its colour not to be asked. */
const DOUBT = 1.5;
/** Pixels around one that speak for it. */
const AMONG = 3;
/** A large hole that is less apart than this shows the set; large is one part in so many of the frame. */
const HOLE = 0.65;
const LARGE_HOLE = 1500;

/**
 * Fills holes inside a mask. A hole that is large for a frame of `size` pixels and surely shows the set (arms akimbo) stays;
 * unlikeness of 1 is the limit of chance.
 */
function fillHoles(mask: Mask, apart: Float32Array, size: number): void {
  const large = size / LARGE_HOLE;
  for (const part of partsOf(mask, 0)) {
    if (part.touchesEdge) continue;
    const mean = part.pixels.reduce((s, i) => s + apart[i], 0) / part.pixels.length;
    if (part.pixels.length > large && mean < HOLE) continue;
    for (const i of part.pixels) mask.data[i] = 1;
  }
}

/**
 * The figure as a hard mask: what was found, with holes filled and without leftovers. `doubtful` are notches that may belong to it or
 * show what is behind (under an arm, between the legs). `size` is how many pixels the whole frame has; `moves` says that it smears.
 */
function hardMask(
  { mask: found, apart }: Pick<FigureFound, 'mask' | 'apart'>,
  size: number,
  strokes: Strokes | null,
  moves: boolean,
): { mask: Mask; doubtful: Mask } {
  fillHoles(found, apart, size);
  const mask = grow(grow(found, 2), -2);
  fillHoles(mask, apart, size);
  // Thin leftovers along shadows go; what is thicker than three pixels stays.
  const body = dropSmall(tidy(grow(grow(mask, -1), 1), size / 1500, 0));
  const doubtful = emptyMask(found.width, found.height);
  // Among what is surely the figure a stripe in the set's colour is not doubtful; between smeared limbs it may be the set.
  const clear = new Float32Array(apart.length);
  for (let i = 0; i < clear.length; i++) clear[i] = apart[i] < DOUBT ? 0 : 1;
  const sure = boxMean(clear, found.width, found.height, AMONG);
  for (let i = 0; i < body.data.length; i++) doubtful.data[i] = body.data[i] && apart[i] < DOUBT && (moves || sure[i] < 0.6) ? 1 : 0;
  withStrokes(body.data, strokes, 1);
  return { mask: body, doubtful: grow(doubtful, 2) };
}

/**
 * Cut-out of a figure from one frame that lies on its plate, matched in light: difference from the plate, shadow taken out, holes
 * filled; then at the edge the share of figure in each pixel is solved for from colour of the figure nearby and the known plate
 * behind (the compositing equation with known background, Smith & Blinn 1996). `backdrop` is the plate at its own size.
 */
export function cutOut(frame: Planes, backdrop: Backdrop, { blur, strokes }: MatteOptions): Matte {
  const { width, height } = backdrop.planes;
  const alpha = new Uint8Array(width * height);
  const whole = findFigure(frame, backdrop);
  // Only around what was found is there anything to solve for.
  const box = boxAround([whole.mask.data, strokes], width, height, MARGIN + Math.ceil(Math.hypot(blur.dx, blur.dy)));
  if (!box) return { width, height, alpha };
  const part = <T extends Uint8Array | Float32Array>(values: T) => cropped(values, width, box);
  const own = strokes && part(strokes);
  const near = {
    mask: { width: box.width, height: box.height, data: part(whole.mask.data) },
    apart: part(whole.apart),
  };
  const moves = Math.hypot(blur.dx, blur.dy) >= SMEARED;
  const { mask, doubtful } = hardMask(near, width * height, own, moves);
  const [above, plate] = [croppedPlanes(frame, box), croppedPlanes(backdrop.planes, box)];
  const settled = moves
    ? mask
    : settledEdge(
        {
          frame: above,
          plate,
          stray: part(backdrop.stray),
          contrast: part(backdrop.contrast),
          usual: whole.usual,
          shade: part(whole.shade),
          apart: near.apart,
        },
        mask,
        (width * height) / LARGE_HOLE,
      );
  withStrokes(settled.data, own, 1);
  pasted(withStrokes(softEdge(above, plate, settled, doubtful, blur), own, 255), alpha, width, box);
  return { width, height, alpha };
}

/** Pixels around what was found within which an edge is solved for. */
const MARGIN = 16;

/** As `cutOut`, looked for within a box alone: there is nobody outside it. */
export function cutOutWithin(frame: Planes, backdrop: Backdrop, box: Box, { blur, strokes }: MatteOptions): Matte {
  const { width, height } = backdrop.planes;
  const part = <T extends Uint8Array | Float32Array>(values: T) => cropped(values, width, box);
  const near: Backdrop = {
    planes: croppedPlanes(backdrop.planes, box),
    stray: part(backdrop.stray),
    doubtful: part(backdrop.doubtful),
    contrast: part(backdrop.contrast),
    factor: backdrop.factor,
  };
  const alpha = new Uint8Array(width * height);
  pasted(cutOut(croppedPlanes(frame, box), near, { blur, strokes: strokes && part(strokes) }).alpha, alpha, width, box);
  return { width, height, alpha };
}

/** Fills the inside of a closed line drawn by hand, even-odd, into `strokes` with `value`; points in pixels. */
export function lasso(
  strokes: Strokes,
  width: number,
  height: number,
  points: readonly (readonly [number, number])[],
  value: 0 | 1 | 2 | 3,
): void {
  for (let y = 0; y < height; y++) {
    const hits: number[] = [];
    points.forEach(([x0, y0], k) => {
      const [x1, y1] = points[(k + 1) % points.length];
      const at = y + 0.5;
      if (y0 <= at !== y1 <= at) hits.push(x0 + ((at - y0) / (y1 - y0)) * (x1 - x0));
    });
    hits.sort((a, b) => a - b);
    for (let k = 0; k + 1 < hits.length; k += 2) {
      for (let x = Math.max(0, Math.ceil(hits[k] - 0.5)); x < Math.min(width, hits[k + 1] - 0.5); x++) strokes[y * width + x] = value;
    }
  }
}

/** Paints a round brush along a line into `strokes` with `value`; places and radius in pixels. */
export function brush(
  strokes: Strokes,
  width: number,
  height: number,
  points: readonly (readonly [number, number])[],
  radius: Pixels,
  value: 0 | 1 | 2 | 3,
): void {
  points.forEach(([x1, y1], k) => {
    const [x0, y0] = points[Math.max(0, k - 1)];
    const steps = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / Math.max(1, radius / 2)));
    for (let s = 1; s <= steps; s++) {
      const [cx, cy] = [x0 + ((x1 - x0) * s) / steps, y0 + ((y1 - y0) * s) / steps];
      for (let y = Math.max(0, Math.floor(cy - radius)); y <= Math.min(height - 1, cy + radius); y++)
        for (let x = Math.max(0, Math.floor(cx - radius)); x <= Math.min(width - 1, cx + radius); x++)
          if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) <= radius) strokes[y * width + x] = value;
    }
  });
}
