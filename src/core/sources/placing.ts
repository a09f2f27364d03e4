import type { Affine } from '../picture';
import type { Percent } from '../units';
import type { Size, TakeAt } from './kind';

/**
 * Output pixels to source pixels: the source fills the frame (its middle is kept), enlarged by `overscan` per cent, and the measured move is
 * followed so that the picture stands where the reference stood.
 */
export function fillFrame({ width, height }: Size, source: Size, overscan: Percent, move: TakeAt['move']): Affine {
  const fill = Math.max(width / source.width, height / source.height) * (overscan / 100);
  const angle = ((move?.turn ?? 0) * Math.PI) / 180;
  const scale = move?.scale ?? 1;
  const c = (Math.cos(angle) * scale) / fill;
  const s = (Math.sin(angle) * scale) / fill;
  const cx = source.width / 2 + (move?.dx ?? 0);
  const cy = source.height / 2 + (move?.dy ?? 0);
  return { a: c, b: -s, c: cx - (c * width) / 2 + (s * height) / 2, d: s, e: c, f: cy - (s * width) / 2 - (c * height) / 2 };
}

/** Output pixels to source pixels: the source whole within the frame, in its middle, as large as fits. */
export function fitFrame({ width, height }: Size, source: Size): Affine {
  const size = Math.max(source.width / width, source.height / height);
  return { a: size, b: 0, c: source.width / 2 - (size * width) / 2, d: 0, e: size, f: source.height / 2 - (size * height) / 2 };
}
