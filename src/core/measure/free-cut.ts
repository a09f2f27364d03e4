import { type Planes, toRgba } from '../picture';
import { clamp, type Unit } from '../units';
import { say } from '../words';
import { boxAround, cropped, pasted } from './around';
import type { Backdrop } from './backdrop';
import { boxMean, emptyMask, grow, type Mask, partsOf, tidy } from './grid';
import { guidedLine } from './guided';
import type { Matte, Strokes } from './matte';
import { unlikeness } from './occupancy';

/** The part of OpenCV.js that is used here; whoever calls loads it, for it is large. */
export interface GrabCutLibrary {
  Mat: new () => GrabCutMat;
  Rect: new (x: number, y: number, width: number, height: number) => object;
  matFromArray(rows: number, cols: number, type: number, data: ArrayLike<number>): GrabCutMat;
  grabCut(
    image: GrabCutMat,
    mask: GrabCutMat,
    rect: object,
    background: GrabCutMat,
    figure: GrabCutMat,
    rounds: number,
    mode: number,
  ): void;
  CV_8UC1: number;
  CV_8UC3: number;
  GC_BGD: number;
  GC_FGD: number;
  GC_PR_BGD: number;
  GC_PR_FGD: number;
  GC_INIT_WITH_MASK: number;
}
interface GrabCutMat {
  data: Uint8Array;
  delete(): void;
}

/** A stroke that only says "it is in here": what lies outside all such is background. The others are as in a matte. */
export const AROUND = 3;

/** Pixels across at which GrabCut works; finer takes long and gains nothing, for the edge is found at full size after it. */
const WORKING_WIDTH = 400;
const ROUNDS = 5;
/** Contrast that the edge is not drawn to, shares of full brightness squared. */
const SMOOTH = 2e-4;
/** A segmentation that says less than this, or more than all but this, is sure. */
const UNSURE = 0.15;

/** A plane of values at another size, bilinear. */
export function resized(values: ArrayLike<number>, width: number, height: number, toWidth: number, toHeight: number): Float32Array {
  const out = new Float32Array(toWidth * toHeight);
  for (let y = 0; y < toHeight; y++) {
    const v = Math.max(0, Math.min(height - 1, ((y + 0.5) * height) / toHeight - 0.5));
    const y0 = Math.floor(v);
    const y1 = Math.min(height - 1, y0 + 1);
    for (let x = 0; x < toWidth; x++) {
      const u = Math.max(0, Math.min(width - 1, ((x + 0.5) * width) / toWidth - 0.5));
      const x0 = Math.floor(u);
      const x1 = Math.min(width - 1, x0 + 1);
      const top = values[y0 * width + x0] * (1 - u + x0) + values[y0 * width + x1] * (u - x0);
      const low = values[y1 * width + x0] * (1 - u + x0) + values[y1 * width + x1] * (u - x0);
      out[y * toWidth + x] = top * (1 - v + y0) + low * (v - y0);
    }
  }
  return out;
}

/** Where a segmentation says there may be a person, widened by a margin, and where there surely is one, less that margin. */
function sureParts(person: ArrayLike<Unit>, width: number, height: number, margin: number): { near: Mask; core: Mask } {
  const may = emptyMask(width, height);
  const must = emptyMask(width, height);
  for (let i = 0; i < may.data.length; i++) {
    may.data[i] = person[i] > UNSURE ? 1 : 0;
    must.data[i] = person[i] > 1 - UNSURE ? 1 : 0;
  }
  return { near: grow(may, margin), core: grow(must, -margin) };
}

