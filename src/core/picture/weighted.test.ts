import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { STAY } from './affine';
import { blackPlanes } from './planes';
import { Weighted } from './weighted';

const [W, H] = [96, 64];
const random = randomSource(5);

function noise(width: number, height: number) {
  const planes = blackPlanes(width, height);
  for (const name of ['y', 'u', 'v'] as const) planes[name].set(Uint8Array.from(planes[name], () => 16 + 200 * random()));
  return planes;
}

describe('weighted sums', () => {
  it('in compiled code are the plain ones to the bit: shifted, turned, enlarged, beyond the edges, with both kinds of edge', () => {
    const sources = [noise(80, 48), noise(64, 64)];
    const covered = [0, 1].map(() => Uint16Array.from({ length: W * H }, () => Math.max(0, Math.round(500 * random() - 200)) & 255));
    for (const edge of ['clear', 'mirror'] as const) {
      const [quick, plain] = [false, true].map((p) => new Weighted(W, H, sources[1], p));
      for (let k = 0; k < 24; k++) {
        const turn = 3 * random();
        const scale = 0.4 + 1.5 * random();
        const map = {
          a: scale * Math.cos(turn),
          b: -scale * Math.sin(turn),
          c: 60 * random() - 20,
          d: scale * Math.sin(turn),
          e: scale * Math.cos(turn),
          f: 60 * random() - 20,
        };
        const ride = k % 3 ? { ...STAY, c: 30 * random() - 15, f: 30 * random() - 15 } : map;
        const box = { left: 10, top: 6, right: 10 + Math.ceil(80 * random()), bottom: 60 };
        for (const sums of [quick, plain]) sums.lay(sources[k % 2], map, covered[k % 2], box, ride, edge);
      }
      expect(quick.cover.some((v) => v > 0)).toBe(true);
      expect([...quick.cover]).toEqual([...plain.cover]);
      const [a, b] = [quick.mean(), plain.mean()];
      for (const name of ['y', 'u', 'v'] as const) expect(a[name]).toEqual(b[name]);
    }
  });

  it('are empty when asked for again', () => {
    const source = noise(W, H);
    const first = new Weighted(W, H, source);
    first.lay(source, STAY, new Uint16Array(W * H).fill(256), { left: 0, top: 0, right: W, bottom: H }, STAY, 'clear');
    expect(first.mean()).toMatchObject({ y: source.y, u: source.u });
    expect(new Weighted(W, H, source).cover.every((v) => v === 0)).toBe(true);
  });
});
