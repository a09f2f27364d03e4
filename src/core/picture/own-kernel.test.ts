import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { takeToProject } from './colour';
import { boxesPlainly } from './gaussian-blur';
import { boxesByKernel, recolourByKernel } from './own-kernel';
import { blackPlanes, type Planes } from './planes';
import { recolour } from './recolour';

function noisy(width: number, height: number): Planes {
  const random = randomSource(31);
  const planes = blackPlanes(width, height);
  for (const plane of [planes.y, planes.u, planes.v]) for (let i = 0; i < plane.length; i++) plane[i] = 256 * random();
  return planes;
}
const apart = (a: Uint8Array, b: Uint8Array) => a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i])), 0);

describe('compiled passes over whole pictures against the plain ones: at most one of 255 apart', () => {
  it.each([
    [66, 34, 1],
    [66, 34, 7],
    [318, 182, 20],
    [10, 6, 15],
  ])('means over %d × %d pixels, reach %d', (width, height, reach) => {
    const { y } = noisy(width, height);
    const quick = boxesByKernel(y, width, height, reach);
    if (!quick) throw new Error('nothing compiled');
    // Each of the six passes rounds for itself.
    expect(apart(quick, boxesPlainly(y, width, height, reach))).toBeLessThanOrEqual(1);
  });

  it.each([
    [66, 34],
    [322, 182],
    [1280, 8],
  ])('a colour matrix over %d × %d pixels', (width, height) => {
    const matrix = takeToProject({ matrix: 'bt601', fullRange: true }, { r: 1.2, g: 0.9, b: 0.8 });
    const [quick, plain] = [noisy(width, height), noisy(width, height)];
    expect(recolourByKernel(quick, matrix)).toBe(true);
    recolour(plain, matrix, { x0: 0, x1: width, y0: 0, y1: height });
    for (const name of ['y', 'u', 'v'] as const) expect(apart(quick[name], plain[name])).toBeLessThanOrEqual(1);
  });
});
