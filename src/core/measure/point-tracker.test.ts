import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import type { Luma } from './luma';
import { fitPatch, makePatch, type PatchPose, searchPatch } from './patch-fit';
import { PointTracker, type TrackedPoint } from './point-tracker';

/** Brightness at any place, exact: blots of many sizes. */
type Field = (x: number, y: number) => number;
function blots(seed: number, size: number, count = 700): Field {
  const random = randomSource(seed);
  const all = Array.from({ length: count }, () => ({
    x: size * random(),
    y: size * random(),
    r: 2.2 + 6 * random() ** 2,
    v: 160 * random() - 80,
  }));
  const cells = new Map<number, typeof all>();
  for (const blot of all)
    for (let cy = Math.floor((blot.y - 4 * blot.r) / 16); cy <= (blot.y + 4 * blot.r) / 16; cy++)
      for (let cx = Math.floor((blot.x - 4 * blot.r) / 16); cx <= (blot.x + 4 * blot.r) / 16; cx++) {
        const key = cy * 1000 + cx;
        cells.set(key, [...(cells.get(key) ?? []), blot]);
      }
  return (x, y) => {
    let sum = 120;
    for (const b of cells.get(Math.floor(y / 16) * 1000 + Math.floor(x / 16)) ?? [])
      sum += b.v * Math.exp(-((x - b.x) ** 2 + (y - b.y) ** 2) / (2 * b.r * b.r));
    return sum;
  };
}

interface Light {
  /** Only what is near a place is drawn; elsewhere the picture is even. */
  near?: { x: number; y: number };
  gain?: number;
  offset?: number;
  noise?: number;
  seed?: number;
}
/** Pixels around a place that are drawn. */
const NEAR = 44;

/** A picture of a field; `at` leads from a place of the picture to one of the field. */
function picture(width: number, height: number, field: Field, at: (x: number, y: number) => [number, number], light: Light = {}): Luma {
  const { gain = 1, offset = 0, noise = 0, seed = 1, near } = light;
  const random = randomSource(seed);
  const data = new Uint8Array(width * height);
  for (let i = 0; i < data.length; i++) {
    const [px, py] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
    if (near && Math.max(Math.abs(px - near.x), Math.abs(py - near.y)) > NEAR) {
      data[i] = 120;
      continue;
    }
    const [x, y] = at(px, py);
    const normal = random() + random() + random() + random() - 2;
    data[i] = Math.max(0, Math.min(255, Math.round(gain * (field(x, y) - 120) + 120 + offset + noise * 1.73 * normal)));
  }
  return { width, height, data };
}
/** Back from a place of a picture, where a region lies by `pose`, to where it was marked. */
function back({ x, y, turn, scale }: PatchPose, from: { x: number; y: number }) {
  const a = (-turn * Math.PI) / 180;
  return (px: number, py: number): [number, number] => {
    const [u, v] = [(px - x) / scale, (py - y) / scale];
    return [from.x + Math.cos(a) * u - Math.sin(a) * v, from.y + Math.sin(a) * u + Math.cos(a) * v];
  };
}

const W = 280;
const H = 200;
const HOME = { x: 140.3, y: 100.7 };
const field = blots(7, 400);
const first = picture(W, H, field, (x, y) => [x, y]);
const stays = { ...HOME, turn: 0, scale: 1 };

