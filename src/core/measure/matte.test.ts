import baboon from 'baboon-image';
import { describe, expect, it } from 'vitest';
import { edgeOff, type FigureAt, overlap, photographBackground, type StagedOptions, StagedTake } from '../staged';
import { makeBackdrop } from './backdrop';
import { backingColour, colourKey, removeSpill } from './key';
import { brush, cutOut, lasso } from './matte';
import { cleanPlate } from './plate';

const [W, H] = [640, 360];
const rgb = (x: number, y: number) => [baboon.get(x, y, 0), baboon.get(x, y, 1), baboon.get(x, y, 2)] as const;
/** A photograph that ships in the npm package baboon-image. */
const photograph = photographBackground({ width: 512, height: 512, rgb }, W, H);
const wall: StagedOptions['background'] = (x, y, frame) => {
  const [l, u, v] = photograph(x, y, frame);
  return [125 + (l - 120) * 0.3, 128 + (u - 128) * 0.4, 128 + (v - 128) * 0.4];
};

describe.each([
  ['a busy photograph', photograph, 0],
  ['a quiet wall', wall, 0],
  ['a quiet wall, with motion blur', wall, 12],
])('cut-out (Smith & Blinn 1996, Chuang et al. 2001) before %s', (_, background, blur) => {
  const figure = (f: number): FigureAt => ({ x: 200 + 70 * f, y: 180, tall: 230, arm: f / 3, blur });
  const take = new StagedTake({ background, figure, seed: 8 });
  const empty = new StagedTake({ background, seed: 9 });
  const backdrop = makeBackdrop(
    cleanPlate(
      [0, 1, 2, 3, 4, 5, 6].map((f) => empty.frame(f)),
      true,
    ),
    1,
  );

  it.each([0, 2])('overlaps the true figure by 0.96 or more, its edge off by 1.3 px at most, no holes: frame %i', (f) => {
    const matte = cutOut(take.frame(f), backdrop, { blur: { dx: blur, dy: 0 }, strokes: null });
    const truth = take.alpha(f);
    expect(overlap(matte.alpha, truth)).toBeGreaterThan(0.96);
    expect(edgeOff(matte.alpha, truth, W)).toBeLessThan(1.3);
    // Deep inside the figure nothing is missing.
    let missing = 0;
    for (let y = 4; y < H - 4; y++)
      for (let x = 4; x < W - 4; x++) {
        const i = y * W + x;
        if ([0, -4, 4, -4 * W, 4 * W].every((d) => truth[i + d] === 1) && matte.alpha[i] < 128) missing++;
      }
    expect(missing).toBe(0);
    const softness = matte.alpha.filter((a) => a > 25 && a < 230).length;
    if (blur) expect(softness).toBeGreaterThan(1500);
  });
});

describe('corrections by hand', () => {
  it('the brush and the lasso win over what was measured', () => {
    const take = new StagedTake({ background: wall, figure: () => ({ x: 300, y: 180, tall: 230, arm: 0 }), seed: 8 });
    const empty = new StagedTake({ background: wall, seed: 9 });
    const backdrop = makeBackdrop(
      cleanPlate(
        [0, 1, 2].map((f) => empty.frame(f)),
        true,
      ),
      1,
    );
    const strokes = new Uint8Array(W * H);
    brush(
      strokes,
      W,
      H,
      [
        [60, 60],
        [90, 60],
      ],
      8,
      1,
    );
    lasso(
      strokes,
      W,
      H,
      [
        [250, 60],
        [350, 60],
        [350, 110],
        [250, 110],
      ],
      2,
    );
    expect(strokes[60 * W + 75]).toBe(1);
    expect(strokes[60 * W + 105]).toBe(0);
    const { alpha } = cutOut(take.frame(0), backdrop, { blur: { dx: 0, dy: 0 }, strokes });
    expect(alpha[60 * W + 75]).toBe(255);
    expect(alpha[85 * W + 300]).toBe(0);
    expect(alpha[180 * W + 300]).toBe(255);
  });
});

describe('colour key', () => {
  // Unevenly lit green, as a backing is: brightness falls off to one side.
  const green: StagedOptions['background'] = (x) => [110 - x / 20, 92 + x / 200, 84];
  const take = new StagedTake({
    background: green,
    figure: () => ({ x: 300, y: 190, tall: 250, arm: 0.6 }),
    seed: 3,
    shadow: 0.3,
    noise: 1.5,
  });

  it('finds the backing, cuts the figure out of it and takes its colour off', () => {
    const frame = take.frame(0);
    const backing = backingColour(frame);
    if (!backing) throw new Error('no backing found');
    expect(Math.hypot(backing.u - 93.5, backing.v - 84)).toBeLessThan(4);
    const matte = colourKey(frame, backing, 0.3);
    const truth = take.alpha(0);
    expect(overlap(matte.alpha, truth)).toBeGreaterThan(0.96);
    expect(edgeOff(matte.alpha, truth, W)).toBeLessThan(1.3);
    const before = frame.u.slice();
    removeSpill(frame, backing);
    // Nothing of the backing's colour is left; the figure's own is as it was.
    const lean = (i: number) =>
      ((frame.u[i] - 128) * (backing.u - 128) + (frame.v[i] - 128) * (backing.v - 128)) / Math.hypot(backing.u - 128, backing.v - 128);
    for (let k = 0; k < frame.u.length; k += 7)
      if (truth[2 * Math.floor(k / (W / 2)) * W + 2 * (k % (W / 2))] === 0) expect(lean(k)).toBeLessThan(9);
    const at = 90 * (W / 2) + 150;
    expect(Math.abs(frame.u[at] - before[at])).toBeLessThan(2);
  });

  it('finds no backing in an ordinary picture', () => {
    expect(backingColour(new StagedTake({ background: wall, seed: 2 }).frame(0))).toBeNull();
  });
});
