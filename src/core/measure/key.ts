import { betweenChroma, type Planes, takeSpillOut } from '../picture';
import { lengthOf } from '../units';
import { boxMean } from './grid';
import type { Matte } from './matte';

/** The colour behind a performer: coded chroma of the backing, and how even it is. */
export interface BackingColour {
  u: number;
  v: number;
  /** Typical distance of the backing's chroma from its middle, code values. */
  spread: number;
}

/**
 * The backing's colour: the strongest peak of chroma that leans to blue or green. Null when less than a tenth of the frame is near
 * it: then there is no backing.
 */
export function backingColour({ width, height, u, v }: Planes): BackingColour | null {
  const [w, h] = [width >> 1, height >> 1];
  const bins = new Float32Array(64 * 64);
  for (let i = 0; i < u.length; i++) if (v[i] < 122 && lengthOf(u[i] - 128, v[i] - 128) > 24) bins[(u[i] >> 2) * 64 + (v[i] >> 2)]++;
  const smooth = boxMean(bins, 64, 64, 1);
  let best = 0;
  for (let k = 1; k < smooth.length; k++) if (smooth[k] > smooth[best]) best = k;
  const [pu, pv] = [(Math.floor(best / 64) + 0.5) * 4, ((best % 64) + 0.5) * 4];
  let [n, su, sv, far] = [0, 0, 0, 0];
  for (let i = 0; i < u.length; i++) {
    const d = lengthOf(u[i] - pu, v[i] - pv);
    if (d > 10) continue;
    n++;
    su += u[i];
    sv += v[i];
    far += d;
  }
  if (n < (w * h) / 10) return null;
  return { u: su / n, v: sv / n, spread: Math.max(1.5, far / n) };
}

/**
 * Colour key: coverage falls to nothing along the backing's chroma direction (a colour-difference key, Vlahos; common practice).
 * `tolerance` 0..1 widens what counts as backing.
 */
export function colourKey(frame: Planes, backing: BackingColour, tolerance: number): Matte {
  const { width, height, u, v } = frame;
  const [bu, bv] = [backing.u - 128, backing.v - 128];
  const strength = lengthOf(bu, bv);
  const raw = new Float32Array(u.length);
  for (let i = 0; i < raw.length; i++) {
    const [du, dv] = [u[i] - 128, v[i] - 128];
    const along = (du * bu + dv * bv) / strength;
    const aside = Math.abs(du * bv - dv * bu) / strength;
    // How much of the backing's colour is in the pixel; colour to the side of it speaks for the figure.
    raw[i] = 1 - (along - 0.8 * aside) / strength;
  }
  const low = 0.12 + 0.25 * tolerance + backing.spread / strength;
  const high = Math.min(0.95, low + 0.45);
  // Chroma is coarser than brightness: coverage between its samples is mixed.
  const mixed = betweenChroma(raw, width, height);
  const alpha = Uint8Array.from(mixed, (share) => Math.round(255 * Math.max(0, Math.min(1, (share - low) / (high - low)))));
  return { width, height, alpha };
}

/** Takes the backing's colour out of a figure, in place. */
export function removeSpill(frame: Planes, { u, v }: BackingColour): void {
  const size = lengthOf(u - 128, v - 128);
  takeSpillOut(frame, { u: (u - 128) / size, v: (v - 128) / size }, 1, 0);
}
