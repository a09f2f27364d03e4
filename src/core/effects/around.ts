import { numberKind } from '../motion';
import type { Affine } from '../picture';
import { say } from '../words';

/** The middle of an effect that goes around a place, per cent of the frame. */
export const MIDDLE = {
  x: numberKind(say`Middle, across`, '%', -50, 150, 50),
  y: numberKind(say`Middle, down`, '%', -50, 150, 50),
};

/** Grown by `scale` and turned by `angle` (radians) about a place. */
export function about(x: number, y: number, scale: number, angle: number): Affine {
  const [c, s] = [scale * Math.cos(angle), scale * Math.sin(angle)];
  return { a: c, b: -s, c: x - c * x + s * y, d: s, e: c, f: y - s * x - c * y };
}