describe('a patch fitted to a picture', () => {
  it.each([
    ['a shift by parts of a pixel', { ...stays, x: 142.86, y: 98.22 }, {}],
    ['a turn', { ...stays, turn: 4 }, {}],
    ['a size', { ...stays, scale: 1.06 }, {}],
    ['all of them', { x: 143.1, y: 103.4, turn: -3, scale: 0.95 }, {}],
    ['half the contrast and less light', { ...stays, x: 141.9 }, { gain: 0.5, offset: -30 }],
    ['noise', { ...stays, x: 141.4, y: 101.9 }, { noise: 3 }],
  ] as const)('tells %s', (_, pose, light) => {
    const seen = picture(W, H, field, back(pose, HOME), light);
    const fit = fitPatch(seen, makePatch(first, stays, 18), stays);
    if (!fit) throw new Error('not fitted');
    expect(Math.hypot(fit.x - pose.x, fit.y - pose.y)).toBeLessThan('noise' in light ? 0.06 : 0.02);
    expect(Math.abs(fit.turn - pose.turn)).toBeLessThan('noise' in light ? 0.5 : 0.25);
    expect(Math.abs(fit.scale - pose.scale)).toBeLessThan(0.005);
    expect(fit.alike).toBeGreaterThan(0.97);
  });

  it('is little moved by something that covers a quarter of it', () => {
    const pose = { ...stays, x: 142.4, y: 101.2 };
    const seen = picture(W, H, field, back(pose, HOME));
    for (let y = 0; y < H; y++) for (let x = 152; x < W; x++) seen.data[y * W + x] = 230;
    const fit = fitPatch(seen, makePatch(first, stays, 18), stays);
    expect(Math.hypot((fit?.x ?? 0) - pose.x, (fit?.y ?? 0) - pose.y)).toBeLessThan(0.2);
  });

  it('where there is nothing to hold on to there is no fit', () => {
    const flat = picture(
      W,
      H,
      () => 120,
      (x, y) => [x, y],
    );
    expect(fitPatch(flat, makePatch(flat, stays, 18), stays)).toBeNull();
  });

  it('is looked for by whole pixels, of two alike the nearer', () => {
    const pose = { ...stays, x: HOME.x + 17, y: HOME.y - 9 };
    const found = searchPatch(picture(W, H, field, back(pose, HOME)), makePatch(first, stays, 8), stays, 24);
    expect(Math.max(Math.abs(found.x - pose.x), Math.abs(found.y - pose.y))).toBeLessThanOrEqual(0.5);
    const twice: Field = (x, y) => field(x < 140 ? x : x - 140, y);
    const both = picture(W, H, twice, (x, y) => [x, y]);
    const here = { ...stays, x: 70, y: 100 };
    expect(searchPatch(both, makePatch(both, here, 8), { ...here, x: 74 }, 150).x).toBeCloseTo(70, -0.5);
  });
});

/** Follows a region through frames and gives each with its truth. */
function follow(frames: number, poseAt: (f: number) => PatchPose, make: (f: number, pose: PatchPose) => Luma, radius = 18) {
  const begin = poseAt(0);
  const tracker = new PointTracker(make(0, begin), { x: begin.x, y: begin.y, radius });
  return Array.from({ length: frames - 1 }, (_, i) => {
    const truth = poseAt(i + 1);
    const found: TrackedPoint = tracker.next(make(i + 1, truth));
    return { ...found, truth, off: Math.hypot(found.x - truth.x, found.y - truth.y) };
  });
}
const rms = (list: readonly { off: number }[]) => Math.sqrt(list.reduce((sum, { off }) => sum + off * off, 0) / list.length);

