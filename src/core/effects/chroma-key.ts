import { numberKind } from '../motion';
import { type Chroma, chromaOfHue } from '../picture';
import type { Unit } from '../units';
import type { EffectKind } from './kind';

interface Resolved {
  /** Coded chroma of the colour, from the middle. */
  colour: Chroma;
  range: Unit;
  softness: Unit;
}

/** The farthest that two coded colours lie apart in chroma. */
const FARTHEST = 255 * Math.SQRT2;

/**
 * Clear where a colour is: how far a pixel's Cb and Cr are from it, as a share of the farthest, less the range, over the softness (the
 * measure of ffmpeg's chromakey).
 */
export const chromaKey: EffectKind<Resolved> = {
  kind: 'chroma key',
  name: 'Chroma key',
  numbers: {
    range: numberKind('Range', '%', 0, 100, 0, 0.5, 1),
    softness: numberKind('Softness', '%', 0.1, 100, 8, 0.5, 1),
    hue: numberKind('Hue', '°', 0, 360, 120),
    strength: numberKind('How strong the colour is', '%', 0, 100, 50),
  },
  resolve: ({ range, softness, hue, strength }) => {
    if (!(range > 0)) return null;
    const { u, v } = chromaOfHue(hue);
    const size = (112 * strength) / 100;
    return { colour: { u: u * size, v: v * size }, range: range / 100, softness: Math.max(0.001, softness / 100) };
  },
  scale: (resolved) => resolved,
  reach: () => 0,
  clears: ({ width, height, u, v }, { colour, range, softness }) => {
    const half = width >> 1;
    const coarse = Float32Array.from(u, (cb, i) => {
      const off = Math.hypot(cb - 128 - colour.u, v[i] - 128 - colour.v) / FARTHEST;
      return 255 * Math.min(1, Math.max(0, (off - range) / softness));
    });
    // Chroma is coarser than brightness: between its samples it is mixed.
    const out = new Uint8Array(width * height);
    for (let y = 0; y < height; y++) {
      const fy = Math.min((height >> 1) - 1, Math.max(0, (y - 0.5) / 2));
      const j = Math.min(Math.max(0, (height >> 1) - 2), Math.floor(fy));
      for (let x = 0; x < width; x++) {
        const fx = Math.min(half - 1, Math.max(0, (x - 0.5) / 2));
        const i = Math.min(Math.max(0, half - 2), Math.floor(fx));
        const [p, q, at] = [fx - i, fy - j, j * half + i];
        const upper = coarse[at] + p * ((coarse[at + 1] ?? coarse[at]) - coarse[at]);
        const low = coarse[at + half] ?? coarse[at];
        const lower = low + p * ((coarse[at + half + 1] ?? low) - low);
        out[y * width + x] = upper + q * (lower - upper) + 0.5;
      }
    }
    return out;
  },
};
