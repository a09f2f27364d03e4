import { lineNormal } from '../picture';
import type { Degrees, Frames, Unit } from '../units';
import type { Luma } from './luma';

/** Cells of the falling-movement profile along the line's normal. */
export const FALL_CELLS = 96;
const BLOCK = 8;

/**
 * How much is moving along the line's normal between two frames, in `FALL_CELLS` cells from the first corner the line
 * meets to the last. Small pictures (about 320 wide) do. Movement along the normal is told from other movement by
 * gradient-based flow on blocks, every second row of them (Lucas & Kanade 1981): the flow's share along the normal,
 * weighed by how much changed.
 */
export function fallProfile(before: Luma, after: Luma, angle: Degrees): Float32Array {
  const { width, height } = before;
  const [nx, ny] = lineNormal(angle);
  const extent = Math.abs(nx) * width + Math.abs(ny) * height;
  const out = new Float32Array(FALL_CELLS);
  const a = before.data;
  const b = after.data;
  for (let y = 1; y + BLOCK + 1 < height; y += BLOCK) {
    for (let x = 1; x + BLOCK + 1 < width; x += BLOCK) {
      let change = 0;
      for (let j = y; j < y + BLOCK; j += 2)
        for (let at = j * width + x; at < j * width + x + BLOCK; at++) change += Math.abs(b[at] - a[at]);
      change /= (BLOCK * BLOCK) / 2;
      // Most of a set stands still.
      if (change < 6) continue;
      let [xx, xy, yy, xt, yt] = [0, 0, 0, 0, 0];
      for (let j = y; j < y + BLOCK; j += 2) {
        for (let i = x; i < x + BLOCK; i++) {
          const at = j * width + i;
          const gx = a[at + 1] - a[at - 1] + b[at + 1] - b[at - 1];
          const gy = a[at + width] - a[at - width] + b[at + width] - b[at - width];
          const t = b[at] - a[at];
          xx += gx * gx;
          xy += gx * gy;
          yy += gy * gy;
          xt += gx * t;
          yt += gy * t;
        }
      }
      const det = xx * yy - xy * xy + 5e2 * (xx + yy) + 1;
      const u = (-4 * (yy * xt - xy * yt)) / det;
      const v = (-4 * (xx * yt - xy * xt)) / det;
      // Fast cloths outrun the flow's range, so plain change counts a little too, unless it clearly goes the other way.
      const along = u * nx + v * ny;
      const weight = change * (along > 0.15 ? 1 : along > -0.15 ? 0.45 : 0.08);
      const place = (nx * (x + BLOCK / 2 - width / 2) + ny * (y + BLOCK / 2 - height / 2)) / extent + 0.5;
      out[Math.min(FALL_CELLS - 1, Math.max(0, Math.floor(place * FALL_CELLS)))] += weight;
    }
  }
  return out;
}

/** The path a reveal's line should take: per frame, its place as a share of the way across the frame. */
export interface FallPath {
  /** Index of the profile at which the fall begins and ends. */
  from: Frames;
  to: Frames;
  /** One value for each frame from `from` to `to`, never decreasing. */
  position: Unit[];
  /** 0..1: share of all falling movement in the span that lies within a tenth of the frame of the path. */
  cover: Unit;
}

/**
 * The line's path under the densest falling movement: of all never-returning paths from one side of the frame to the
 * other, the one that collects the most movement, by dynamic programming over frames × cells, then smoothed without
 * losing its order. `profiles` has one row a frame. Null when nothing falls.
 */
