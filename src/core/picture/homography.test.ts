import { createRequire } from 'node:module';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { asHomography, chained, cornersApart, enlarged, type Homography, ofMove, through, UNMOVED, undone } from './homography';
import { planeThrough, seenThrough } from './perspective';
import { blackPlanes, meanPlanes } from './planes';

// Required, not imported: the module is itself a thenable, which an import would wait on for ever.
const cv = createRequire(import.meta.url)('@techstark/opencv-js');
beforeAll(async () => {
  if (!cv.Mat) await new Promise<void>((resolve) => (cv.onRuntimeInitialized = resolve));
});

const tilt = fc.double({ min: -1e-4, max: 1e-4, noNaN: true });
const maps = fc
  .record({
    dx: fc.double({ min: -200, max: 200, noNaN: true }),
    dy: fc.double({ min: -200, max: 200, noNaN: true }),
    turn: fc.double({ min: -20, max: 20, noNaN: true }),
    scale: fc.double({ min: 0.7, max: 1.4, noNaN: true }),
    g: tilt,
    h: tilt,
  })
  .map(({ g, h, ...move }): Homography => chained([1, 0, 0, 0, 1, 0, g, h], ofMove(move)));

describe('homographies', () => {
  it('a move of 90° about the middle carries right to down, as seen on a screen', () => {
    const [x, y] = through(ofMove({ dx: 3, dy: -2, turn: 90, scale: 2 }), 10, 0);
    expect([x, y]).toEqual([expect.closeTo(3, 9), expect.closeTo(18, 9)]);
  });

  it('one after another, back again and on larger pictures they are what they say', () => {
    fc.assert(
      fc.property(maps, maps, fc.integer({ min: -600, max: 600 }), fc.integer({ min: -300, max: 300 }), (p, q, x, y) => {
        const after = through(q, ...through(p, x, y));
        const both = through(chained(q, p), x, y);
        expect(Math.hypot(after[0] - both[0], after[1] - both[1])).toBeLessThan(1e-6);
        const back = through(undone(p), ...through(p, x, y));
        expect(Math.hypot(back[0] - x, back[1] - y)).toBeLessThan(1e-6);
        const [[u, v], [s, t]] = [through(p, x, y), through(enlarged(p, 2), 2 * x, 2 * y)];
        expect(Math.hypot(s - 2 * u, t - 2 * v)).toBeLessThan(1e-6);
      }),
    );
  });

  it('corners are as far apart as a shift takes them; what lies behind the eye is infinitely far', () => {
    expect(cornersApart(UNMOVED, ofMove({ dx: 3, dy: 4, turn: 0, scale: 1 }), 100, 80)).toBeCloseTo(5, 9);
    expect(through([1, 0, 0, 0, 1, 0, -0.1, 0], 20, 0)).toEqual([Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY]);
    expect(() => asHomography([1, 2, 3])).toThrow(RangeError);
  });
});

describe('a picture seen in perspective', () => {
  const [W, H] = [320, 180];
  /** Smooth enough that any good filter gives it back. */
  const scene = (x: number, y: number) => 128 + 60 * Math.sin(x / 14) * Math.cos(y / 11) + 30 * Math.sin((x + 2 * y) / 25);
  const luma = Uint8Array.from({ length: W * H }, (_, i) => Math.round(scene((i % W) + 0.5 - W / 2, Math.floor(i / W) + 0.5 - H / 2)));
  const map = chained([1, 0, 0, 0, 1, 0, 2e-4, -1e-4], ofMove({ dx: -21, dy: 9, turn: 4.1, scale: 1.025 }));

  it('is the scene itself looked at from elsewhere, to the rounding', () => {
    const seen = planeThrough(luma, W, H, map, null);
    let worst = 0;
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++) {
        const [u, v] = through(map, x + 0.5 - W / 2, y + 0.5 - H / 2);
        if (Math.abs(u) < W / 2 - 2 && Math.abs(v) < H / 2 - 2) worst = Math.max(worst, Math.abs(seen[y * W + x] - scene(u, v)));
      }
    expect(worst).toBeLessThan(1.6);
  });

  it('is what OpenCV’s warpPerspective gives, to a hundredth of the range', () => {
    const middle = (x: number, y: number) => [1, 0, x, 0, 1, y, 0, 0, 1];
    const times = (p: readonly number[], q: readonly number[]) =>
      Array.from({ length: 9 }, (_, i) => [0, 1, 2].reduce((s, k) => s + p[3 * Math.floor(i / 3) + k] * q[3 * k + (i % 3)], 0));
    const [cx, cy] = [W / 2 - 0.5, H / 2 - 0.5];
    const matrix = times(middle(cx, cy), times([...undone(map), 1], middle(-cx, -cy)));
    const [src, dst, m] = [cv.matFromArray(H, W, cv.CV_8UC1, luma), new cv.Mat(), cv.matFromArray(3, 3, cv.CV_64FC1, matrix)];
    cv.warpPerspective(src, dst, m, new cv.Size(W, H), cv.INTER_CUBIC, cv.BORDER_REPLICATE, new cv.Scalar());
    const ours = planeThrough(luma, W, H, map, null);
    const apart = dst.data.reduce((s: number, v: number, i: number) => s + Math.abs(v - ours[i]), 0) / ours.length;
    for (const mat of [src, dst, m]) mat.delete();
    expect(apart).toBeLessThan(1);
  });

  it('leaves a picture as it is where nothing is moved, and shows what lies below where it does not reach', () => {
    const planes = { ...blackPlanes(W, H), y: luma };
    expect(seenThrough(planes, UNMOVED)).toEqual(planes);
    const below = { ...blackPlanes(W, H), y: new Uint8Array(W * H).fill(200) };
    const away = seenThrough(planes, ofMove({ dx: W / 2, dy: 0, turn: 0, scale: 1 }), below);
    expect(away.y[W * 90 + W - 5]).toBe(200);
    expect(away.y[W * 90 + 5]).toBe(luma[W * 90 + W / 2 + 5]);
  });

  it('the mean of pictures is taken value by value', () => {
    const [a, b] = [1, 4].map((v) => ({
      width: 2,
      height: 2,
      y: new Uint8Array(4).fill(v),
      u: new Uint8Array([v]),
      v: new Uint8Array([2 * v]),
    }));
    expect(meanPlanes([a, b])).toEqual({
      width: 2,
      height: 2,
      y: new Uint8Array(4).fill(3),
      u: new Uint8Array([3]),
      v: new Uint8Array([5]),
    });
  });
});
