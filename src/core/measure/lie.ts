import { chained, cornersApart, type Homography, ofMove, planeThrough, through, UNMOVED, undone } from '../picture';
import type { Pixels } from '../units';
import { matchScratch } from './blocks';
import { fitHomography, nearestMove } from './fit-homography';
import { followBlocks, type LockReference, makeReference } from './lock';
import type { Luma } from './luma';
import { type Displacement, fitSimilarity, type Similarity } from './similarity';

/** How a picture lies in another of its size that was filmed with the camera standing elsewhere. */
export interface Lie {
  /** From the first picture to the second, from the middles. */
  map: Homography;
  /** The same as a move, where it is one to within half a pixel. */
  move: Similarity | null;
  /** Share of the blocks that agree, and their median stray. */
  inliers: number;
  error: Pixels;
}

/** Pixels that a block keeps from the edge of a picture that was moved: beyond it there is nothing. */
const MARGIN = 6;

/** A picture as it is seen from where another was filmed. */
const lumaThrough = ({ width, height, data }: Luma, map: Homography): Luma => ({
  width,
  height,
  data: planeThrough(data, width, height, undone(map), null),
});

/** Blocks of a picture as it is seen from elsewhere, none of them where it does not reach. */
export function referenceThrough(picture: Luma, map: Homography): LockReference {
  const back = undone(map);
  return makeReference([lumaThrough(picture, map)], (x, y) => {
    const [u, v] = through(back, x, y);
    return Math.abs(u) < picture.width / 2 - MARGIN && Math.abs(v) < picture.height / 2 - MARGIN;
  });
}

/** How far blocks are looked for, how alike they must be and what counts as agreeing, round by round. */
const ROUNDS = [
  { reach: 14, least: 0.55, tolerance: 1.5 },
  { reach: 6, least: 0.7, tolerance: 0.6 },
  { reach: 4, least: 0.8, tolerance: 0.35 },
  { reach: 3, least: 0.8, tolerance: 0.35 },
] as const;

type Fit = (points: readonly Displacement[], tolerance: Pixels) => { map: Homography; inliers: number; error: Pixels } | null;

const byMove: Fit = (points, tolerance) => {
  const found = fitSimilarity(points, tolerance);
  return found && { ...found, map: ofMove(found.move) };
};
const byPerspective: Fit = (points, tolerance) => {
  const rough = fitSimilarity(points, 2 * tolerance + 1);
  return fitHomography(points, rough ? ofMove(rough.move) : UNMOVED, tolerance, 6 * tolerance);
};

/** Follows blocks of a picture into another from a guess, better and better, by one kind of map. */
function refined(reference: Luma, other: Luma, guess: Homography, fitted: Fit): Omit<Lie, 'move'> | null {
  let map = guess;
  let last: ReturnType<Fit> = null;
  let share = 0;
  for (const { reach, least, tolerance } of ROUNDS) {
    const { fine } = referenceThrough(reference, map);
    if (fine.length < 8) return null;
    const { points } = followBlocks(fine, other, { dx: 0, dy: 0, turn: 0, scale: 1 }, matchScratch(fine[0].size), reach, least);
    last = fitted(points, tolerance);
    if (!last) return null;
    map = chained(last.map, map);
    share = (last.inliers * points.length) / fine.length;
  }
  return last && share >= 0.2 ? { map, inliers: share, error: last.error } : null;
}

/** Perspective is followed only where a shift, a turn and a scale leave more than this, pixels at a corner. */
const PERSPECTIVE = 0.5;
/** By how much more must agree, or how much nearer. */
const MORE = 1.2;

/**
 * How `reference` lies in `other`, from where they already lie over one another, or from a guess that is right to about fourteen pixels.
 * Null where too little of the background agrees.
 */
export function lieFrom(reference: Luma, other: Luma, guess: Homography): Lie | null {
  const { width, height } = reference;
  const bent = refined(reference, other, guess, byPerspective);
  const plain = refined(reference, other, ofMove(nearestMove(bent?.map ?? guess, width, height)), byMove);
  // Eight numbers follow noise where four do not: perspective has to earn its place at the corners and in what agrees.
  const tilted =
    bent &&
    (!plain ||
      (cornersApart(plain.map, bent.map, width, height) > PERSPECTIVE &&
        (bent.inliers > MORE * plain.inliers || bent.error * MORE < plain.error)));
  if (tilted) return { ...bent, move: null };
  return plain && { ...plain, move: nearestMove(plain.map, width, height) };
}

/** Blocks that agree at least, as a share, where no other guess needs to be looked at. */
const ENOUGH = 0.5;

/** How `reference` lies in `other` by the guess that most of the background agrees with: a performer who moved is one of them. */
export function bestLie(reference: Luma, other: Luma, guesses: readonly Homography[]): Lie | null {
  let best: Lie | null = null;
  for (const guess of guesses) {
    const lie = lieFrom(reference, other, guess);
    if (lie && lie.inliers > (best?.inliers ?? 0)) best = lie;
    if (best && best.inliers > ENOUGH) break;
  }
  return best;
}