export function fallPath(profiles: readonly Float32Array[]): FallPath | null {
  const span = fallSpan(profiles);
  if (!span) return null;
  const [from, to] = span;
  const rows = profiles.slice(from, to + 1).map(blurred);
  const n = rows.length;
  const fastest = Math.max(3, Math.ceil((FALL_CELLS / n) * 2.6));
  const score = rows.map(() => new Float64Array(FALL_CELLS).fill(Number.NEGATIVE_INFINITY));
  const back = rows.map(() => new Int16Array(FALL_CELLS));
  for (let c = 0; c < FALL_CELLS / 4; c++) score[0][c] = rows[0][c];
  for (let k = 1; k < n; k++) {
    for (let c = 0; c < FALL_CELLS; c++) {
      for (let step = 0; step <= fastest && step <= c; step++) {
        const value = score[k - 1][c - step] + rows[k][c];
        if (value > score[k][c]) {
          score[k][c] = value;
          back[k][c] = c - step;
        }
      }
    }
  }
  let c = FALL_CELLS - 1;
  for (let i = Math.floor(FALL_CELLS * 0.75); i < FALL_CELLS; i++) if (score[n - 1][i] > score[n - 1][c]) c = i;
  const cells = new Array<number>(n);
  for (let k = n - 1; k >= 0; k--) {
    cells[k] = c;
    c = back[k][c];
  }
  const smooth = smoothed(cells.map((v) => (v + 0.5) / FALL_CELLS));
  return { from, to, position: smooth, cover: coverOf(profiles.slice(from, to + 1), smooth) };
}

/** First and last frame of the fall: from when movement enters the first third until it has left the rest. */
function fallSpan(profiles: readonly Float32Array[]): [Frames, Frames] | null {
  const part = (row: Float32Array, a: number, b: number) =>
    row.subarray(Math.floor(a * FALL_CELLS), Math.ceil(b * FALL_CELLS)).reduce((s, v) => s + v, 0);
  const early = profiles.map((row) => part(row, 0, 0.25));
  const late = profiles.map((row) => part(row, 0.55, 1));
  const most = early.reduce((a, b) => Math.max(a, b), 0);
  const total = profiles.reduce((s, row) => s + part(row, 0, 1), 0) / Math.max(1, profiles.length);
  if (!(most > 60 && most > total * 0.35)) return null;
  const peak = early.indexOf(most);
  let from = peak;
  while (from > 0 && early[from - 1] > most * 0.12) from--;
  const after = late.map((v, i) => (i > peak ? v : 0));
  const mostLate = after.reduce((a, b) => Math.max(a, b), 0);
  if (mostLate <= 0) return null;
  let to = after.indexOf(mostLate);
  while (to < profiles.length - 1 && after[to + 1] > mostLate * 0.2) to++;
  return to - from >= 5 ? [from, to] : null;
}

function blurred(row: Float32Array): Float32Array {
  const out = new Float32Array(FALL_CELLS);
  for (let i = 0; i < FALL_CELLS; i++) for (let k = -6; k <= 6; k++) out[i] += (row[i + k] ?? 0) * Math.exp(-(k * k) / 18);
  const sum = out.reduce((s, v) => s + v, 0);
  // Frames with more movement count more, but not in proportion: the path must hold on quiet frames too.
  return sum > 0 ? out.map((v) => v / Math.sqrt(sum)) : out;
}

/** Moving average over about a fifth of the path, then made never-decreasing; ends held at the ends of their runs. */
function smoothed(values: number[]): number[] {
  const reach = Math.max(1, Math.round(values.length / 10));
  let top = 0;
  return values.map((_, i) => {
    let [sum, weight] = [0, 0];
    for (let k = -reach; k <= reach; k++) {
      const j = Math.min(values.length - 1, Math.max(0, i + k));
      const w = 1 + reach - Math.abs(k);
      sum += values[j] * w;
      weight += w;
    }
    top = Math.max(top, sum / weight);
    return top;
  });
}

function coverOf(rows: readonly Float32Array[], path: readonly number[]): Unit {
  let [near, all] = [0, 0];
  rows.forEach((row, k) => {
    row.forEach((v, c) => {
      all += v;
      if (Math.abs((c + 0.5) / FALL_CELLS - path[k]) < 0.15) near += v;
    });
  });
  return all > 0 ? near / all : 0;
}
