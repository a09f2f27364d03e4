import { describe, expect, it } from 'vitest';
import { blackPlanes, gaussianBlur, type Planes } from '../picture';
import { appliedEffect, effectKind, scaledEffects, withEffect } from './registry';

const [W, H] = [64, 48];
function made(kind: string, numbers: Record<string, number>, index = 0) {
  const otherwise = Object.fromEntries(Object.entries(effectKind(kind).numbers).map(([name, n]) => [name, n.otherwise]));
  const effect = appliedEffect(kind, { ...otherwise, ...numbers }, { width: W, height: H, index });
  if (!effect) throw new Error(`${kind} does nothing`);
  return effect;
}
const done = (planes: Planes, kind: string, numbers: Record<string, number>, index = 0) => withEffect(planes, made(kind, numbers, index));
/** A picture by a rule of brightness, and of chroma in halves. */
function drawn(luma: (x: number, y: number) => number, chroma: (x: number, y: number) => [number, number] = () => [128, 128]): Planes {
  const planes = blackPlanes(W, H);
  for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) planes.y[y * W + x] = luma(x, y);
  for (let y = 0; y < H / 2; y++) for (let x = 0; x < W / 2; x++) [planes.u[(y * W) / 2 + x], planes.v[(y * W) / 2 + x]] = chroma(x, y);
  return planes;
}
const edge = drawn((x) => (x < 32 ? 60 : 180));

describe('sharpen', () => {
  it('is the picture and a share of what a Gaussian takes away from it', () => {
    const out = done(edge, 'sharpen', { amount: 100, radius: 4 });
    const soft = gaussianBlur(edge, 0.04 * H);
    for (const x of [25, 30, 31, 32, 34, 45])
      expect(Math.abs(out.y[20 * W + x] - Math.max(0, Math.min(255, 2 * edge.y[20 * W + x] - soft.y[20 * W + x])))).toBeLessThanOrEqual(1);
    expect(out.y[20 * W + 31]).toBeLessThan(60);
    expect(out.y[20 * W + 32]).toBeGreaterThan(180);
  });
});

describe('mosaic', () => {
  it('squares hold the mean of what was in them, at the edge too', () => {
    const ramp = drawn((x, y) => 40 + x + y);
    const out = done(ramp, 'mosaic', { size: 25 });
    // A quarter of 48 lines are 12 pixels.
    let sum = 0;
    for (let y = 12; y < 24; y++) for (let x = 24; x < 36; x++) sum += ramp.y[y * W + x];
    for (const [x, y] of [
      [24, 12],
      [35, 23],
      [30, 18],
    ])
      expect(out.y[y * W + x]).toBe(Math.round(sum / 144));
    expect(out.y[12 * W + 36]).not.toBe(out.y[12 * W + 35]);
    expect(out.y[5 * W + 63]).toBe(out.y[5 * W + 60]);
  });
});

describe('vignette', () => {
  it('leaves its middle, darkens evenly to the corners and never past black', () => {
    const grey = drawn(
      () => 126,
      () => [150, 100],
    );
    const out = done(grey, 'vignette', { amount: 80, size: 30, soft: 50 });
    expect(out.y[24 * W + 32]).toBe(126);
    expect(Math.abs(out.y[0] - (16 + 0.2 * 110))).toBeLessThanOrEqual(1);
    expect([out.y[0], out.y[0]]).toEqual([out.y[W - 1], out.y[(H - 1) * W]]);
    expect(Math.abs(out.u[0] - (128 + 0.2 * 22))).toBeLessThanOrEqual(1);
    let before = 255;
    for (let x = 32; x < W; x += 2) {
      expect(out.y[24 * W + x]).toBeLessThanOrEqual(before);
      before = out.y[24 * W + x];
    }
    expect(done(grey, 'vignette', { amount: -80, size: 0, soft: 30 }).y[0]).toBeGreaterThan(180);
  });
});

