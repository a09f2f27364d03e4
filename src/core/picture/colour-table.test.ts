import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { BT709, fromRgbMatrix } from './colour';
import { alongCurves, curveAt, type Rgb, tableOf, throughTable, throughTablePlainly } from './colour-table';
import { throughTableByKernel } from './own-kernel';
import { blackPlanes, type Planes } from './planes';

function noisy(width: number, height: number): Planes {
  const random = randomSource(9);
  const planes = blackPlanes(width, height);
  for (const plane of [planes.y, planes.u, planes.v]) for (let i = 0; i < plane.length; i++) plane[i] = 256 * random();
  return planes;
}
const copy = (p: Planes): Planes => ({ ...p, y: p.y.slice(), u: p.u.slice(), v: p.v.slice() });
/** An even picture of a colour. */
function even(rgb: Rgb): Planes {
  const m = fromRgbMatrix(BT709);
  const planes = blackPlanes(4, 4);
  [planes.y, planes.u, planes.v].forEach((plane, c) => {
    plane.fill(Math.round(m[4 * c] * rgb[0] + m[4 * c + 1] * rgb[1] + m[4 * c + 2] * rgb[2] + m[4 * c + 3]));
  });
  return planes;
}

describe('a colour table', () => {
  it('compiled and plain agree to a code value, at odd sizes too, whatever table was used before', () => {
    const tables = [tableOf((rgb) => rgb.reverse()), tableOf((rgb) => rgb.splice(0, 3, ...rgb.map((v) => Math.max(0, v) ** 1.7)))];
    for (const [width, height] of [
      [34, 18],
      [322, 182],
      [6, 2],
    ])
      for (const table of [...tables, tables[0]]) {
        const [quick, plain] = [noisy(width, height), noisy(width, height)];
        expect(throughTableByKernel(quick, table)).toBe(true);
        throughTablePlainly(plain, table);
        for (const name of ['y', 'u', 'v'] as const)
          expect(Math.max(...quick[name].map((v, i) => Math.abs(v - plain[name][i])))).toBeLessThanOrEqual(1);
      }
  });

  it('of no change changes colours in gamut by at most one code value', () => {
    const table = tableOf(() => undefined);
    for (const rgb of [
      [0.1, 0.5, 0.9],
      [0.7, 0.2, 0.3],
      [0.5, 0.5, 0.5],
    ] as Rgb[]) {
      const [before, after] = [even(rgb), even(rgb)];
      throughTable(after, table);
      expect([after.y[0] - before.y[0], after.u[0] - before.u[0], after.v[0] - before.v[0]].map(Math.abs).every((d) => d <= 1)).toBe(true);
    }
  });

  it('turns red into blue where channels change places', () => {
    const swapped = even([0.8, 0.3, 0.1]);
    throughTable(
      swapped,
      tableOf((rgb) => rgb.reverse()),
    );
    const blue = even([0.1, 0.3, 0.8]);
    for (const off of [swapped.y[5] - blue.y[5], swapped.u[1] - blue.u[1], swapped.v[1] - blue.v[1]])
      expect(Math.abs(off)).toBeLessThanOrEqual(1);
  });

  it('leaves its picture’s size alone and is the same twice', () => {
    const table = tableOf((rgb) => rgb.splice(0, 3, ...rgb.map((v) => 1 - v)));
    const [a, b] = [noisy(64, 36), noisy(64, 36)];
    throughTable(a, table);
    throughTable(b, table);
    expect(a).toEqual(b);
    expect(copy(a)).toEqual(a);
  });
});

describe('channel curves', () => {
  const none = Array.from({ length: 17 }, () => 0);
  it('are linear between their entries and stay at their ends beyond them', () => {
    const curve = none.map((_, k) => k / 100);
    expect(curveAt(curve, 0.5)).toBeCloseTo(0.08, 12);
    expect(curveAt(curve, 0.53125)).toBeCloseTo(0.085, 12);
    expect(curveAt(curve, -3)).toBe(0);
    expect(curveAt(curve, 9)).toBeCloseTo(0.16, 12);
  });
  it('add to each channel its own', () => {
    const rgb: Rgb = [0.25, 0.5, 0.75];
    alongCurves({ r: none.map(() => 0.1), g: none, b: none.map((_, k) => -k / 160) })(rgb);
    expect(rgb[0]).toBeCloseTo(0.35, 12);
    expect(rgb[1]).toBe(0.5);
    expect(rgb[2]).toBeCloseTo(0.675, 12);
  });
});
