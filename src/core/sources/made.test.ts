import { describe, expect, it } from 'vitest';
import { rgbOf } from '../picture/colour';
import { dust } from './dust';
import { gradient } from './gradient';
import { lightLeak } from './light-leak';
import { pieces, piecesAt } from './pieces';
import { rays } from './rays';
import { stripes } from './stripes';

const SIZE = { width: 64, height: 36 };
type Kind = { fresh?: unknown; make?: (source: never, size: typeof SIZE) => { y: Uint8Array; u: Uint8Array; v: Uint8Array } };
const made = (kind: Kind, more: Record<string, unknown> = {}, size = SIZE) => {
  const planes = kind.make?.({ ...(kind.fresh as object), frame: 0, ...more } as never, size);
  if (!planes) throw new Error('nothing is made');
  return planes;
};
const at = (planes: ReturnType<typeof made>, x: number, y: number) =>
  rgbOf(planes.y[y * 64 + x], planes.u[(y >> 1) * 32 + (x >> 1)], planes.v[(y >> 1) * 32 + (x >> 1)]);
const near = (found: readonly number[], expected: readonly number[]) => {
  for (const [i, v] of found.entries()) expect(Math.abs(v - expected[i])).toBeLessThan(0.06);
};

describe('a gradient', () => {
  const ends = { r: 1, g: 0, b: 0, toR: 0, toG: 0, toB: 1 };
  it('runs down, across, or from the middle to the corners, evenly', () => {
    const down = made(gradient, { ...ends, angle: 0 });
    near(at(down, 30, 0), [1, 0, 0]);
    near(at(down, 30, 35), [0, 0, 1]);
    near(at(down, 30, 18), [0.49, 0, 0.51]);
    near(at(made(gradient, { ...ends, angle: 90 }), 0, 20), [1, 0, 0]);
    const round = made(gradient, { ...ends, shape: 'round' });
    near(at(round, 32, 18), [1, 0, 0]);
    near(at(round, 0, 0), [0, 0, 1]);
  });
});

describe('stripes', () => {
  it('repeat at their distance, as wide as they are, and move', () => {
    const still = made(stripes, { period: 100 / 3, angle: 0 });
    const column = (p: typeof still) => Array.from({ length: 36 }, (_, y) => (p.y[y * 64 + 10] > 126 ? 1 : 0));
    // A third of 36 lines apart: 12, six of each.
    const rows = column(still);
    for (let y = 0; y < 24; y++) expect(rows[y + 12]).toBe(rows[y]);
    expect(rows.filter((v) => v === 1)).toHaveLength(18);
    const moved = column(made(stripes, { period: 100 / 3, angle: 0, speed: 100 / 3, frame: 12.5 }));
    expect(moved).toEqual(rows.map((v) => 1 - v));
  });
});

describe('a light leak', () => {
  it('is soft, in its colour, dark far away, the same twice and elsewhere later', () => {
    const leak = made(lightLeak, { patches: 1, size: 40, seed: 5 });
    const bright = leak.y.indexOf(Math.max(...leak.y));
    const [r, g, b] = at(leak, bright % 64, Math.floor(bright / 64));
    expect(r).toBeGreaterThan(g);
    expect(g).toBeGreaterThan(b);
    expect(Math.min(...leak.y)).toBeLessThan(30);
    for (let y = 0; y < 35; y++)
      for (let x = 0; x < 63; x++) expect(Math.abs(leak.y[y * 64 + x] - leak.y[y * 64 + x + 1])).toBeLessThan(26);
    expect(made(lightLeak, { patches: 1, size: 40, seed: 5 })).toEqual(leak);
    expect(made(lightLeak, { patches: 1, size: 40, seed: 5, frame: 50 }).y).not.toEqual(leak.y);
  });
});

