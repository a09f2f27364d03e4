import { median, type Pixels } from '../units';
import { type Block, chooseBlocks, type MatchScratch, matchBlock, matchScratch } from './blocks';
import { followByKernel } from './kernel';
import { type Luma, medianLuma, shrink } from './luma';
import { phaseShifts } from './phase';
import { type Displacement, fitSimilarity, NO_MOVE, residuals, type Similarity } from './similarity';

/** What frames are compared with: textured blocks of a quiet picture at full and quarter size. */
export interface LockReference {
  picture: Luma;
  fine: Block[];
  coarse: Block[];
  coarseFactor: number;
}

/** One frame against the reference. `trusted` is false when too little of the background could be followed. */
export interface LockReading extends Similarity {
  trusted: boolean;
  /** Share of the reference's blocks that agree on the move. */
  inliers: number;
  /** Indices into `reference.fine` of the blocks that agree. */
  agreeing: number[];
}

/** Whether a picture holds enough texture to be followed. */
export function canLock(reference: LockReference): boolean {
  return reference.fine.length >= 8;
}

/** Builds a reference from one to nine frames of one size (their median), or from as much of it as lies `inside`. */
export function makeReference(frames: readonly Luma[], inside: (x: Pixels, y: Pixels) => boolean = () => true): LockReference {
  const picture = frames.length === 1 ? frames[0] : medianLuma(frames.slice(0, 9));
  const coarseFactor = Math.max(2, Math.round(picture.width / 320));
  const within = (blocks: Block[], factor: number) =>
    blocks.filter(({ x, y, size }) =>
      [x, x + size].every((u) => [y, y + size].every((v) => inside(u * factor - picture.width / 2, v * factor - picture.height / 2))),
    );
  return {
    picture,
    fine: within(chooseBlocks(picture), 1),
    coarse: within(chooseBlocks(shrink(picture, coarseFactor), 10, 6, 20), coarseFactor),
    coarseFactor,
  };
}

/** Where blocks of a reference lie in a frame near where `guess` puts them, and which they are; at most `reach` pixels from there, and alike by `least`. */
export function followBlocks(
  blocks: readonly Block[],
  frame: Luma,
  guess: Similarity,
  scratch: MatchScratch,
  reach: Pixels,
  least: number,
): { points: Displacement[]; from: number[] } {
  const points: Displacement[] = [];
  const from: number[] = [];
  const a = (guess.turn * Math.PI) / 180;
  const c = Math.cos(a) * guess.scale - 1;
  const s = Math.sin(a) * guess.scale;
  const middles = blocks.map(({ x, y, size }) => [x + size / 2 - frame.width / 2, y + size / 2 - frame.height / 2] as const);
  const guesses = Float64Array.from(middles.flatMap(([x, y]) => [c * x - s * y + guess.dx, s * x + c * y + guess.dy]));
  const found =
    followByKernel(blocks, frame, guesses, reach) ??
    blocks.map((block, i) => matchBlock(block, frame, guesses[2 * i], guesses[2 * i + 1], scratch, reach));
  found.forEach((shift, i) => {
    if (!shift || shift.fit <= least) return;
    const [x, y] = middles[i];
    points.push({ x, y, dx: shift.dx, dy: shift.dy });
    from.push(i);
  });
  return { points, from };
}

/** Measures frames against one reference, each starting from where the last one lay. */
export class LockMeter {
  private last: Similarity = NO_MOVE;
  private readonly fineScratch: MatchScratch;
  private readonly coarseScratch: MatchScratch;

  constructor(readonly reference: LockReference) {
    this.fineScratch = matchScratch(reference.fine[0]?.size ?? 1);
    this.coarseScratch = matchScratch(reference.coarse[0]?.size ?? 1);
  }

  /**
   * Shift, turn and scale of `frame` (the reference's size) against the reference. The performer and anything else
   * that moves by itself is voted out block by block.
   */
  read(frame: Luma): LockReading {
    const near = this.attempt(frame, this.last);
    const reading = near.trusted && near.inliers > 0.45 ? near : this.better(near, this.search(frame));
    if (reading.trusted) this.last = { dx: reading.dx, dy: reading.dy, turn: reading.turn, scale: reading.scale };
    return reading;
  }

