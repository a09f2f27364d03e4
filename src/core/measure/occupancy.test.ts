import baboon from 'baboon-image';
import { describe, expect, it } from 'vitest';
import { reducedPlanes } from '../picture';
import { type FigureAt, photographBackground, type StagedOptions, StagedTake } from '../staged';
import { makeBackdrop } from './backdrop';
import { countOf, emptyMask, grow, packed, tidy, unpacked } from './grid';
import { mergedPlate } from './merged-plate';
import { collisions, occupied, unionOf } from './occupancy';
import { cleanPlate, plateVerdict } from './plate';

const [W, H] = [640, 360];
/** A photograph that ships in the npm package baboon-image. */
const rgb = (x: number, y: number) => [baboon.get(x, y, 0), baboon.get(x, y, 1), baboon.get(x, y, 2)] as const;
const photograph = photographBackground({ width: 512, height: 512, rgb }, W, H);
/** Half as contrasty: a wall with a picture on it. */
const wall: StagedOptions['background'] = (x, y, frame) => {
  const [l, u, v] = photograph(x, y, frame);
  return [120 + (l - 120) * 0.35, 128 + (u - 128) * 0.5, 128 + (v - 128) * 0.5];
};
const walks = (frame: number): FigureAt => ({ x: 130 + frame * 16, y: 190, tall: 220, arm: 0.5 });
const everyThird = (n: number) => Array.from({ length: n }, (_, i) => i);

describe.each([
  ['a busy photograph', photograph],
  ['a quiet wall', wall],
])('plate (shorth, Andrews et al. 1972) and occupancy (Horprasert, Harwood & Davis 1999) before %s', (_, background) => {
  const take = new StagedTake({ background, figure: walks, seed: 5 });
  const empty = new StagedTake({ background, seed: 6 });

  it('the plate comes out of a take in which the performer walks, without a trace', () => {
    const plate = cleanPlate(
      everyThird(24).map((f) => take.frame(f)),
      false,
    );
    const truth = new StagedTake({ background, noise: 0 }).frame(0);
    let wrong = 0;
    let off = 0;
    plate.planes.y.forEach((v, i) => {
      const d = Math.abs(v - truth.y[i]);
      off += d / truth.y.length;
      if (!plate.holes.data[i] && d > 8) wrong++;
    });
    expect(off).toBeLessThan(0.8);
    expect(wrong / truth.y.length).toBeLessThan(2e-4);
    expect(plate.holeShare).toBeLessThan(0.004);
    expect(plateVerdict(plate, 24).level).toBe(plate.holeShare < 0.0005 ? 'good' : 'fix');
  });

  it('a performer who walks on every frame anew leaves holes said to be holes, not a smear', () => {
    // Four frames, each with the figure elsewhere but over the same middle: too few agree.
    const crowd = [0, 1, 2, 3].map((k) =>
      new StagedTake({ background, seed: 7 + k, figure: () => ({ x: 300 + 12 * k, y: 190, tall: 260, arm: k / 3 }) }).frame(0),
    );
    const plate = cleanPlate(crowd, false);
    expect(plate.holeShare).toBeGreaterThan(0.002);
    expect(plateVerdict(plate, 4).text).toMatch(/holes/);
  });

  it('the figure is where it is, on each frame; its shadow is told from it', () => {
    const plate = cleanPlate(
      everyThird(9).map((f) => empty.frame(f)),
      true,
    );
    const backdrop = makeBackdrop(plate);
    expect(backdrop.factor).toBe(2);
    for (const f of [3, 11, 20]) {
      const seen = occupied(reducedPlanes(take.frame(f), 2), backdrop);
      if (!seen) throw new Error('nothing seen');
      const alpha = take.alpha(f);
      let [both, either] = [0, 0];
      for (let y = 0; y < H / 2; y++) {
        for (let x = 0; x < W / 2; x++) {
          const covered =
            alpha[2 * y * W + 2 * x] + alpha[2 * y * W + 2 * x + 1] + alpha[(2 * y + 1) * W + 2 * x] + alpha[(2 * y + 1) * W + 2 * x + 1];
          const [truth, here] = [covered > 2, seen.figure.data[(y * W) / 2 + x] === 1];
          if (truth && here) both++;
          if (truth || here) either++;
        }
      }
      expect(both / either).toBeGreaterThan(0.85);
      expect(countOf(seen.shadow)).toBeGreaterThan(150);
    }
    expect(countOf(occupied(reducedPlanes(empty.frame(40), 2), backdrop)?.figure ?? emptyMask(1, 1))).toBe(0);
  });
});

