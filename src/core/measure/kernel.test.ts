import { describe, expect, it } from 'vitest';
import { blackPlanes, type Planes } from '../picture';
import { randomSource } from '../room';
import { makeBackdrop } from './backdrop';
import { chooseBlocks, matchBlock, matchScratch } from './blocks';
import { boxMeanPlainly } from './grid';
import { boxMeanByKernel } from './grid-kernel';
import { followByKernel } from './kernel';
import { rowSumsByKernel, thinnedByKernel } from './luma-kernel';
import { unevenPlainly, unlikeness, unlikePlainly } from './occupancy';
import { unevennessByKernel } from './occupancy-kernel';
import { cleanPlate } from './plate';
import { rowSumsPlainly } from './quality';

/** A picture of soft random texture, moved by (dx, dy). */
function textured(width: number, height: number, dx = 0, dy = 0, seed = 3): Planes {
  const random = randomSource(seed);
  const waves = Array.from({ length: 24 }, () => [0.02 + 0.3 * random(), 0.02 + 0.3 * random(), 7 * random()] as const);
  const planes = blackPlanes(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      planes.y[y * width + x] = 125 + 9 * waves.reduce((sum, [a, b, c]) => sum + Math.sin(a * (x - dx) + b * (y - dy) + c), 0);
  for (let j = 0; j < planes.u.length; j++) {
    planes.u[j] = 110 + 30 * random();
    planes.v[j] = 120 + 30 * random();
  }
  return planes;
}
const lumaOf = ({ width, height, y }: Planes) => ({ width, height, data: y });

describe('the compiled measures agree with the plain ones', () => {
  it('sums over rows: the same numbers, whatever the width', () => {
    const random = randomSource(5);
    for (const [width, height, step] of [
      [64, 40, 3],
      [61, 33, 1],
      [17, 9, 9],
      [16, 5, 2],
    ]) {
      const frame = { width, height, data: Uint8Array.from({ length: width * height }, () => 256 * random()) };
      const sums = rowSumsByKernel(frame, step, 235, 18);
      expect([...(sums ?? [])]).toEqual([...rowSumsPlainly(frame, step, 235, 18)]);
      expect(sums?.[5]).toBe((width - 2) * Math.ceil((height - (step >> 1)) / step));
    }
  });

  it('a plane thinned: the same bytes by every factor from 4 on', () => {
    const random = randomSource(6);
    const [width, height] = [61, 43];
    const data = Uint8Array.from({ length: width * height }, () => 256 * random());
    for (const factor of [4, 5, 6, 7, 12]) {
      const made = thinnedByKernel({ width, height, data }, factor);
      expect(made?.width).toBe(Math.floor(width / factor));
      const start = (factor - 2) >> 2;
      const apart = factor >> 1;
      for (const [i, v] of (made?.data ?? []).entries()) {
        const [x, y] = [i % (made?.width ?? 1), Math.floor(i / (made?.width ?? 1))];
        const at = (dx: number, dy: number) => data[(y * factor + start + dy) * width + x * factor + start + dx];
        expect(v).toBe((at(0, 0) + at(apart, 0) + at(0, apart) + at(apart, apart) + 2) >> 2);
      }
    }
  });

  it('following blocks: the same place to a thousandth of a pixel, and lost where the plain search is lost', () => {
    const before = lumaOf(textured(320, 200));
    const blocks = chooseBlocks(before);
    expect(blocks.length).toBeGreaterThan(30);
    for (const [dx, dy, reach] of [
      [1.37, -2.21, 4],
      [0, 0, 4],
      [3.9, 3.9, 3],
      [9, 6, 5],
    ]) {
      const after = lumaOf(textured(320, 200, dx, dy));
      const scratch = matchScratch(blocks[0].size);
      const plain = blocks.map((b) => matchBlock(b, after, 0, 0, scratch, reach));
      const quick = followByKernel(blocks, after, new Float64Array(2 * blocks.length), reach);
      expect(quick?.map((q) => q === null)).toEqual(plain.map((p) => p === null));
      quick?.forEach((q, i) => {
        const p = plain[i];
        if (!q || !p) return;
        expect(Math.hypot(q.dx - p.dx, q.dy - p.dy)).toBeLessThan(1e-3);
        expect(q.fit).toBeCloseTo(p.fit, 4);
      });
    }
  });

  it('unlikeness from a backdrop and unevenness of its ratio', () => {
    const plate = cleanPlate(
      [1, 2, 3, 4].map((seed) => {
        const frame = textured(160, 96);
        const random = randomSource(seed);
        frame.y.forEach((v, i) => {
          frame.y[i] = v + 3 * random();
        });
        return frame;
      }),
      true,
    );
    const backdrop = makeBackdrop(plate, 1);
    const frame = textured(160, 96, 0.4, 0.2);
    frame.y.fill(30, 40 * 160, 60 * 160);
    const [quick, plain] = [unlikeness(frame, backdrop), unlikePlainly(frame, backdrop)];
    for (const name of ['values', 'ratio', 'colour'] as const)
      plain[name].forEach((v, i) => {
        expect(Math.abs(quick[name][i] - v), `${name} ${i}`).toBeLessThan(1e-4 * Math.max(1, v));
      });
    const rough = unevenPlainly(plain.ratio, 160, 96, 2);
    unevennessByKernel(plain.ratio, 160, 96, 2)?.forEach((v, i) => {
      expect(Math.abs(v - rough[i]), `unevenness ${i}`).toBeLessThan(2e-3);
    });
  });

  it.each([
    [64, 40, 1],
    [61, 33, 3],
    [7, 9, 4],
    [3, 2, 8],
    [1, 1, 1],
    [37, 5, 8],
    [5, 4, 0],
  ])('means over squares, %i by %i, %i to each side', (width, height, reach) => {
    const random = randomSource(width + reach);
    const values = Float32Array.from({ length: width * height }, () => 200 * random() - 50);
    const plain = boxMeanPlainly(values, width, height, reach);
    const quick = boxMeanByKernel(values, width, height, reach);
    expect(quick?.length).toBe(plain.length);
    quick?.forEach((v, i) => {
      expect(Math.abs(v - plain[i]), `${i}`).toBeLessThan(1e-3);
    });
  });
});
