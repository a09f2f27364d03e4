import baboon from 'baboon-image';
import { describe, expect, it } from 'vitest';
import type { Planes } from '../picture';
import { overlap, photographBackground, StagedTake } from '../staged';
import { boxAround, cropped, croppedPlanes, pasted } from './around';
import { makeBackdrop } from './backdrop';
import { laidStrokes, StrokeFollower, strokePieces } from './carried-strokes';
import { chosenFigure } from './chosen-figure';
import { emptyMask, type Mask } from './grid';
import { brush, cutOut, cutOutWithin, type Matte } from './matte';
import { personMatte } from './person-matte';
import { cleanPlate } from './plate';
import { SteadyMatte } from './steady-matte';

const [W, H] = [640, 360];
const rgb = (x: number, y: number) => [baboon.get(x, y, 0), baboon.get(x, y, 1), baboon.get(x, y, 2)] as const;
/** A photograph that ships in the npm package baboon-image. */
const photograph = photographBackground({ width: 512, height: 512, rgb }, W, H);
const empty = new StagedTake({ background: photograph, seed: 9 });
const backdrop = makeBackdrop(
  cleanPlate(
    [0, 1, 2, 3, 4, 5, 6].map((f) => empty.frame(f)),
    true,
  ),
  1,
);
const STILL = { blur: { dx: 0, dy: 0 }, strokes: null };

describe('a part of a picture', () => {
  it('is even, holds what is not empty with its margin, and goes back where it came from', () => {
    const plane = new Uint8Array(20 * 10);
    plane[3 * 20 + 7] = 9;
    plane[6 * 20 + 11] = 4;
    const box = boxAround([plane, null], 20, 10, 1);
    if (!box) throw new Error('no box');
    expect(box).toEqual({ left: 6, top: 2, width: 8, height: 6 });
    const part = cropped(plane, 20, box);
    expect(part[1 * 8 + 1]).toBe(9);
    const again = new Uint8Array(20 * 10);
    pasted(part, again, 20, box);
    expect(again).toEqual(plane);
    expect(boxAround([new Uint8Array(200)], 20, 10, 3)).toBeNull();
    expect(boxAround([plane.fill(1)], 20, 10, 8)).toEqual({ left: 0, top: 0, width: 20, height: 10 });
    const planes = croppedPlanes(empty.frame(0), { left: 10, top: 20, width: 30, height: 14 });
    expect([planes.y.length, planes.u.length]).toEqual([420, 105]);
    expect(planes.u[0]).toBe(empty.frame(0).u[10 * 320 + 5]);
  });

  it('a cut-out within it is the one of the whole frame', () => {
    const take = new StagedTake({ background: photograph, figure: () => ({ x: 320, y: 180, tall: 200, arm: 0.4 }), seed: 4 });
    const matte = cutOut(take.frame(0), backdrop, STILL);
    expect(overlap(matte.alpha, take.alpha(0))).toBeGreaterThan(0.96);
    expect(cutOut(empty.frame(20), backdrop, STILL).alpha.some((a) => a > 0)).toBe(false);
    // Looked for in a part of the frame it is as good, and nothing is found outside.
    const box = { left: 200, top: 40, width: 260, height: 280 };
    const within = cutOutWithin(take.frame(0), backdrop, box, STILL);
    expect(overlap(within.alpha, take.alpha(0))).toBeGreaterThan(0.96);
    expect(within.alpha.some((a, i) => a > 0 && (i % W < 200 || i % W >= 460))).toBe(false);
  });
});

describe('a matte over time', () => {
  /** How far an edge wanders: RMS over rows and frames of where coverage ends at the right, against its mean, pixels. */
  function wander(mattes: readonly Matte[]): number {
    let [sum, n] = [0, 0];
    for (let y = 130; y < 210; y++) {
      const ends = mattes.map(({ alpha }) => {
        let wide = 0;
        for (let x = 0; x < W; x++) wide += alpha[y * W + x] / 255;
        return wide;
      });
      const mean = ends.reduce((s, v) => s + v, 0) / ends.length;
      for (const end of ends) [sum, n] = [sum + (end - mean) ** 2 / 2, n + 1];
    }
    return Math.sqrt(sum / n);
  }

  it('stands still on somebody who does: its edge wanders by less than half a pixel, and by less than without', () => {
    const take = new StagedTake({ background: photograph, figure: () => ({ x: 320, y: 180, tall: 240, arm: 0.4 }), seed: 12, noise: 2.5 });
    const steady = new SteadyMatte();
    const frames = Array.from({ length: 10 }, (_, f) => take.frame(f));
    const plain = frames.map((frame) => cutOut(frame, backdrop, STILL));
    const even = plain.map((matte, f) => steady.next(matte, frames[f]));
    expect(wander(even.slice(3))).toBeLessThan(0.5);
    expect(wander(even.slice(3))).toBeLessThan(0.6 * wander(plain.slice(3)));
    expect(overlap(even[9].alpha, take.alpha(9))).toBeGreaterThan(0.96);
  });

  it('goes with somebody who walks: no trail, as good as frame by frame', () => {
    const take = new StagedTake({ background: photograph, figure: (f) => ({ x: 150 + 9 * f, y: 180, tall: 220, arm: f / 10 }), seed: 5 });
    const steady = new SteadyMatte();
    for (let f = 0; f < 8; f++) {
      const frame = take.frame(f);
      const own = cutOut(frame, backdrop, STILL);
      const even = steady.next(own, frame);
      const truth = take.alpha(f);
      expect(overlap(even.alpha, truth)).toBeGreaterThan(overlap(own.alpha, truth) - 0.01);
    }
  });
});

