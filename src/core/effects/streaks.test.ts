import { describe, expect, it } from 'vitest';
import { blackPlanes, type Planes } from '../picture';
import { appliedEffect, effectKind, scaledEffects, withEffect } from './registry';

const [W, H] = [128, 96];

function made(kind: string, numbers: Record<string, number>, index = 0) {
  const otherwise = Object.fromEntries(Object.entries(effectKind(kind).numbers).map(([name, n]) => [name, n.otherwise]));
  const effect = appliedEffect(kind, { ...otherwise, ...numbers }, { width: W, height: H, index });
  if (!effect) throw new Error(`${kind} does nothing`);
  return effect;
}
const done = (planes: Planes, kind: string, numbers: Record<string, number>, index = 0) => withEffect(planes, made(kind, numbers, index));
function drawn(luma: (x: number, y: number) => number): Planes {
  const planes = blackPlanes(W, H);
  for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) planes.y[y * W + x] = luma(x, y);
  return planes;
}
const dot = (cx: number, cy: number, r: number) => drawn((x, y) => (Math.hypot(x - cx, y - cy) <= r ? 216 : 16));
const ring = drawn((x, y) => (Math.abs(Math.hypot(x - W / 2 + 0.5, y - H / 2 + 0.5) - 30) < 3 ? 200 : 50));
const at = ({ y }: Planes, x: number, row: number) => y[row * W + x];

describe('directional blur', () => {
  it('is the mean along its way: an edge becomes a ramp as long as the blur, lines along it stay', () => {
    const edge = drawn((x) => (x < 64 ? 40 : 200));
    const out = done(edge, 'directional blur', { amount: 25, angle: 0 });
    // A quarter of 96 lines: 24 pixels, from 52 to 76.
    for (const x of [40, 51]) expect(Math.abs(at(out, x, 48) - 40)).toBeLessThanOrEqual(1);
    for (const x of [77, 100]) expect(Math.abs(at(out, x, 48) - 200)).toBeLessThanOrEqual(1);
    // Stages three pixels apart: each is worth an eighth of the step.
    for (let x = 54; x < 75; x++) expect(Math.abs(at(out, x, 48) - (40 + (160 * (x + 0.5 - 52)) / 24))).toBeLessThan(21);
    expect(done(edge, 'directional blur', { amount: 25, angle: 90 }).y).toEqual(edge.y);
  });

  it('on a smaller picture it is as much smaller', () => {
    const [small] = scaledEffects([made('directional blur', { amount: 25, angle: 30 })], 0.5);
    const { dx, dy } = small.resolved as { dx: number; dy: number };
    expect(Math.hypot(dx, dy)).toBeCloseTo(12, 9);
    expect(Math.atan2(dy, dx)).toBeCloseTo(Math.PI / 6, 9);
  });
});

describe('spin and zoom blur', () => {
  it('a turn leaves rings about its middle as they are, and smears a dot along its own', () => {
    const out = done(ring, 'spin blur', { amount: 40 });
    let most = 0;
    for (let y = 12; y < H - 12; y++) for (let x = 20; x < W - 20; x++) most = Math.max(most, Math.abs(at(out, x, y) - at(ring, x, y)));
    // Whole pixels are laid: at an edge of 150 a pixel more or less in some stages.
    expect(most).toBeLessThan(110);
    const smeared = done(dot(W / 2 + 30, H / 2, 4), 'spin blur', { amount: 90 });
    const on = (a: number) => at(smeared, Math.round(W / 2 + 30 * Math.cos(a)), Math.round(H / 2 + 30 * Math.sin(a)));
    for (const a of [0, 0.3, -0.3, 0.7, -0.7]) expect(on(a)).toBeGreaterThan(30);
    for (const a of [1.2, -1.2, 3]) expect(on(a)).toBe(16);
  });

  it('a zoom smears away from its middle, the more the further out, and leaves the middle', () => {
    const out = done(dot(W / 2 + 40, H / 2, 4), 'zoom blur', { amount: 50 });
    for (const x of [34, 40, 46]) expect(at(out, W / 2 + x, H / 2)).toBeGreaterThan(40);
    expect(at(out, W / 2 + 40, H / 2 + 12)).toBe(16);
    const near = done(dot(W / 2, H / 2, 6), 'zoom blur', { amount: 50 });
    expect(at(near, W / 2, H / 2)).toBe(216);
    const aside = done(dot(30, 20, 4), 'zoom blur', { amount: 50, x: (100 * 30) / W, y: (100 * 20) / H });
    expect(at(aside, 30, 20)).toBe(216);
  });
});