/** What is known beforehand of each pixel, as GrabCut's classes; null when nothing says where the figure is. */
function seeds(cv: GrabCutLibrary, person: Float32Array | null, strokes: Strokes | null, width: number, height: number): Uint8Array | null {
  const size = width * height;
  const out = new Uint8Array(size).fill(cv.GC_BGD);
  const parts = person && sureParts(person, width, height, Math.max(1, Math.round(width / 200)));
  let any = false;
  for (let i = 0; i < size; i++) {
    if (parts?.near.data[i]) out[i] = person && person[i] > 0.5 ? cv.GC_PR_FGD : cv.GC_PR_BGD;
    if (parts?.core.data[i]) out[i] = cv.GC_FGD;
    if (strokes?.[i] === AROUND && out[i] === cv.GC_BGD) out[i] = cv.GC_PR_FGD;
    if (strokes?.[i] === 1) out[i] = cv.GC_FGD;
    if (strokes?.[i] === 2) out[i] = cv.GC_BGD;
    any ||= out[i] === cv.GC_FGD || out[i] === cv.GC_PR_FGD;
  }
  return any ? out : null;
}

/** Specks go, and holes are filled: a hole as large as a hundredth of the picture shows the set (arms akimbo) and stays. */
function wholeFigure(mask: Mask): Mask {
  const size = mask.data.length;
  const figure = tidy(grow(grow(mask, -1), 1), size / 400, 0);
  for (const part of partsOf(figure, 0))
    if (!part.touchesEdge && part.pixels.length < size / 100) for (const i of part.pixels) figure.data[i] = 1;
  return figure;
}

/**
 * Cut-out of a figure or an object from one frame with nothing known of what is behind it: GrabCut (Rother, Kolmogorov & Blake
 * 2004, by OpenCV) started from how surely each pixel is a person (`person`, 0..1, of the frame's size, by a segmentation) and
 * from what the user drew, then the edge by a guided filter. Throws a sentence when neither says where the figure is, or when
 * nothing of it is left.
 */
export function freeCut(cv: GrabCutLibrary, frame: Planes, person: ArrayLike<Unit> | null, strokes: Strokes | null): Matte {
  const { width, height } = frame;
  const w = Math.min(width, WORKING_WIDTH);
  const h = Math.round((w * height) / width);
  const rgba = new Uint8ClampedArray(4 * width * height);
  toRgba(frame, rgba);
  const small = [0, 1, 2].map((c) => resized(boxed(rgba, c, width, height, w), width, height, w, h));
  const rgb = new Uint8Array(3 * w * h);
  for (let i = 0; i < w * h; i++) for (let c = 0; c < 3; c++) rgb[3 * i + c] = small[c][i];
  const known = seeds(cv, person && resized(person, width, height, w, h), strokes && nearest(strokes, width, height, w, h), w, h);
  if (!known)
    throw new Error(
      say`Nobody was recognised in this frame. Draw around the figure or object with the lasso; that is enough to start from.`,
    );
  const mask = wholeFigure(grabbed(cv, rgb, known, w, h));
  if (!mask.data.includes(1)) throw new Error(say`Nothing of the figure could be told from what is behind it. Draw on it with the brush.`);
  const soft = resized(boxMean(Float32Array.from(mask.data), w, h, 1), w, h, width, height);
  const guide = Float32Array.from(frame.y, (v) => v / 255);
  const { slope, offset } = guidedLine(guide, soft, width, height, Math.max(2, Math.round(width / 320)), SMOOTH);
  const edge = guide.map((g, k) => Math.max(0, Math.min(1, slope[k] * g + offset[k])));
  return {
    width,
    height,
    alpha: Uint8Array.from(edge, (v, i) => {
      if (strokes?.[i] === 1) return 255;
      if (strokes?.[i] === 2 || soft[i] < 0.02) return 0;
      return soft[i] > 0.98 ? 255 : Math.round(255 * Math.max(0, Math.min(1, (v - 0.2) / 0.6)));
    }),
  };
}

/** Room around where the figure may be that shows the set's colours, as a share of the picture's width. */
const ROOM = 0.12;

