import { numberKind } from '../motion';
import { betweenChroma, type Chroma, chromaOfHue, hueOfChroma } from '../picture';
import { lengthOf, type Unit } from '../units';
import { say } from '../words';
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
  name: say`Chroma key`,
  about: say`Clears a backing of one colour, so that what is under it shows: a green or blue screen.`,
  numbers: {
    range: numberKind('Range', '%', 0, 100, 0, 0.5, 1),
    softness: numberKind('Softness', '%', 0.1, 100, 8, 0.5, 1),
    hue: numberKind('Hue', '°', 0, 360, 120),
    strength: numberKind(say`How strong the colour is`, '%', 0, 100, 50),
  },
  usual: { range: 6 },
  // Three times as far as the backing spreads and an eighth of the way to grey are clear, a half of the way is whole.
  forBacking: ({ u, v, spread }) => {
    const size = lengthOf(u, v);
    const tenths = (share: number) => Math.round(10 * share) / 10;
    return {
      hue: hueOfChroma({ u, v }),
      strength: tenths(Math.min(100, (100 * size) / 112)),
      range: tenths((100 * (3 * spread + size / 8)) / FARTHEST),
      softness: tenths((100 * 0.375 * size) / FARTHEST),
    };
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
    const coarse = Float32Array.from(u, (cb, i) => {
      const off = lengthOf(cb - 128 - colour.u, v[i] - 128 - colour.v) / FARTHEST;
      return 255 * Math.min(1, Math.max(0, (off - range) / softness));
    });
    // Chroma is coarser than brightness: between its samples it is mixed.
    return Uint8Array.from(betweenChroma(coarse, width, height), (alpha) => alpha + 0.5);
  },
};
