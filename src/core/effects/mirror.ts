import { numberKind } from '../motion';
import type { Planes } from '../picture';
import { say } from '../words';
import type { EffectKind } from './kind';

function folded({ width, height, y, u, v }: Planes, at: number, upright: boolean, other: boolean): Planes {
  const fold = (plane: Uint8Array, w: number, h: number): Uint8Array => {
    const out = plane.slice();
    const size = upright ? w : h;
    const middle = Math.round(at * size);
    const from = (k: number) => Math.min(size - 1, Math.max(0, k < middle === other ? 2 * middle - 1 - k : k));
    for (let row = 0; row < h; row++) for (let x = 0; x < w; x++) out[row * w + x] = plane[upright ? row * w + from(x) : from(row) * w + x];
    return out;
  };
  return { width, height, y: fold(y, width, height), u: fold(u, width >> 1, height >> 1), v: fold(v, width >> 1, height >> 1) };
}

/** One side of a line shown again on the other, mirrored: from left to right, right to left, top to bottom or bottom to top. */
export const mirror: EffectKind<{ at: number; side: number }> = {
  kind: 'mirror',
  name: say`Mirror`,
  about: say`One half of the picture stands reversed in the other.`,
  numbers: {
    side: numberKind(say`Side kept: 1 left, 2 right, 3 top, 4 bottom`, '', 0, 4, 0),
    at: numberKind('Line', '%', 0, 100, 50),
  },
  usual: { side: 1 },
  resolve: ({ side, at }) => (Math.round(side) > 0 ? { at: at / 100, side: Math.round(side) } : null),
  scale: (resolved) => resolved,
  reach: () => Number.POSITIVE_INFINITY,
  apply: (planes, { at, side }) => folded(planes, at, side < 3, side % 2 === 0),
};
