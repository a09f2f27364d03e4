import baboon from 'baboon-image';
import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { photographBackground, StagedTake } from '../staged';
import { makeBackdrop } from './backdrop';
import { settledEdge, settledPlainly } from './figure-edge';
import { findFigure, findPlainly } from './figure-found';
import { emptyMask } from './grid';
import { cutting } from './passes';
import { cleanPlate } from './plate';
import { edgeAsk, softEdge, softPlainly } from './soft-edge';
import { evenedByKernel } from './steady-kernel';
import { AROUND, evenedPlainly, KEPT, limitFor } from './steady-matte';

const [W, H] = [256, 146];
const rgb = (x: number, y: number) => [baboon.get(x, y, 0), baboon.get(x, y, 1), baboon.get(x, y, 2)] as const;
/** A photograph that ships in the npm package baboon-image. */
const background = photographBackground({ width: 512, height: 512, rgb }, W, H);
const empty = new StagedTake({ width: W, height: H, background, seed: 9 });
const backdrop = makeBackdrop(
  cleanPlate(
    [0, 1, 2, 3, 4].map((f) => empty.frame(f)),
    true,
  ),
  1,
);
const figures = [
  { x: 120, y: 75, tall: 110, arm: 0.4 },
  { x: 60, y: 70, tall: 80, arm: 0.9, blur: 9 },
  // One who leaves the frame, and nobody.
  { x: 4, y: 90, tall: 130, arm: 0 },
  null,
];
const frames = figures.map((at, k) => new StagedTake({ width: W, height: H, background, seed: 3 + k, figure: at && (() => at) }).frame(0));
/** How many bytes of two lists differ by more than `by`. */
const unlike = (a: ArrayLike<number>, b: ArrayLike<number>, by = 0) => {
  expect(a.length).toBe(b.length);
  return Array.from(a).filter((v, i) => Math.abs(v - b[i]) > by).length;
};

describe('a cut-out in compiled code agrees with the plain one', () => {
  it('is to be had here', () => expect(cutting()).not.toBeNull());

  it.each(frames.map((frame, k) => [k, frame] as const))('figure %i, step by step', (k, frame) => {
    const plain = findPlainly(frame, backdrop);
    const quick = findFigure(frame, backdrop);
    // Sums in single precision may turn a pixel that lies on a limit.
    expect(unlike(quick.mask.data, plain.mask.data)).toBeLessThan(4);
    expect(unlike(quick.shade, plain.shade)).toBeLessThan(12);
    expect(unlike(quick.apart, plain.apart, 1e-3)).toBe(0);
    expect(unlike(quick.usual, plain.usual, 1e-4)).toBe(0);
    const count = plain.mask.data.reduce((a, b) => a + b, 0);
    if (figures[k]) expect(count).toBeGreaterThan(500);
    else expect(count).toBe(0);

    const { stray, contrast, planes: plate } = backdrop;
    const seen = { frame, plate, stray, contrast, usual: plain.usual, shade: plain.shade, apart: plain.apart };
    const settled = settledPlainly(seen, plain.mask, 25);
    expect(unlike(settledEdge(seen, plain.mask, 25).data, settled.data)).toBeLessThan(4);

    const doubtful = emptyMask(W, H);
    const random = randomSource(k + 1);
    for (let n = 0; n < 40; n++) doubtful.data[Math.floor(random() * W * H)] = 1;
    for (const blur of [
      { dx: 0, dy: 0 },
      { dx: 9, dy: -4 },
      { dx: 40, dy: 3 },
    ]) {
      const coverage = softPlainly(frame, plate, settled, doubtful, edgeAsk(blur));
      const made = softEdge(frame, plate, settled, doubtful, blur);
      expect(unlike(made, coverage, 1)).toBeLessThan(1 + count / 200);
    }
  });

  it('coverage evened from frame to frame', () => {
    const random = randomSource(4);
    const [w, h] = [61, 37];
    const bytes = (of: () => number) => Uint8Array.from({ length: w * h }, of);
    const now = bytes(() => 256 * random());
    const pair = { now, last: now.map((v, i) => v + (i % w > 30 ? 20 * random() : 2 * random())), alpha: bytes(() => 256 * random()) };
    const all = { ...pair, old: bytes(() => 256 * random()) };
    const plain = evenedPlainly(all, w, h);
    expect(unlike(evenedByKernel(all, w, h, AROUND, limitFor, KEPT) ?? [], plain)).toBeLessThan(8);
    expect(unlike(evenedByKernel(all, w, h, AROUND, limitFor, KEPT) ?? [], plain, 1)).toBe(0);
    // Where it stands still much of the frame before is kept, and elsewhere nothing.
    const moved = (from: number, to: number) => plain.filter((v, i) => i % w >= from && i % w < to && v !== pair.alpha[i]).length;
    expect(moved(0, 25)).toBeGreaterThan(0.8 * 25 * h);
    expect(moved(36, 61)).toBeLessThan(0.3 * 25 * h);
  });
});
