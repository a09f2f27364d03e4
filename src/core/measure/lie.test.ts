import { createRequire } from 'node:module';
import baboon from 'baboon-image';
import { beforeAll, describe, expect, it } from 'vitest';
import { chained, cornersApart, type Homography, ofMove, through, UNMOVED } from '../picture';
import { randomSource } from '../room';
import { featureGuesses } from './features';
import { fitHomography, mapOfPoints, nearestMove } from './fit-homography';
import { bestLie, lieFrom } from './lie';
import type { Luma } from './luma';

// Required, not imported: the module is itself a thenable, which an import would wait on for ever.
const cv = createRequire(import.meta.url)('@techstark/opencv-js');
beforeAll(async () => {
  if (!cv.Mat) await new Promise<void>((resolve) => (cv.onRuntimeInitialized = resolve));
});

const SIZE = 512;
/** A photograph that ships in the npm package baboon-image, as BT.709 brightness. */
const photo: Luma = { width: SIZE, height: SIZE, data: new Uint8Array(SIZE * SIZE) };
for (let y = 0; y < SIZE; y++)
  for (let x = 0; x < SIZE; x++)
    photo.data[y * SIZE + x] = 0.2126 * baboon.get(x, y, 0) + 0.7152 * baboon.get(x, y, 1) + 0.0722 * baboon.get(x, y, 2);

/** The photograph from elsewhere by OpenCV's Lanczos filter, in other light, softer, with noise and a performer who stands in front. */
function filmedFrom(map: Homography, { gain = 1, blur = 0, noise = 1.5, performer = true } = {}): Luma {
  const middle = SIZE / 2 - 0.5;
  const back = [1, 0, middle, 0, 1, middle, 0, 0, 1];
  const times = (p: readonly number[], q: readonly number[]) =>
    Array.from({ length: 9 }, (_, i) => [0, 1, 2].reduce((s, k) => s + p[3 * Math.floor(i / 3) + k] * q[3 * k + (i % 3)], 0));
  const matrix = times(back, times([...map, 1], [1, 0, -middle, 0, 1, -middle, 0, 0, 1]));
  const [src, dst, m] = [cv.matFromArray(SIZE, SIZE, cv.CV_8UC1, photo.data), new cv.Mat(), cv.matFromArray(3, 3, cv.CV_64FC1, matrix)];
  cv.warpPerspective(src, dst, m, new cv.Size(SIZE, SIZE), cv.INTER_LANCZOS4, cv.BORDER_REFLECT, new cv.Scalar());
  if (blur > 0) cv.GaussianBlur(dst, dst, new cv.Size(0, 0), blur, blur);
  const random = randomSource(77);
  const data = Uint8Array.from(dst.data as Uint8Array, (v) =>
    Math.max(0, Math.min(255, Math.round(v * gain + (random() + random() + random() - 1.5) * 2 * noise))),
  );
  for (const mat of [src, dst, m]) mat.delete();
  if (performer) for (let y = 150; y < 512; y++) for (let x = 190; x < 320; x++) data[y * SIZE + x] = photo.data[(y - 90) * SIZE + x - 130];
  return { width: SIZE, height: SIZE, data };
}

/** A camera of 62° across that was panned, tilted and rolled by degrees, and zoomed. */
function camera(pan: number, tilt: number, roll: number, zoom: number): Homography {
  const focal = SIZE / 2 / Math.tan((31 * Math.PI) / 180);
  const [p, t] = [(pan * Math.PI) / 180, (tilt * Math.PI) / 180];
  const turned: Homography = [Math.cos(p), 0, focal * Math.sin(p), 0, 1, 0, -Math.sin(p) / focal, 0].map(
    (v) => v / Math.cos(p),
  ) as unknown as Homography;
  const tipped: Homography = [1 / Math.cos(t), 0, 0, 0, 1, -focal * Math.tan(t), 0, Math.tan(t) / focal];
  return chained(ofMove({ dx: 0, dy: 0, turn: roll, scale: zoom }), chained(tipped, turned));
}

