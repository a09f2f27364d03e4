import { clamp, type Unit } from '../units';
import { BT709, fromRgbMatrix, toRgbMatrix } from './colour';
import { throughTableByKernel } from './own-kernel';
import type { Planes } from './planes';

/** Entries along each side: one for every eighth code value. */
const SIDE = 33;

/** For every eighth code of Y, Cb and Cr: the Y, Cb and Cr it becomes, and a number that is not used, one after another. */
export type ColourTable = Float32Array;

/** R'G'B', 0..1 each where it is in gamut; changed in place. */
export type Rgb = [number, number, number];

/** The table of what `change` makes of each colour. `from` leads from coded values to R'G'B'; what comes of it is written in BT.709, limited range. */
export function tableOf(change: (rgb: Rgb) => void, from = toRgbMatrix(BT709)): ColourTable {
  const back = fromRgbMatrix(BT709);
  const table = new Float32Array(SIDE ** 3 * 4);
  const rgb: Rgb = [0, 0, 0];
  let at = 0;
  for (let i = 0; i < SIDE; i++)
    for (let j = 0; j < SIDE; j++)
      for (let k = 0; k < SIDE; k++, at += 4) {
        for (let c = 0; c < 3; c++) rgb[c] = from[4 * c] * 8 * i + from[4 * c + 1] * 8 * j + from[4 * c + 2] * 8 * k + from[4 * c + 3];
        change(rgb);
        for (let c = 0; c < 3; c++)
          table[at + c] = clamp(back[4 * c] * rgb[0] + back[4 * c + 1] * rgb[1] + back[4 * c + 2] * rgb[2] + back[4 * c + 3], 0, 255);
      }
  return table;
}

/** Brings planes through a table, in place; linear between its entries. Chroma goes with the mean of the luma that shares it. */
export function throughTable(planes: Planes, table: ColourTable): void {
  if (!throughTableByKernel(planes, table)) throughTablePlainly(planes, table);
}

/** As `throughTable`, without compiled code. */
export function throughTablePlainly(planes: Planes, table: ColourTable): void {
  const { width, height, y, u, v } = planes;
  const half = width >> 1;
  // The eight entries about a colour, mixed for one channel.
  const look = (luma: number, cb: number, cr: number, channel: number): number => {
    const [i, j, k] = [luma >> 3, cb >> 3, cr >> 3];
    const [fi, fj, fk] = [(luma & 7) / 8, (cb & 7) / 8, (cr & 7) / 8];
    const a = 4 * ((i * SIDE + j) * SIDE + k) + channel;
    const [across, down] = [4 * SIDE, 4 * SIDE * SIDE];
    const face = (o: number) => {
      const near = table[o] + fk * (table[o + 4] - table[o]);
      const far = table[o + across] + fk * (table[o + across + 4] - table[o + across]);
      return near + fj * (far - near);
    };
    const low = face(a);
    return low + fi * (face(a + down) - low) + 0.5;
  };
  for (let row = 0; row < height; row += 2)
    for (let x = 0; x < half; x++) {
      const c = (row >> 1) * half + x;
      const at = row * width + 2 * x;
      const [cb, cr] = [u[c], v[c]];
      const mean = (y[at] + y[at + 1] + y[at + width] + y[at + width + 1] + 2) >> 2;
      y[at] = look(y[at], cb, cr, 0);
      y[at + 1] = look(y[at + 1], cb, cr, 0);
      y[at + width] = look(y[at + width], cb, cr, 0);
      y[at + width + 1] = look(y[at + width + 1], cb, cr, 0);
      u[c] = look(mean, cb, cr, 1);
      v[c] = look(mean, cb, cr, 2);
    }
}

/** What is added to each of R', G' and B' at even steps of the way from 0 to 1; linear between. */
export interface ChannelCurves {
  r: readonly number[];
  g: readonly number[];
  b: readonly number[];
}

/** What one curve adds at a value; beyond its ends as at them. */
export function curveAt(curve: readonly number[], value: Unit): number {
  const steps = curve.length - 1;
  const at = clamp(value, 0, 1) * steps;
  const low = Math.min(steps - 1, Math.floor(at));
  return curve[low] + (at - low) * (curve[low + 1] - curve[low]);
}

/** Adds each channel's curve to it, in place. */
export function alongCurves({ r, g, b }: ChannelCurves): (rgb: Rgb) => void {
  return (rgb) => {
    rgb[0] += curveAt(r, rgb[0]);
    rgb[1] += curveAt(g, rgb[1]);
    rgb[2] += curveAt(b, rgb[2]);
  };
}