/** What GrabCut says is the figure; only where it may be, and around, is looked at. */
function grabbed(cv: GrabCutLibrary, rgb: Uint8Array, known: Uint8Array, w: number, h: number): Mask {
  const found = emptyMask(w, h);
  const box = boxAround([known.map((k) => (k === cv.GC_BGD ? 0 : 1))], w, h, Math.round(ROOM * w));
  if (!box) return found;
  const part = new Uint8Array(3 * box.width * box.height);
  for (let y = 0; y < box.height; y++) {
    const at = 3 * ((box.top + y) * w + box.left);
    part.set(rgb.subarray(at, at + 3 * box.width), 3 * y * box.width);
  }
  const classesHere = cropped(known, w, box);
  const mats = [
    cv.matFromArray(box.height, box.width, cv.CV_8UC3, part),
    cv.matFromArray(box.height, box.width, cv.CV_8UC1, classesHere),
    new cv.Mat(),
    new cv.Mat(),
  ];
  const [image, classes, background, figure] = mats;
  try {
    cv.grabCut(image, classes, new cv.Rect(0, 0, box.width, box.height), background, figure, ROUNDS, cv.GC_INIT_WITH_MASK);
    pasted(
      classes.data.map((k) => k & 1),
      found.data,
      w,
      box,
    );
  } finally {
    for (const mat of mats) mat.delete();
  }
  return found;
}

/** Straying of the empty set from which on the difference from it says little, code values: leaves, water, or a hole. */
const RESTLESS = 6;

/** Where a set moves by itself or is not known, 1; there a cut-out by difference needs a person segmentation beside it. */
export function restless({ planes: { width, height }, stray }: Backdrop): Mask {
  return { width, height, data: Uint8Array.from(stray, (s) => (s > RESTLESS ? 1 : 0)) };
}

/** Whether most of what is surely a person (`person`, 0..1, of the frame's size) looks just like the set: they stood in its plate. */
export function standsInPlate(frame: Planes, backdrop: Backdrop, person: ArrayLike<Unit>): boolean {
  const { values } = unlikeness(frame, backdrop);
  const moving = restless(backdrop).data;
  let [sure, alike] = [0, 0];
  for (let i = 0; i < values.length; i++) {
    if (person[i] < 0.9 || moving[i]) continue;
    sure++;
    if (values[i] < 1) alike++;
  }
  return alike > sure / 2;
}

/**
 * A cut-out by difference (`matte`, of a frame that lies on its backdrop) mended where the set moves by itself or is not surely
 * known: what a segmentation is sure is a person (`person`, 0..1, of the frame's size) belongs to it, what it is sure is none does
 * not, and the difference decides between.
 */
export function joinedCut(backdrop: Backdrop, matte: Matte, person: ArrayLike<Unit>, strokes: Strokes | null): Matte {
  const { width, height } = matte;
  const { near, core } = sureParts(person, width, height, Math.round(width / 200));
  // A still spot among leaves is no more to be trusted than they are.
  const { data } = restless(backdrop);
  const unsure = boxMean(
    Float32Array.from(data, (m, i) => m | backdrop.doubtful[i]),
    width,
    height,
    3,
  );
  const alpha = matte.alpha.map((a, i) => {
    if (unsure[i] < 0.2 || strokes?.[i]) return a;
    if (core.data[i]) return 255;
    if (!near.data[i]) return 0;
    // Where the plate does not know what stands behind, its difference cannot decide: the segmentation's own edge stands.
    return backdrop.doubtful[i] ? Math.round(255 * clamp((person[i] - 0.35) / 0.3, 0, 1)) : a;
  });
  return { width, height, alpha };
}

/** A colour channel of a picture, averaged so that it may be made small. */
function boxed(rgba: Uint8ClampedArray, channel: number, width: number, height: number, to: number): Float32Array {
  const values = Float32Array.from({ length: width * height }, (_, i) => rgba[4 * i + channel]);
  const reach = Math.floor(width / to / 2);
  return reach > 0 ? boxMean(values, width, height, reach) : values;
}

function nearest(values: Uint8Array, width: number, height: number, toWidth: number, toHeight: number): Uint8Array {
  return Uint8Array.from({ length: toWidth * toHeight }, (_, i) => {
    const x = i % toWidth;
    const y = (i - x) / toWidth;
    return values[Math.floor(((y + 0.5) * height) / toHeight) * width + Math.floor(((x + 0.5) * width) / toWidth)];
  });
}
