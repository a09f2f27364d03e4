import type { Unit } from '../units';
import type { Rgb } from './colour-table';

function hardLight(backdrop: Unit, source: Unit): Unit {
  return source <= 0.5 ? backdrop * 2 * source : backdrop + (2 * source - 1) - backdrop * (2 * source - 1);
}

function softLight(b: Unit, s: Unit): Unit {
  if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
  const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
  return b + (2 * s - 1) * (d - b);
}

/** Blends of one channel with itself, B(cb, cs), both 0..1: W3C Compositing and Blending Level 1, section 9.1 (plus: section 8, "plus-lighter"). */
const BY_CHANNEL = {
  normal: (_: Unit, s: Unit) => s,
  multiply: (b: Unit, s: Unit) => b * s,
  screen: (b: Unit, s: Unit) => b + s - b * s,
  overlay: (b: Unit, s: Unit) => hardLight(s, b),
  darken: (b: Unit, s: Unit) => Math.min(b, s),
  lighten: (b: Unit, s: Unit) => Math.max(b, s),
  'colour dodge': (b: Unit, s: Unit) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s))),
  'colour burn': (b: Unit, s: Unit) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
  'hard light': hardLight,
  'soft light': softLight,
  difference: (b: Unit, s: Unit) => Math.abs(b - s),
  exclusion: (b: Unit, s: Unit) => b + s - 2 * b * s,
  plus: (b: Unit, s: Unit) => Math.min(1, b + s),
};
type ByChannel = keyof typeof BY_CHANNEL;

const lum = ([r, g, b]: Rgb) => 0.3 * r + 0.59 * g + 0.11 * b;
const sat = (c: Rgb) => Math.max(...c) - Math.min(...c);

/** The colour made as light as said, drawn in where a channel would leave 0..1 (section 9.2, SetLum and ClipColor). */
function withLum(c: Rgb, wanted: Unit): Rgb {
  const by = wanted - lum(c);
  const moved = c.map((v) => v + by) as Rgb;
  const [l, low, high] = [lum(moved), Math.min(...moved), Math.max(...moved)];
  const from = low < 0 ? (moved.map((v) => l + ((v - l) * l) / (l - low)) as Rgb) : moved;
  return high > 1 ? (from.map((v) => l + ((v - l) * (1 - l)) / (high - l)) as Rgb) : from;
}

/** The colour made as saturated as said (SetSat). */
function withSat(c: Rgb, wanted: Unit): Rgb {
  const low = Math.min(...c);
  const spread = sat(c);
  return (spread > 0 ? c.map((v) => ((v - low) * wanted) / spread) : [0, 0, 0]) as Rgb;
}

/** Blends of all three channels together, section 9.2: backdrop and source to the mixed colour. */
const BY_COLOUR = {
  hue: (b: Rgb, s: Rgb) => withLum(withSat(s, sat(b)), lum(b)),
  saturation: (b: Rgb, s: Rgb) => withLum(withSat(b, sat(s)), lum(b)),
  colour: (b: Rgb, s: Rgb) => withLum(s, lum(b)),
  luminosity: (b: Rgb, s: Rgb) => withLum(b, lum(s)),
};

/** Blend modes: all of W3C Compositing and Blending Level 1, in its order, and plus. */
export const BLEND_MODES = [...Object.keys(BY_CHANNEL), ...Object.keys(BY_COLOUR)] as (ByChannel | keyof typeof BY_COLOUR)[];
export type BlendMode = (typeof BLEND_MODES)[number];

/** What a mode makes of a source's colour on a backdrop's, R'G'B' 0..1, into `out`. */
export function blender(mode: BlendMode): (backdrop: Rgb, source: Rgb, out: Rgb) => void {
  if (mode in BY_COLOUR) {
    const mix = BY_COLOUR[mode as keyof typeof BY_COLOUR];
    return (b, s, out) => {
      [out[0], out[1], out[2]] = mix(b, s);
    };
  }
  const mix = BY_CHANNEL[mode as ByChannel];
  return (b, s, out) => {
    for (let c = 0; c < 3; c++) out[c] = mix(b[c], s[c]);
  };
}