describe('lens distortion', () => {
  it('draws from r (1 + k r²), the corner from the corner (Brown 1966, first radial term)', () => {
    const slope = drawn((x) => 20 + 1.5 * x);
    const k = 0.3;
    const out = done(slope, 'lens distortion', { amount: 100 * k });
    const corner = Math.hypot(W / 2, H / 2);
    for (const x of [10, 30, 64, 100, 120]) {
      const r = Math.abs(x + 0.5 - W / 2) / corner;
      const from = W / 2 + (x + 0.5 - W / 2) * ((1 + k * r * r) / (1 + k));
      expect(Math.abs(at(out, x, 48) - (20 + 1.5 * (from - 0.5)))).toBeLessThan(1.6);
    }
    const other = done(slope, 'lens distortion', { amount: -30 });
    expect(at(other, 120, 48)).toBeLessThan(at(slope, 120, 48));
    expect(at(other, 64, 48)).toBeCloseTo(at(slope, 64, 48), -1);
  });
});

describe('displace', () => {
  const upright = drawn((x) => 20 + 1.5 * x);

  it('a wave shifts each line by its sine, and runs with time', () => {
    const out = done(upright, 'displace', { amount: 10, wave: 1, size: 50, speed: 1 });
    const shift = (planes: Planes, row: number) => (at(planes, 64, row) - at(upright, 64, row)) / 1.5;
    for (const row of [5, 20, 40]) expect(Math.abs(shift(out, row) + shift(out, row + 24))).toBeLessThan(1.4);
    let most = 0;
    for (let row = 0; row < H; row++) most = Math.max(most, Math.abs(shift(out, row)));
    expect(most).toBeGreaterThan(9);
    expect(most).toBeLessThan(10.5);
    // Half a second later, half a wave on.
    const later = done(upright, 'displace', { amount: 10, wave: 1, size: 50, speed: 1 }, 12.5);
    for (const row of [5, 20, 40]) expect(Math.abs(shift(later, row) + shift(out, row))).toBeLessThan(1.4);
  });

  it('noise shifts no further than said, evenly to all sides, and is the same twice', () => {
    const out = done(upright, 'displace', { amount: 8, size: 10 }, 3);
    let [sum, most] = [0, 0];
    for (let y = 0; y < H; y++)
      for (let x = 20; x < W - 20; x++) {
        const by = (at(out, x, y) - at(upright, x, y)) / 1.5;
        sum += by;
        most = Math.max(most, Math.abs(by));
      }
    expect(most).toBeLessThan(0.08 * H + 1);
    expect(most).toBeGreaterThan(3);
    expect(Math.abs(sum / (H * (W - 40)))).toBeLessThan(1.2);
    expect(done(upright, 'displace', { amount: 8, size: 10 }, 3)).toEqual(out);
    expect(done(upright, 'displace', { amount: 8, size: 10, seed: 5 }, 3)).not.toEqual(out);
  });
});

describe('tile', () => {
  it('shows the whole picture again, mirrored where wished', () => {
    const slope = drawn((x, y) => 20 + x + y / 2);
    const plain = done(slope, 'tile', { amount: 2 });
    for (const [x, y] of [
      [10, 10],
      [30, 40],
    ]) {
      expect(Math.abs(at(plain, x, y) - at(plain, x + 64, y))).toBeLessThanOrEqual(1);
      expect(Math.abs(at(plain, x, y) - at(plain, x, y + 48))).toBeLessThanOrEqual(1);
      expect(Math.abs(at(plain, x, y) - at(slope, 2 * x, 2 * y))).toBeLessThanOrEqual(2);
    }
    const folded = done(slope, 'tile', { amount: 2, mirrored: 1 });
    for (const x of [3, 20, 50]) expect(Math.abs(at(folded, 63 - x, 20) - at(folded, 64 + x, 20))).toBeLessThanOrEqual(1);
  });
});
