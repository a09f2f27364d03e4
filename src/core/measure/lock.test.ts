import { createRequire } from 'node:module';
import baboon from 'baboon-image';
import { beforeAll, describe, expect, it } from 'vitest';
import { BT709 } from '../picture/colour';
import { randomSource } from '../room';
import { bump, RoomCamera, STILL, type TakeOptions, takeFall } from '../room/take';
import { blockColours, readLight } from './light';
import { canLock, findBumps, LockMeter, makeReference } from './lock';
import type { Luma } from './luma';
import { phaseShifts } from './phase';
import { cornerMove, fitSimilarity, moved, type Similarity } from './similarity';

// Required, not imported: the module is itself a thenable, which an import would wait on for ever.
const cv: OpenCv = createRequire(import.meta.url)('@techstark/opencv-js');

const SIZE = 512;
/** A photograph that ships in the npm package baboon-image, as BT.709 brightness. */
const photo: Luma = { width: SIZE, height: SIZE, data: new Uint8Array(SIZE * SIZE) };
for (let y = 0; y < SIZE; y++) {
  for (let x = 0; x < SIZE; x++)
    photo.data[y * SIZE + x] = 0.2126 * baboon.get(x, y, 0) + 0.7152 * baboon.get(x, y, 1) + 0.0722 * baboon.get(x, y, 2);
}

beforeAll(async () => {
  if (!cv.Mat) await new Promise<void>((resolve) => (cv.onRuntimeInitialized = resolve));
});

/** Moves a picture with OpenCV's Lanczos filter, adds noise and a patch that goes its own way. */
function movedByOpenCv(move: Similarity, gain = 1, noise = 1.5, intruder = true): Luma {
  const a = (move.turn * Math.PI) / 180;
  const c = Math.cos(a) * move.scale;
  const s = Math.sin(a) * move.scale;
  const centre = SIZE / 2 - 0.5;
  const matrix = [c, -s, centre - c * centre + s * centre + move.dx, s, c, centre - s * centre - c * centre + move.dy];
  const src = cv.matFromArray(SIZE, SIZE, cv.CV_8UC1, photo.data);
  const dst = new cv.Mat();
  const m = cv.matFromArray(2, 3, cv.CV_64FC1, matrix);
  cv.warpAffine(src, dst, m, new cv.Size(SIZE, SIZE), cv.INTER_LANCZOS4, cv.BORDER_REFLECT, new cv.Scalar());
  const random = randomSource(77);
  const data = Uint8Array.from(dst.data, (v) =>
    Math.max(0, Math.min(255, Math.round(v * gain + (random() + random() + random() - 1.5) * 2 * noise))),
  );
  for (const mat of [src, dst, m]) mat.delete();
  if (intruder) {
    // A third of the picture slides 9 pixels sideways by itself: the performer.
    for (let y = 120; y < 400; y++) for (let x = 150; x < 330; x++) data[y * SIZE + x] = photo.data[(y + 3) * SIZE + x + 9];
  }
  return { width: SIZE, height: SIZE, data };
}

function eccOpinion(frame: Luma): { dx: number; dy: number; turn: number } {
  const template = cv.matFromArray(SIZE, SIZE, cv.CV_8UC1, photo.data);
  const input = cv.matFromArray(SIZE, SIZE, cv.CV_8UC1, frame.data);
  const warp = cv.Mat.eye(2, 3, cv.CV_32FC1);
  cv.findTransformECC(template, input, warp, cv.MOTION_EUCLIDEAN, new cv.TermCriteria(3, 60, 1e-7), new cv.Mat(), 5);
  const [c, s, tx, s2, , ty] = [warp.data32F[0], warp.data32F[1], warp.data32F[2], warp.data32F[3], 0, warp.data32F[5]];
  const k = SIZE / 2 - 0.5;
  const out = { dx: tx + (c - 1) * k + s * k, dy: ty + s2 * k + (c - 1) * k, turn: (Math.atan2(s2, c) * 180) / Math.PI };
  for (const mat of [template, input, warp]) mat.delete();
  return out;
}

