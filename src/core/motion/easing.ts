import { clamp, type Unit } from '../units';

/** The two inner control points of a cubic Bézier from (0,0) to (1,1); x in 0..1, y free (overshoot). */
export interface Bezier {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}

/** Easing names and their curves: the keywords of W3C CSS Easing Functions Level 1. */
export const EASINGS = {
  linear: { x1: 0, y1: 0, x2: 1, y2: 1 },
  ease: { x1: 0.25, y1: 0.1, x2: 0.25, y2: 1 },
  'ease in': { x1: 0.42, y1: 0, x2: 1, y2: 1 },
  'ease out': { x1: 0, y1: 0, x2: 0.58, y2: 1 },
  'ease in and out': { x1: 0.42, y1: 0, x2: 0.58, y2: 1 },
} as const satisfies Record<string, Bezier>;

export type EasingName = keyof typeof EASINGS | 'hold';
export const EASING_NAMES = ['linear', 'ease', 'ease in', 'ease out', 'ease in and out', 'hold'] as const satisfies readonly EasingName[];

function cubic(a: number, b: number, t: number): number {
  const u = 1 - t;
  return 3 * u * u * t * a + 3 * u * t * t * b + t * t * t;
}

/**
 * Eased progress for `x` in 0..1 (clamped). Solves x(t) by bisection-guarded Newton to 1e-9.
 * Method: W3C CSS Easing Functions Level 1, cubic-bezier().
 */
export function bezierEase(curve: Bezier, x: Unit): number {
  const target = clamp(x, 0, 1);
  if (target === 0 || target === 1) return target;
  let low = 0;
  let high = 1;
  let t = target;
  for (let i = 0; i < 60; i++) {
    const error = cubic(curve.x1, curve.x2, t) - target;
    if (Math.abs(error) < 1e-10) break;
    if (error > 0) high = t;
    else low = t;
    const u = 1 - t;
    const slope = 3 * u * u * curve.x1 + 6 * u * t * (curve.x2 - curve.x1) + 3 * t * t * (1 - curve.x2);
    const next = slope > 1e-9 ? t - error / slope : Number.NaN;
    t = next > low && next < high ? next : (low + high) / 2;
  }
  return cubic(curve.y1, curve.y2, t);
}

/** Eased progress by name; `hold` stays at 0 until the very end. */
export function ease(name: EasingName, x: Unit): number {
  if (name === 'hold') return x >= 1 ? 1 : 0;
  return name === 'linear' ? clamp(x, 0, 1) : bezierEase(EASINGS[name], x);
}
