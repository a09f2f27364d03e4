import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import type { Affine } from './affine';
import { takeToProject } from './colour';
import { placeByKernel, sampleByKernel } from './kernel';
import { blackPlanes, type Planes } from './planes';
import { resamplePlane } from './resample';
import { cubicPlane } from './sample';

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
  resamplePlane(planes.y, width, height, out.y, width, { x0: 0, x1: 322, y0: rows[0], y1: rows[1] }, map);
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
        const quick = placeByKernel(planes, map, colour, 322, 182, { x0: 0, x1: 322, y0: rows[0], y1: rows[1] });
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
    expect(
      placeByKernel(planes, { a: 1, b: -0.1, c: 0, d: 0.1, e: 1, f: 0 }, null, 322, 182, { x0: 0, x1: 322, y0: 0, y1: 182 }),
    ).toBeNull();
    expect(placeByKernel(planes, { a: 2, b: 0, c: 0, d: 0, e: 2, f: 0 }, null, 322, 182, { x0: 0, x1: 322, y0: 0, y1: 182 })).toBeNull();
  });

  it('a region of columns is what the whole gives there', () => {
    const map = { a: 0.97, b: -0.001, c: 2.3, d: 0.001, e: 0.97, f: 1.1 };
    const whole = placeByKernel(planes, map, null, 320, 180, { x0: 0, x1: 320, y0: 0, y1: 180 });
    const kept = whole && { y: whole.y.slice(), u: whole.u.slice() };
    const part = placeByKernel(planes, map, null, 320, 180, { x0: 48, x1: 144, y0: 20, y1: 90 });
    if (!kept || !part) throw new Error('no compiled passes here');
    for (let y = 20; y < 90; y++)
      for (let x = 48; x < 144; x++) expect(Math.abs(part.y[y * 320 + x] - kept.y[y * 320 + x])).toBeLessThan(2);
    for (let y = 10; y < 45; y++) for (let x = 24; x < 72; x++) expect(Math.abs(part.u[y * 160 + x] - kept.u[y * 160 + x])).toBeLessThan(2);
  });
});

describe('the compiled cubic filter against the plain one', () => {
  const planes = picture(322, 182);
  const region = { x0: 16, x1: 300, y0: 10, y1: 170 };
  const turned: [string, Affine][] = [
    ['turned by 30°', { a: 0.866, b: 0.5, c: -20, d: -0.5, e: 0.866, f: 90 }],
    ['turned over and enlarged', { a: -0.6, b: 0.02, c: 250, d: 0.02, e: -0.6, f: 150 }],
    ['far past its edges', { a: 1.3, b: 0.1, c: 200, d: -0.1, e: 1.3, f: -160 }],
  ];
  it.each(turned)('%s: at most 3 of 255 apart', (_, map) => {
    for (const edge of ['clear', 'mirror'] as const) {
      const [quick, plain] = [new Uint8Array(322 * 182), new Uint8Array(322 * 182)];
      expect(sampleByKernel(planes.y, 322, 182, quick, 322, region, map, edge === 'mirror')).toBe(true);
      cubicPlane(planes.y, 322, 182, plain, 322, region, map, edge);
      let worst = 0;
      for (let i = 0; i < plain.length; i++) worst = Math.max(worst, Math.abs(quick[i] - plain[i]));
      // The plain filter has 64 phases, the compiled one 256.
      expect(worst).toBeLessThanOrEqual(3);
    }
  });
});