describe('one figure among several', () => {
  const mask = (...boxes: [number, number, number, number][]): Mask => {
    const out = emptyMask(80, 40);
    for (const [x, y, w, h] of boxes) for (let j = y; j < y + h; j++) out.data.fill(1, j * 80 + x, j * 80 + x + w);
    return out;
  };
  const left = (m: Mask | null) => m?.data.indexOf(1);
  const size = (m: Mask | null) => m?.data.reduce((s, v) => s + v, 0);

  it('is followed both ways from where it was chosen, the other left out', () => {
    const masks = Array.from({ length: 9 }, (_, f) => mask([4 + 2 * f, 10, 6, 20], [60 - f, 5, 8, 25]));
    const found = chosenFigure(masks, 4, 58, 12);
    for (let f = 0; f < 9; f++) {
      expect(size(found[f])).toBe(200);
      expect(left(found[f])).toBe(5 * 80 + 60 - f);
    }
    const other = chosenFigure(masks, 4, 0, 0);
    expect(size(other[0])).toBe(120);
  });

  it('is not seen where it is away, and taken up again; frames that could not be told are left out', () => {
    const masks = [mask([10, 10, 6, 20]), null, mask(), mask([12, 10, 6, 20], [60, 5, 8, 25])];
    expect(chosenFigure(masks, 0, 12, 20).map(size)).toEqual([120, undefined, undefined, 120]);
    expect(chosenFigure([null, mask()], 0, 3, 3)).toEqual([null, null]);
    expect(chosenFigure([null, mask()], 1, 3, 3)).toEqual([null, null]);
  });

  it('of two that come together what lies near goes on', () => {
    const masks = [mask([10, 10, 6, 20], [40, 10, 6, 20]), mask([10, 10, 30, 20])];
    const [, merged] = chosenFigure(masks, 0, 12, 15);
    expect(size(merged)).toBeLessThan(320);
    expect(merged?.data[15 * 80 + 38]).toBe(0);
  });
});

describe('painted corrections', () => {
  /** A round piece of the photograph that goes across it. */
  const across = (f: number): Planes => {
    const planes = empty.frame(f);
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++)
        if (Math.hypot(x - 200 - 6 * f, y - 160 - 2 * f) < 60) planes.y[y * W + x] = photograph(x - 6 * f + 180, y - 2 * f, 0)[0];
    return planes;
  };

  it('go along with what they were painted on', () => {
    const strokes = new Uint8Array(W * H);
    brush(strokes, W, H, [[200, 160]], 12, 2);
    const pieces = strokePieces(strokes, W, H);
    const follower = new StrokeFollower(across(0), pieces);
    let last: Uint8Array | null = null;
    for (let f = 1; f <= 10; f++) last = laidStrokes(pieces, follower.next(across(f)), W, H);
    if (!last) throw new Error('lost');
    let [n, sx, sy] = [0, 0, 0];
    last.forEach((v, i) => {
      if (v === 2) [n, sx, sy] = [n + 1, sx + (i % W) + 0.5, sy + Math.floor(i / W) + 0.5];
    });
    expect(Math.abs(sx / n - 260)).toBeLessThan(1);
    expect(Math.abs(sy / n - 180)).toBeLessThan(1);
    expect(n).toBeGreaterThan(0.9 * Math.PI * 144);
  });

  it('on the set stay where they are, and end where what they lie on is no longer seen', () => {
    const strokes = new Uint8Array(W * H);
    brush(strokes, W, H, [[500, 100]], 10, 1);
    brush(strokes, W, H, [[100, 250]], 10, 2);
    const pieces = strokePieces(strokes, W, H);
    expect(pieces.map((p) => p.value)).toEqual([1, 2]);
    const follower = new StrokeFollower(empty.frame(0), pieces);
    const next = laidStrokes(pieces, follower.next(empty.frame(1)), W, H);
    expect([next?.[100 * W + 500], next?.[250 * W + 100]]).toEqual([1, 2]);
    const dark = empty.frame(2);
    dark.y.fill(16);
    expect(follower.next(dark)).toEqual([null, null]);
    // Once lost they stay away.
    expect(laidStrokes(pieces, follower.next(empty.frame(3)), W, H)).toBeNull();
  });
});

describe('a person told by how surely each pixel shows one', () => {
  it('is drawn from a coarse map to the picture’s own edges', () => {
    // A dark figure on a light even ground, and a map that says so only coarsely.
    const take = new StagedTake({
      background: () => [190, 128, 128],
      figure: () => ({ x: 320, y: 180, tall: 240, arm: 0.5 }),
      seed: 3,
      shadow: 0,
    });
    const truth = take.alpha(0);
    const cell = 12;
    const sure = new Float32Array(W * H);
    for (let i = 0; i < sure.length; i++) {
      const [x, y] = [i % W, Math.floor(i / W)];
      let [sum, n] = [0, 0];
      for (let v = y - cell; v <= y + cell; v += 4)
        for (let u = x - cell; u <= x + cell; u += 4) if (u >= 0 && v >= 0 && u < W && v < H) [sum, n] = [sum + truth[v * W + u], n + 1];
      sure[i] = sum / n;
    }
    const coarse = Uint8Array.from(sure, (v) => (v > 0.5 ? 255 : 0));
    const strokes = new Uint8Array(W * H);
    strokes[5] = 1;
    const matte = personMatte(take.frame(0), sure, strokes);
    expect(overlap(matte.alpha, truth)).toBeGreaterThan(0.95);
    expect(overlap(coarse, truth)).toBeLessThan(0.9);
    expect(matte.alpha[5]).toBe(255);
  });
});