describe('glow', () => {
  it('lays the blurred light over by screen, and leaves what is dark and far', () => {
    const lamp = drawn((x, y) => (Math.abs(x - 32) < 4 && Math.abs(y - 24) < 4 ? 235 : 40));
    const out = done(lamp, 'glow', { amount: 100, from: 50, radius: 8 });
    const near = out.y[24 * W + 38];
    expect(near).toBeGreaterThan(45);
    expect(out.y[24 * W + 32]).toBe(235);
    expect(out.y[0]).toBe(40);
    // Screen of W3C Compositing Level 1: b + s − b·s.
    const soft = gaussianBlur({ ...lamp, y: lamp.y.map((l) => Math.max(0, l - 16 - 109.5)) }, 0.08 * H).y[24 * W + 38] / 219;
    const below = (40 - 16) / 219;
    expect(Math.abs(near - (16 + 219 * (below + soft - below * soft)))).toBeLessThanOrEqual(1.5);
  });
});

describe('grain', () => {
  const grey = drawn(() => 120);
  it('strays by as much as is asked, changes from frame to frame, and is the same twice', () => {
    const a = done(grey, 'grain', { amount: 5, size: 0.1 }, 3);
    const mean = a.y.reduce((s, v) => s + v, 0) / a.y.length;
    const spread = Math.sqrt(a.y.reduce((s, v) => s + (v - mean) ** 2, 0) / a.y.length);
    expect(Math.abs(mean - 120)).toBeLessThan(1.5);
    expect(Math.abs(spread / (0.05 * 219) - 1)).toBeLessThan(0.25);
    expect(done(grey, 'grain', { amount: 5, size: 0.1 }, 3).y).toEqual(a.y);
    expect(done(grey, 'grain', { amount: 5, size: 0.1 }, 4).y).not.toEqual(a.y);
    expect(done(grey, 'grain', { amount: 5, size: 0.1, every: 4 }, 5).y).toEqual(
      done(grey, 'grain', { amount: 5, size: 0.1, every: 4 }, 7).y,
    );
    expect(a.u).toEqual(grey.u);
  });
});

describe('chromatic shift and mirror', () => {
  it('moves red and blue apart and brightness not at all', () => {
    const line = drawn(
      () => 100,
      (x) => (x === 16 ? [200, 60] : [128, 128]),
    );
    // A twelfth of 48 lines is 4 pixels, two of chroma.
    const out = done(line, 'chromatic shift', { amount: 100 / 12 });
    expect(out.y).toEqual(line.y);
    expect([out.u[14], out.u[16], out.v[18], out.v[16]]).toEqual([200, 128, 60, 128]);
  });
  it.each([
    [1, (x: number, y: number) => [x < 32 ? x : 63 - x, y]],
    [2, (x: number, y: number) => [x >= 32 ? x : 63 - x, y]],
    [3, (x: number, y: number) => [x, y < 24 ? y : 47 - y]],
    [4, (x: number, y: number) => [x, y >= 24 ? y : 47 - y]],
  ])('side %d is shown on both sides of the middle', (side, from) => {
    const ramp = drawn((x, y) => 20 + 2 * x + y);
    const out = done(ramp, 'mirror', { side });
    for (const [x, y] of [
      [3, 5],
      [60, 40],
      [31, 23],
      [32, 24],
    ]) {
      const [u, v] = from(x, y);
      expect(out.y[y * W + x]).toBe(ramp.y[v * W + u]);
    }
  });
});

describe('drawn smaller', () => {
  it('what has a size has as much less of it', () => {
    const half = scaledEffects(
      [made('mosaic', { size: 25 }), made('sharpen', { amount: 50, radius: 4 }), made('glow', { amount: 50, radius: 8 })],
      0.5,
    );
    expect(half.map(({ resolved }) => resolved)).toMatchObject([{ block: 6 }, { deviation: 0.96 }, { deviation: 1.92 }]);
  });
});
