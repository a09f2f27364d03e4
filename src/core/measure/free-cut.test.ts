import { createRequire } from 'node:module';
import baboon from 'baboon-image';
import { beforeAll, describe, expect, it } from 'vitest';
import { overlap, photographBackground, restlessBackground, StagedTake } from '../staged';
import { makeBackdrop } from './backdrop';
import { AROUND, freeCut, type GrabCutLibrary, joinedCut, resized, restless } from './free-cut';
import { boxMean } from './grid';
import { cutOut, lasso } from './matte';
import { cleanPlate } from './plate';

// Required, not imported: the module is itself a thenable, which an import would wait on for ever.
const cv: GrabCutLibrary & OpenCv = createRequire(import.meta.url)('@techstark/opencv-js');
const [W, H] = [640, 360];
const photo = photographBackground(
  { width: 512, height: 512, rgb: (x, y) => [baboon.get(x, y, 0), baboon.get(x, y, 1), baboon.get(x, y, 2)] },
  W,
  H,
);
const at = { x: 300, y: 190, tall: 280, arm: 0.8 };

beforeAll(async () => {
  if (!cv.Mat) await new Promise<void>((resolve) => (cv.onRuntimeInitialized = resolve));
});

/** What a coarse person segmentation says: the truth at an eighth of the size, blurred, an arm half missed. */
function coarsely(truth: Float32Array): Float32Array {
  const small = resized(boxMean(truth, W, H, 6), W, H, W / 8, H / 8);
  return resized(boxMean(small, W / 8, H / 8, 1), W / 8, H / 8, W, H);
}

describe('cut-out with nothing known of what is behind (GrabCut by OpenCV)', () => {
  const take = new StagedTake({ background: photo, figure: () => at, seed: 3 });
  const [frame, truth] = [take.frame(0), take.alpha(0)];

  it('from a coarse person segmentation: overlap of 0.90 or more, no holes', () => {
    const matte = freeCut(cv, frame, coarsely(truth), null);
    expect(overlap(matte.alpha, truth)).toBeGreaterThan(0.9);
    const holes = truth.reduce((n, t, i) => n + (t > 0.99 && matte.alpha[i] < 64 ? 1 : 0), 0);
    expect(holes / truth.reduce((n, t) => n + t, 0)).toBeLessThan(0.02);
  });

  it('from a line drawn around it, and no segmentation', () => {
    const strokes = new Uint8Array(W * H);
    lasso(
      strokes,
      W,
      H,
      [
        [250, 40],
        [350, 40],
        [360, 110],
        [430, 110],
        [430, 160],
        [350, 180],
        [370, 345],
        [230, 345],
        [225, 120],
      ],
      AROUND,
    );
    expect(overlap(freeCut(cv, frame, null, strokes).alpha, truth)).toBeGreaterThan(0.9);
  });

  it('with the plate known, the cut-out by it is at least as good as GrabCut started from the same difference', () => {
    const empty = new StagedTake({ background: photo, seed: 4 });
    const backdrop = makeBackdrop(
      cleanPlate(
        [0, 1, 2, 3, 4].map((f) => empty.frame(f)),
        true,
      ),
      1,
    );
    const ours = overlap(cutOut(frame, backdrop, { blur: { dx: 0, dy: 0 }, strokes: null }).alpha, truth);
    const difference = boxMean(
      Float32Array.from(frame.y, (v, i) => (Math.abs(v - backdrop.planes.y[i]) > 12 ? 1 : 0)),
      W,
      H,
      3,
    );
    expect(ours).toBeGreaterThanOrEqual(overlap(freeCut(cv, frame, difference, null).alpha, truth) - 0.005);
  });

  it('what is painted wins; without anything to start from it says so', () => {
    const strokes = new Uint8Array(W * H);
    strokes.fill(1, 20 * W, 40 * W);
    const matte = freeCut(cv, frame, coarsely(truth), strokes);
    expect(matte.alpha.subarray(20 * W, 40 * W).every((a) => a === 255)).toBe(true);
    expect(() => freeCut(cv, frame, null, null)).toThrow(/Nobody was recognised.*lasso/);
    expect(() => freeCut(cv, frame, new Float32Array(W * H), null)).toThrow(/Nobody was recognised/);
  });
});

describe('cut-out before leaves and water that move: difference and person segmentation together', () => {
  const background = restlessBackground(photo, { above: 150, below: 320, swing: 6 });
  const take = new StagedTake({ background, alive: true, figure: () => at, seed: 5 });
  const empty = new StagedTake({ background, alive: true, seed: 6 });
  const backdrop = makeBackdrop(
    cleanPlate(
      Array.from({ length: 15 }, (_, f) => empty.frame(11 * f)),
      true,
    ),
    1,
  );
  const [frame, truth] = [take.frame(40), take.alpha(40)];
  const plain = { blur: { dx: 0, dy: 0 }, strokes: null };

  it('knows where the set moves by itself', () => {
    const moving = restless(backdrop).data;
    const share = (from: number, to: number) => moving.subarray(from * W, to * W).reduce((n, v) => n + v, 0) / ((to - from) * W);
    expect(share(0, 150)).toBeGreaterThan(0.4);
    expect(share(160, 315)).toBeLessThan(0.02);
  });

  it('is right to 0.95 with what looks like a person, and no worse than by the difference alone', () => {
    const alone = cutOut(frame, backdrop, plain);
    const joined = overlap(joinedCut(backdrop, alone, coarsely(truth), null).alpha, truth);
    expect(joined).toBeGreaterThan(0.95);
    expect(joined).toBeGreaterThan(overlap(alone.alpha, truth) - 0.01);
  });
});
