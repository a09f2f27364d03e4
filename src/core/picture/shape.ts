import { clamp, type Pixels } from '../units';

/** A point on the frame, pixels. */
export interface Point {
  x: Pixels;
  y: Pixels;
}

/** An ellipse as a closed polygon that strays from it by less than a twentieth of a pixel. `turn` in degrees, clockwise on screen. */
export function ellipsePoints(x: Pixels, y: Pixels, rx: Pixels, ry: Pixels, turn: number): Point[] {
  const largest = Math.max(Math.abs(rx), Math.abs(ry), 1);
  // The sagitta of a chord over an angle a is r (1 - cos(a / 2)).
  const count = Math.max(24, Math.ceil(Math.PI / Math.acos(1 - Math.min(0.5, 0.04 / largest))));
  return Array.from({ length: count }, (_, i) => {
    const a = (2 * Math.PI * i) / count;
    return turned(x, y, rx * Math.cos(a), ry * Math.sin(a), turn);
  });
}

/** A rectangle's corners by its middle and half sides. */
export function rectanglePoints(x: Pixels, y: Pixels, rx: Pixels, ry: Pixels, turn: number): Point[] {
  return [
    [-rx, -ry],
    [rx, -ry],
    [rx, ry],
    [-rx, ry],
  ].map(([dx, dy]) => turned(x, y, dx, dy, turn));
}

function turned(x: number, y: number, dx: number, dy: number, turn: number): Point {
  const a = (turn * Math.PI) / 180;
  return { x: x + dx * Math.cos(a) - dy * Math.sin(a), y: y + dx * Math.sin(a) + dy * Math.cos(a) };
}

/** A smooth closed outline through points: Catmull & Rom 1974, about `step` pixels between its corners. Fewer than three points stay as they are. */
export function outlinePoints(points: readonly Point[], step: Pixels = 3): Point[] {
  const n = points.length;
  if (n < 3) return [...points];
  return points.flatMap((b, i) => {
    const [a, c, d] = [points[(i + n - 1) % n], points[(i + 1) % n], points[(i + 2) % n]];
    const parts = clamp(Math.ceil(Math.hypot(c.x - b.x, c.y - b.y) / step), 1, 64);
    return Array.from({ length: parts }, (_, k) => {
      const t = k / parts;
      const at = (p: number, q: number, r: number, s: number) =>
        q + 0.5 * t * (r - p + t * (2 * p - 5 * q + 4 * r - s + t * (3 * (q - r) + s - p)));
      return { x: at(a.x, b.x, c.x, d.x), y: at(a.y, b.y, c.y, d.y) };
    });
  });
}

/** Crossings of a row's middle with the edges of a closed polygon, ascending. */
function crossings(points: readonly Point[], y: number): number[] {
  const out: number[] = [];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length];
    if (p.y <= y !== q.y <= y) out.push(p.x + ((y - p.y) / (q.y - p.y)) * (q.x - p.x));
  });
  return out.sort((a, b) => a - b);
}

/** Squared distances from the edges seen so far, Infinity where none came near; and which pixels those are. Kept between calls, all Infinity. */
let distance = new Float32Array(0);
const touched: number[] = [];

/** Lowers squared distances to those from an edge, in the rows and columns within `reach` of it. */
function nearEdge(width: number, height: number, p: Point, q: Point, reach: number): void {
  const [dx, dy] = [q.x - p.x, q.y - p.y];
  const length = dx * dx + dy * dy || 1e-12;
  const y0 = clamp(Math.floor(Math.min(p.y, q.y) - reach), 0, height);
  const y1 = clamp(Math.ceil(Math.max(p.y, q.y) + reach), 0, height);
  const limit = reach * reach;
  // Along a row only the columns near the part of the edge that is near the row can be within reach.
  for (let y = y0; y < y1; y++) {
    const oy = y + 0.5 - p.y;
    const [ta, tb] = Math.abs(dy) < 1e-9 ? [0, 1] : [(oy - reach) / dy, (oy + reach) / dy];
    const [t0, t1] = [clamp(Math.min(ta, tb), 0, 1), clamp(Math.max(ta, tb), 0, 1)];
    const [xa, xb] = [p.x + t0 * dx, p.x + t1 * dx];
    const x0 = clamp(Math.floor(Math.min(xa, xb) - reach), 0, width);
    const x1 = clamp(Math.ceil(Math.max(xa, xb) + reach), 0, width);
    for (let x = x0; x < x1; x++) {
      const ox = x + 0.5 - p.x;
      let t = (ox * dx + oy * dy) / length;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      const ex = ox - t * dx;
      const ey = oy - t * dy;
      const d = ex * ex + ey * ey;
      const at = y * width + x;
      if (d > limit || d >= distance[at]) continue;
      if (distance[at] === Number.POSITIVE_INFINITY) touched.push(at);
      distance[at] = d;
    }
  }
}

/** Fills the inside of a closed polygon, row by row at the pixels' middles. */
function fillInside(cover: Uint16Array, points: readonly Point[], width: number, height: number): void {
  const y0 = clamp(Math.floor(Math.min(...points.map((p) => p.y))), 0, height);
  const y1 = clamp(Math.ceil(Math.max(...points.map((p) => p.y))), 0, height);
  for (let y = y0; y < y1; y++) {
    const edges = crossings(points, y + 0.5);
    for (let k = 0; k + 1 < edges.length; k += 2) {
      const [from, to] = [clamp(Math.ceil(edges[k] - 0.5), 0, width), clamp(Math.ceil(edges[k + 1] - 0.5), 0, width)];
      if (to > from) cover.fill(256, y * width + from, y * width + to);
    }
  }
}

/**
 * Coverage 0..256 of a closed polygon (even-odd where it crosses itself) at pixel centres: 256 deeper than `inside` pixels within its edge,
 * 0 beyond `outside` pixels, a smooth step by the true distance from the edge in between. An edge narrower than a pixel is a pixel wide.
 * Fewer than three points cover nothing.
 */
export function shapePlane(points: readonly Point[], inside: Pixels, outside: Pixels, width: Pixels, height: Pixels): Uint16Array {
  const cover = new Uint16Array(width * height);
  if (points.length < 3) return cover;
  const soft = inside + outside;
  const [within, wide] = soft >= 1 ? [inside, soft] : [inside + (1 - soft) / 2, 1];
  fillInside(cover, points, width, height);
  if (distance.length < cover.length) distance = new Float32Array(cover.length).fill(Number.POSITIVE_INFINITY);
  const reach = Math.max(within, wide - within) + 0.01;
  points.forEach((p, i) => {
    nearEdge(width, height, p, points[(i + 1) % points.length], reach);
  });
  for (const at of touched) {
    const far = Math.sqrt(distance[at]);
    distance[at] = Number.POSITIVE_INFINITY;
    const t = clamp(((cover[at] ? -far : far) + within) / wide, 0, 1);
    cover[at] = Math.round(256 * (1 - (soft >= 1 ? t * t * (3 - 2 * t) : t)));
  }
  touched.length = 0;
  return cover;
}