describe('a take filmed from elsewhere', () => {
  it.each([
    { what: 'put back on its stand: 4.1° turned, 2.5 % larger, a tenth across', map: ofMove({ dx: 51, dy: -20, turn: 4.1, scale: 1.025 }) },
    { what: 'panned by 5° and tilted by 2°', map: camera(5, 2, 1, 1) },
    { what: 'a quarter of the frame away', map: ofMove({ dx: -128, dy: 30, turn: 2, scale: 1 }) },
    { what: 'turned by 15°', map: ofMove({ dx: 10, dy: 10, turn: -15, scale: 1 }) },
    { what: 'a fifth smaller', map: ofMove({ dx: 5, dy: 0, turn: 1, scale: 0.8 }) },
    { what: 'a quarter larger', map: ofMove({ dx: 5, dy: -9, turn: -1, scale: 1.25 }) },
    { what: 'all of it, in perspective', map: camera(9, -4, 8, 1.1) },
  ])('$what: is found, in other light and softer', ({ map }) => {
    const other = filmedFrom(map, { gain: 0.8, blur: 0.7 });
    const lie = bestLie(photo, other, featureGuesses(cv, photo, other));
    if (!lie) throw new Error('not found');
    expect(cornersApart(lie.map, map, SIZE, SIZE)).toBeLessThan(0.25);
    expect(lie.inliers).toBeGreaterThan(0.3);
  });

  it('a shift, a turn and a scale are told as that, perspective only where it is', () => {
    const move = { dx: 20, dy: -11, turn: 3, scale: 1.02 };
    const plain = lieFrom(photo, filmedFrom(ofMove(move), { performer: false, noise: 0.5 }), ofMove({ ...move, dx: 24 }));
    expect(plain?.move?.turn).toBeCloseTo(3, 2);
    expect(plain?.move?.dx).toBeCloseTo(20, 1);
    const bent = camera(4, 0, 0, 1);
    expect(lieFrom(photo, filmedFrom(bent, { performer: false, noise: 0.5 }), bent)?.move).toBeNull();
  });

  it('nothing is said of another scene, or of darkness', () => {
    const random = randomSource(5);
    const other = { width: SIZE, height: SIZE, data: Uint8Array.from({ length: SIZE * SIZE }, () => 255 * random()) };
    const dark = { width: SIZE, height: SIZE, data: new Uint8Array(SIZE * SIZE).fill(18) };
    expect(bestLie(photo, other, featureGuesses(cv, photo, other))).toBeNull();
    expect(featureGuesses(cv, photo, dark)).toEqual([]);
    expect(lieFrom(photo, other, UNMOVED)).toBeNull();
  });
});

describe('points', () => {
  const truth = camera(6, -3, 5, 1.05);
  const at = ([x, y]: readonly [number, number]) => {
    const [u, v] = through(truth, x, y);
    return { x, y, dx: u - x, dy: v - y };
  };

  it('four fix perspective, two a shift, a turn and a scale; two in one place nothing', () => {
    const four = mapOfPoints([at([-200, -180]), at([210, -170]), at([190, 200]), at([-220, 160])]);
    expect(four && cornersApart(four, truth, SIZE, SIZE)).toBeLessThan(1e-6);
    const move = ofMove({ dx: 30, dy: -12, turn: 7, scale: 1.1 });
    const two = mapOfPoints(
      [
        [-150, 20],
        [180, -60],
      ].map(([x, y]) => {
        const [u, v] = through(move, x, y);
        return { x, y, dx: u - x, dy: v - y };
      }),
    );
    expect(two && cornersApart(two, move, SIZE, SIZE)).toBeLessThan(1e-6);
    const row = mapOfPoints([at([-200, -100]), at([0, -98]), at([200, -102]), at([10, 150])]);
    expect(row?.slice(6)).toEqual([0, 0]);
    expect(mapOfPoints([at([10, 10]), at([12, 11])])).toBeNull();
    expect(mapOfPoints([at([10, 10])])).toBeNull();
  });

  it('a third that go their own way have no say', () => {
    const random = randomSource(3);
    const points = Array.from({ length: 90 }, (_, i) => {
      const point = at([(random() - 0.5) * SIZE, (random() - 0.5) * SIZE]);
      return i % 3 ? { ...point, dx: point.dx + (random() - 0.5) * 0.1 } : { ...point, dx: point.dx + 9 + 5 * random(), dy: point.dy - 4 };
    });
    const fitted = fitHomography(points, chained(ofMove({ dx: 2, dy: 1, turn: 0, scale: 1 }), truth), 0.35, 5);
    expect(fitted && cornersApart(fitted.map, truth, SIZE, SIZE)).toBeLessThan(0.15);
    expect(fitted?.inliers).toBeCloseTo(2 / 3, 1);
  });

  it('the nearest move of a move is itself', () => {
    const move = { dx: 12, dy: -7, turn: -3, scale: 0.9 };
    const near = nearestMove(ofMove(move), 640, 360);
    for (const key of ['dx', 'dy', 'turn', 'scale'] as const) expect(near[key]).toBeCloseTo(move[key], 9);
  });
});
