import type { Frames, Unit } from '../units';
import { centreOf, type Mask } from './grid';

/** A figure on one frame, for comparing poses: where it is, how it is shaped, how it moves. */
export interface Pose {
  /** Middle on the grid, and size: the square root of its area. */
  x: number;
  y: number;
  size: number;
  /** How much of each cell of a 12×16 box around the figure it fills, 0..1. */
  shape: Float32Array;
  /** Movement of the middle, grid pixels a frame; filled in from the neighbours. */
  vx: number;
  vy: number;
}

const [ACROSS, DOWN] = [12, 16];

function poseOf(mask: Mask): Pose | null {
  const { x, y, count } = centreOf(mask);
  if (count < 12) return null;
  const size = Math.sqrt(count);
  // A box wide enough for raised and stretched arms, in units of the figure's own size.
  const [w, h] = [4.4 * size, 5.2 * size];
  const shape = new Float32Array(ACROSS * DOWN);
  for (let i = 0; i < mask.data.length; i++) {
    if (!mask.data[i]) continue;
    const u = Math.floor((((i % mask.width) - x) / w + 0.5) * ACROSS);
    const v = Math.floor(((Math.floor(i / mask.width) - y) / h + 0.5) * DOWN);
    if (u >= 0 && u < ACROSS && v >= 0 && v < DOWN) shape[v * ACROSS + u] += (ACROSS * DOWN) / (w * h);
  }
  return { x, y, size, shape, vx: 0, vy: 0 };
}

/** Poses of a take's figure, frame by frame, with movement over two frames to either side; null where nobody is seen. */
export function posesOf(masks: readonly (Mask | null)[]): (Pose | null)[] {
  const poses = masks.map((m) => (m ? poseOf(m) : null));
  poses.forEach((pose, f) => {
    const [a, b] = [poses[Math.max(0, f - 2)], poses[Math.min(poses.length - 1, f + 2)]];
    if (!pose || !a || !b) return;
    const gap = Math.min(poses.length - 1, f + 2) - Math.max(0, f - 2);
    pose.vx = (b.x - a.x) / gap;
    pose.vy = (b.y - a.y) / gap;
  });
  return poses;
}

/** A cut from frame `out` of the first take to frame `into` of the second, and how well they agree, 0 (alike) upwards. */
export interface Cut {
  out: Frames;
  into: Frames;
  cost: number;
  /** Its parts: unlike outline (0..1), distance in figure sizes, and movement that disagrees (0..1). */
  pose: Unit;
  apart: number;
  motion: Unit;
}

/** Share of two shapes that they do not have in common. */
function unlike(a: Float32Array, b: Float32Array): Unit {
  let [common, all] = [0, 0];
  for (let i = 0; i < a.length; i++) {
    common += Math.min(a[i], b[i]);
    all += Math.max(a[i], b[i]);
  }
  return all > 0 ? 1 - common / all : 1;
}

function costOf(a: Pose, b: Pose): Omit<Cut, 'out' | 'into'> {
  const pose = unlike(a.shape, b.shape);
  const size = (a.size + b.size) / 2;
  const apart = Math.hypot(a.x - b.x, a.y - b.y) / size + Math.abs(Math.log(a.size / b.size));
  const speed = Math.hypot(a.vx, a.vy) + Math.hypot(b.vx, b.vy) + 0.02 * size;
  const motion = Math.hypot(a.vx - b.vx, a.vy - b.vy) / speed;
  return { cost: pose + 0.8 * apart + 0.4 * motion, pose, apart, motion };
}

/** Two frames this near to a better cut's are the same cut. */
const SAME = 6;

/**
 * The best frames to jump from one take to another: outline, position and movement agree. For a loop give the same take twice and
 * `least` frames that the loop must last. Best first, at most `count`, none within a quarter second or so of a better one.
 * Positions count from each take's frame 0. Empty when nobody is seen in either.
 */
export function bestCuts(first: readonly (Pose | null)[], second: readonly (Pose | null)[], count = 5, least: Frames | null = null): Cut[] {
  const all: Cut[] = [];
  first.forEach((a, out) => {
    if (!a) return;
    let best: Cut | null = null;
    second.forEach((b, into) => {
      if (!b || (least !== null && out - into < least)) return;
      // What is far apart need not be compared in full.
      if (best && 0.8 * (Math.hypot(a.x - b.x, a.y - b.y) / Math.max(a.size, b.size)) > best.cost) return;
      const cost = costOf(a, b);
      if (!best || cost.cost < best.cost) best = { out, into, ...cost };
    });
    if (best) all.push(best);
  });
  all.sort((p, q) => p.cost - q.cost);
  const chosen: Cut[] = [];
  for (const cut of all) {
    if (chosen.length >= count) break;
    if (chosen.every((c) => Math.abs(c.out - cut.out) > SAME || Math.abs(c.into - cut.into) > SAME)) chosen.push(cut);
  }
  return chosen;
}
