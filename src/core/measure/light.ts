import { type ColourSpace, type Gains, type Planes, TRANSFER_OFFSET, TRANSFER_POWER, toRgbMatrix } from '../picture';
import { median, type Stops } from '../units';
import type { Block } from './blocks';
import { LIGHT_BANDS } from './flicker';
import type { LockReading } from './lock';

/** Light of a frame against the reference: linear gains, in stops, and the balance of red and blue to green. */
export interface LightReading {
  /** Gain on each channel of linear light; 1.1 is a tenth more. */
  gains: Gains;
  exposure: Stops;
  /** Red over green and blue over green, 1 when unchanged. */
  red: number;
  blue: number;
  /** Exposure of each of `LIGHT_BANDS` bands of rows; NaN where no block served. */
  bands: Stops[];
}

/** Mean coded values of one block. */
export interface BlockColour {
  y: number;
  u: number;
  v: number;
}

/** Mean colour of a `size`×`size` patch of planes whose corner is at (x, y), from every second row; clipped to the picture. */
function patchColour(planes: Planes, x: number, y: number, size: number): BlockColour {
  const { width, height } = planes;
  const half = width >> 1;
  const x0 = Math.max(0, Math.round(x));
  const y0 = Math.max(0, Math.round(y));
  const end = Math.min(width, x0 + size);
  const bottom = Math.min(height, y0 + size);
  const n = Math.max(0, end - x0) * Math.max(0, Math.ceil((bottom - y0) / 2));
  if (n === 0) return { y: 0, u: 0, v: 0 };
  const { y: luma, u: blue, v: red } = planes;
  let sy = 0;
  let su = 0;
  let sv = 0;
  // Two pixels share a colour; those at the ends may have half of theirs outside.
  const [first, last] = [x0 >> 1, (end - 1) >> 1];
  for (let j = y0; j < bottom; j += 2) {
    for (let i = j * width + x0; i < j * width + end; i++) sy = (sy + luma[i]) | 0;
    const chroma = (j >> 1) * half;
    for (let i = chroma + first; i <= chroma + last; i++) {
      su = (su + 2 * blue[i]) | 0;
      sv = (sv + 2 * red[i]) | 0;
    }
    if (x0 & 1) {
      su -= blue[chroma + first];
      sv -= red[chroma + first];
    }
    if (end & 1) {
      su -= blue[chroma + last];
      sv -= red[chroma + last];
    }
  }
  return { y: sy / n, u: su / n, v: sv / n };
}

/** Colours of all blocks as they lie in the reference frame(s). */
export function blockColours(blocks: readonly Block[], planes: Planes): BlockColour[] {
  return blocks.map((b) => patchColour(planes, b.x, b.y, b.size));
}

/** Mean of several sets of block colours. */
export function meanColours(sets: readonly BlockColour[][]): BlockColour[] {
  return sets[0].map((_, i) => {
    const mean = (pick: (c: BlockColour) => number) => sets.reduce((s, set) => s + pick(set[i]), 0) / sets.length;
    return { y: mean((c) => c.y), u: mean((c) => c.u), v: mean((c) => c.v) };
  });
}

/** Weights of red, green and blue in brightness, ITU-R BT.709. */
const LUMA = [0.2126, 0.7152, 0.0722] as const;

/**
 * Light difference from the background only: for each block that agreed on the camera's move, the ratio of its mean
 * colour to the reference's, channel by channel in V + 0.099 (where a gain on light is a factor, ITU-R BT.709), then
 * the median over blocks. Blown and black blocks are left out. Null when fewer than 4 blocks serve.
 */
export function readLight(
  blocks: readonly Block[],
  reference: readonly BlockColour[],
  referenceSpace: ColourSpace,
  planes: Planes,
  space: ColourSpace,
  lock: LockReading,
): LightReading | null {
  const logs: [number[], number[], number[]] = [[], [], []];
  const bands: number[][] = Array.from({ length: LIGHT_BANDS }, () => []);
  const from = toRgbMatrix(referenceSpace);
  const to = toRgbMatrix(space);
  const a = (lock.turn * Math.PI) / 180;
  for (const index of lock.agreeing) {
    const block = blocks[index];
    const before = reference[index];
    const x = block.x + block.size / 2 - planes.width / 2;
    const y = block.y + block.size / 2 - planes.height / 2;
    const now = patchColour(
      planes,
      block.x + lock.dx + (Math.cos(a) * lock.scale - 1) * x - Math.sin(a) * y,
      block.y + lock.dy + Math.sin(a) * x + (Math.cos(a) * lock.scale - 1) * y,
      block.size,
    );
    if (before.y < 35 || before.y > 215 || now.y < 35 || now.y > 215) continue;
    let exposure = 0;
    let known = 0;
    for (let c = 0; c < 3; c++) {
      const value = (m: readonly number[], p: BlockColour) =>
        m[4 * c] * p.y + m[4 * c + 1] * p.u + m[4 * c + 2] * p.v + m[4 * c + 3] + TRANSFER_OFFSET;
      const [was, is] = [value(from, before), value(to, now)];
      if (was <= 0.13 || is <= 0.13) continue;
      const stops = Math.log2(is / was) / TRANSFER_POWER;
      logs[c].push(stops);
      exposure += LUMA[c] * stops;
      known++;
    }
    const band = Math.min(LIGHT_BANDS - 1, Math.floor(((y + planes.height / 2) / planes.height) * LIGHT_BANDS));
    if (known === 3) bands[band].push(exposure);
  }
  if (logs.some((l) => l.length < 4)) return null;
  const [r, g, b] = logs.map((l) => 2 ** median(l));
  return {
    gains: { r, g, b },
    exposure: Math.log2(LUMA[0] * r + LUMA[1] * g + LUMA[2] * b),
    red: r / g,
    blue: b / g,
    bands: bands.map((values) => median(values)),
  };
}
