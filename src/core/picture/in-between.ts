import type { Pixels, Unit } from '../units';
import { blackPlanes, type Planes } from './planes';

/** How far what is seen moves from one frame to the next, on a grid over the picture: pixels of the grid, across and down by turns. */
export interface Flow {
  width: Pixels;
  height: Pixels;
  /** 2 · width · height values. */
  move: Float32Array;
}

/** Where a picture taken between two frames finds its samples in the first and in the second, for each of `width` × `height` pixels. */
function wayBack(flow: Flow, share: Unit, width: Pixels, height: Pixels): { first: Float32Array; second: Float32Array } {
  const { width: fw, height: fh, move } = flow;
  const [kx, ky] = [fw / width, fh / height];
  const first = new Float32Array(2 * width * height);
  const second = new Float32Array(2 * width * height);
  const read = (u: number, v: number, c: 0 | 1) => {
    const a = u < 0 ? 0 : u > fw - 1 ? fw - 1 : u;
    const b = v < 0 ? 0 : v > fh - 1 ? fh - 1 : v;
    const [x, y] = [a | 0, b | 0];
    const [fx, fy] = [a - x, b - y];
    const i = 2 * (y * fw + x) + c;
    const right = x + 1 < fw ? 2 : 0;
    const below = y + 1 < fh ? 2 * fw : 0;
    const upper = move[i] + fx * (move[i + right] - move[i]);
    const lower = move[i + below] + fx * (move[i + below + right] - move[i + below]);
    return upper + fy * (lower - upper);
  };
  for (let y = 0, k = 0; y < height; y++) {
    const v = (y + 0.5) * ky - 0.5;
    for (let x = 0; x < width; x++, k += 2) {
      const u = (x + 0.5) * kx - 0.5;
      // What is here now began where its own move, taken back by its share, leads from: two steps towards it.
      let [mx, my] = [read(u, v, 0), read(u, v, 1)];
      [mx, my] = [read(u - share * mx, v - share * my, 0), read(u - share * mx, v - share * my, 1)];
      [mx, my] = [mx / kx, my / ky];
      first[k] = x - share * mx;
      first[k + 1] = y - share * my;
      second[k] = x + (1 - share) * mx;
      second[k + 1] = y + (1 - share) * my;
    }
  }
  return { first, second };
}

function sampled(plane: Uint8Array, width: number, height: number, u: number, v: number): number {
  const a = u < 0 ? 0 : u > width - 1 ? width - 1 : u;
  const b = v < 0 ? 0 : v > height - 1 ? height - 1 : v;
  const [x, y] = [a | 0, b | 0];
  const i = y * width + x;
  const right = x + 1 < width ? 1 : 0;
  const below = y + 1 < height ? width : 0;
  const upper = plane[i] + (a - x) * (plane[i + right] - plane[i]);
  const lower = plane[i + below] + (a - x) * (plane[i + below + right] - plane[i + below]);
  return upper + (b - y) * (lower - upper);
}

/** A code value's step from which two frames moved together are held to show different things there. */
const APART = 24;

/**
 * The picture `share` of the way from frame `a` to frame `b`, each moved along `flow` (from `a` to `b`) towards it. Where the two then
 * do not show the same, as where something is uncovered, the nearer frame counts more. Both have the same even size.
 */
export function inBetween(a: Planes, b: Planes, flow: Flow, share: Unit): Planes {
  const { width, height } = a;
  const out = blackPlanes(width, height);
  const near = share < 0.5 ? 0 : 1;
  const fill = (name: 'y' | 'u' | 'v', wide: number, tall: number, { first, second }: ReturnType<typeof wayBack>) => {
    for (let i = 0; i < wide * tall; i++) {
      const p = sampled(a[name], wide, tall, first[2 * i], first[2 * i + 1]);
      const q = sampled(b[name], wide, tall, second[2 * i], second[2 * i + 1]);
      const apart = Math.min(1, Math.abs(p - q) / APART);
      out[name][i] = p + (share + 0.8 * apart * (near - share)) * (q - p) + 0.5;
    }
  };
  fill('y', width, height, wayBack(flow, share, width, height));
  const half = wayBack(flow, share, width / 2, height / 2);
  fill('u', width / 2, height / 2, half);
  fill('v', width / 2, height / 2, half);
  return out;
}
