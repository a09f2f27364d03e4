import { describe, expect, it } from 'vitest';
import { BT709, blackPlanes, fromRgbMatrix, toRgbMatrix } from '../picture';
import { appliedEffect, effectKind, withEffect } from './registry';
import { chromaticity } from './temperature';
import { ofHsl } from './tones';

const FRAME = { width: 4, height: 4, index: 0 };
type Rgb = readonly [number, number, number];

/** A colour through an effect whose other numbers are as they come; R'G'B' 0 to 1. */
function through(kind: string, numbers: Record<string, number>, rgb: Rgb): number[] {
  const otherwise = Object.fromEntries(Object.entries(effectKind(kind).numbers).map(([name, n]) => [name, n.otherwise]));
  const effect = appliedEffect(kind, { ...otherwise, ...numbers }, FRAME);
  const to = fromRgbMatrix(BT709);
  const planes = blackPlanes(4, 4);
  [planes.y, planes.u, planes.v].forEach((plane, c) => {
    plane.fill(Math.round(to[4 * c] * rgb[0] + to[4 * c + 1] * rgb[1] + to[4 * c + 2] * rgb[2] + to[4 * c + 3]));
  });
  const out = effect ? withEffect(planes, effect) : planes;
  const from = toRgbMatrix(BT709);
  return [0, 4, 8].map((r) => from[r] * out.y[0] + from[r + 1] * out.u[0] + from[r + 2] * out.v[0] + from[r + 3]);
}

/** Within what coding in eight bits, twice, leaves. */
function near(found: readonly number[], expected: readonly number[], codes = 3): void {
  for (const c of [0, 1, 2]) expect(Math.abs(found[c] - expected[c])).toBeLessThan(codes / 255);
}

const COLOURS: Rgb[] = [
  [0.6, 0.3, 0.2],
  [0.25, 0.5, 0.7],
  [0.4, 0.4, 0.4],
];

describe('colour by the formulas of W3C Filter Effects Level 1', () => {
  it('contrast: slope and −0.5·slope + 0.5', () => {
    for (const rgb of COLOURS)
      near(
        through('contrast', { amount: 130 }, rgb),
        rgb.map((v) => 1.3 * v - 0.5 * 1.3 + 0.5),
      );
    near(through('contrast', { amount: 0, about: 30 }, COLOURS[0]), [0.3, 0.3, 0.3]);
  });
  it('saturate: the matrix of the specification', () => {
    const s = 1.4;
    const rows = [
      [0.213 + 0.787 * s, 0.715 - 0.715 * s, 0.072 - 0.072 * s],
      [0.213 - 0.213 * s, 0.715 + 0.285 * s, 0.072 - 0.072 * s],
      [0.213 - 0.213 * s, 0.715 - 0.715 * s, 0.072 + 0.928 * s],
    ];
    for (const rgb of COLOURS)
      near(
        through('saturation', { amount: 140 }, rgb),
        rows.map((row) => row.reduce((sum, w, c) => sum + w * rgb[c], 0)),
      );
    const grey = 0.2126 * 0.6 + 0.7152 * 0.3 + 0.0722 * 0.2;
    near(through('saturation', { amount: 0 }, COLOURS[0]), [grey, grey, grey]);
  });
  it('hueRotate: at 0.5 of a turn each colour is its brightness twice, less itself', () => {
    // At 180° the matrix is twice the brightness weights less the identity.
    for (const rgb of COLOURS) {
      const l = 0.213 * rgb[0] + 0.715 * rgb[1] + 0.072 * rgb[2];
      near(
        through('hue', { amount: 180 }, rgb),
        rgb.map((v) => 2 * l - v),
      );
    }
    near(through('hue', { amount: 120 }, through('hue', { amount: 240 }, COLOURS[1]) as unknown as Rgb), COLOURS[1], 5);
  });
  it('invert: from the amount to one less the amount', () => {
    for (const rgb of COLOURS)
      near(
        through('invert', { amount: 100 }, rgb),
        rgb.map((v) => 1 - v),
      );
    near(
      through('invert', { amount: 25 }, COLOURS[0]),
      COLOURS[0].map((v) => v * 0.75 + (1 - v) * 0.25),
    );
  });
});

