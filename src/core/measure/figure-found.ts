import type { Planes } from '../picture';
import type { Backdrop } from './backdrop';
import { boxMean, emptyMask, grow, type Mask, partsOf, tidy } from './grid';
import { shadowOf, unlikeness } from './occupancy';

/** What of a frame is the figure, at the first look; with what was seen. */
export interface FigureFound {
  mask: Mask;
  /** How unlike the set each pixel is, smoothed over its neighbours, in multiples of what sets the figure apart there: 1 is the limit. */
  apart: Float32Array;
  /** 1 where a shadow lies on the set. */
  shade: Uint8Array;
  /** How far brightness usually is from the set's at each contrast, code values. */
  usual: Float32Array;
}

/** Unlikeness from which on a pixel is no part of the set, whatever the codec made of it; in multiples of the limit of chance. */
const SURELY = 1.3;
/** Times the unlikeness that is usual around a pixel from which on it is no chance; the limit lies between the others. */
const BEYOND = { times: 3.2, least: 1, most: 2.2 };
/** How far around a pixel the usual is looked for, and how far from the figure, as shares of the frame's height. */
const AROUND = 0.09;
const AWAY = 0.02;

/** Pixels to one that the usual is worked out at: it changes slowly. */
const COARSE = 4;

/** What is usual away from the figure, on a coarse grid. */
interface Usual {
  values: Float32Array;
  width: number;
}

/** Unlikeness that is usual around each place away from the figure: what a codec leaves differs from place to place. */
function usualAround(values: Float32Array, figure: Mask): Usual {
  const { width, height } = figure;
  const [w, h] = [Math.ceil(width / COARSE), Math.ceil(height / COARSE)];
  const [own, taken] = [new Float32Array(w * h), emptyMask(w, h)];
  const counts = new Float32Array(w * h);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.floor(y / COARSE) * w;
    for (let x = 0; x < width; x++, i++) {
      const at = row + (x >> 2);
      own[at] += values[i] < SURELY ? values[i] : SURELY;
      counts[at]++;
      if (figure.data[i]) taken.data[at] = 1;
    }
  }
  const away = grow(taken, Math.max(1, Math.round((AWAY * height) / COARSE)));
  const weight = new Float32Array(w * h);
  let [sum, n] = [0, 0];
  for (let i = 0; i < own.length; i++) {
    weight[i] = away.data[i] ? 0 : 1;
    own[i] = away.data[i] ? 0 : own[i] / counts[i];
    sum += own[i];
    n += weight[i];
  }
  const reach = Math.max(1, Math.round((AROUND * height) / COARSE));
  const [near, share] = [boxMean(own, w, h, reach), boxMean(weight, w, h, reach)];
  const all = n > 0 ? sum / n : 0.3;
  // Beside the figure, where little is left to look at, the rest of the frame speaks too.
  for (let i = 0; i < near.length; i++) near[i] = (near[i] + 0.1 * all) / (share[i] + 0.1);
  return { values: near, width: w };
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
export function findFigure(frame: Planes, backdrop: Backdrop): FigureFound {
  const { width, height } = backdrop.planes;
  const size = width * height;
  const unlike = unlikeness(frame, backdrop);
  const shade = shadowOf(unlike, width, height);
  const smooth = boxMean(unlike.values, width, height, 1);
  const sure = emptyMask(width, height);
  for (let i = 0; i < size; i++) sure.data[i] = smooth[i] > SURELY && !shade[i] ? 1 : 0;
  tidy(sure, size / 10000, 0);
  const usual = usualAround(smooth, sure);
  const mask = emptyMask(width, height);
  const apart = new Float32Array(size);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.floor(y / COARSE) * usual.width;
    for (let x = 0; x < width; x++, i++) {
      const limit = Math.max(BEYOND.least, Math.min(BEYOND.most, BEYOND.times * usual.values[row + (x >> 2)]));
      apart[i] = smooth[i] / limit;
      mask.data[i] = apart[i] > 1 && unlike.values[i] * 2.5 > limit && !shade[i] ? 1 : 0;
    }
  }
  held(mask, sure, size / 10000);
  return { mask: tidy(mask, size / 20000, size / 20000), apart, shade, usual: unlike.usual };
}
