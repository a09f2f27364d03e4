import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import type { Affine } from './affine';
import { takeToProject } from './colour';
import { placeByKernel } from './kernel';
import { blackPlanes, type Planes } from './planes';
import { resamplePlane } from './resample';

function picture(width: number, height: number): Planes {
  const planes = blackPlanes(width, height);
  const random = randomSource(2);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) planes.y[y * width + x] = 128 + 90 * Math.sin(x / 7) * Math.cos(y / 5) + random() * 30;
  for (let i = 0; i < planes.u.length; i++) {
    planes.u[i] = 128 + 60 * Math.sin(i / 50);
    planes.v[i] = 128 + 60 * Math.cos(i / 31);
  }
  return planes;
}

/** The plain passes with the colour matrix by its definition. */
function plainly(planes: Planes, map: Affine, colour: readonly number[] | null, rows: [number, number]): Planes {
  const { width, height } = planes;
  const out = blackPlanes(width, height);
  const half = { ...map, c: map.c / 2, f: map.f / 2 };
  resamplePlane(planes.y, width, height, out.y, width, { x0: 0, x1: width, y0: rows[0], y1: rows[1] }, map);
  for (const name of ['u', 'v'] as const)
    resamplePlane(
      planes[name],
      width / 2,
      height / 2,
      out[name],
      width / 2,
      { x0: 0, x1: width / 2, y0: rows[0] / 2, y1: rows[1] / 2 },
      half,
    );
  if (!colour) return out;
  const done = { ...out, y: out.y.slice(), u: out.u.slice(), v: out.v.slice() };
  const code = (v: number) => Math.max(0, Math.min(255, Math.floor(v + 0.5)));
  for (let y = rows[0]; y < rows[1]; y++) {
    for (let x = 0; x < width; x++) {
      const k = (y >> 1) * (width / 2) + (x >> 1);
      done.y[y * width + x] = code(colour[0] * out.y[y * width + x] + colour[1] * out.u[k] + colour[2] * out.v[k] + colour[3]);
    }
  }
  return done;
}

describe('compiled passes against the plain ones: at most 2 of 255 apart', () => {
  const planes = picture(322, 182);
  const maps: [string, Affine][] = [
    ['whole shift', { a: 1, b: 0, c: 3, d: 0, e: 1, f: -2 }],
    ['half-pixel shift', { a: 1, b: 0, c: 0.5, d: 0, e: 1, f: 0.5 }],
    ['enlarged and turned', { a: 0.99, b: -0.0011, c: 2.3, d: 0.0011, e: 0.99, f: 1.1 }],
    ['far outside', { a: 1, b: 0, c: 150, d: 0, e: 1, f: -90 }],
    ['doubled', { a: 0.5, b: 0, c: 40.2, d: 0, e: 0.5, f: 20.7 }],
  ];
  it.each(maps)('%s', (_, map) => {
    for (const colour of [null, takeToProject({ matrix: 'bt709', fullRange: false }, { r: 1.05, g: 0.98, b: 0.93 })]) {
      for (const rows of [
        [0, 182],
        [40, 122],
      ] as [number, number][]) {
        const quick = placeByKernel(planes, map, colour, 322, 182, rows);
        expect(quick).not.toBeNull();
        if (!quick) return;
        const plain = plainly(planes, map, colour, rows);
        let worst = 0;
        for (let i = rows[0] * 322; i < rows[1] * 322; i++) worst = Math.max(worst, Math.abs(quick.y[i] - plain.y[i]));
        if (!colour)
          for (let i = (rows[0] / 2) * 161; i < (rows[1] / 2) * 161; i++)
            worst = Math.max(worst, Math.abs(quick.u[i] - plain.u[i]), Math.abs(quick.v[i] - plain.v[i]));
        expect(worst).toBeLessThanOrEqual(2);
      }
    }
  });

  it('leaves large turns and shrinking to the plain passes', () => {
    expect(placeByKernel(planes, { a: 1, b: -0.1, c: 0, d: 0.1, e: 1, f: 0 }, null, 322, 182, [0, 182])).toBeNull();
    expect(placeByKernel(planes, { a: 2, b: 0, c: 0, d: 0, e: 2, f: 0 }, null, 322, 182, [0, 182])).toBeNull();
  });
});