describe('temperature', () => {
  it('knows the published lights: illuminant A at 2856 K (0.4476, 0.4074), D50 at 5003 K (0.3457, 0.3585), D65 at 6504 K (0.3127, 0.3290)', () => {
    for (const [kelvin, x, y] of [
      [2856, 0.4476, 0.4074],
      [5003, 0.3457, 0.3585],
      [6504, 0.3127, 0.329],
    ]) {
      const [u, v] = chromaticity(kelvin);
      expect(Math.abs(u - x)).toBeLessThan(0.001);
      expect(Math.abs(v - y)).toBeLessThan(0.0015);
    }
  });
  it('of a lamp is red over blue, of the sky blue over red, at the same brightness', () => {
    const [warm, cold] = [3200, 10_000].map((kelvin) => through('temperature', { kelvin }, COLOURS[2]));
    expect(warm[0] - warm[2]).toBeGreaterThan(0.2);
    expect(cold[2] - cold[0]).toBeGreaterThan(0.05);
    const light = ([r, g, b]: readonly number[]) =>
      0.2126 * ((r + 0.099) / 1.099) ** (1 / 0.45) +
      0.7152 * ((g + 0.099) / 1.099) ** (1 / 0.45) +
      0.0722 * ((b + 0.099) / 1.099) ** (1 / 0.45);
    for (const lit of [warm, cold]) expect(light(lit) / light(COLOURS[2])).toBeCloseTo(1, 1);
    const tinted = through('temperature', { tint: 0.3 }, COLOURS[2]);
    expect(tinted[1]).toBeLessThan(tinted[0] - 0.03);
  });
});

describe('lift, gamma, gain', () => {
  it('by its formula, for all and for each channel', () => {
    near(
      through('lift gamma gain', { lift: 10 }, COLOURS[0]),
      COLOURS[0].map((v) => v + 0.1 * (1 - v)),
    );
    near(
      through('lift gamma gain', { gamma: 150 }, COLOURS[1]),
      COLOURS[1].map((v) => v ** (1 / 1.5)),
      4,
    );
    near(through('lift gamma gain', { gainR: 120 }, COLOURS[1]), [0.25 * 1.2, 0.5, 0.7]);
  });
});

describe('tones', () => {
  it('of hue, saturation and lightness are those of CSS Color Level 4', () => {
    expect(ofHsl(0, 1, 0.5)).toEqual([1, 0, 0]);
    for (const [i, v] of ofHsl(210, 0.5, 0.4).entries()) expect(v).toBeCloseTo([0.2, 0.4, 0.6][i], 9);
  });
  it('put black, middle and white where they are wanted', () => {
    const numbers = {
      amount: 100,
      darkHue: 210,
      darkSaturation: 50,
      darkLightness: 40,
      middleHue: 0,
      middleSaturation: 0,
      middleLightness: 50,
      lightHue: 60,
      lightSaturation: 100,
      lightLightness: 50,
    };
    near(through('tones', numbers, [0, 0, 0]), [0.2, 0.4, 0.6], 4);
    near(through('tones', numbers, [0.5, 0.5, 0.5]), [0.5, 0.5, 0.5], 4);
    near(through('tones', numbers, [0.75, 0.75, 0.75]), [0.75, 0.75, 0.25], 5);
  });
});

describe('posterise and flicker', () => {
  it('two steps are black and white, five are five', () => {
    near(through('posterise', { steps: 2 }, [0.7, 0.7, 0.7]), [1, 1, 1]);
    near(through('posterise', { steps: 5 }, [0.4, 0.4, 0.4]), [0.5, 0.5, 0.5]);
  });
  it('flicker is the same twice, holds for as many frames as are wanted, and stays within its stops', () => {
    const at = (index: number) => {
      const resolved = appliedEffect('flicker', { amount: 1, every: 3, seed: 4 }, { ...FRAME, index })?.resolved as { light: number };
      return Math.log2(resolved.light);
    };
    const all = Array.from({ length: 60 }, (_, i) => at(i));
    expect(all).toEqual(Array.from({ length: 60 }, (_, i) => at(i)));
    for (let i = 0; i < 60; i += 3) expect([all[i + 1], all[i + 2]]).toEqual([all[i], all[i]]);
    expect(new Set(all).size).toBe(20);
    expect(Math.max(...all.map(Math.abs))).toBeLessThanOrEqual(1);
    expect(Math.max(...all) - Math.min(...all)).toBeGreaterThan(1);
  });
});
