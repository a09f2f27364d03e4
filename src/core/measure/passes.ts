import { compiled } from '../compiled';
import { KERNEL_BASE64 } from './kernel-bytes';

interface Passes {
  distances(
    fy: number,
    fu: number,
    fv: number,
    by: number,
    bu: number,
    bv: number,
    width: number,
    height: number,
    values: number,
    ratio: number,
    colour: number,
    plain: number,
  ): void;
  weighed(
    values: number,
    colour: number,
    plain: number,
    stray: number,
    contrast: number,
    bright: number,
    tinted: number,
    widest: number,
    n: number,
  ): void;
  unevenness(means: number, squares: number, n: number): void;
  rowSums(luma: number, width: number, height: number, step: number, high: number, low: number, out: number): void;
  thinned(luma: number, sw: number, factor: number, out: number, width: number, height: number): void;
  smallBoxMean(values: number, w: number, h: number, reach: number, rows: number, out: number): void;
  byLikeColour(
    y: number,
    u: number,
    v: number,
    values: number,
    asked: number,
    width: number,
    height: number,
    around: number,
    voice: number,
    chroma: number,
    out: number,
  ): void;
  joined(bytes: number, further: number, n: number): void;
  follow(
    luma: number,
    width: number,
    height: number,
    heads: number,
    values: number,
    count: number,
    size: number,
    reach: number,
    rows: number,
  ): void;
}

/** The compiled measures, or null where the plain ones serve. */
export const measuring = compiled<Passes>(KERNEL_BASE64);

/** The same passes with a memory of their own, where something is to stay from frame to frame. */
export const ownPasses = () => compiled<Passes>(KERNEL_BASE64);
