import { mirrored, type Planes } from '../picture';

/** A picture each of whose pixels is drawn from elsewhere in it: `from` puts the place (pixels from the left and from the top) into `at`. Linear between pixels; mirrored at the edges. */
export function drawnFrom(planes: Planes, from: (x: number, y: number, at: [number, number]) => void): Planes {
  const plane = (given: Uint8Array, width: number, height: number, scale: number): Uint8Array => {
    const out = new Uint8Array(given.length);
    const at: [number, number] = [0, 0];
    for (let row = 0, i = 0; row < height; row++)
      for (let column = 0; column < width; column++, i++) {
        from((column + 0.5) * scale, (row + 0.5) * scale, at);
        const [x, y] = [at[0] / scale - 0.5, at[1] / scale - 0.5];
        const [x0, y0] = [Math.floor(x), Math.floor(y)];
        const [fx, fy] = [x - x0, y - y0];
        const [a, b] = [mirrored(x0, width), mirrored(x0 + 1, width)];
        const [top, bottom] = [mirrored(y0, height) * width, mirrored(y0 + 1, height) * width];
        const above = given[top + a] + fx * (given[top + b] - given[top + a]);
        const below = given[bottom + a] + fx * (given[bottom + b] - given[bottom + a]);
        out[i] = above + fy * (below - above) + 0.5;
      }
    return out;
  };
  const { width, height, y, u, v } = planes;
  return { width, height, y: plane(y, width, height, 1), u: plane(u, width >> 1, height >> 1, 2), v: plane(v, width >> 1, height >> 1, 2) };
}
