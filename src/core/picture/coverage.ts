import { clamp, type Degrees, type Pixels, type Unit } from '../units';

/**
 * A soft straight line across the frame. At 0° it lies level and covers from the top; at 90° it stands upright
 * and covers from the left. `position` is how far the line's middle has travelled along its normal from the frame's
 * centre, in pixels; `feather` is the full width of the soft edge in pixels.
 */
export interface LineCoverage {
  kind: 'line';
  angle: Degrees;
  position: Pixels;
  feather: Pixels;
}

/**
 * A soft edge along a path from the top of the frame to its bottom; covers what lies right of it. `points` in pixels of the
 * frame, each lower than the one before; above the first and below the last the edge runs straight on down. `feather` is the
 * full width of the soft edge in pixels, across the path; where a point has a `soft` of its own it is that, if narrower.
 * With `across` it runs from the frame's left to its right and covers what lies below it: x for y throughout.
 */
export interface PathCoverage {
  kind: 'path';
  points: readonly { x: Pixels; y: Pixels; soft?: Pixels }[];
  feather: Pixels;
  across?: boolean;
}

const STEPS = 1024;

/** Coverage 0..256 by where a pixel lies inside the feather (0 at its start, STEPS at its end): a smooth step. */
const PROFILE = Uint16Array.from({ length: STEPS + 1 }, (_, i) => {
  const t = i / STEPS;
  return Math.round(256 * (1 - t * t * (3 - 2 * t)));
});

/** Unit normal of the line, pointing the way it travels (screen axes: x right, y down). */
export function lineNormal(angle: Degrees): [number, number] {
  const a = (angle * Math.PI) / 180;
  return [Math.sin(a), Math.cos(a)];
}

/** How long the frame is along the line's normal: the way from the first corner it meets to the last. */
export function lineExtent(angle: Degrees, width: Pixels, height: Pixels): Pixels {
  const [nx, ny] = lineNormal(angle);
  return Math.abs(nx) * width + Math.abs(ny) * height;
}

/** Coverage at one point, 0..1. The definition; the row version below must agree with it. */
export function lineCoverageAt(line: LineCoverage, x: Pixels, y: Pixels, width: Pixels, height: Pixels): Unit {
  const [nx, ny] = lineNormal(line.angle);
  const feather = Math.max(1, line.feather);
  const t = clamp((nx * (x - width / 2) + ny * (y - height / 2) - line.position) / feather + 0.5, 0, 1);
  return 1 - t * t * (3 - 2 * t);
}

/**
 * Coverage of one row, 0..256, at pixel centres, into `out` (one value a column). `scale` 2 serves the half-size
 * chroma planes: row and columns are then counted in chroma samples. Returns the one value all columns share, or -1.
 */
export function lineCoverageRow(line: LineCoverage, row: number, width: Pixels, height: Pixels, scale: 1 | 2, out: Uint16Array): number {
  const [nx, ny] = lineNormal(line.angle);
  const feather = Math.max(1, line.feather);
  const columns = width / scale;
  const start = (nx * (0.5 * scale - width / 2) + ny * ((row + 0.5) * scale - height / 2) - line.position) / feather + 0.5;
  const step = (nx * scale) / feather;
  const end = start + step * (columns - 1);
  if (start <= 0 && end <= 0) return 256;
  if (start >= 1 && end >= 1) return 0;
  if (Math.abs(end - start) < 1e-9) return PROFILE[Math.round(clamp(start, 0, 1) * STEPS)];
  for (let x = 0; x < columns; x++) {
    const t = start + step * x;
    out[x] = PROFILE[t <= 0 ? 0 : t >= 1 ? STEPS : (t * STEPS + 0.5) | 0];
  }
  return -1;
}

/** Where a path crosses a height, and how wide its soft edge is along the row. */
function pathAt({ points, feather }: PathCoverage, y: Pixels): { x: Pixels; soft: Pixels } {
  const wide = (p: PathCoverage['points'][number]) => Math.max(1, Math.min(feather, p.soft ?? feather));
  const at = points.findIndex((p) => p.y > y);
  if (at <= 0) {
    const end = points[at === 0 ? 0 : points.length - 1];
    return { x: end.x, soft: wide(end) };
  }
  const [a, b] = [points[at - 1], points[at]];
  const slope = (b.x - a.x) / (b.y - a.y);
  const k = (y - a.y) / (b.y - a.y);
  return { x: a.x + slope * (y - a.y), soft: (wide(a) + k * (wide(b) - wide(a))) * Math.hypot(1, slope) };
}

/** Where a line through points (their heights ascending) crosses a height; beyond its ends, where it ends. */
export function pathX(points: PathCoverage['points'], y: number): number {
  return pathAt({ kind: 'path', points, feather: 1 }, y).x;
}

/** A path from left to right as one from top to bottom. */
export const stoodUp = ({ points, feather }: PathCoverage): PathCoverage => ({
  kind: 'path',
  points: points.map(({ x, y, ...soft }) => ({ x: y, y: x, ...soft })),
  feather,
});

/** Coverage of a path at one point, 0..1. The definition; the row version below must agree with it. */
export function pathCoverageAt(path: PathCoverage, x: Pixels, y: Pixels): Unit {
  if (path.across) return pathCoverageAt(stoodUp(path), y, x);
  const { x: edge, soft } = pathAt(path, y);
  const t = clamp((edge - x) / soft + 0.5, 0, 1);
  return 1 - t * t * (3 - 2 * t);
}

/** Like `lineCoverageRow`, for a path from top to bottom. */
export function pathCoverageRow(path: PathCoverage, row: number, columns: number, scale: 1 | 2, out: Uint16Array): number {
  const { x: edge, soft } = pathAt(path, (row + 0.5) * scale);
  const start = (edge - 0.5 * scale) / soft + 0.5;
  const step = -scale / soft;
  if (start <= 0) return 256;
  if (start + step * (columns - 1) >= 1) return 0;
  for (let x = 0; x < columns; x++) {
    const t = start + step * x;
    out[x] = PROFILE[t <= 0 ? 0 : t >= 1 ? STEPS : (t * STEPS + 0.5) | 0];
  }
  return -1;
}
