import { type Planes, reducedPlanes } from '../picture';
import type { Pixels } from '../units';
import { partsOf } from './grid';
import { type Luma, lumaOf } from './luma';
import type { Strokes } from './matte';
import { makePatch, type PatchPose } from './patch-fit';
import { PointTracker } from './point-tracker';

/** One connected piece of what was painted: its pixels on the frame it was painted on, and their middle. */
interface StrokePiece {
  /** 1 belongs to the figure, 2 does not. */
  value: 1 | 2;
  pixels: Int32Array;
  x: Pixels;
  y: Pixels;
}

/** The pieces of what was painted on a frame. */
export function strokePieces(strokes: Strokes, width: Pixels, height: Pixels): StrokePiece[] {
  return ([1, 2] as const).flatMap((value) => {
    const data = new Uint8Array(strokes.length);
    for (let i = 0; i < data.length; i++) data[i] = strokes[i] === value ? 1 : 0;
    return partsOf({ width, height, data }, 1).map(({ pixels }) => ({ value, pixels: pixels.slice(), ...middleOf(pixels, width) }));
  });
}

/** Radius of what is followed with a piece, pixels of the followed picture: at least, and at most. */
const RADIUS = { least: 14, most: 60 };
/** Variance of brightness that can be held on to, code values squared. */
const HOLDS = 80;
/** Wider pictures are followed at half their size. */
const WIDE = 1000;

/**
 * Follows what was painted on a frame through those after it: each piece goes with the picture under it by shift, turn and scale, until it
 * is no longer found there; from then on it is null. Frames in order, all of one size.
 */
export class StrokeFollower {
  private readonly reduce: number;
  private readonly trackers: (PointTracker | null)[];

  constructor(frame: Planes, pieces: readonly StrokePiece[]) {
    this.reduce = frame.width > WIDE ? 2 : 1;
    const luma = this.small(frame);
    this.trackers = pieces.map(({ pixels, x, y }) => {
      const at = { x: x / this.reduce, y: y / this.reduce };
      const least = Math.max(RADIUS.least, Math.min(RADIUS.most, (0.6 * Math.sqrt(pixels.length)) / this.reduce));
      return new PointTracker(luma, { ...at, radius: holding(luma, at, least) });
    });
  }

  private small(frame: Planes): Luma {
    return lumaOf(this.reduce > 1 ? reducedPlanes(frame, this.reduce) : frame);
  }

  /** Where each piece lies in the next frame, pixels of it; null from where it is lost on. */
  next(frame: Planes): (PatchPose | null)[] {
    if (this.trackers.every((t) => t === null)) return this.trackers.map(() => null);
    const luma = this.small(frame);
    return this.trackers.map((tracker, i) => {
      const at = tracker?.next(luma);
      if (!at || at.lost) {
        this.trackers[i] = null;
        return null;
      }
      return { x: at.x * this.reduce, y: at.y * this.reduce, turn: at.turn, scale: at.scale };
    });
  }
}

/** What was painted as it lies on a later frame; null with nothing left of it. */
export function laidStrokes(
  pieces: readonly StrokePiece[],
  poses: readonly (PatchPose | null)[],
  width: Pixels,
  height: Pixels,
): Strokes | null {
  if (poses.every((p) => p === null)) return null;
  const out = new Uint8Array(width * height);
  for (const [k, { value, pixels, x, y }] of pieces.entries()) {
    const at = poses[k];
    if (!at) continue;
    const a = (at.turn * Math.PI) / 180;
    const [c, s] = [Math.cos(a) * at.scale, Math.sin(a) * at.scale];
    for (const i of pixels) {
      const [u, v] = [(i % width) + 0.5 - x, Math.floor(i / width) + 0.5 - y];
      const [px, py] = [at.x + c * u - s * v, at.y + s * u + c * v];
      // A pixel that lies between four is put on all it touches, so that a turned stroke has no holes.
      for (const ty of [Math.floor(py - 0.5), Math.ceil(py - 0.5)])
        for (const tx of [Math.floor(px - 0.5), Math.ceil(px - 0.5)])
          if (tx >= 0 && ty >= 0 && tx < width && ty < height) out[ty * width + tx] = value;
    }
  }
  return out;
}

/** The least radius at which there is something to hold on to around a place; an even shirt has nothing but its edge. */
function holding(luma: Luma, { x, y }: { x: Pixels; y: Pixels }, least: Pixels): Pixels {
  let radius = least;
  while (radius < RADIUS.most && makePatch(luma, { x, y, turn: 0, scale: 1 }, radius).energy < HOLDS) radius *= 1.5;
  return radius;
}

function middleOf(pixels: Int32Array, width: Pixels): { x: Pixels; y: Pixels } {
  let [sx, sy] = [0, 0];
  for (const i of pixels) {
    sx += (i % width) + 0.5;
    sy += Math.floor(i / width) + 0.5;
  }
  return { x: sx / pixels.length, y: sy / pixels.length };
}
