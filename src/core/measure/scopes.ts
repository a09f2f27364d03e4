import { BT709, fromRgbMatrix } from '../picture';
import type { Pixels } from '../units';

/** How often each level occurs in a picture, looked at in three ways. */
export interface Scopes {
  /** Columns of the waveform, from the picture's left to its right. */
  columns: number;
  /** For each column 256 counts of luma, from black (0) to white (255). */
  waveform: Uint32Array;
  /** 256 × 256 counts: Cr (row, downwards) by Cb (column), coded in 8 bits as ITU-R BT.709 has them; grey is at 128, 128. */
  vectorscope: Uint32Array;
  /** 256 counts each, of R'G'B' and of luma. */
  histogram: { red: Uint32Array; green: Uint32Array; blue: Uint32Array; luma: Uint32Array };
}

/** Looked at of a large picture at most this many of its pixels, in even rows and columns. */
const LOOKED_AT = 130_000;

/**
 * Waveform, vectorscope and histogram of a picture.
 * @param rgba R'G'B' (0..255) with alpha, which is not looked at, row by row.
 * @param columns into how many the waveform is divided, 1 or more.
 * Luma and chroma by ITU-R BT.709-6, item 3.
 */
export function scopesOf(rgba: Uint8ClampedArray, width: Pixels, height: Pixels, columns = 256): Scopes {
  const wide = Math.min(columns, width);
  const waveform = new Uint32Array(wide * 256);
  const vectorscope = new Uint32Array(65536);
  const [red, green, blue, luma] = [0, 1, 2, 3].map(() => new Uint32Array(256));
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / LOOKED_AT)));
  const [kr, kg, kb] = fromRgbMatrix({ ...BT709, fullRange: true });
  const [, , , , ur, ug, ub, u0, vr, vg, vb, v0] = fromRgbMatrix(BT709).map((m, i) => (i % 4 === 3 ? m : m / 255));
  for (let y = 0; y < height; y += step) {
    for (let x = 0; x < width; x += step) {
      const at = 4 * (y * width + x);
      const [r, g, b] = [rgba[at], rgba[at + 1], rgba[at + 2]];
      const level = Math.round((kr * r + kg * g + kb * b) / 255);
      red[r]++;
      green[g]++;
      blue[b]++;
      luma[level]++;
      waveform[Math.floor((x * wide) / width) * 256 + level]++;
      vectorscope[Math.round(vr * r + vg * g + vb * b + v0) * 256 + Math.round(ur * r + ug * g + ub * b + u0)]++;
    }
  }
  return { columns: wide, waveform, vectorscope, histogram: { red, green, blue, luma } };
}
