import { compiled } from '../compiled';
import { KERNEL_BASE64 } from './kernel-bytes';

export interface Passes {
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
  grown(mask: number, w: number, h: number, by: number, pad: number, out: number): void;
  floats(bytes: number, out: number, n: number): void;
  changes(a: number, b: number, out: number, n: number): void;
  evened(now: number, before: number, change: number, limit: number, kept: number, n: number): void;
  keptFrom(mask: number, values: number, least: number, n: number): void;
  beyond(values: number, limit: number, out: number, n: number): void;
  within(mask: number, values: number, limit: number, out: number, n: number): void;
  without(mask: number, other: number, out: number, n: number): void;
  askedIn(wide: number, found: number, shade: number, out: number, n: number): void;
  settled(deep: number, open: number, values: number, asked: number, most: number, n: number): void;
  covered(
    core: number,
    wide: number,
    raw: number,
    even: number,
    own: number,
    taps: number,
    count: number,
    w: number,
    h: number,
    out: number,
  ): void;
  labelled(mask: number, w: number, h: number, value: number, runs: number, part: number, size: number, edge: number): number;
  turned(
    mask: number,
    value: number,
    runs: number,
    part: number,
    size: number,
    edge: number,
    count: number,
    least: number,
    inner: number,
  ): void;
  ownColour(
    y: number,
    u: number,
    v: number,
    core: number,
    width: number,
    h: number,
    reach: number,
    sums: number,
    rows: number,
    out: number,
  ): void;
  saidBy(
    fy: number,
    fu: number,
    fv: number,
    by: number,
    bu: number,
    bv: number,
    far: number,
    contrast: number,
    usual: number,
    own: number,
    asked: number,
    otherwise: number,
    width: number,
    height: number,
    bright: number,
    tinted: number,
    figure: number,
    wider: number,
    unknown: number,
    most: number,
    out: number,
  ): void;
  shares(
    fy: number,
    fu: number,
    fv: number,
    by: number,
    bu: number,
    bv: number,
    own: number,
    asked: number,
    otherwise: number,
    width: number,
    height: number,
    trusted: number,
    out: number,
  ): void;
  among(mask: number, runs: number, part: number, size: number, count: number): void;
  squared(values: number, out: number, n: number): void;
  shaded(ratio: number, colour: number, rough: number, dark: number, light: number, even: number, out: number, n: number): void;
  surely(values: number, shade: number, limit: number, out: number, n: number): void;
  coarsened(values: number, mask: number, w: number, h: number, most: number, sums: number, any: number): void;
  apartFrom(smooth: number, values: number, shade: number, limits: number, w: number, h: number, apart: number, mask: number): void;
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

/** Passes with a memory in which a figure is cut out step by step: it stays while plain steps in between use the other. */
export const cutting = ownPasses();
