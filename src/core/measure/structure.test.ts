import { describe, expect, it } from 'vitest';
import { lineExtent, lineNormal } from '../picture';
import { changedBox } from './changed';
import { type Luma, medianLuma } from './luma';
import { restlessIn, structureEdges, withoutRestless } from './structure';

/** Repeatable numbers from 0 to 1. */
function random(seed: number): () => number {
  let now = seed * 7919 + 1;
  return () => {
    now = (now * 1103515245 + 12345) % 2147483648;
    return now / 2147483648;
  };
}

const paint = (width: number, height: number, at: (x: number, y: number) => number): Luma => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => Math.max(0, Math.min(255, at(i % width, Math.floor(i / width))))),
});

/** A room whose two sides meet along a line as masks have it: mottled, noisy, with posters that end nowhere near the frame's edges. */
function room(seed: number, { width = 320, height = 180, angle = 90, line = 50, step = 40 }) {
  const next = random(seed);
  const posters = Array.from({ length: 9 }, () => ({
    x: next() * width,
    y: next() * height,
    w: 8 + 0.12 * next() * width,
    h: 8 + 0.3 * next() * height,
    v: 90 * (next() - 0.5),
  }));
  const [a, b, c] = [next(), next(), next()].map((v) => 6 + 20 * v);
  const [nx, ny] = lineNormal(angle);
  const position = (line / 100 - 0.5) * lineExtent(angle, width, height);
  const side = (x: number, y: number) =>
    Math.max(-0.5, Math.min(0.5, (position - nx * (x + 0.5 - width / 2) - ny * (y + 0.5 - height / 2)) / 2));
  return paint(width, height, (x, y) => {
    const over = posters.filter((p) => x > p.x && x < p.x + p.w && y > p.y && y < p.y + p.h).reduce((sum, p) => sum + p.v, 0);
    const mottled = 10 * Math.sin(x / a + y / b) + 8 * Math.sin(y / c);
    return 120 + step * side(x, y) + over + mottled + 8 * (next() - 0.5);
  });
}

const calm = ({ width, height }: Luma) => paint(width, height, () => 0);

describe('a straight edge of the room', () => {
  const cases = [1, 2, 3].flatMap((seed) =>
    [
      [-9, 38],
      [0, 50],
      [3.5, 66],
      [12, 44],
    ].map(([lean, line]) => [lean, line, seed] as const),
  );
  it.each(cases)('upright, leaning by %s° at %s %%, is found to 0.6 %% and half a degree (room %s)', (lean, line, seed) => {
    for (const size of [
      { width: 320, height: 180 },
      { width: 180, height: 320 },
    ]) {
      const seen = room(seed, { ...size, angle: 90 + lean, line });
      const { upright } = structureEdges(seen, calm(seen));
      expect(Math.abs((upright?.line ?? 0) - line)).toBeLessThan(0.6);
      expect(Math.abs((upright?.lean ?? 90) - lean)).toBeLessThan(0.5);
    }
  });
  it.each(cases)('level, leaning by %s° at %s %% (room %s)', (lean, line, seed) => {
    const seen = room(seed, { angle: lean, line });
    const { level } = structureEdges(seen, calm(seen));
    expect(Math.abs((level?.line ?? 0) - line)).toBeLessThan(0.9);
    expect(Math.abs((level?.lean ?? 90) - lean)).toBeLessThan(0.5);
  });
  it('where there is none, none is made up', () => {
    for (const seed of [1, 2, 3, 4, 5, 6]) {
      const seen = room(seed, { step: 0 });
      expect(structureEdges(seen, calm(seen))).toEqual({ upright: null, level: null });
    }
  });
  it('one that somebody crosses is left for one that nobody does, though it is less clear', () => {
    const quiet = room(4, { line: 70, step: 60 });
    const busy = room(5, { line: 35, step: 120 });
    const both = paint(320, 180, (x, y) => (quiet.data[y * 320 + x] + busy.data[y * 320 + x]) / 2);
    const clip = Array.from({ length: 9 }, (_, k) =>
      paint(320, 180, (x, y) => (Math.abs(x - 112 + 30 * Math.sin(k)) < 22 && y > 20 ? 20 + ((x * 7 + k) % 40) : both.data[y * 320 + x])),
    );
    const still = medianLuma(clip);
    expect(structureEdges(both, calm(both)).upright?.line).toBeCloseTo(35, 0);
    expect(structureEdges(still, restlessIn(clip, still)).upright?.line).toBeCloseTo(70, 0);
  });
  it('pictures of two sizes are refused', () => {
    const seen = room(1, {});
    expect(() => structureEdges(seen, { ...seen, width: 160, height: 360 })).toThrow(/one size/);
  });
});

describe('what is at rest in a take', () => {
  it('is a stand that is not in the empty set, not somebody who goes about in the middle, nor what passes once', () => {
    for (const seed of [1, 2, 3]) {
      const empty = room(seed, { step: 0 });
      const noise = random(seed + 50);
      const clip = Array.from({ length: 9 }, (_, k) =>
        paint(320, 180, (x, y) => {
          if (k === 4 && x > 230 && x < 300) return 30;
          if (Math.abs(x - 80 - 12 * k) < 18 && y > 60) return 60 + ((x * 3 + y) % 50);
          const stand = Math.abs(x - 262) < 4 && y > 70 && y < 170;
          return (stand ? 35 : empty.data[y * 320 + x]) + 8 * (noise() - 0.5);
        }),
      );
      const box = changedBox(empty, withoutRestless(clip, empty));
      expect(Math.abs((box?.left ?? 0) - 81)).toBeLessThan(1.6);
      expect(Math.abs((box?.right ?? 0) - 83)).toBeLessThan(1.6);
      expect(Math.abs((box?.top ?? 0) - 39.4)).toBeLessThan(2.5);
      expect(Math.abs((box?.bottom ?? 0) - 94.4)).toBeLessThan(2.5);
    }
  });
});
