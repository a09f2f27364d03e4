import { mirrored, type Planes } from '../picture';
import type { Pixels } from '../units';

/** Where a place of the result is drawn from: both in pixels from the left and from the top. */
export type PlaceOf = (x: Pixels, y: Pixels, at: [Pixels, Pixels]) => void;

/** Places along one row of a plane whose pixels are `scale` pixels of the picture wide, worked out one by one. */
function exactRows(from: PlaceOf, across: number, scale: number) {
  const at: [number, number] = [0, 0];
  return (row: number, xs: Float64Array, ys: Float64Array): void => {
    for (let column = 0; column < across; column++) {
      from((column + 0.5) * scale, (row + 0.5) * scale, at);
      xs[column] = at[0];
      ys[column] = at[1];
    }
  };
}

/** The same from places on every `step`th pixel, even between them. */
function latticeRows({ width, height }: Planes, from: PlaceOf, step: number) {
  const [columns, rows] = [Math.ceil(width / step) + 1, Math.ceil(height / step) + 1];
  const [gx, gy] = [new Float64Array(columns * rows), new Float64Array(columns * rows)];
  const at: [number, number] = [0, 0];
  for (let j = 0, k = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, k++) {
      from(i * step, j * step, at);
      gx[k] = at[0];
      gy[k] = at[1];
    }
  return (across: number, scale: number) =>
    (row: number, xs: Float64Array, ys: Float64Array): void => {
      const v = ((row + 0.5) * scale) / step;
      const j = Math.floor(v);
      const down = v - j;
      for (let column = 0; column < across; column++) {
        const u = ((column + 0.5) * scale) / step;
        const i = Math.floor(u);
        const right = u - i;
        const a = j * columns + i;
        const b = a + columns;
        const x0 = gx[a] + right * (gx[a + 1] - gx[a]);
        const x1 = gx[b] + right * (gx[b + 1] - gx[b]);
        const y0 = gy[a] + right * (gy[a + 1] - gy[a]);
        const y1 = gy[b] + right * (gy[b + 1] - gy[b]);
        xs[column] = x0 + down * (x1 - x0);
        ys[column] = y0 + down * (y1 - y0);
      }
    };
}

type Rows = (row: number, xs: Float64Array, ys: Float64Array) => void;

function drawnPlane(given: Uint8Array, width: number, height: number, scale: number, places: Rows): Uint8Array {
  const out = new Uint8Array(given.length);
  const [xs, ys] = [new Float64Array(width), new Float64Array(width)];
  for (let row = 0, i = 0; row < height; row++) {
    places(row, xs, ys);
    for (let column = 0; column < width; column++, i++) {
      // No pairs in here: taking them apart costs more than the rest.
      const x = xs[column] / scale - 0.5;
      const y = ys[column] / scale - 0.5;
      const x0 = Math.floor(x);
      const y0 = Math.floor(y);
      const fx = x - x0;
      const fy = y - y0;
      const inside = x0 >= 0 && y0 >= 0 && x0 < width - 1 && y0 < height - 1;
      const a = inside ? x0 : mirrored(x0, width);
      const b = inside ? x0 + 1 : mirrored(x0 + 1, width);
      const top = (inside ? y0 : mirrored(y0, height)) * width;
      const bottom = (inside ? y0 + 1 : mirrored(y0 + 1, height)) * width;
      const above = given[top + a] + fx * (given[top + b] - given[top + a]);
      const below = given[bottom + a] + fx * (given[bottom + b] - given[bottom + a]);
      out[i] = above + fy * (below - above) + 0.5;
    }
  }
  return out;
}

/**
 * A picture each of whose pixels is drawn from elsewhere in it. Linear between pixels; mirrored at the edges. Where places change smoothly
 * they are worked out on every `step`th pixel alone and are even between those.
 */
export function drawnFrom(planes: Planes, from: PlaceOf, step = 1): Planes {
  const { width, height, y, u, v } = planes;
  const half = width >> 1;
  const lattice = step > 1 ? latticeRows(planes, from, step) : null;
  const rows = (across: number, scale: number): Rows => lattice?.(across, scale) ?? exactRows(from, across, scale);
  const chroma = rows(half, 2);
  return {
    width,
    height,
    y: drawnPlane(y, width, height, 1, rows(width, 1)),
    u: drawnPlane(u, half, height >> 1, 2, chroma),
    v: drawnPlane(v, half, height >> 1, 2, chroma),
  };
}

/** The widest step between places, a power of two up to 8, that leaves no more than a tenth of a pixel where places bend by `bend` a pixel squared. */
export const stepFor = (bend: number): number => [8, 4, 2].find((step) => (bend * step * step) / 8 < 0.1) ?? 1;
