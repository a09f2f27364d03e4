import type { Point } from './shape';

/**
 * A 2×3 affine map from output pixels to source pixels, `u = a·x + b·y + c`, `v = d·x + e·y + f`.
 * Pixel centres are at whole numbers plus a half.
 */
export interface Affine {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}

/** The map that leaves everything where it is. */
export const STAY: Affine = { a: 1, b: 0, c: 0, d: 0, e: 1, f: 0 };

/** `after` applied to what `first` gives. */
export function composeAffine(after: Affine, first: Affine): Affine {
  return {
    a: after.a * first.a + after.b * first.d,
    b: after.a * first.b + after.b * first.e,
    c: after.a * first.c + after.b * first.f + after.c,
    d: after.d * first.a + after.e * first.d,
    e: after.d * first.b + after.e * first.e,
    f: after.d * first.c + after.e * first.f + after.f,
  };
}

/** The map back; a map that squeezes all onto a line leads nowhere and gives one that shows nothing. */
export function inverted({ a, b, c, d, e, f }: Affine): Affine {
  const det = a * e - b * d;
  if (Math.abs(det) < 1e-12) return { a: 0, b: 0, c: -1e6, d: 0, e: 0, f: -1e6 };
  return { a: e / det, b: -b / det, c: (b * f - e * c) / det, d: -d / det, e: a / det, f: (d * c - a * f) / det };
}

export const applied = ({ a, b, c, d, e, f }: Affine, { x, y }: Point): Point => ({ x: a * x + b * y + c, y: d * x + e * y + f });

/** The map of the half-size chroma planes. */
export const chromaMap = (map: Affine): Affine => ({ ...map, c: map.c / 2, f: map.f / 2 });
