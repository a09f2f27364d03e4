import { type Planes, reducedPlanes } from '../picture';
import { lengthOf, median } from '../units';
import { gridFactor } from './backdrop';
import { countOf, emptyMask, grow, type Mask, partsOf, tidy } from './grid';
import type { CleanPlate } from './plate';

/** What moves strays by this many code values and times what is usual over the picture. */
const MOVES = { least: 2, usual: 3 };
/** Two takes show something else at a pixel of the grid where they differ by more, code values of brightness and of colour. */
const OTHER = { bright: 12, colour: 9 };
/** A part of this share of the grid is a hand or more. */
const HAND = 1 / 600;
/** Share of a part in which something moves from which on it is somebody there. */
const ALIVE = 0.03;
/** Fewer frames say nothing of what moves. */
const FEW = 4;

/** A take on the set-up's grid: what it shows for most of the time, and where something moves in it. */
export interface GlancedTake {
  planes: Planes;
  moving: Mask;
  /** Nothing moves: the set may be empty. */
  still: boolean;
}

/** Looks at some frames of a take that lie over each other, and at the plate that was made of them. Null with too few of them. */
export function glanced(frames: readonly Planes[], plate: CleanPlate): GlancedTake | null {
  if (frames.length < FEW) return null;
  const factor = gridFactor(plate.planes.width);
  const planes = reducedPlanes(plate.planes, factor);
  const { width, height } = planes;
  const small = frames.map((f) => reducedPlanes(f, factor).y);
  const stray = new Float32Array(width * height);
  for (let i = 0; i < stray.length; i++) {
    let [sum, square] = [0, 0];
    for (const y of small) [sum, square] = [sum + y[i], square + y[i] * y[i]];
    stray[i] = Math.sqrt(Math.max(0, square / small.length - (sum / small.length) ** 2));
  }
  const limit = Math.max(MOVES.least, MOVES.usual * median(stray));
  const moving = emptyMask(width, height);
  for (let i = 0; i < stray.length; i++) moving.data[i] = stray[i] > limit ? 1 : 0;
  tidy(moving, handOf(moving), 0);
  return { planes, moving, still: countOf(moving) === 0 };
}

const handOf = ({ width, height }: { width: number; height: number }) => width * height * HAND;

/** Where two takes show something else, and a little around it; without specks and the lines of edges that lie a part of a pixel aside. */
function others(a: Planes, b: Planes): Mask {
  const { width, height } = a;
  const mask = emptyMask(width, height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const j = (y >> 1) * (width >> 1) + (x >> 1);
      const colour = lengthOf(a.u[j] - b.u[j], a.v[j] - b.v[j]);
      mask.data[i] = Math.abs(a.y[i] - b.y[i]) > OTHER.bright || colour > OTHER.colour ? 1 : 0;
    }
  return grow(tidy(grow(grow(mask, -1), 1), handOf(mask) / 4, 0), 2);
}

/**
 * Which of a set-up's takes show the set with nobody in it, though nobody said so: nothing moves in them, and wherever another take shows
 * something else there is somebody who moves in that one. Somebody who stands still shows where no one else moves, and speaks against it.
 * All have one size, lie over each other and are matched in light. A single take cannot be told.
 */
export function emptyTakes(takes: readonly (GlancedTake | null)[]): boolean[] {
  const known = takes.filter((take) => take !== null).length;
  return takes.map((take, k) => {
    if (!take?.still || known < 2) return false;
    return takes.every((other, n) => {
      if (n === k || !other) return true;
      const parts = partsOf(others(take.planes, other.planes), 1);
      return parts.every(({ pixels }) => {
        if (pixels.length < handOf(take.planes)) return true;
        const alive = pixels.reduce((sum, i) => sum + other.moving.data[i], 0);
        return alive >= ALIVE * pixels.length;
      });
    });
  });
}