describe('lock against known moves of a photograph, with OpenCV as the mover and the second opinion', () => {
  const moves: Similarity[] = [
    { dx: 0, dy: 0, turn: 0, scale: 1 },
    { dx: 0.37, dy: -0.22, turn: 0, scale: 1 },
    { dx: -2.31, dy: 1.42, turn: 0.04, scale: 1 },
    { dx: 7.6, dy: -4.9, turn: 0.31, scale: 1.0008 },
    { dx: -23.4, dy: 17.25, turn: -0.8, scale: 0.997 },
  ];
  const reference = makeReference([photo]);

  it.each(moves)('dx $dx dy $dy turn $turn scale $scale', (move) => {
    const found = new LockMeter(reference).read(movedByOpenCv(move));
    expect(found.trusted).toBe(true);
    for (const x of [-256, 256]) {
      for (const y of [-256, 256]) {
        const [a, b] = [moved(found, x, y), moved(move, x, y)];
        expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(0.05);
      }
    }
    expect(Math.abs(found.turn - move.turn)).toBeLessThan(0.005);
  });

  it("agrees with OpenCV's findTransformECC where nothing moves by itself", () => {
    const frame = movedByOpenCv({ dx: 1.27, dy: -0.61, turn: 0.12, scale: 1 }, 1, 1.5, false);
    const found = new LockMeter(reference).read(frame);
    const other = eccOpinion(frame);
    expect(Math.abs(found.dx - other.dx)).toBeLessThan(0.05);
    expect(Math.abs(found.dy - other.dy)).toBeLessThan(0.05);
    expect(Math.abs(found.turn - other.turn)).toBeLessThan(0.005);
  });

  it('a change of light does not move it', () => {
    const found = new LockMeter(reference).read(movedByOpenCv({ dx: 0.8, dy: 0.3, turn: 0, scale: 1 }, 0.82));
    expect(Math.hypot(found.dx - 0.8, found.dy - 0.3)).toBeLessThan(0.05);
  });

  it('phase correlation is near enough to start from (Kuglin & Hines 1975)', () => {
    const [found] = phaseShifts(photo, movedByOpenCv({ dx: -23.4, dy: 17.25, turn: 0, scale: 1 }, 1, 1.5, false));
    expect(Math.hypot(found.dx + 23.4, found.dy - 17.25)).toBeLessThan(1.5);
  });

  it('refuses a blank wall and does not trust an unrelated picture', () => {
    const blank = { width: 320, height: 240, data: new Uint8Array(320 * 240).fill(90) };
    expect(canLock(makeReference([blank]))).toBe(false);
    const random = randomSource(4);
    const noise = { width: SIZE, height: SIZE, data: Uint8Array.from({ length: SIZE * SIZE }, () => random() * 255) };
    expect(new LockMeter(reference).read(noise).trusted).toBe(false);
  });
});

describe('similarity', () => {
  it('votes out a third of wild points', () => {
    const truth = { dx: 1.5, dy: -0.7, turn: 0.2, scale: 1.001 };
    const random = randomSource(8);
    const points = Array.from({ length: 60 }, (_, i) => {
      const x = (random() - 0.5) * 1200;
      const y = (random() - 0.5) * 700;
      const [px, py] = moved(truth, x, y);
      return i % 3 ? { x, y, dx: px - x, dy: py - y } : { x, y, dx: 9 + random(), dy: 4 };
    });
    const fit = fitSimilarity(points);
    expect(fit?.move.dx).toBeCloseTo(1.5, 3);
    expect(fit?.move.turn).toBeCloseTo(0.2, 4);
    expect(cornerMove(truth, 1280, 720)).toBeGreaterThan(3);
  });
});

describe('the simulated laundrette, exact truth', () => {
  const [width, height] = [480, 270];
  const camera = new RoomCamera(width, height, 1);
  const options: TakeOptions = {
    width,
    height,
    act: 'toss',
    outfit: 0,
    seed: 3,
    place: -0.25,
    pose: () => STILL,
    exposure: () => 0,
    balance: [1, 1],
    noise: 1,
    shutter: 0.02,
  };
  const fall = takeFall(options);
  const luma = (o: TakeOptions, t: number, n: number): Luma => ({ width, height, data: camera.draw(o, fall, t, n).y });
  const reference = makeReference([0, 0.2, 0.4, 0.6, 0.8].map((t, i) => luma(options, t, i)));

  it('a performer in full swing under falling cloths does not fool it; a bump is found to the frame', () => {
    const shaken = { ...options, seed: 5, pose: bump(3.6, 1.6, -1.1, 0.05), balance: [1.05, 0.95] as const, exposure: () => -0.12 };
    const meter = new LockMeter(reference);
    const times = Array.from({ length: 28 }, (_, i) => 3.2 + i / 25);
    const readings = times.map((t, i) => meter.read(luma(shaken, t, i)));
    readings.forEach((r, i) => {
      const truth = shaken.pose(times[i]);
      if (r.trusted) expect(Math.hypot(r.dx - truth.dx, r.dy - truth.dy)).toBeLessThan(0.12);
    });
    expect(readings.filter((r) => r.trusted).length).toBeGreaterThan(25);
    const bumps = findBumps(readings, Math.hypot(width, height) / 2);
    expect(bumps).toHaveLength(1);
    expect(Math.abs(bumps[0].index - 10)).toBeLessThanOrEqual(1);
    expect(Math.abs(bumps[0].size - Math.hypot(1.6, 1.1))).toBeLessThan(0.3);
  });

  it('no bump is reported on a still take', () => {
    const meter = new LockMeter(reference);
    const readings = Array.from({ length: 20 }, (_, i) => meter.read(luma(options, 2.8 + i / 25, i)));
    expect(findBumps(readings, Math.hypot(width, height) / 2)).toEqual([]);
  });

  it('light: stops and colour balance from the background only', () => {
    const still = camera.draw(options, null, 0.5, 1);
    const warm = camera.draw({ ...options, seed: 9, exposure: () => -0.2, balance: [1.06, 0.94] }, fall, 4, 2);
    const ref = makeReference([{ width, height, data: still.y }]);
    const lock = new LockMeter(ref).read({ width, height, data: warm.y });
    const light = readLight(ref.fine, blockColours(ref.fine, still), BT709, warm, BT709, lock);
    expect(light).not.toBeNull();
    if (!light) return;
    expect(Math.abs(light.gains.g / 2 ** -0.2 - 1)).toBeLessThan(0.01);
    expect(Math.abs(light.red - 1.06)).toBeLessThan(0.01);
    expect(Math.abs(light.blue - 0.94)).toBeLessThan(0.012);
  });
});
