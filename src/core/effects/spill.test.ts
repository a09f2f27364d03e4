import { describe, expect, it } from 'vitest';
import { blackPlanes, chromaOfHue, fromRgba, hueOfChroma, type Planes, toRgba } from '../picture';
import { appliedEffect, withEffect } from './registry';

const FRAME = { width: 4, height: 2, index: 0 };
/** An even picture of a colour. */
const even = (r: number, g: number, b: number): Planes =>
  fromRgba(
    Uint8Array.from({ length: 4 * 8 }, (_, i) => [r, g, b, 255][i % 4]),
    FRAME.width,
    FRAME.height,
  );
const seen = (planes: Planes) => {
  const rgba = new Uint8ClampedArray(4 * 8);
  toRgba(planes, rgba);
  return [rgba[0], rgba[1], rgba[2]];
};
function without(planes: Planes, amount = 100, hue = 120, light = 0): Planes {
  const effect = appliedEffect('spill', { amount, hue, light }, FRAME);
  if (!effect) throw new Error('nothing to apply');
  return withEffect(planes, effect);
}

describe('spill taken out (a limit on the backing’s colour, common practice)', () => {
  it('green becomes grey of its own brightness; half of it half', () => {
    const green = even(40, 200, 40);
    const [r, g, b] = seen(without(green));
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(4);
    expect(without(green).y).toEqual(green.y);
    const half = seen(without(green, 50));
    expect(half[1] - half[0]).toBeGreaterThan(60);
    expect(half[1] - half[0]).toBeLessThan(100);
  });

  it('its light goes with it where that is asked for: green falls to what red and blue are (as ffmpeg’s despill with mix 0.5 and green -1)', () => {
    for (const [r, g, b] of [
      [40, 200, 40],
      [90, 160, 90],
      [120, 150, 120],
    ]) {
      const after = seen(without(even(r, g, b), 100, 120, 100));
      const wanted = [r, g - Math.max(0, g - (r + b) / 2), b];
      for (const c of [0, 1, 2]) expect(Math.abs(after[c] - wanted[c])).toBeLessThan(5);
    }
    expect(without(even(128, 128, 128), 100, 120, 100)).toEqual(even(128, 128, 128));
  });

  it('leaves what leans another way: red, blue, skin, grey', () => {
    for (const [r, g, b] of [
      [200, 40, 40],
      [40, 60, 200],
      [224, 172, 140],
      [128, 128, 128],
    ])
      expect(without(even(r, g, b))).toEqual(even(r, g, b));
  });

  it('takes a tinge of green out of skin and leaves it skin', () => {
    const [r, g, b] = seen(without(even(150, 190, 110)));
    expect(g - r).toBeLessThan(15);
    expect(r).toBeGreaterThan(b);
  });

  it('before a blue backing it is blue that goes', () => {
    const [r, g, b] = seen(without(even(60, 60, 220), 100, 240));
    expect(b - Math.max(r, g)).toBeLessThan(6);
    expect(without(even(60, 200, 60), 100, 240)).toEqual(even(60, 200, 60));
  });

  it('a hue has its own direction, and is found from it', () => {
    for (const hue of [0, 60, 120, 200, 240, 359]) {
      const { u, v } = chromaOfHue(hue);
      expect(Math.hypot(u, v)).toBeCloseTo(1, 9);
      expect(Math.abs(hueOfChroma({ u: 40 * u, v: 40 * v }) - hue)).toBeLessThanOrEqual(1);
    }
    expect(blackPlanes(4, 2).u[0]).toBe(128);
  });
});
