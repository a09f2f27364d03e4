import type { Pixels } from '../units';

/**
 * A picture as three 8-bit planes, 4:2:0, no padding between rows. Width and height are even;
 * `u` and `v` are half as wide and half as high. Values are BT.709 limited range unless stated.
 */
export interface Planes {
  width: Pixels;
  height: Pixels;
  y: Uint8Array;
  u: Uint8Array;
  v: Uint8Array;
}

/** A picture and how much of each of its pixels is seen, 0..255, row by row; without it all is. */
export type ClearPlanes = Planes & { alpha?: Uint8Array };

/** New planes, black. Throws RangeError when a side is not an even whole number over 0. */
export function blackPlanes(width: Pixels, height: Pixels): Planes {
  if (!(width > 0 && height > 0 && width % 2 === 0 && height % 2 === 0)) {
    throw new RangeError(`blackPlanes: width and height must be even and over 0, not ${width}×${height}`);
  }
  const chroma = (width * height) / 4;
  return {
    width,
    height,
    y: new Uint8Array(width * height).fill(16),
    u: new Uint8Array(chroma).fill(128),
    v: new Uint8Array(chroma).fill(128),
  };
}

/** The planes over one contiguous I420 buffer of `width`×`height` (both even); nothing is copied. */
export function planesOver(buffer: Uint8Array, width: Pixels, height: Pixels): Planes {
  const luma = width * height;
  const chroma = luma / 4;
  return {
    width,
    height,
    y: buffer.subarray(0, luma),
    u: buffer.subarray(luma, luma + chroma),
    v: buffer.subarray(luma + chroma, luma + 2 * chroma),
  };
}

/** Fills planes with black in place. */
export function blacken(planes: Planes): void {
  planes.y.fill(16);
  planes.u.fill(128);
  planes.v.fill(128);
}

/** The one buffer that planes lie over, luma and both chromas after another; null where they do not. */
export function bytesUnder({ y, u, v }: Planes): Uint8Array | null {
  const after = (a: Uint8Array, b: Uint8Array) => a.buffer === b.buffer && b.byteOffset === a.byteOffset + a.length;
  return after(y, u) && after(u, v) ? new Uint8Array(y.buffer, y.byteOffset, y.length + u.length + v.length) : null;
}

/** Mean of pictures of one size, value by value. */
export function meanPlanes(pictures: readonly Planes[]): Planes {
  const [{ width, height }] = pictures;
  const mean = (pick: (p: Planes) => Uint8Array) => {
    const all = pictures.map(pick);
    return all[0].map((_, i) => Math.round(all.reduce((sum, plane) => sum + plane[i], 0) / all.length));
  };
  return { width, height, y: mean((p) => p.y), u: mean((p) => p.u), v: mean((p) => p.v) };
}

/** The same picture in memory of its own. */
export const copiedPlanes = ({ width, height, y, u, v }: Planes): Planes => ({ width, height, y: y.slice(), u: u.slice(), v: v.slice() });
