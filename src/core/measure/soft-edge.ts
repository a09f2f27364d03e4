import type { Planes } from '../picture';
import type { Pixels } from '../units';
import { type EdgeAsk, softByKernel } from './edge-kernel';
import { boxMean, emptyMask, grow, type Mask } from './grid';
import { OWN, OWN_NEAR, OWN_VARIANCE, ownColour } from './own-colour';

/** Pixels that a figure moves during the exposure from which on its edge is a smear. */
export const SMEARED = 3;
/** Contrast from which the share of figure in a pixel is solved for: a still edge is a pixel wide, a codec's errors around it are more. */
const TRUSTED = { still: 1000, smeared: 4 };
/** Share of figure, in the mean over a few pixels, under which the set shines through between smeared limbs. */
const THROUGH = 0.85;

/**
 * Coverage, 0..255, of a figure given by a mask over its plate: at the edge, as wide as the figure moved during the exposure, the share of figure
 * is solved for by the compositing equation with known background (Smith & Blinn 1996). What is `doubtful` is no sure inside.
 */
export function softEdge(frame: Planes, plate: Planes, mask: Mask, doubtful: Mask, blur: { dx: Pixels; dy: Pixels }): Uint8Array {
  const ask = edgeAsk(blur);
  return softByKernel(frame, plate, mask, doubtful, ask) ?? softPlainly(frame, plate, mask, doubtful, ask);
}

/** How an edge is solved for of somebody who moved that far during the exposure. */
export function edgeAsk(blur: { dx: Pixels; dy: Pixels }): EdgeAsk {
  const smear = Math.hypot(blur.dx, blur.dy);
  const reach = 2 + Math.ceil(smear / 2);
  const moves = smear >= SMEARED;
  return {
    reach,
    near: reach + 3,
    trusted: moves ? TRUSTED.smeared : TRUSTED.still,
    through: moves ? { least: THROUGH, around: Math.ceil(smear / 3) } : null,
    own: moves ? 0 : 0.5,
    taps: smearTaps(blur),
  };
}

/** The definition; the compiled pass must agree with it. */
export function softPlainly(frame: Planes, plate: Planes, mask: Mask, doubtful: Mask, ask: EdgeAsk): Uint8Array {
  const { width, height } = mask;
  const { reach, near, trusted, through, own, taps } = ask;
  const [wide, core] = [grow(mask, reach), grow(mask, -reach)];
  for (let i = 0; i < core.data.length; i++) if (doubtful.data[i]) core.data[i] = 0;
  const soft = boxMean(new Float32Array(mask.data), width, height, 1);
  const mixed = { frame, plate, own: ownColour(frame, core, near), trusted };
  if (through) {
    openSmeared(core, soft, mixed, through);
    mixed.own = ownColour(frame, core, near);
  }
  const raw = new Float32Array(mask.data);
  for (let i = 0; i < raw.length; i++) if (wide.data[i] && !core.data[i]) raw[i] = shareAt(mixed, i, soft[i]);
  const even = boxMean(raw, width, height, 1);
  const alpha = new Uint8Array(raw.length);
  for (let i = 0; i < alpha.length; i++) {
    if (core.data[i]) alpha[i] = 255;
    else if (wide.data[i]) alpha[i] = Math.round(255 * (own * raw[i] + (1 - own) * smearedAt(even, i, width, height, taps)));
  }
  return alpha;
}

/** A frame over its plate, with the figure's own colour by `ownColour`, and the trust as it is asked for. */
interface Mixed {
  frame: Planes;
  plate: Planes;
  own: Float32Array;
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
function openSmeared(core: Mask, soft: Float32Array, mixed: Mixed, { least, around }: NonNullable<EdgeAsk['through']>): void {
  const { width, height } = core;
  const inside = soft.slice();
  for (let i = 0; i < inside.length; i++) if (core.data[i]) inside[i] = shareAt(mixed, i, 1);
  const shares = boxMean(inside, width, height, 2);
  const through = emptyMask(width, height);
  for (let i = 0; i < shares.length; i++) through.data[i] = core.data[i] && shares[i] < least ? 1 : 0;
  const opened = grow(through, around);
  for (let i = 0; i < opened.data.length; i++) if (opened.data[i]) core.data[i] = 0;
}

/** Steps along half of the way moved, pixels; none where that is too short to matter. */
function smearTaps({ dx, dy }: { dx: Pixels; dy: Pixels }): { dx: Pixels; dy: Pixels }[] {
  const taps = Math.round(Math.hypot(dx, dy) / 2) | 1;
  if (taps < 3) return [];
  return Array.from({ length: taps }, (_, k) => (k / (taps - 1) - 0.5) / 2).map((t) => ({
    dx: Math.round(dx * t),
    dy: Math.round(dy * t),
  }));
}

/** Mean of values along steps from a pixel: the figure's own pattern goes, the soft edge stays. */
function smearedAt(values: Float32Array, i: number, width: number, height: number, taps: EdgeAsk['taps']): number {
  if (taps.length === 0) return values[i];
  const x = i % width;
  const y = (i - x) / width;
  let sum = 0;
  for (const { dx, dy } of taps)
    sum += values[Math.max(0, Math.min(height - 1, y + dy)) * width + Math.max(0, Math.min(width - 1, x + dx))];
  return sum / taps.length;
}
