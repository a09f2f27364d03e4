import { numberKind } from '../motion';
import type { Pixels } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

function blocks(plane: Uint8Array, width: number, height: number, block: number): Uint8Array {
  const out = new Uint8Array(plane.length);
  for (let top = 0; top < height; top += block) {
    const bottom = Math.min(height, top + block);
    for (let left = 0; left < width; left += block) {
      const right = Math.min(width, left + block);
      let sum = 0;
      for (let y = top; y < bottom; y++) for (let x = left; x < right; x++) sum += plane[y * width + x];
      const mean = Math.round(sum / ((bottom - top) * (right - left)));
      for (let y = top; y < bottom; y++) out.fill(mean, y * width + left, y * width + right);
    }
  }
  return out;
}

/** Even squares in the mean colour of what is in them. */
export const mosaic: EffectKind<{ block: Pixels }> = {
  kind: 'mosaic',
  name: say`Mosaic`,
  about: say`Coarse squares of one colour each: a face or a sign that must not be known.`,
  numbers: { size: numberKind(say`Squares, of the height`, '%', 0, 50, 0, 0.5, 1) },
  // Even sizes, so that the squares of colour are those of brightness.
  usual: { size: 4 },
  resolve: ({ size }, { height }) => (size > 0 ? { block: Math.max(2, 2 * Math.round((size / 200) * height)) } : null),
  scale: ({ block }, factor) => ({ block: Math.max(2, 2 * Math.round((block * factor) / 2)) }),
  reach: ({ block }) => block,
  apply: ({ width, height, y, u, v }, { block }) => ({
    width,
    height,
    y: blocks(y, width, height, block),
    u: blocks(u, width >> 1, height >> 1, block >> 1),
    v: blocks(v, width >> 1, height >> 1, block >> 1),
  }),
};
