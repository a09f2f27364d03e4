import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { coveragePlane, type Raster } from './coverage-plane';
import { ellipsePoints, outlinePoints, type Point, rectanglePoints, shapePlane } from './shape';

const [W, H] = [64, 48];

/** Distance to a polygon's edge and whether a point is inside, by looking at every edge: the plain definition. */
function signedDistance(points: readonly Point[], x: number, y: number): number {
  let [least, inside] = [Number.POSITIVE_INFINITY, false];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length];
    const length = (q.x - p.x) ** 2 + (q.y - p.y) ** 2 || 1e-12;
    const t = Math.max(0, Math.min(1, ((x - p.x) * (q.x - p.x) + (y - p.y) * (q.y - p.y)) / length));
    least = Math.min(least, Math.hypot(x - p.x - t * (q.x - p.x), y - p.y - t * (q.y - p.y)));
    if (p.y <= y !== q.y <= y && x >= p.x + ((y - p.y) / (q.y - p.y)) * (q.x - p.x)) inside = !inside;
  });
  return inside ? -least : least;
}

/** Coverage by 16×16 points a pixel. */
function supersampled(points: readonly Point[], inside: number, outside: number): Float64Array {
  const soft = inside + outside;
  return Float64Array.from({ length: W * H }, (_, i) => {
    const middle = signedDistance(points, (i % W) + 0.5, Math.floor(i / W) + 0.5);
    if (middle > outside + 1 || middle < -inside - 1) return middle > 0 ? 0 : 1;
    let sum = 0;
    for (let k = 0; k < 256; k++) {
      const d = signedDistance(points, (i % W) + ((k & 15) + 0.5) / 16, Math.floor(i / W) + ((k >> 4) + 0.5) / 16);
      const t = soft > 0 ? Math.max(0, Math.min(1, (d + inside) / soft)) : d > 0 ? 1 : 0;
      sum += 1 - t * t * (3 - 2 * t);
    }
    return sum / 256;
  });
}

const SHAPES: Record<string, Point[]> = {
  ellipse: ellipsePoints(31.3, 23.8, 20.2, 12.7, 25),
  rectangle: rectanglePoints(33, 20, 15.4, 9.1, -17),
  polygon: [
    [8.2, 40.1],
    [26.7, 5.4],
    [53.3, 14],
    [38, 26],
    [58.9, 44.6],
  ].map(([x, y]) => ({ x, y })),
  outline: outlinePoints([
    { x: 13, y: 13 },
    { x: 46, y: 9 },
    { x: 56, y: 33 },
    { x: 26, y: 41 },
  ]),
};

describe('coverage of shapes against 16×16 supersampling', () => {
  for (const [name, points] of Object.entries(SHAPES)) {
    it.each([
      [0, 0],
      [2.5, 2.5],
      [6, 1],
    ])(`${name}, soft by %f px inside and %f px outside: mean error under 1/255`, (inside, outside) => {
      const cover = shapePlane(points, inside, outside, W, H);
      const truth = supersampled(points, inside, outside);
      let [error, worst] = [0, 0];
      truth.forEach((t, i) => {
        error += Math.abs(cover[i] / 256 - t) / truth.length;
        worst = Math.max(worst, Math.abs(cover[i] / 256 - t));
      });
      expect(error).toBeLessThan(1 / 255);
      // The distance from the middle of a pixel is off where it has a kink, at a corner.
      expect(worst).toBeLessThan(inside + outside === 0 ? 0.3 : 0.08);
      expect(Math.max(...cover)).toBe(256);
    });
  }

  it('an ellipse strays from its polygon by less than a twentieth of a pixel, whatever its size', () => {
    for (const r of [10, 300, 2000]) {
      const points = ellipsePoints(0, 0, r, r, 0);
      const [p, q] = points;
      expect(r - Math.hypot((p.x + q.x) / 2, (p.y + q.y) / 2)).toBeLessThan(0.05);
    }
  });

  it('a smooth outline passes through its points, and two points are no shape', () => {
    const corners = [
      { x: 3, y: 4 },
      { x: 60, y: 9 },
      { x: 30, y: 50 },
    ];
    const outline = outlinePoints(corners);
    for (const c of corners) expect(outline.some((p) => Math.hypot(p.x - c.x, p.y - c.y) < 1e-9)).toBe(true);
    expect(outlinePoints(corners.slice(1))).toHaveLength(2);
    expect(Math.max(...shapePlane(corners.slice(1), 5, 5, W, H))).toBe(0);
  });
});

describe('coverages combined', () => {
  const none = new Map<string, Raster>();
  const [a, b] = [SHAPES.ellipse, SHAPES.rectangle].map((points) => ({ kind: 'shape' as const, points, inside: 2, outside: 3 }));
  const [planeA, planeB] = [a, b].map((shape) => coveragePlane(shape, W, H, none));

  it('adds, takes away and cuts, inverted or not, pixel by pixel', () => {
    const of = (combine: 'add' | 'subtract' | 'intersect', invert: boolean) =>
      coveragePlane(
        {
          kind: 'many',
          parts: [
            { coverage: a, combine: 'add', invert: false },
            { coverage: b, combine, invert },
          ],
        },
        W,
        H,
        none,
      );
    const random = randomSource(4);
    const [added, taken, cut, cutOutside] = [of('add', false), of('subtract', false), of('intersect', false), of('intersect', true)];
    for (let k = 0; k < 400; k++) {
      const i = Math.floor(random() * W * H);
      expect(added[i]).toBe(Math.max(planeA[i], planeB[i]));
      expect(taken[i]).toBe(Math.min(planeA[i], 256 - planeB[i]));
      expect(cut[i]).toBe(Math.min(planeA[i], planeB[i]));
      expect(cutOutside[i]).toBe(taken[i]);
    }
  });

  it('a shape that is first taken away leaves the rest of the frame', () => {
    const hole = coveragePlane({ kind: 'many', parts: [{ coverage: a, combine: 'subtract', invert: false }] }, W, H, none);
    expect(hole.every((v, i) => v === 256 - planeA[i])).toBe(true);
  });

  it('a stored cut-out lies where its map puts it, linear between its pixels, with nothing beyond it', () => {
    const alpha = Uint8Array.from({ length: 12 * 8 }, (_, i) => (i % 12) * 20);
    const mattes = new Map([['m', { width: 12, height: 8, alpha }]]);
    const plane = coveragePlane({ kind: 'matte', matteId: 'm', map: { a: 0.5, b: 0, c: -10, d: 0, e: 0.5, f: -10 } }, W, H, mattes);
    // Output pixel 30 has its middle at 30.5, which is 5.25 of the cut-out: a quarter before the middle of its sixth pixel.
    expect(plane[24 * W + 30] / 256).toBeCloseTo((4.75 * 20) / 255, 2);
    expect(plane[24 * W + 10]).toBe(0);
    expect(plane[45 * W + 30]).toBe(0);
    expect(Math.max(...coveragePlane({ kind: 'matte', matteId: 'gone', map: { a: 1, b: 0, c: 0, d: 0, e: 1, f: 0 } }, W, H, mattes))).toBe(
      0,
    );
  });
});
