import { Matrix, solve } from 'ml-matrix';
import { type Homography, ofMove, through } from '../picture';
import { median, type Pixels } from '../units';
import { type Displacement, NO_MOVE, type Similarity, similarityThrough } from './similarity';

/** Distances between where points were found and where a map puts them. */
const strays = (map: Homography, points: readonly Displacement[]): number[] =>
  points.map(({ x, y, dx, dy }) => {
    const [u, v] = through(map, x, y);
    return Math.hypot(u - x - dx, v - y - dy);
  });

/** The map of least squares through weighted points (Hartley & Zisserman 2004, section 4.1), in units in which they are about 1 away. */
function leastSquares(points: readonly Displacement[], weights: readonly number[], unit: Pixels): Homography | null {
  const rows: number[][] = [];
  const sides: number[] = [];
  points.forEach((p, i) => {
    const k = Math.sqrt(weights[i]);
    if (k === 0) return;
    const [x, y, u, v] = [p.x / unit, p.y / unit, (p.x + p.dx) / unit, (p.y + p.dy) / unit];
    rows.push([k * x, k * y, k, 0, 0, 0, -k * u * x, -k * u * y], [0, 0, 0, k * x, k * y, k, -k * v * x, -k * v * y]);
    sides.push(k * u, k * v);
  });
  if (rows.length < 8) return null;
  const found = solve(new Matrix(rows), Matrix.columnVector(sides), true).to1DArray();
  if (!found.every(Number.isFinite)) return null;
  const [a, b, c, d, e, f, g, h] = found;
  return [a, b, c * unit, d, e, f * unit, g / unit, h / unit];
}

/**
 * The map that points follow, from a first guess: least squares re-weighted by Tukey's biweight, so that what goes its own way has no say.
 * `inliers` is the share within `tolerance`, `error` their median stray. Null for fewer than 4 points that agree.
 */
export function fitHomography(
  points: readonly Displacement[],
  guess: Homography,
  tolerance: Pixels,
  wide: Pixels = 4 * tolerance,
): { map: Homography; inliers: number; error: Pixels } | null {
  const unit = Math.max(1, ...points.map((p) => Math.hypot(p.x, p.y)));
  let map = guess;
  for (let round = 0; round < 8; round++) {
    const cut = Math.max(1.5 * tolerance, wide * 0.6 ** round);
    const weights = strays(map, points).map((r) => (r < cut ? (1 - (r / cut) ** 2) ** 2 : 0));
    const next = leastSquares(points, weights, unit);
    if (!next) return null;
    map = next;
  }
  const good = strays(map, points).filter((r) => r < tolerance);
  if (good.length < 4) return null;
  return { map, inliers: good.length / points.length, error: median(good) };
}

/** Whether three of the points lie so nearly on a line that they say nothing of perspective. */
function inRow(points: readonly Displacement[]): boolean {
  return points.some((p, i) =>
    points.some((q, k) =>
      points.some((r, m) => {
        if (!(i < k && k < m)) return false;
        const sides = [Math.hypot(q.x - p.x, q.y - p.y), Math.hypot(r.x - q.x, r.y - q.y), Math.hypot(p.x - r.x, p.y - r.y)];
        const area = Math.abs((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x));
        return area < 0.05 * Math.max(...sides) ** 2;
      }),
    ),
  );
}

/**
 * The map that two to four pairs of points fix: shift, turn and scale by two or three, perspective too by four, but not where three of
 * them lie in a row. Null where all lie too close.
 */
export function mapOfPoints(points: readonly Displacement[]): Homography | null {
  if (points.length < 2) return null;
  if (points.length >= 4 && !inRow(points)) {
    const map = leastSquares(
      points,
      points.map(() => 1),
      Math.max(1, ...points.map((p) => Math.hypot(p.x, p.y))),
    );
    if (map) return map;
  }
  const spread = Math.max(...points.map((p) => Math.hypot(p.x - points[0].x, p.y - points[0].y)));
  const move = similarityThrough(
    points,
    points.map(() => 1),
  );
  return move && spread > 20 ? ofMove(move) : null;
}

/** The shift, turn and scale that comes nearest to a map over a `width`×`height` frame. */
export function nearestMove(map: Homography, width: Pixels, height: Pixels): Similarity {
  const steps = [-0.5, -0.25, 0, 0.25, 0.5];
  const points = steps.flatMap((i) =>
    steps.map((j): Displacement => {
      const [x, y] = [i * width, j * height];
      const [u, v] = through(map, x, y);
      return { x, y, dx: u - x, dy: v - y };
    }),
  );
  return (
    similarityThrough(
      points,
      points.map(() => 1),
    ) ?? NO_MOVE
  );
}
