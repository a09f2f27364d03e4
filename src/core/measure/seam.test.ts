import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { emptyMask, type Mask } from './grid';
import { findSeam, type SeamInput } from './seam';
import { inputAcross } from './seam-across';
import { seamFeather } from './seam-feather';

const [W, H] = [160, 90];

function box(x0: number, y0: number, x1: number, y1: number): Mask {
  const mask = emptyMask(W, H);
  for (let y = Math.max(0, y0); y < Math.min(H, y1); y++) for (let x = Math.max(0, x0); x < Math.min(W, x1); x++) mask.data[y * W + x] = 1;
  return mask;
}
const merged = (...masks: Mask[]): Mask => ({
  width: W,
  height: H,
  data: masks[0].data.map((_, i) => (masks.some((m) => m.data[i]) ? 1 : 0)),
});

function input(first: Mask[], second: Mask[], more: Partial<SeamInput> = {}): SeamInput {
  const random = randomSource(3);
  return {
    width: W,
    height: H,
    first,
    second,
    firstShadow: first.map(() => null),
    secondShadow: second.map(() => null),
    difference: Float32Array.from({ length: W * H }, () => 1 + random()),
    set: new Uint8Array(W * H).fill(100),
    ...more,
  };
}

/** Whether a path cuts either figure on a frame. */
function cuts(x: Float32Array, a: Mask, b: Mask): boolean {
  for (let y = 0; y < H; y++)
    for (let k = 0; k < W; k++)
      if ((a.data[y * W + k] && k >= Math.round(x[y])) || (b.data[y * W + k] && k < Math.round(x[y]))) return true;
  return false;
}

