import type { Planes } from '../picture';
import type { Pixels } from '../units';
import { type Box, boxAround, cropped, croppedPlanes, pasted } from './around';
import type { Backdrop } from './backdrop';
import { settledEdge } from './figure-edge';
import { type FigureFound, findFigure } from './figure-found';
import { boxMean, dropSmall, emptyMask, grow, type Mask, partsOf, tidy } from './grid';
import { OWN, OWN_NEAR, OWN_VARIANCE, ownColour } from './own-colour';

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

/** How far apart from the set what belongs to the figure must be for its colour not to be asked. */
const DOUBT = 1.5;
/** Pixels that a figure moves during the exposure from which on its edge is a smear. */
const SMEARED = 3;
/** Contrast from which the share of figure in a pixel is solved for: a still edge is a pixel wide, a codec's errors around it are more. */
const TRUSTED = { still: 100, smeared: 4 };
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
  if (strokes) for (let i = 0; i < body.data.length; i++) if (strokes[i]) body.data[i] = strokes[i] === 1 ? 1 : 0;
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
  if (own) for (let i = 0; i < own.length; i++) if (own[i]) settled.data[i] = own[i] === 1 ? 1 : 0;
  pasted(softEdge(above, plate, settled, doubtful, blur, own), alpha, width, box);
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

/** A frame over its plate, with the figure's own colour by `ownColour`. */
interface Mixed {
  frame: Planes;
  plate: Planes;
  own: Float32Array;
  /** Contrast, in squared strayings, at which what is solved for and what is otherwise thought count alike. */
  trusted: number;
}

/**
 * The share of figure in pixel `i`, by least squares over the channels, each weighted by how steady the figure's colour is in it
 * (after Chuang et al. 2001). Where figure and plate are alike it cannot be solved for, and `otherwise` stands.
 */
function shareAt({ frame, plate, own, trusted }: Mixed, i: number, otherwise: number): number {
  const { width } = frame;
  const j = ((i / width) >> 1) * (width >> 1) + ((i % width) >> 1);
  const at = OWN * j;
  if (own[at + OWN_NEAR] === 0) return otherwise;
  let [along, size] = [0, 0];
  for (let c = 0; c < 3; c++) {
    const above = c === 0 ? frame.y[i] : c === 1 ? frame.u[j] : frame.v[j];
    const below = c === 0 ? plate.y[i] : c === 1 ? plate.u[j] : plate.v[j];
    const d = own[at + c] - below;
    const weight = d / (own[at + OWN_VARIANCE + c] + 4);
    along += weight * (above - below);
    size += weight * d;
  }
  const trust = size / (size + trusted);
  return trust * Math.max(0, Math.min(1, along / (size || 1))) + (1 - trust) * otherwise;
}

/** Takes out of the sure inside, in place, where the set shines through between smeared limbs: what is mixed there is none. */
function openSmeared(core: Mask, soft: Float32Array, mixed: Mixed, smear: Pixels): void {
  const { width, height } = core;
  const inside = soft.slice();
  for (let i = 0; i < inside.length; i++) if (core.data[i]) inside[i] = shareAt(mixed, i, 1);
  const shares = boxMean(inside, width, height, 2);
  const through = emptyMask(width, height);
  for (let i = 0; i < shares.length; i++) through.data[i] = core.data[i] && shares[i] < 0.85 ? 1 : 0;
  const around = grow(through, Math.ceil(smear / 3));
  for (let i = 0; i < around.data.length; i++) if (around.data[i]) core.data[i] = 0;
}

function softEdge(
  frame: Planes,
  plate: Planes,
  mask: Mask,
  doubtful: Mask,
  blur: MatteOptions['blur'],
  strokes: Strokes | null,
): Uint8Array {
  const { width, height } = mask;
  const smear = Math.hypot(blur.dx, blur.dy);
  const reach = 2 + Math.ceil(smear / 2);
  const trusted = smear >= SMEARED ? TRUSTED.smeared : TRUSTED.still;
  const [wide, core] = [grow(mask, reach), grow(mask, -reach)];
  for (let i = 0; i < core.data.length; i++) if (doubtful.data[i]) core.data[i] = 0;
  const soft = boxMean(new Float32Array(mask.data), width, height, 1);
  const mixed = { frame, plate, own: ownColour(frame, core, reach + 3), trusted };
  if (smear >= SMEARED) {
    openSmeared(core, soft, mixed, smear);
    mixed.own = ownColour(frame, core, reach + 3);
  }
  const raw = new Float32Array(mask.data);
  for (let i = 0; i < raw.length; i++) if (wide.data[i] && !core.data[i]) raw[i] = shareAt(mixed, i, soft[i]);
  const even = boxMean(raw, width, height, 1);
  const along = smearTaps(blur);
  const own = smear < SMEARED ? 0.5 : 0;
  const alpha = new Uint8Array(raw.length);
  for (let i = 0; i < alpha.length; i++) {
    if (strokes?.[i]) alpha[i] = strokes[i] === 1 ? 255 : 0;
    else if (core.data[i]) alpha[i] = 255;
    else if (wide.data[i]) alpha[i] = Math.round(255 * (own * raw[i] + (1 - own) * smearedAt(even, i, width, height, along)));
  }
  return alpha;
}

/** Steps along half of the way moved, pixels; none where that is too short to matter. */
function smearTaps({ dx, dy }: MatteOptions['blur']): { dx: Pixels; dy: Pixels }[] {
  const taps = Math.round(Math.hypot(dx, dy) / 2) | 1;
  if (taps < 3) return [];
  return Array.from({ length: taps }, (_, k) => (k / (taps - 1) - 0.5) / 2).map((t) => ({
    dx: Math.round(dx * t),
    dy: Math.round(dy * t),
  }));
}

/** Mean of values along steps from a pixel: the figure's own pattern goes, the soft edge stays. */
function smearedAt(values: Float32Array, i: number, width: number, height: number, taps: ReturnType<typeof smearTaps>): number {
  if (taps.length === 0) return values[i];
  const x = i % width;
  const y = (i - x) / width;
  let sum = 0;
  for (const { dx, dy } of taps)
    sum += values[Math.max(0, Math.min(height - 1, y + dy)) * width + Math.max(0, Math.min(width - 1, x + dx))];
  return sum / taps.length;
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