describe('dust', () => {
  it('is on black, as much as is asked, the same for its frame and seed', () => {
    expect(new Set(made(dust, { specks: 0, scratches: 0 }).y)).toEqual(new Set([16]));
    const lit = (p: ReturnType<typeof made>) => p.y.filter((v) => v > 20).length;
    expect(lit(made(dust, { specks: 200, scratches: 0 }))).toBeGreaterThan(3 * lit(made(dust, { specks: 20, scratches: 0 })));
    const lines = made(dust, { specks: 0, scratches: 1 });
    expect(lit(lines)).toBeGreaterThan(4);
    expect(made(dust, {})).toEqual(made(dust, {}));
    expect(made(dust, { frame: 1 }).y).not.toEqual(made(dust, {}).y);
  });
});

describe('pieces', () => {
  const fresh = pieces.fresh as Parameters<typeof piecesAt>[0];
  const on = (frame: number, more: Partial<typeof fresh> = {}) => piecesAt({ ...fresh, ...more, frame }, 640, 360);
  it('as many are seen as come in the time that each is seen', () => {
    expect(on(0)).toHaveLength(1);
    // 40 a second for two seconds, and the one that just comes.
    expect(Math.abs(on(200).length - 81)).toBeLessThanOrEqual(1);
    expect(on(200, { rate: 10 }).length).toBeLessThan(25);
  });
  it('fall as thrown bodies do: what is passed in a second grows by what it falls', () => {
    // One piece, thrown straight down without straying; places a second apart: s = v·t + a·t²/2.
    const one = (frame: number) => on(frame, { rate: 1, lasts: 250, stray: 0, spread: 0, speed: 10, fall: 20 })[0];
    const [a, b, c] = [25, 50, 75].map((f) => one(f).y);
    expect(c - b - (b - a)).toBeCloseTo(0.2 * 360, 6);
    expect(one(75).x).toBeCloseTo(320, 6);
  });
  it('are clear around them, and sparks die', () => {
    const source = { ...fresh, frame: 40 };
    const alpha = pieces.make?.(source, SIZE).alpha ?? new Uint8Array();
    const covered = alpha.filter((v) => v > 0).length;
    expect(covered).toBeGreaterThan(10);
    expect(covered).toBeLessThan(alpha.length / 2);
    const sparks = on(100, { shape: 'sparks' });
    expect(sparks[0].light).toBeLessThan(0.1);
    expect(sparks.at(-1)?.light).toBeGreaterThan(0.9);
  });
});

describe('a light beam', () => {
  const beam = { x: 50, y: 0, angle: 0, opens: 60, rays: 0, soft: 20, reach: 50, r: 1, g: 1, b: 1 };
  const light = (planes: ReturnType<typeof made>, x: number, y: number) => (planes.y[y * 64 + x] - 16) / 219;
  it('opens by its angle, goes where it is turned, and is half as bright after its reach', () => {
    const down = made(rays, beam);
    // By what is left after 17.5 of 18 lines: 2^(−17.5 / 18).
    expect(light(down, 32, 17)).toBeCloseTo(2 ** (-17.5 / 18), 1);
    expect(light(down, 32, 35)).toBeCloseTo(2 ** (-35.5 / 18), 1);
    // 30 lines down the beam reaches 17 pixels to each side.
    expect(light(down, 32 + 12, 30)).toBeGreaterThan(0.1);
    expect(light(down, 32 + 20, 30)).toBe(0);
    const right = made(rays, { ...beam, x: 0, y: 50, angle: 90 });
    expect(light(right, 30, 18)).toBeGreaterThan(0.2);
    expect(light(right, 2, 2)).toBe(0);
  });
  it('falls into rays that are the same twice and others later, none brighter than the beam', () => {
    const even = made(rays, beam);
    const now = made(rays, { ...beam, rays: 12, speed: 1 });
    expect(made(rays, { ...beam, rays: 12, speed: 1 })).toEqual(now);
    expect(now.y.every((v, i) => v <= even.y[i] + 1)).toBe(true);
    expect(now.y).not.toEqual(even.y);
    expect(made(rays, { ...beam, rays: 12, speed: 1, frame: 40 }).y).not.toEqual(now.y);
  });
});
