import { type EdgeLimits, type Seen, settledByKernel } from './edge-kernel';
import { boxMean, emptyMask, grow, type Mask, tidy } from './grid';
import { byLikeColour, LIKE_COLOUR } from './like-colour';
import { OWN, OWN_NEAR, OWN_VARIANCE, ownColour } from './own-colour';

/** Pixels to both sides of an edge within which it is settled anew. */
const BAND = 6;
/** Pixels inside it from which on the figure's own colours are read, where it is surely unlike the set: its rim has colours of its own. */
const INSIDE = 1;
/** Pixels around within which the figure's colour is looked for. */
const NEAR = 8;
/** Straying that is always granted, squared code values: of the set's brightness, of its colour, and of the figure. */
const GRANTED = { bright: 4, colour: 14, figure: 30 };
const COLOUR_SPREADS = 2 * Math.log(GRANTED.colour);
/** Times that the figure's colour may stray as it does nearby. */
const WIDER = 1.5;
/** How unlikely a pixel is said to be whose figure's colour is out of reach, as a logarithm. */
const UNKNOWN = 12;
/** The most that one pixel's likelihood counts, as a logarithm: a codec's single errors do not decide. */
const MOST = 3;
/** A gap in the figure (under an arm, between the legs): how surely it shows the set in the mean over pixels around, and its least width. */
const GAP = { sure: -1, around: 2, half: 2 };
/** Times that the edge is settled: the second time by the colours of a better figure. */
const TIMES = 2;
/** Specks and pinholes up to this many pixels go. */
const SPECK = 20;

/** All of these, and how those of like colour are asked together. */
const LIMITS: EdgeLimits = {
  band: BAND,
  inside: INSIDE,
  near: NEAR,
  granted: GRANTED,
  wider: WIDER,
  unknown: UNKNOWN,
  most: MOST,
  gaps: GAP,
  times: TIMES,
  speck: SPECK,
  alike: LIKE_COLOUR,
};

/** How much likelier pixel `i`, with its chroma at `j`, is the figure's than the set's, by normal spreads of both, as a logarithm. */
function likelier({ frame, plate, stray, contrast, usual }: Seen, own: Float32Array, i: number, j: number): number {
  const [y, u, v] = [frame.y[i], frame.u[j], frame.v[j]];
  const bright = stray[i] ** 2 + GRANTED.bright + usual[contrast[i]] ** 2;
  const [light, blue, red] = [y - plate.y[i], u - plate.u[j], v - plate.v[j]];
  const set = (light * light) / bright + Math.log(bright) + (blue * blue + red * red) / GRANTED.colour + COLOUR_SPREADS;
  const at = OWN * j;
  if (own[at + OWN_NEAR] === 0) return set / 2 - UNKNOWN;
  let [figure, spreads] = [0, 1];
  for (let c = 0; c < 3; c++) {
    const off = (c === 0 ? y : c === 1 ? u : v) - own[at + c];
    const spread = WIDER * own[at + OWN_VARIANCE + c] + GRANTED.figure;
    figure += (off * off) / spread;
    spreads *= spread;
  }
  return (set - figure - Math.log(spreads)) / 2;
}

/** What each pixel of `asked` says, no more than `MOST` for either; the others stand for `otherwise`. */
function saidBy(seen: Seen, own: Float32Array, asked: Mask, otherwise: Mask): Float32Array {
  const { width, height } = asked;
  const values = new Float32Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    const row = (y >> 1) * (width >> 1);
    for (let x = 0; x < width; x++, i++) {
      if (asked.data[i]) values[i] = Math.max(-MOST, Math.min(MOST, likelier(seen, own, i, row + (x >> 1))));
      else values[i] = otherwise.data[i] ? MOST : -MOST;
    }
  }
  return values;
}

/** Parts of a figure of `least` pixels and more that show the set: gaps that were taken for it because a codec smears what moves around them. */
function gapsIn(mask: Mask, values: Float32Array, least: number): Mask {
  const { width, height } = mask;
  const mean = boxMean(values, width, height, GAP.around);
  const gaps = emptyMask(width, height);
  for (let i = 0; i < mean.length; i++) gaps.data[i] = mask.data[i] && mean[i] < GAP.sure ? 1 : 0;
  return tidy(grow(grow(gaps, -GAP.half), GAP.half), least, 0);
}

/**
 * A figure's mask with its edge settled: within a few pixels of it, and of gaps of `gap` pixels and more inside, each pixel goes to whom its
 * colour is likelier of, the set behind it (known pixel by pixel, as far as noise and codec let it stray) or the figure nearby, by what its
 * neighbours of like colour say together. A difference from the set alone takes what a codec smears around a figure for the figure.
 */
export const settledEdge = (seen: Seen, found: Mask, gap: number): Mask =>
  settledByKernel(seen, found, gap, LIMITS) ?? settledPlainly(seen, found, gap);

/** The definition; the compiled pass must agree with it. */
export function settledPlainly(seen: Seen, found: Mask, gap: number): Mask {
  const { width, height } = found;
  let mask = found;
  for (let time = 0; time < TIMES; time++) {
    const [wide, deep, core] = [grow(mask, BAND), grow(mask, -BAND), grow(mask, -INSIDE)];
    for (let i = 0; i < core.data.length; i++) if (seen.apart[i] < 1) core.data[i] = 0;
    const own = ownColour(seen.frame, core, NEAR);
    const asked = emptyMask(width, height);
    // Gaps are looked for once; what is one is a part of the edge from then on.
    for (let i = 0; i < asked.data.length; i++)
      asked.data[i] = wide.data[i] && (time === 0 || !deep.data[i]) && (found.data[i] || !seen.shade[i]) ? 1 : 0;
    const values = saidBy(seen, own, asked, deep);
    if (time === 0) {
      const open = grow(gapsIn(mask, values, gap), BAND);
      for (let i = 0; i < values.length; i++) {
        if (!deep.data[i] || open.data[i]) continue;
        values[i] = MOST;
        asked.data[i] = 0;
      }
    }
    const together = byLikeColour(seen.frame, values, asked);
    mask = emptyMask(width, height);
    for (let i = 0; i < together.length; i++) mask.data[i] = together[i] > 0 ? 1 : 0;
    tidy(mask, SPECK, SPECK);
  }
  return mask;
}
