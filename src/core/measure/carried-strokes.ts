import { type Planes, reducedPlanes } from '../picture';
import { partsOf } from './grid';
import { lumaOf } from './luma';
import type { Strokes } from './matte';
import { makePatch } from './patch-fit';
import { PointTracker, type TrackedPoint } from './point-tracker';

/** A stroke in the picture it was painted on, and how it has moved since. */
interface Carried {
  value: number;
  pixels: Int32Array;
  x: number;
  y: number;
  tracker: PointTracker;
}

/** Radius of what is followed with a stroke, pixels: at least, and at most. */
const RADIUS = { least: 14, most: 60 };
/** Variance of brightness that can be held on to, code values squared. */
const HOLDS = 80;
/** Wider pictures are followed at half their size. */
const WIDE = 1000;

/**
 * Carries painted corrections along with what they were painted on: each stroke follows the picture under it by shift, turn and scale,
 * until it is no longer found there; from then on it is left out. Frames in order, all of the size of the strokes.
 */
export class CarriedStrokes {
  private readonly reduce: number;
  private strokes: Carried[] = [];

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.reduce = width > WIDE ? 2 : 1;
  }

  private small(frame: Planes) {
    return lumaOf(this.reduce > 1 ? reducedPlanes(frame, this.reduce) : frame);
  }

  /** Strokes painted on a frame take the place of those carried until then. */
  begin(frame: Planes, strokes: Strokes): void {
    const { width, height, reduce } = this;
    const luma = this.small(frame);
    this.strokes = [];
    for (const value of [1, 2]) {
      const data = new Uint8Array(strokes.length);
      for (let i = 0; i < data.length; i++) data[i] = strokes[i] === value ? 1 : 0;
      for (const { pixels } of partsOf({ width, height, data }, 1)) {
        const kept = pixels.slice();
        const [x, y] = middleOf(kept, width);
        const at = { x: x / reduce, y: y / reduce };
        const least = Math.max(RADIUS.least, Math.min(RADIUS.most, 0.6 * Math.sqrt(kept.length))) / reduce;
        this.strokes.push({ value, pixels: kept, x, y, tracker: new PointTracker(luma, { ...at, radius: holding(luma, at, least) }) });
      }
    }
  }

  /** Whether any stroke is still carried. */
  get any(): boolean {
    return this.strokes.length > 0;
  }

  /** The strokes as they lie on the next frame; null with none left. */
  next(frame: Planes): Strokes | null {
    if (!this.any) return null;
    const luma = this.small(frame);
    const out = new Uint8Array(this.width * this.height);
    this.strokes = this.strokes.filter((stroke) => {
      const at = stroke.tracker.next(luma);
      if (at.lost) return false;
      this.laid(stroke, at, out);
      return true;
    });
    return this.any ? out : null;
  }

  private laid({ value, pixels, x, y }: Carried, at: TrackedPoint, out: Strokes): void {
    const { width, height, reduce } = this;
    const a = (at.turn * Math.PI) / 180;
    const [c, s] = [Math.cos(a) * at.scale, Math.sin(a) * at.scale];
    for (const i of pixels) {
      const [u, v] = [(i % width) + 0.5 - x, Math.floor(i / width) + 0.5 - y];
      const [px, py] = [at.x * reduce + c * u - s * v, at.y * reduce + s * u + c * v];
      // A pixel that lies between four is put on all it touches, so that a turned stroke has no holes.
      for (const ty of [Math.floor(py - 0.5), Math.ceil(py - 0.5)])
        for (const tx of [Math.floor(px - 0.5), Math.ceil(px - 0.5)])
          if (tx >= 0 && ty >= 0 && tx < width && ty < height) out[ty * width + tx] = value;
    }
  }
}

/** The least radius at which there is something to hold on to around a place; an even shirt has nothing but its edge. */
function holding(luma: Luma, { x, y }: { x: number; y: number }, least: number): number {
  let radius = least;
  while (radius < RADIUS.most && makePatch(luma, { x, y, turn: 0, scale: 1 }, radius).energy < HOLDS) radius *= 1.5;
  return radius;
}

function middleOf(pixels: Int32Array, width: number): [number, number] {
  let [sx, sy] = [0, 0];
  for (const i of pixels) {
    sx += (i % width) + 0.5;
    sy += Math.floor(i / width) + 0.5;
  }
  return [sx / pixels.length, sy / pixels.length];
}
