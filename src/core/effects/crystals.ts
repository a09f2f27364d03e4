import { numberKind } from '../motion';
import type { Pixels } from '../units';
import { say } from '../words';
import { cellsOf } from './cells';
import type { EffectKind } from './kind';

/** Random pieces (Voronoi cells), each in the mean colour of what is in it. */
export const crystals: EffectKind<{ size: Pixels; seed: number }> = {
  kind: 'crystals',
  name: say`Crystals`,
  about: say`Breaks the picture into cells of one colour each, like cut glass.`,
  numbers: { size: numberKind(say`Pieces, of the height`, '%', 0, 50, 0, 0.5, 1), seed: numberKind('Seed', '', 0, 9999, 1) },
  usual: { size: 5 },
  resolve: ({ size, seed }, { height }) => (size > 0 ? { size: Math.max(3, (size / 100) * height), seed: Math.round(seed) } : null),
  scale: ({ size, seed }, factor) => ({ size: Math.max(3, size * factor), seed }),
  reach: ({ size }) => 3 * size,
  apply: ({ width, height, y, u, v }, { size, seed }) => {
    const { of, x } = cellsOf(width, height, size, seed);
    const mean = (plane: Uint8Array, across: number, step: number): Uint8Array => {
      const [sum, count] = [new Float64Array(x.length), new Uint32Array(x.length)];
      const out = new Uint8Array(plane.length);
      const eachPixel = (visit: (i: number, cell: number) => void) => {
        for (let row = 0, i = 0; i < plane.length; row += step)
          for (let column = 0; column < across; column++, i++) visit(i, of[row * width + step * column]);
      };
      eachPixel((i, cell) => {
        sum[cell] += plane[i];
        count[cell]++;
      });
      const even = sum.map((total, cell) => Math.round(total / Math.max(1, count[cell])));
      eachPixel((i, cell) => {
        out[i] = even[cell];
      });
      return out;
    };
    return { width, height, y: mean(y, width, 1), u: mean(u, width >> 1, 2), v: mean(v, width >> 1, 2) };
  },
};
