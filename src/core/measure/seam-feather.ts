import { extremes, type SeamFound, type SeamInput } from './seam';

/** A ramp of brightness this steep, code values a pixel, is no longer seen as a line. Common practice, from memory. */
const UNSEEN_SLOPE = 0.12;
/** The narrowest soft edge, pixels. */
const NARROWEST = 4;

/**
 * Full width of the soft edge that hides what is left along each path, row by row, in pixels of the take (`factor` of them to one
 * of the grid): as wide as the step in light or shadow there asks, never narrower than 4 px, and no wider than twice the room to
 * the nearest figure on that row or near it.
 */
export function seamFeather(found: SeamFound, input: SeamInput, factor: number): Float32Array[] {
  const { width, height } = input;
  const crossed = (f: number) => found.crossings.some((c) => f >= c.from && f <= c.to);
  return found.paths.map(({ from, x }, k) => {
    const end = found.paths[k + 1]?.from ?? input.first.length;
    const room = new Float32Array(height).fill(width / 8);
    for (let f = from; f < end; f++) {
      if (crossed(f)) continue;
      const { last, first } = extremes(input.first[f], input.second[f], width, height);
      x.forEach((at, y) => {
        if (last[y] > 0) room[y] = Math.min(room[y], Math.max(0, at - last[y]));
        if (first[y] < width) room[y] = Math.min(room[y], Math.max(0, first[y] - at));
      });
    }
    const around = (y: number, values: (row: number) => number, pick: (...v: number[]) => number) => {
      const near: number[] = [];
      for (let row = Math.max(0, y - 4); row <= Math.min(height - 1, y + 4); row++) near.push(values(row));
      return pick(...near);
    };
    const mean = (...v: number[]) => v.reduce((s, q) => s + q, 0) / v.length;
    const seen = (row: number) => input.difference[row * width + Math.min(width - 1, Math.round(x[row]))];
    const wanted = x.map((_, y) => {
      const free = 2 * factor * around(y, (row) => room[row], Math.min);
      return Math.max(NARROWEST, Math.min(free, around(y, seen, mean) / UNSEEN_SLOPE));
    });
    return wanted.map((_, y) => around(y, (row) => wanted[row], mean));
  });
}
