import { type Degrees, median, type Pixels } from '../units';

/** How a picture lies against its reference: shift of the frame's centre, turn and scale about that centre. Positive dx right, dy down, turn clockwise on screen. */
export interface Similarity {
  dx: Pixels;
  dy: Pixels;
  turn: Degrees;
  scale: number;
}

export const NO_MOVE: Similarity = { dx: 0, dy: 0, turn: 0, scale: 1 };

/** A point of the reference, counted from the frame's centre, and how far it moved. */
export interface Displacement {
  x: Pixels;
  y: Pixels;
  dx: Pixels;
  dy: Pixels;
}

/** Where `point` (from the centre) goes under the move. */
export function moved(move: Similarity, x: Pixels, y: Pixels): [Pixels, Pixels] {
  const a = (move.turn * Math.PI) / 180;
  const c = Math.cos(a) * move.scale;
  const s = Math.sin(a) * move.scale;
  return [c * x - s * y + move.dx, s * x + c * y + move.dy];
}

/** Largest distance any corner of a `width`×`height` frame moves. */
export function cornerMove(move: Similarity, width: Pixels, height: Pixels): Pixels {
  let most = 0;
  for (const x of [-width / 2, width / 2]) {
    for (const y of [-height / 2, height / 2]) {
      const [px, py] = moved(move, x, y);
      most = Math.max(most, Math.hypot(px - x, py - y));
    }
  }
  return most;
}

/** The move of least squares through weighted points; null where nothing weighs. */
export function similarityThrough(points: readonly Displacement[], weights: readonly number[]): Similarity | null {
  let [w, mx, my, mdx, mdy] = [0, 0, 0, 0, 0];
  points.forEach((p, i) => {
    w += weights[i];
    mx += weights[i] * p.x;
    my += weights[i] * p.y;
    mdx += weights[i] * p.dx;
    mdy += weights[i] * p.dy;
  });
  if (w < 1e-6) return null;
  [mx, my, mdx, mdy] = [mx / w, my / w, mdx / w, mdy / w];
  let [spread, stretch, twist] = [0, 0, 0];
  points.forEach((p, i) => {
    const [x, y] = [p.x - mx, p.y - my];
    spread += weights[i] * (x * x + y * y);
    stretch += weights[i] * (x * (p.dx - mdx) + y * (p.dy - mdy));
    twist += weights[i] * (x * (p.dy - mdy) - y * (p.dx - mdx));
  });
  const a = spread > 0 ? stretch / spread : 0;
  const b = spread > 0 ? twist / spread : 0;
  return {
    dx: mdx - a * mx + b * my,
    dy: mdy - b * mx - a * my,
    turn: (Math.atan2(b, 1 + a) * 180) / Math.PI,
    scale: Math.hypot(1 + a, b),
  };
}

/** Distances between where points were found and where the move puts them. */
export function residuals(move: Similarity, points: readonly Displacement[]): Float64Array {
  const a = (move.turn * Math.PI) / 180;
  const c = Math.cos(a) * move.scale - 1;
  const s = Math.sin(a) * move.scale;
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i++) {
    const p = points[i];
    const x = c * p.x - s * p.y + move.dx - p.dx;
    const y = s * p.x + c * p.y + move.dy - p.dy;
    out[i] = Math.sqrt(x * x + y * y);
  }
  return out;
}

/**
 * The move that most points agree on: the best of many moves through pairs of points (RANSAC with a fixed sequence,
 * Fischler & Bolles 1981), then least squares re-weighted by Tukey's biweight. `inliers` is the share within
 * `tolerance`. Null for fewer than 4 points.
 */
export function fitSimilarity(
  points: readonly Displacement[],
  tolerance: Pixels = 0.35,
): { move: Similarity; inliers: number; error: Pixels } | null {
  const n = points.length;
  if (n < 4) return null;
  let best: Similarity | null = null;
  let most = -1;
  const consider = (move: Similarity | null) => {
    if (!move || Math.abs(move.scale - 1) > 0.2) return;
    let score = 0;
    for (const r of residuals(move, points)) score += Math.max(0, 1 - (r / (2 * tolerance)) ** 2);
    if (score > most) {
      most = score;
      best = move;
    }
  };
  consider({ ...NO_MOVE, dx: median(points.map((p) => p.dx)), dy: median(points.map((p) => p.dy)) });
  // Where most points already agree there is nothing to search for.
  for (let k = 0; k < 60 && most < 0.6 * n; k++) {
    const p = points[(k * 7919) % n];
    const q = points[(k * 104729 + 1 + (k % (n - 1))) % n];
    if (Math.hypot(p.x - q.x, p.y - q.y) > 60) consider(similarityThrough([p, q], [1, 1]));
  }
  if (!best) return null;
  let move: Similarity = best;
  for (let round = 0; round < 6; round++) {
    const cut = round < 2 ? tolerance * 2.5 : tolerance * 1.5;
    const weights = Array.from(residuals(move, points), (r) => (r < cut ? (1 - (r / cut) ** 2) ** 2 : 0));
    move = similarityThrough(points, weights) ?? move;
  }
  const good = residuals(move, points).filter((r) => r < tolerance);
  return { move, inliers: good.length / n, error: median(good) };
}
