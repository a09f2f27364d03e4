import type { Planes } from '../picture';
import type { Backdrop } from './backdrop';
import { type FigureFound, figureByKernel } from './figure-kernel';
import { boxMean, emptyMask, grow, type Mask, partsOf, tidy } from './grid';
import { shadowOf, unlikeness } from './occupancy';

/** Unlikeness from which on a pixel is no part of the set, whatever the codec made of it; in multiples of the limit of chance. */
const SURELY = 1.3;
/** Times the unlikeness that is usual around a pixel from which on it is no chance; the limit lies between the others. */
const BEYOND = { times: 3.2, least: 1, most: 2.2 };
/** How far around a pixel the usual is looked for, and how far from the figure, as shares of the frame's height. */
const AROUND = 0.09;
const AWAY = 0.02;

/** Pixels to one that the usual is worked out at: it changes slowly. */
const COARSE = 4;

/**
 * The limit of chance in each square of `COARSE` pixels of a frame, row by row, from what is unlike there: sums over the pixels, each no more than
 * `SURELY`, and 1 in `taken` where the figure is. What a codec leaves differs from place to place; only what is away from the figure tells.
 */
function limitsAround(sums: Float32Array, taken: Uint8Array, width: number, height: number): Float32Array {
  const [w, h] = [Math.ceil(width / COARSE), Math.ceil(height / COARSE)];
  const away = grow({ width: w, height: h, data: taken }, Math.max(1, Math.round((AWAY * height) / COARSE)));
  const own = new Float32Array(w * h);
  const weight = new Float32Array(w * h);
  let [sum, n] = [0, 0];
  for (let y = 0, i = 0; y < h; y++) {
    const rows = Math.min(COARSE, height - COARSE * y);
    for (let x = 0; x < w; x++, i++) {
      if (away.data[i]) continue;
      own[i] = sums[i] / (rows * Math.min(COARSE, width - COARSE * x));
      weight[i] = 1;
      sum += own[i];
      n++;
    }
  }
  const reach = Math.max(1, Math.round((AROUND * height) / COARSE));
  const [near, share] = [boxMean(own, w, h, reach), boxMean(weight, w, h, reach)];
  const all = n > 0 ? sum / n : 0.3;
  // Beside the figure, where little is left to look at, the rest of the frame speaks too.
  return near.map((v, i) => Math.max(BEYOND.least, Math.min(BEYOND.most, (BEYOND.times * (v + 0.1 * all)) / (share[i] + 0.1))));
}

/** The limit of chance around each place of a frame. */
function limitsFor(values: Float32Array, { width, height, data }: Mask): Float32Array {
  const w = Math.ceil(width / COARSE);
  const sums = new Float32Array(w * Math.ceil(height / COARSE));
  const taken = new Uint8Array(sums.length);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.floor(y / COARSE) * w;
    for (let x = 0; x < width; x++, i++) {
      const at = row + (x >> 2);
      sums[at] += Math.min(SURELY, values[i]);
      if (data[i]) taken[at] = 1;
    }
  }
  return limitsAround(sums, taken, width, height);
}

/** Keeps the parts of a mask that hold something that is surely no set, in place. */
function held(mask: Mask, sure: Mask, least: number): Mask {
  for (const { pixels } of partsOf(mask, 1)) {
    let n = 0;
    for (const i of pixels) n += sure.data[i];
    if (n < least) for (const i of pixels) mask.data[i] = 0;
  }
  return mask;
}

/** The figure as what is unlike the set and no shadow: where it is surely so, and what hangs on to that by less. */
export const findFigure = (frame: Planes, backdrop: Backdrop): FigureFound =>
  figureByKernel(frame, backdrop, SURELY, limitsAround, leastOf(backdrop.planes)) ?? findPlainly(frame, backdrop);

/** Pixels from which on something sure counts, and those of parts and holes of the figure. */
const leastOf = ({ width, height }: Planes) => ({ sure: (width * height) / 10000, part: (width * height) / 20000 });

/** The definition; the compiled pass must agree with it. */
export function findPlainly(frame: Planes, backdrop: Backdrop): FigureFound {
  const { width, height } = backdrop.planes;
  const least = leastOf(backdrop.planes);
  const unlike = unlikeness(frame, backdrop);
  const shade = shadowOf(unlike, width, height);
  const smooth = boxMean(unlike.values, width, height, 1);
  const sure = emptyMask(width, height);
  for (let i = 0; i < shade.length; i++) sure.data[i] = smooth[i] > SURELY && !shade[i] ? 1 : 0;
  tidy(sure, least.sure, 0);
  const limits = limitsFor(smooth, sure);
  const mask = emptyMask(width, height);
  const apart = new Float32Array(shade.length);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.floor(y / COARSE) * Math.ceil(width / COARSE);
    for (let x = 0; x < width; x++, i++) {
      const limit = limits[row + (x >> 2)];
      apart[i] = smooth[i] / limit;
      mask.data[i] = apart[i] > 1 && unlike.values[i] * 2.5 > limit && !shade[i] ? 1 : 0;
    }
  }
  held(mask, sure, least.sure);
  return { mask: tidy(mask, least.part, least.part), apart, shade, usual: unlike.usual };
}
