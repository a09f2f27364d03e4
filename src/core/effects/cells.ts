import { randomAt } from '../room';
import type { Pixels } from '../units';

/** Random pieces of the plane: one middle in each square of a grid, strayed by chance (Worley 1996); every place belongs to the nearest. */
export interface Cells {
  columns: number;
  /** Middles, pixels, row by row of the grid. */
  x: Float32Array;
  y: Float32Array;
  /** The piece each pixel belongs to. */
  of: Uint32Array;
}

const kept = new Map<string, Cells>();

/** The pieces of a picture, about `size` pixels wide each; the same for the same seed. The last few are kept. */
export function cellsOf(width: Pixels, height: Pixels, size: Pixels, seed: number): Cells {
  const key = `${width}x${height} ${size.toFixed(2)} ${seed}`;
  const known = kept.get(key);
  if (known) return known;
  const [columns, rows] = [Math.ceil(width / size) + 2, Math.ceil(height / size) + 2];
  const [x, y] = [new Float32Array(columns * rows), new Float32Array(columns * rows)];
  for (let k = 0; k < x.length; k++) {
    const random = randomAt(seed, k);
    x[k] = ((k % columns) - 1 + random()) * size;
    y[k] = (Math.floor(k / columns) - 1 + random()) * size;
  }
  const of = new Uint32Array(width * height);
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      const cx = Math.floor(column / size) + 1;
      const cy = Math.floor(row / size) + 1;
      const down = Math.min(rows - 1, cy + 1);
      const right = Math.min(columns - 1, cx + 1);
      let least = Number.POSITIVE_INFINITY;
      let nearest = 0;
      for (let b = Math.max(0, cy - 1); b <= down; b++)
        for (let k = b * columns + cx - 1; k <= b * columns + right; k++) {
          const dx = x[k] - column;
          const dy = y[k] - row;
          const far = dx * dx + dy * dy;
          if (far < least) {
            least = far;
            nearest = k;
          }
        }
      of[i] = nearest;
    }
  const cells = { columns, x, y, of };
  kept.set(key, cells);
  for (const oldest of kept.keys()) if (kept.size > 4) kept.delete(oldest);
  return cells;
}
