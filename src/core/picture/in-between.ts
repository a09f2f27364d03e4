import type { Pixels, Unit } from '../units';
import { blackPlanes, type Planes } from './planes';

/** How far what is seen moves from one frame to the next, on a grid over the picture: pixels of the grid, across and down by turns. */
export interface Flow {
  width: Pixels;
  height: Pixels;
  /** 2 · width · height values. */
  move: Float32Array;
}

/** How far what is seen at each of `width` × `height` pixels of a picture between two frames moves from the first to the second: across and down by turns. */
function movesAt({ width: fw, height: fh, move }: Flow, share: Unit, width: Pixels, height: Pixels): Float32Array {
  const [kx, ky] = [fw / width, fh / height];
  const out = new Float32Array(2 * width * height);
  const read = (u: number, v: number, c: 0 | 1) => {
    const a = u < 0 ? 0 : u > fw - 1 ? fw - 1 : u;
    const b = v < 0 ? 0 : v > fh - 1 ? fh - 1 : v;
    const x = a | 0;
    const y = b | 0;
    const fx = a - x;
    const fy = b - y;
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
      const mx = read(u, v, 0);
      const my = read(u, v, 1);
      out[k] = read(u - share * mx, v - share * my, 0) / kx;
      out[k + 1] = read(u - share * mx, v - share * my, 1) / ky;
    }
  }
  return out;
}

/** A plane between its pixels, linear; beyond its edge, its edge. Called for every pixel twice, so spelled out. */
function sampled(plane: Uint8Array, width: number, height: number, u: number, v: number): number {
  const a = u < 0 ? 0 : u > width - 1 ? width - 1 : u;
  const b = v < 0 ? 0 : v > height - 1 ? height - 1 : v;
  const x = a | 0;
  const y = b | 0;
  const fx = a - x;
  const i = y * width + x;
  const j = y + 1 < height ? i + width : i;
  const right = x + 1 < width ? 1 : 0;
  const upper = plane[i] + fx * (plane[i + right] - plane[i]);
  const lower = plane[j] + fx * (plane[j + right] - plane[j]);
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
  // Movement is smooth: four pixels of luma share that of their chroma.
  const half = width / 2;
  const moves = movesAt(flow, share, half, height / 2);
  between(a.y, b.y, out.y, width, height, moves, 2, share);
  between(a.u, b.u, out.u, half, height / 2, moves, 1, share);
  between(a.v, b.v, out.v, half, height / 2, moves, 1, share);
  return out;
}

/** One plane of it; `scale` is how many of its pixels lie across one of the moves. */
function between(
  a: Uint8Array,
  b: Uint8Array,
  out: Uint8Array,
  width: number,
  height: number,
  moves: Float32Array,
  scale: 1 | 2,
  share: Unit,
): void {
  const shift = scale >> 1;
  const half = width >> shift;
  const rest = 1 - share;
  const lean = 0.8 * ((share < 0.5 ? 0 : 1) - share);
  for (let y = 0, i = 0; y < height; y++) {
    const row = (y >> shift) * half;
    for (let x = 0; x < width; x++, i++) {
      const k = 2 * (row + (x >> shift));
      const mx = scale * moves[k];
      const my = scale * moves[k + 1];
      const p = sampled(a, width, height, x - share * mx, y - share * my);
      const q = sampled(b, width, height, x + rest * mx, y + rest * my);
      const difference = q - p;
      const apart = Math.min(1, Math.abs(difference) / APART);
      out[i] = p + (share + lean * apart) * difference + 0.5;
    }
  }
}
