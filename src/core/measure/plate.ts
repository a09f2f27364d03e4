import type { Planes } from '../picture';
import { blackPlanes } from '../picture';
import { median, type Unit } from '../units';
import { say } from '../words';
import { countOf, emptyMask, type Mask, tidy } from './grid';

/** The empty set, made from frames in which people and things pass. */
export interface CleanPlate {
  planes: Planes;
  /** Spread (RMS) of the frames' brightness around it, quarters of a code value: noise, and more where leaves or water move. */
  spread: Uint8Array;
  /** Share of the frames that agree with it, 0..255 for 0..1: fewer where somebody passes, and where leaves move. */
  agree: Uint8Array;
  /** 1 where too few frames agree on what stands behind. */
  holes: Mask;
  holeShare: Unit;
}

/** The most frames a plate is made of. */
export const PLATE_FRAMES = 25;

/** Share of the frames that must agree on a pixel. */
const AGREE = 0.34;

/** The brightness of pixel `i` in each frame, ascending, each with its frame's number in the lower five bits. */
function stack(frames: readonly Planes[], i: number, values: Uint16Array): void {
  for (let k = 0; k < values.length; k++) {
    const v = (frames[k].y[i] << 5) | k;
    let at = k;
    while (at > 0 && values[at - 1] > v) {
      values[at] = values[at - 1];
      at--;
    }
    values[at] = v;
  }
}

/** Lowest and highest brightness of the narrowest cluster of `need` values. */
function narrowest(values: Uint16Array, need: number): [number, number] {
  let best = 0;
  const gap = (k: number) => (values[k + need - 1] >> 5) - (values[k] >> 5);
  for (let k = 1; k + need <= values.length; k++) if (gap(k) < gap(best)) best = k;
  return [values[best] >> 5, values[best + need - 1] >> 5];
}

function rmsAround(values: Uint16Array, middle: number): number {
  let sum = 0;
  for (const v of values) sum += ((v >> 5) - middle) ** 2;
  return Math.sqrt(sum / values.length);
}

/**
 * A clean plate from 1 to `PLATE_FRAMES` frames of one size, already laid over each other and matched in light. Each pixel is
 * the middle of the narrowest cluster that holds a third of its values (the shorth, Andrews et al. 1972), which is the set
 * even where somebody stands in it for most of the time; where no cluster is as narrow as the noise, there is a hole.
 * With `nobody` true the frames are known to be empty: there are no holes, and all that moves counts into the spread.
 */
export function cleanPlate(frames: readonly Planes[], nobody: boolean): CleanPlate {
  const [{ width, height }] = frames;
  const planes = blackPlanes(width, height);
  const n = Math.min(frames.length, PLATE_FRAMES);
  const need = Math.min(n, Math.max(3, Math.ceil(n * AGREE)));
  const half = width / 2;
  const spread = new Uint8Array(width * height);
  const agree = new Uint8Array(width * height);
  const narrow = new Uint8Array(width * height);
  const values = new Uint16Array(n);
  const sums = new Float32Array(3 * planes.u.length);
  for (let i = 0; i < spread.length; i++) {
    stack(frames, i, values);
    const [low, high] = narrowest(values, need);
    // All that lies as near the cluster as it is wide belongs to it.
    const slack = nobody ? 255 : Math.max(2, high - low);
    const x = i % width;
    const j = (((i - x) / width) >> 1) * half + (x >> 1);
    const from = values.findIndex((v) => v >> 5 >= low - slack);
    let to = n;
    while (values[to - 1] >> 5 > high + slack) to--;
    const own = values.subarray(from, to);
    let sum = 0;
    for (const v of own) {
      sum += v >> 5;
      sums[3 * j] += frames[v & 31].u[j];
      sums[3 * j + 1] += frames[v & 31].v[j];
    }
    sums[3 * j + 2] += own.length;
    const middle = sum / own.length;
    planes.y[i] = Math.round(middle);
    spread[i] = Math.min(255, Math.round(4 * rmsAround(own, middle)));
    agree[i] = Math.round((255 * own.length) / n);
    narrow[i] = high - low;
  }
  for (let j = 0; j < planes.u.length; j++) {
    planes.u[j] = Math.round(sums[3 * j] / sums[3 * j + 2]);
    planes.v[j] = Math.round(sums[3 * j + 1] / sums[3 * j + 2]);
  }
  const holes = n > 2 && !nobody ? holesOf(narrow, width, height) : emptyMask(width, height);
  return { planes, spread, agree, holes, holeShare: countOf(holes) / holes.data.length };
}

/** Where even the narrowest cluster is much wider than is usual over the picture. */
function holesOf(narrow: Uint8Array, width: number, height: number): Mask {
  const holes = emptyMask(width, height);
  const usual = median(narrow.filter((_, i) => i % 97 === 0));
  const limit = Math.max(6, 5 * usual);
  for (let i = 0; i < narrow.length; i++) holes.data[i] = narrow[i] > limit ? 1 : 0;
  return tidy(holes, Math.max(12, (width * height) / 20000), 40);
}

/** A sentence about a plate. */
export function plateVerdict({ holeShare }: CleanPlate, frames: number): { level: 'good' | 'fix'; text: string } {
  if (holeShare < 0.0005) return { level: 'good', text: say`The empty set is complete, from ${frames} frames.` };
  return {
    level: 'fix',
    text: say`${(100 * holeShare).toFixed(1)} % of the empty set has holes: somebody stood there in most frames, or it never held still. Film a plate with nobody in it, or take in a take that stands elsewhere.`,
  };
}
