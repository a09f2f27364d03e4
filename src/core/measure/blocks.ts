import type { Pixels } from '../units';
import type { Luma } from './luma';

/** A textured patch of the reference, prepared for matching by Gauss-Newton. */
export interface Block {
  /** Upper left corner in the reference. */
  x: Pixels;
  y: Pixels;
  size: Pixels;
  /** Smoothed brightness less its mean. */
  template: Float32Array;
  gx: Float32Array;
  gy: Float32Array;
  /** Inverse of the 2×2 normal matrix of the gradients. */
  inverse: readonly [number, number, number];
  energy: number;
  /** Sums of the template times its gradients. */
  tx: number;
  ty: number;
}

/** A block's place in another frame. `fit` is the correlation at the solution, -1..1. */
export interface BlockShift {
  dx: Pixels;
  dy: Pixels;
  fit: number;
}

/** Cubic B-spline weights at phase `t`: the same blur at every phase, so sub-pixel positions are not drawn to the grid. */
function spline(t: number): readonly [number, number, number, number] {
  const u = 1 - t;
  return [(u * u * u) / 6, (4 - 6 * t * t + 3 * t * t * t) / 6, (4 - 6 * u * u + 3 * u * u * u) / 6, (t * t * t) / 6];
}

/**
 * Brightness of a `size`×`size` patch whose corner is at (x, y), fractions allowed, smoothed by a cubic B-spline.
 * False when the patch leaves the picture.
 */
function readWindow(luma: Luma, x: number, y: number, size: number, out: Float32Array, rows: Float32Array): boolean {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  if (ix < 1 || iy < 1 || ix + size + 2 > luma.width || iy + size + 2 > luma.height) return false;
  const [h0, h1, h2, h3] = spline(x - ix);
  const [v0, v1, v2, v3] = spline(y - iy);
  const { data, width } = luma;
  for (let j = 0; j < size + 3; j++) {
    let at = (iy - 1 + j) * width + ix - 1;
    const target = j * size;
    for (let i = 0; i < size; i++, at++) rows[target + i] = h0 * data[at] + h1 * data[at + 1] + h2 * data[at + 2] + h3 * data[at + 3];
  }
  for (let i = 0; i < size * size; i++) out[i] = v0 * rows[i] + v1 * rows[i + size] + v2 * rows[i + 2 * size] + v3 * rows[i + 3 * size];
  return true;
}

function centre(values: Float32Array): void {
  let mean = 0;
  for (let i = 0; i < values.length; i++) mean += values[i];
  mean /= values.length;
  for (let i = 0; i < values.length; i++) values[i] -= mean;
}

function makeBlock(luma: Luma, x: number, y: number, size: number): Block | null {
  const wide = size + 2;
  const patch = new Float32Array(wide * wide);
  if (!readWindow(luma, x - 1, y - 1, wide, patch, new Float32Array(wide * (wide + 3)))) return null;
  const n = size * size;
  const block = { template: new Float32Array(n), gx: new Float32Array(n), gy: new Float32Array(n) };
  let [xx, xy, yy, energy, tx, ty] = [0, 0, 0, 0, 0, 0];
  for (let j = 0; j < size; j++) {
    for (let i = 0; i < size; i++) {
      const at = (j + 1) * wide + i + 1;
      const k = j * size + i;
      block.template[k] = patch[at];
      block.gx[k] = (patch[at + 1] - patch[at - 1]) / 2;
      block.gy[k] = (patch[at + wide] - patch[at - wide]) / 2;
    }
  }
  for (const values of [block.template, block.gx, block.gy]) centre(values);
  for (let k = 0; k < n; k++) {
    xx += block.gx[k] ** 2;
    xy += block.gx[k] * block.gy[k];
    yy += block.gy[k] ** 2;
    energy += block.template[k] ** 2;
    tx += block.template[k] * block.gx[k];
    ty += block.template[k] * block.gy[k];
  }
  const det = xx * yy - xy * xy;
  // The weaker direction must hold real texture: 1.2 code values of slope per pixel, RMS.
  const weaker = (xx + yy) / 2 - Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy);
  if (weaker < n * 1.2 || det <= 0) return null;
  return { x, y, size, ...block, inverse: [yy / det, -xy / det, xx / det], energy, tx, ty };
}

/**
 * The best-textured patch in each cell of a `columns`×`rows` grid over the reference; cells without texture give none.
 * Texture is the smaller eigenvalue of the gradient matrix (Shi & Tomasi 1994).
 */