describe('seam (minimum-error boundary cut, Efros & Freeman 2001)', () => {
  it('runs along the pillar where there is one, and straight', () => {
    const set = new Uint8Array(W * H).fill(100);
    for (let y = 0; y < H; y++) for (let x = 92; x < 100; x++) set[y * W + x] = 40;
    const found = findSeam(input([box(20, 20, 50, 90)], [box(120, 20, 150, 90)], { set }));
    expect(found.paths).toHaveLength(1);
    expect(found.paths[0].kind).toBe('straight');
    for (const x of found.paths[0].x) expect(Math.min(Math.abs(x - 92), Math.abs(x - 100))).toBeLessThan(1.6);
    expect(found.crossings).toEqual([]);
  });

  it('bends where figures lean over each other, and never cuts one', () => {
    // The first leans right above, the second left below.
    const a = merged(box(10, 10, 40, 90), box(10, 10, 100, 30));
    const b = merged(box(120, 10, 150, 90), box(60, 55, 150, 75));
    const found = findSeam(input([a], [b]));
    expect(found.paths).toHaveLength(1);
    expect(found.crossings).toEqual([]);
    expect(cuts(found.paths[0].x, a, b)).toBe(false);
  });

  it('finds the free way through random figures whenever brute force finds one', () => {
    const random = randomSource(11);
    let free = 0;
    for (let round = 0; round < 40; round++) {
      const at = () => Math.floor(random() * H);
      const a = merged(
        box(0, 40, 40, 90),
        ...[0, 1].map(() => {
          const y = at();
          return box(0, y, Math.floor(40 + random() * 60), y + 14);
        }),
      );
      const b = merged(
        box(120, 40, 160, 90),
        ...[0, 1].map(() => {
          const y = at();
          return box(Math.floor(150 - random() * 60), y, 160, y + 14);
        }),
      );
      // Brute force: places reachable row by row with steps of up to two columns.
      let open = new Set<number>();
      for (let y = 0; y < H; y++) {
        const next = new Set<number>();
        for (let x = 2; x <= W - 2; x++) {
          const hit = a.data.subarray(y * W + x, (y + 1) * W).includes(1) || b.data.subarray(y * W, y * W + x).includes(1);
          if (!hit && (y === 0 || [-2, -1, 0, 1, 2].some((d) => open.has(x + d)))) next.add(x);
        }
        open = next;
      }
      if (open.size === 0) continue;
      free++;
      const found = findSeam(input([a], [b]));
      expect(cuts(found.paths[0].x, a, b)).toBe(false);
    }
    expect(free).toBeGreaterThan(5);
  });

  it('stands still when it can, moves only when it must', () => {
    const walking = Array.from({ length: 30 }, (_, f) => box(10 + f, 20, 40 + f, 90));
    const still = walking.map(() => box(110, 20, 140, 90));
    expect(findSeam(input(walking, still)).paths).toHaveLength(1);
    // Both walk right: no standing line serves, a few do.
    const both = Array.from({ length: 30 }, (_, f) => box(70 + 3 * f, 20, 90 + 3 * f, 90));
    const found = findSeam(
      input(
        walking.map((_, f) => box(3 * f, 20, 50 + 3 * f, 90)),
        both,
      ),
    );
    expect(found.paths.length).toBeGreaterThan(1);
    expect(found.paths.length).toBeLessThan(8);
    found.paths.forEach((path, k) => {
      for (let f = path.from; f < (found.paths[k + 1]?.from ?? 30); f++)
        expect(cuts(path.x, box(3 * f, 20, 50 + 3 * f, 90), both[f])).toBe(false);
    });
    expect(found.crossings).toEqual([]);
  });

  it('tells the nine frames in which a hand crosses, and keeps the seam of the others', () => {
    const first = Array.from({ length: 60 }, (_, f) => merged(box(20, 20, 50, 90), box(20, 40, f >= 25 && f < 34 ? 118 : 60, 46)));
    const second = first.map(() => merged(box(110, 20, 140, 90), box(90, 40, 112, 46)));
    const found = findSeam(input(first, second));
    expect(found.crossings).toHaveLength(1);
    expect(found.crossings[0]).toMatchObject({ from: 25, to: 33, reason: 'a hand or prop crosses' });
    expect(Math.abs(found.crossings[0].y - 43)).toBeLessThan(4);
    expect(found.paths).toHaveLength(1);
    expect(cuts(found.paths[0].x, first[0], second[0])).toBe(false);
    const worse = findSeam(input([box(20, 20, 150, 90)], [box(30, 20, 140, 90)]));
    expect(worse.crossings[0].reason).toMatch(/each other’s place/);
    // A quarter of a body is no hand, though it reaches past by less than a quarter of the frame.
    const close = findSeam(input([box(20, 20, 90, 90)], [box(75, 20, 140, 90)]));
    expect(close.crossings[0].reason).toBe('the performers overlap');
  });

  it('goes round a shadow, and the feather is as wide as the step in light asks, within the room there is', () => {
    const shadow = box(50, 60, 95, 90);
    const base = input([box(20, 20, 50, 90)], [box(120, 20, 150, 90)], { firstShadow: [shadow] });
    const found = findSeam(base);
    expect(found.shadowFrames).toBe(0);
    for (let y = 60; y < H; y++) expect(found.paths[0].x[y]).toBeGreaterThanOrEqual(95);
    const [feather] = seamFeather(found, base, 4);
    const dark = { ...base, difference: base.difference.map(() => 6) };
    const [wide] = seamFeather(findSeam(dark), dark, 4);
    expect(wide[40]).toBeGreaterThan(feather[40] + 10);
    expect(wide[40]).toBeCloseTo(50, 0);
    // Below, where the figures come within three columns of each other, there is room for no more than twelve pixels.
    const tight = input([merged(box(20, 20, 60, 60), box(20, 60, 78, 90))], [merged(box(100, 20, 150, 60), box(81, 60, 150, 90))], {
      difference: dark.difference,
    });
    const [by] = seamFeather(findSeam(tight), tight, 4);
    expect(by[80]).toBeLessThanOrEqual(12);
    expect(by[35]).toBeGreaterThan(40);
  });
});

describe('a seam from left to right', () => {
  const above = [merged(box(30, 0, 60, 40), box(10, 30, 150, 40))];
  const below = [merged(box(70, 50, 110, 90), box(10, 50, 150, 56))];

  it('is clean where one stands above the other, though from top to bottom none is', () => {
    const given = input(above, below);
    expect(cuts(findSeam(given).paths[0].x, above[0], below[0])).toBe(true);
    const across = findSeam(inputAcross(given));
    expect(across.crossings).toEqual([]);
    const [{ x: rows }] = across.paths;
    expect(rows).toHaveLength(W);
    for (let x = 0; x < W; x++)
      for (let y = 0; y < H; y++) {
        if (above[0].data[y * W + x]) expect(y).toBeLessThan(Math.round(rows[x]));
        if (below[0].data[y * W + x]) expect(y).toBeGreaterThanOrEqual(Math.round(rows[x]));
      }
  });

  it('turned twice is what it was', () => {
    const given = input(above, below, { firstShadow: [box(1, 2, 3, 4)] });
    expect(inputAcross(inputAcross(given))).toEqual(given);
  });
});