describe('a plate from takes in which somebody stands still', () => {
  const standing = (x: number) => new StagedTake({ background: photograph, seed: x, figure: () => ({ x, y: 190, tall: 220, arm: 0.3 }) });
  const truth = new StagedTake({ background: photograph, noise: 0 }).frame(0);

  it('each figure is filled from the other take, though neither ever moves', () => {
    const plates = [180, 460].map((x) =>
      cleanPlate(
        everyThird(8).map((f) => standing(x).frame(f)),
        false,
      ),
    );
    const plate = mergedPlate(plates);
    let wrong = 0;
    plate.planes.y.forEach((v, i) => {
      if (Math.abs(v - truth.y[i]) > 12) wrong++;
    });
    // The figures cover about a tenth of the frame each.
    expect(wrong / truth.y.length).toBeLessThan(0.004);
    expect(plate.holeShare).toBeLessThan(0.01);
  });

  it('tells who stands there by colour where they are as bright as the set', () => {
    const dim: StagedOptions['background'] = (x, y) => [75 + 15 * ((Math.floor(x / 3) + Math.floor(y / 3)) & 1 ? 1 : -1), 112, 150];
    const plates = [180, 460].map((x) => {
      const take = new StagedTake({ background: dim, shadow: 0, seed: x, figure: () => ({ x, y: 190, tall: 220, arm: 0.3 }) });
      return cleanPlate(
        everyThird(8).map((f) => take.frame(f)),
        false,
      );
    });
    const plate = mergedPlate(plates);
    const wrong = plate.planes.u.filter((u) => Math.abs(u - 112) > 12).length;
    expect(wrong / plate.planes.u.length).toBeLessThan(0.004);
  });

  it('three takes settle it by majority; one alone is given back', () => {
    const plates = [120, 320, 520].map((x) =>
      cleanPlate(
        everyThird(5).map((f) => standing(x).frame(f)),
        false,
      ),
    );
    const plate = mergedPlate(plates);
    expect(plate.planes.y.filter((v, i) => Math.abs(v - truth.y[i]) > 12).length / truth.y.length).toBeLessThan(0.004);
    expect(mergedPlate([plates[0]])).toBe(plates[0]);
  });
});

it('overlaps of two takes are found to within two frames', () => {
  const right = (frame: number): FigureAt => ({ x: 560 - frame * 8, y: 190, tall: 220, arm: 0 });
  const [a, b] = [
    new StagedTake({ background: wall, figure: walks, seed: 1 }),
    new StagedTake({ background: wall, figure: right, seed: 2 }),
  ];
  const plate = cleanPlate(
    everyThird(7).map((f) => new StagedTake({ background: wall, seed: 3 }).frame(f)),
    true,
  );
  const backdrop = makeBackdrop(plate);
  const masks = [a, b].map((take) => everyThird(26).map((f) => occupied(reducedPlanes(take.frame(f), 2), backdrop)?.figure ?? null));
  const truth: number[] = [];
  for (let f = 0; f < 26; f++) {
    const [p, q] = [a.alpha(f), b.alpha(f)];
    if (p.filter((v, i) => v > 0.5 && q[i] > 0.5).length > 16) truth.push(f);
  }
  const found = collisions(
    26,
    (f) => masks[0][f],
    (f) => masks[1][f],
  );
  expect(found).toHaveLength(1);
  expect(Math.abs(found[0].from - truth[0])).toBeLessThanOrEqual(2);
  expect(Math.abs(found[0].to - (truth.at(-1) ?? 0))).toBeLessThanOrEqual(2);
  const union = unionOf(
    masks[0].filter((m) => m !== null),
    W / 2,
    H / 2,
  );
  expect(union.some((v) => v > 0)).toBe(true);
});

describe('masks', () => {
  it('grow and shrink undo each other on a square; specks go, holes close', () => {
    const mask = emptyMask(20, 20);
    for (let y = 6; y < 13; y++) for (let x = 5; x < 12; x++) mask.data[y * 20 + x] = 1;
    expect(countOf(grow(mask, 2))).toBe(11 * 11);
    expect(grow(grow(mask, 2), -2).data).toEqual(mask.data);
    mask.data[0] = 1;
    mask.data[9 * 20 + 8] = 0;
    expect(countOf(tidy(mask, 3, 4))).toBe(49);
    expect(unpacked(packed(mask), 20, 20).data).toEqual(mask.data);
  });
});