export function chooseBlocks(luma: Luma, columns = 10, rows = 7, size = 24): Block[] {
  const blocks: Block[] = [];
  const margin = 8;
  const cellW = (luma.width - 2 * margin) / columns;
  const cellH = (luma.height - 2 * margin) / rows;
  const score = cornerScores(luma);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      let best = 0;
      let at: [number, number] | null = null;
      for (let y = margin + r * cellH; y + size <= margin + (r + 1) * cellH + size / 3 && y + size < luma.height - margin; y += 6) {
        for (let x = margin + c * cellW; x + size <= margin + (c + 1) * cellW + size / 3 && x + size < luma.width - margin; x += 6) {
          const value = score(Math.round(x), Math.round(y), size);
          if (value > best) {
            best = value;
            at = [Math.round(x), Math.round(y)];
          }
        }
      }
      const block = at && makeBlock(luma, at[0], at[1], size);
      if (block) blocks.push(block);
    }
  }
  return blocks;
}

/** A function giving the smaller eigenvalue of the gradient matrix of any patch, from summed-area tables at half size. */
function cornerScores(luma: Luma): (x: number, y: number, size: number) => number {
  const { data, width, height } = luma;
  const w = (width >> 1) - 2;
  const h = (height >> 1) - 2;
  const tables = [0, 1, 2].map(() => new Float64Array((w + 1) * (h + 1)));
  for (let j = 0; j < h; j++) {
    const sums = [0, 0, 0];
    for (let i = 0; i < w; i++) {
      const at = (2 * j + 2) * width + 2 * i + 2;
      const gx = (data[at + 2] - data[at - 2]) / 4;
      const gy = (data[at + 2 * width] - data[at - 2 * width]) / 4;
      sums[0] += gx * gx;
      sums[1] += gx * gy;
      sums[2] += gy * gy;
      for (let k = 0; k < 3; k++) tables[k][(j + 1) * (w + 1) + i + 1] = tables[k][j * (w + 1) + i + 1] + sums[k];
    }
  }
  return (x, y, size) => {
    const x0 = Math.min(w, Math.max(0, (x >> 1) - 1));
    const y0 = Math.min(h, Math.max(0, (y >> 1) - 1));
    const x1 = Math.min(w, x0 + (size >> 1));
    const y1 = Math.min(h, y0 + (size >> 1));
    const [a, b, c] = tables.map((t) => t[y1 * (w + 1) + x1] - t[y0 * (w + 1) + x1] - t[y1 * (w + 1) + x0] + t[y0 * (w + 1) + x0]);
    return (a + c) / 2 - Math.sqrt(((a - c) / 2) ** 2 + b * b);
  };
}

/** Buffers for matching, made once per block size. */
export interface MatchScratch {
  patch: Float32Array;
  rows: Float32Array;
}

export function matchScratch(size: number): MatchScratch {
  return { patch: new Float32Array(size * size), rows: new Float32Array(size * (size + 3)) };
}

/**
 * Finds a block in another frame from a first guess, by inverse compositional Gauss-Newton on brightness with free
 * gain and offset (Baker & Matthews 2004). Null when it runs away (over `reach` pixels) or leaves the picture.
 */
export function matchBlock(block: Block, luma: Luma, guessX: number, guessY: number, scratch: MatchScratch, reach = 5): BlockShift | null {
  const { template, gx, gy, inverse, size, energy } = block;
  const { patch, rows } = scratch;
  let dx = guessX;
  let dy = guessY;
  let fit = 0;
  for (let round = 0; round < 8; round++) {
    if (!readWindow(luma, block.x + dx, block.y + dy, size, patch, rows)) return null;
    // Template and gradients have no mean, so the patch's own falls out of every sum but its energy.
    let sum = 0;
    let cross = 0;
    let own = 0;
    let alongX = 0;
    let alongY = 0;
    for (let k = 0; k < patch.length; k++) {
      const v = patch[k];
      sum += v;
      own += v * v;
      cross += v * template[k];
      alongX += v * gx[k];
      alongY += v * gy[k];
    }
    own -= (sum * sum) / patch.length;
    if (own <= 0 || cross <= 0) return null;
    fit = cross / Math.sqrt(own * energy);
    const gain = energy / cross;
    const ex = alongX * gain - block.tx;
    const ey = alongY * gain - block.ty;
    const stepX = inverse[0] * ex + inverse[1] * ey;
    const stepY = inverse[1] * ex + inverse[2] * ey;
    dx -= stepX;
    dy -= stepY;
    if (Math.abs(dx - guessX) > reach || Math.abs(dy - guessY) > reach) return null;
    // Each round leaves a small part of the error, so a step of a twenty-fifth of a pixel leaves next to none.
    if (stepX * stepX + stepY * stepY < 1.6e-3) break;
    // What is still unlike the block after three rounds is something else, passing in front of it.
    if (round === 2 && fit < 0.5) return null;
  }
  return { dx, dy, fit };
}
