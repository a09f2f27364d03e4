import { clamp, type Unit } from '../units';
import type { Planes } from './planes';

/** How coded values map to R'G'B'. */
export interface ColourSpace {
  matrix: 'bt709' | 'bt601';
  fullRange: boolean;
}

export const BT709: ColourSpace = { matrix: 'bt709', fullRange: false };

/** Luma weights of red and blue: ITU-R BT.709-6 item 3.2, BT.601-7 item 2.5.1 and BT.2020-2 table 4. */
const WEIGHTS = { bt709: [0.2126, 0.0722], bt601: [0.299, 0.114], bt2020: [0.2627, 0.0593] } as const;

/**
 * A 3×4 matrix, row by row, on coded values (Y, Cb, Cr in 0..255, plus 1).
 * `out[r] = m[4r]·y + m[4r+1]·cb + m[4r+2]·cr + m[4r+3]`.
 */
export type ColourMatrix = readonly number[];

export const IDENTITY_COLOUR: ColourMatrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** Coded YCbCr (0..255) to R'G'B' (0..1, may leave that range). */
export function toRgbMatrix(space: { matrix: keyof typeof WEIGHTS; fullRange: boolean }): ColourMatrix {
  const [kr, kb] = WEIGHTS[space.matrix];
  const kg = 1 - kr - kb;
  const ys = space.fullRange ? 1 / 255 : 1 / 219;
  const cs = space.fullRange ? 1 / 255 : 1 / 224;
  const y0 = space.fullRange ? 0 : 16;
  const rv = 2 * (1 - kr) * cs;
  const bu = 2 * (1 - kb) * cs;
  const gu = (-bu * kb) / kg;
  const gv = (-rv * kr) / kg;
  return [ys, 0, rv, -ys * y0 - 128 * rv, ys, gu, gv, -ys * y0 - 128 * (gu + gv), ys, bu, 0, -ys * y0 - 128 * bu];
}

/** R'G'B' (0..1) to coded YCbCr (0..255). The inverse of `toRgbMatrix`. */
export function fromRgbMatrix(space: ColourSpace): ColourMatrix {
  const [kr, kb] = WEIGHTS[space.matrix];
  const kg = 1 - kr - kb;
  const ys = space.fullRange ? 255 : 219;
  const cs = space.fullRange ? 255 : 224;
  const y0 = space.fullRange ? 0 : 16;
  const u = cs / (2 * (1 - kb));
  const v = cs / (2 * (1 - kr));
  return [kr * ys, kg * ys, kb * ys, y0, -kr * u, -kg * u, (1 - kb) * u, 128, (1 - kr) * v, -kg * v, -kb * v, 128];
}

/** The matrix that applies `first`, then `second`. */
export function composeColour(second: ColourMatrix, first: ColourMatrix): ColourMatrix {
  const out: number[] = [];
  for (let r = 0; r < 3; r++) {
    for (let c = 0; c < 4; c++) {
      let sum = c === 3 ? second[4 * r + 3] : 0;
      for (let k = 0; k < 3; k++) sum += second[4 * r + k] * first[4 * k + c];
      out.push(sum);
    }
  }
  return out;
}

/** Linear-light gains on red, green and blue; 1 leaves a channel as it is. */
export interface Gains {
  r: number;
  g: number;
  b: number;
}

/** Toe and exponent of the BT.709 transfer, V = 1.099·L^0.45 − 0.099: in V + 0.099 a gain on light is a plain factor. */
export const TRANSFER_OFFSET = 0.099;
export const TRANSFER_POWER = 0.45;

/**
 * The matrix from a take's coded values to the project's BT.709 limited range with `gains` on its light.
 * Exact for L over 0.018 (the straight part of the BT.709 transfer), within 0.3 code values per 0.1 EV below.
 */
export function takeToProject(space: ColourSpace, gains: Gains): ColourMatrix {
  const k = [gains.r, gains.g, gains.b].map((g) => g ** TRANSFER_POWER);
  const light: number[] = [];
  for (let c = 0; c < 3; c++) for (let i = 0; i < 4; i++) light.push(i === c ? k[c] : i === 3 ? TRANSFER_OFFSET * (k[c] - 1) : 0);
  const matrix = composeColour(fromRgbMatrix(BT709), composeColour(light, toRgbMatrix(space)));
  return matrix.map((v, i) => (Math.abs(v - IDENTITY_COLOUR[i]) < 1e-9 ? IDENTITY_COLOUR[i] : v));
}

/** True when the matrix changes nothing. */
export function isIdentityColour(matrix: ColourMatrix): boolean {
  return matrix.every((v, i) => v === IDENTITY_COLOUR[i]);
}

/** Planes to RGBA bytes (opaque), for the screen and for PNG. `out` must hold width × height × 4. */
export function toRgba(planes: Planes, out: Uint8ClampedArray): void {
  const { width, height } = planes;
  const m = toRgbMatrix(BT709).map((v) => v * 255);
  const half = width >> 1;
  for (let y = 0; y < height; y += 2) {
    for (let x = 0; x < half; x++) {
      const u = planes.u[(y >> 1) * half + x];
      const v = planes.v[(y >> 1) * half + x];
      const r = m[2] * v + m[3];
      const g = m[5] * u + m[6] * v + m[7];
      const b = m[9] * u + m[11];
      for (let k = 0; k < 4; k++) {
        const at = (y + (k >> 1)) * width + 2 * x + (k & 1);
        const l = planes.y[at] * m[0];
        out[4 * at] = l + r;
        out[4 * at + 1] = l + g;
        out[4 * at + 2] = l + b;
        out[4 * at + 3] = 255;
      }
    }
  }
}

/** Coded BT.709 value to R'G'B' 0..1, clamped. */
export function rgbOf(y: number, u: number, v: number): [Unit, Unit, Unit] {
  const m = toRgbMatrix(BT709);
  return [0, 4, 8].map((r) => clamp(m[r] * y + m[r + 1] * u + m[r + 2] * v + m[r + 3], 0, 1)) as [Unit, Unit, Unit];
}
