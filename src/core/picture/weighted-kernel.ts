import { bytesFor, compiled, places } from '../compiled';
import { type Affine, chromaMap } from './affine';
import { KERNEL_BASE64 } from './kernel-bytes';
import type { Planes } from './planes';

/** The arrays that weighted sums are kept in. */
export interface Sums {
  cover: Uint32Array;
  chroma: Float32Array;
  /** Of luma, and of both chromas. */
  sums: [Float32Array, Float32Array, Float32Array];
  alpha: Uint16Array;
}

type Numbers<N extends number, T extends number[] = []> = T['length'] extends N ? T : Numbers<N, [...T, number]>;
interface Passes {
  /** See `kernels/smear.ts`. */
  layLuma(...numbers: Numbers<25>): void;
  layChroma(...numbers: Numbers<18>): void;
}

/** An instance of its own: what it sums stays in its memory from laying to laying, whatever else is computed between. */
const load = compiled<Passes>(KERNEL_BASE64);
const START = 65536;

const listed = ({ a, b, c, d, e, f }: Affine): Numbers<6> => [a, b, c, d, e, f];

/** Weighted sums in the memory of the compiled passes, which hold until sums are next asked for; null where the plain ones serve. */
export function compiledSums(width: number, height: number, largest: number) {
  const at = load();
  if (!at) return null;
  const { kernel, memory } = at;
  const luma = width * height;
  const own = [4 * luma, 4 * luma, 2 * luma, 2 * luma, luma, luma, luma];
  const { at: found, end } = places(START, [...own, 8 * height, largest, largest / 4, largest / 4]);
  const [cover, y, alpha, plane, u, v, chroma, columns, luminance, blue, red] = found;
  const bytes = bytesFor(memory, end);
  const { buffer } = bytes;
  const floats = (from: number, length: number) => new Float32Array(buffer, from, length).fill(0);
  const sums: Sums = {
    cover: new Uint32Array(buffer, cover, luma).fill(0),
    chroma: floats(chroma, luma / 4),
    sums: [floats(y, luma), floats(u, luma / 4), floats(v, luma / 4)],
    alpha: new Uint16Array(buffer, alpha, luma).fill(0),
  };
  const ends = new Int32Array(buffer, columns, 2 * height);
  let source: Planes | null = null;
  let covered: Uint16Array | null = null;
  return {
    sums,
    /** As `Weighted.lay`; `reach` gives first and one past the last column of a row. */
    lay(
      from: Planes,
      map: Affine,
      with_: Uint16Array,
      ride: Affine,
      [first, last]: [number, number],
      mirror: boolean,
      reach: (row: number) => [number, number],
    ): void {
      if (from !== source) {
        bytes.set(from.y, luminance);
        bytes.set(from.u, blue);
        bytes.set(from.v, red);
        source = from;
      }
      if (with_ !== covered) {
        new Uint16Array(buffer, plane, luma).set(with_);
        covered = with_;
      }
      for (let row = first; row < last; row++) ends.set(reach(row), 2 * (row - first));
      const edge = mirror ? 1 : 0;
      const [sw, sh] = [from.width, from.height];
      kernel.layLuma(luminance, sw, sh, plane, width, height, first, last, columns, alpha, cover, y, edge, ...listed(map), ...listed(ride));
      kernel.layChroma(blue, red, sw >> 1, sh >> 1, width, first, last, alpha, chroma, u, v, edge, ...listed(chromaMap(map)));
    },
  };
}
