import type { Planes } from './planes';

/** Coverage by coded brightness of limited range: 16 is none, 235 all; what a codec adds to either is taken off. */
const COVERAGE = Uint8Array.from({ length: 256 }, (_, y) => {
  const a = ((y - 16) * 255) / 219;
  return a < 5 ? 0 : a > 250 ? 255 : Math.round(a);
});

/** Coverage 0..255 as a grey picture that any player shows: brightness of limited range, no colour. Both sides even. */
export function greyPlanes(alpha: Uint8Array, width: number, height: number, out: Uint8Array): void {
  for (let i = 0; i < alpha.length; i++) out[i] = 16 + Math.round((alpha[i] * 219) / 255);
  out.fill(128, width * height);
}

/** The coverage that a grey picture shows. */
export function coverageOfGrey({ y }: Planes): Uint8Array {
  const alpha = new Uint8Array(y.length);
  for (let i = 0; i < y.length; i++) alpha[i] = COVERAGE[y[i]];
  return alpha;
}