describe('a place followed through a take', () => {
  const walk = (f: number): PatchPose => ({
    x: 80 + 1.9 * f + 8 * Math.sin(f / 5),
    y: 100 + 12 * Math.cos(f / 9),
    turn: 8 * Math.sin(f / 13),
    scale: 1 + 0.12 * Math.sin(f / 17),
  });
  const seen = (light: (f: number) => Light) => (f: number, pose: PatchPose) =>
    picture(W, H, field, back(pose, HOME), { ...light(f), near: pose, seed: f + 1 });

  it.each([
    ['noise of 2 code values', () => ({ noise: 2 }), 0.1],
    ['light that halves', (f: number) => ({ noise: 2, gain: 1 - 0.5 * (f / 45), offset: -0.4 * f }), 0.1],
    ['a lamp that flickers', (f: number) => ({ noise: 2, gain: f % 2 ? 0.85 : 1.1 }), 0.1],
  ] as const)('to a tenth of a pixel with %s', (_, light, limit) => {
    const found = follow(45, walk, seen(light));
    expect(found.filter((p) => p.lost)).toEqual([]);
    expect(rms(found), 'RMS in pixels').toBeLessThan(limit);
    for (const { turn, scale, truth } of found) {
      expect(Math.abs(turn - truth.turn)).toBeLessThan(1);
      expect(Math.abs(scale - truth.scale)).toBeLessThan(0.012);
    }
  });

  it('through motion blur of up to eight pixels', () => {
    const blurred = (f: number) => {
      const sum = new Float64Array(W * H);
      for (let k = 0; k < 6; k++) {
        const t = f + (k - 2.5) / 12;
        const { data } = picture(W, H, field, back(fast(t), HOME), { near: fast(f) });
        data.forEach((v, i) => {
          sum[i] += v / 6;
        });
      }
      return { width: W, height: H, data: Uint8Array.from(sum, Math.round) };
    };
    const fast = (f: number): PatchPose => ({ x: 140 + 60 * Math.sin(f / 4), y: 100 + 6 * Math.sin(f / 3), turn: 0, scale: 1 });
    const found = follow(20, fast, blurred);
    expect(found.filter((p) => p.lost)).toEqual([]);
    expect(rms(found)).toBeLessThan(0.1);
  });

  it('before another background than it was marked on', () => {
    const behind = blots(31, 400);
    const disc = (f: number, pose: PatchPose) => {
      const own = back(pose, HOME);
      const random = randomSource(f + 5);
      const data = new Uint8Array(W * H);
      for (let i = 0; i < data.length; i++) {
        const [x, y] = [(i % W) + 0.5, Math.floor(i / W) + 0.5];
        const cover = Math.max(0, Math.min(1, 15.5 - Math.hypot(x - pose.x, y - pose.y) / pose.scale));
        data[i] = Math.max(0, Math.min(255, cover * field(...own(x, y)) + (1 - cover) * behind(x, y) + 4 * random() - 2));
      }
      return { width: W, height: H, data };
    };
    const found = follow(36, (f) => ({ ...walk(f), turn: 0 }), disc, 15);
    expect(found.filter((p) => p.lost)).toEqual([]);
    expect(rms(found)).toBeLessThan(0.1);
  });

  it('hidden it is said to be, goes on as it went, and is taken up again', () => {
    const straight = (f: number): PatchPose => ({ x: 60 + 3 * f, y: 100, turn: 0, scale: 1 });
    const hidden = (f: number, pose: PatchPose) => {
      const seenThen = picture(W, H, field, back(pose, HOME), { noise: 1.5, near: pose, seed: f + 1 });
      if (f >= 20 && f < 27)
        for (let y = 0; y < H; y++) for (let x = 90; x < 200; x++) seenThen.data[y * W + x] = 60 + ((x * 7 + y * 13) % 23);
      return seenThen;
    };
    const found = follow(45, straight, hidden);
    const at = (f: number) => found[f - 1];
    for (let f = 20; f < 27; f++) expect(at(f).lost, `frame ${f}`).toBe(true);
    expect(at(21).off).toBeLessThan(4);
    for (let f = 30; f < 45; f++) {
      expect(at(f).lost, `frame ${f}`).toBe(false);
      expect(at(f).off).toBeLessThan(0.15);
    }
  });

  it('a large region is followed in a reduced picture as exactly against its size', () => {
    const large = blots(9, 900, 500);
    const pose = (f: number): PatchPose => ({ x: 300 + 4 * f, y: 240 - 2 * f, turn: 0.3 * f, scale: 1 + 0.004 * f });
    const make = (f: number, p: PatchPose) =>
      picture(640, 480, (x, y) => large(x / 2, y / 2), back(p, { x: 400, y: 380 }), { noise: 2, seed: f });
    const found = follow(16, pose, make, 90);
    expect(found.filter((p) => p.lost)).toEqual([]);
    expect(rms(found)).toBeLessThan(0.1);
  });
});