  private better(a: LockReading, b: LockReading): LockReading {
    return b.inliers > a.inliers ? b : a;
  }

  private attempt(frame: Luma, guess: Similarity): LockReading {
    const { fine } = this.reference;
    const { points, from } = followBlocks(fine, frame, guess, this.fineScratch, 4, 0.8);
    const fitted = fitSimilarity(points);
    if (!fitted) return { ...NO_MOVE, trusted: false, inliers: 0, agreeing: [] };
    const apart = residuals(fitted.move, points);
    const agreeing = from.filter((_, k) => apart[k] < 0.35);
    const inliers = agreeing.length / Math.max(1, fine.length);
    return { ...fitted.move, trusted: agreeing.length >= 8 && inliers >= 0.2, inliers, agreeing };
  }

  /** From nothing: phase correlation, then quarter size, then full size. */
  private search(frame: Luma): LockReading {
    const { picture, coarse, coarseFactor } = this.reference;
    const starts = phaseShifts(picture, frame);
    const small = shrink(frame, coarseFactor);
    let best: LockReading | null = null;
    for (const start of [...starts, { dx: 0, dy: 0 }]) {
      const guess = { ...NO_MOVE, dx: start.dx / coarseFactor, dy: start.dy / coarseFactor };
      const { points } = followBlocks(coarse, small, guess, this.coarseScratch, 6, 0.7);
      const rough = fitSimilarity(points, 0.5);
      const from = rough
        ? { ...rough.move, dx: rough.move.dx * coarseFactor, dy: rough.move.dy * coarseFactor }
        : { ...NO_MOVE, dx: start.dx, dy: start.dy };
      // Turn and scale are still rough at full size: one wide round before the exact one.
      const wide = fitSimilarity(followBlocks(this.reference.fine, frame, from, this.fineScratch, 9, 0.55).points, 0.8);
      const reading = this.attempt(frame, wide?.move ?? from);
      if (!best || reading.inliers > best.inliers) best = reading;
      if (best.inliers > 0.5) break;
    }
    return best as LockReading;
  }
}

/** A knock of the camera: the frame at which the picture jumps, and by how much its centre stays moved. */
export interface BumpEvent {
  index: number;
  size: Pixels;
}

/**
 * Steps in a series of readings: where the median of the five trusted readings after differs from that of the five
 * before by more than `least` pixels at the frame's corner, the frame of the quickest change.
 */
export function findBumps(readings: readonly LockReading[], halfDiagonal: Pixels, least: Pixels = 0.3): BumpEvent[] {
  const n = readings.length;
  const channel = (pick: (r: LockReading) => number) => readings.map((r) => (r.trusted ? pick(r) : Number.NaN));
  const series = [channel((r) => r.dx), channel((r) => r.dy), channel((r) => (r.turn * Math.PI * halfDiagonal) / 180)];
  const level = (values: number[], from: number, to: number) =>
    median(values.slice(Math.max(0, from), Math.min(n, to)).filter((v) => !Number.isNaN(v)));
  const step = (i: number, gap: number) =>
    Math.hypot(...series.map((values) => level(values, i + gap, i + gap + 5) - level(values, i - 5, i)));
  const events: BumpEvent[] = [];
  for (let i = 3; i < n - 3; i++) {
    const here = step(i, 0);
    if (!(here > least)) continue;
    let end = i;
    while (end < n - 3 && end < i + 15 && step(end, 0) > least) end++;
    // The bump begins with the first reading that leaves the level before it by a third of the way.
    const before = series.map((values) => level(values, i - 5, i));
    let at = i;
    const away = (k: number) => Math.hypot(...series.map((values, c) => values[k] - before[c]));
    while (at < end && !(away(at) > Math.max(least / 2, here / 3))) at++;
    const size = Math.hypot(...series.slice(0, 2).map((values, c) => level(values, end + 3, end + 12) - before[c]));
    events.push({ index: at, size: Number.isNaN(size) ? here : size });
    i = end + 5;
  }
  return events;
}
