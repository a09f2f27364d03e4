import { clamp, type Unit } from '../units';

/** The two inner control points of a cubic Bézier from (0,0) to (1,1); x in 0..1, y free (overshoot). */
export interface Bezier {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}

/** Easing names and their curves. The first five are the keywords of W3C CSS Easing Functions Level 1; the others are common practice. */
export const EASINGS = {
  linear: { x1: 0, y1: 0, x2: 1, y2: 1 },
  ease: { x1: 0.25, y1: 0.1, x2: 0.25, y2: 1 },
  'ease in': { x1: 0.42, y1: 0, x2: 1, y2: 1 },
  'ease out': { x1: 0, y1: 0, x2: 0.58, y2: 1 },
  'ease in and out': { x1: 0.42, y1: 0, x2: 0.58, y2: 1 },
  'strong in': { x1: 0.7, y1: 0, x2: 0.85, y2: 0.15 },
  'strong out': { x1: 0.15, y1: 0.85, x2: 0.3, y2: 1 },
  'strong in and out': { x1: 0.85, y1: 0, x2: 0.15, y2: 1 },
  overshoot: { x1: 0.3, y1: 1.4, x2: 0.6, y2: 1 },
} as const satisfies Record<string, Bezier>;

export const EASING_NAMES = [
  'linear',
  'ease',
  'ease in',
  'ease out',
  'ease in and out',
  'strong in',
  'strong out',
  'strong in and out',
  'overshoot',
  'settle',
  'hold',
] as const;
export type EasingName = (typeof EASING_NAMES)[number];

/** How a span between two keys runs: by name, or by a curve of its own. */
export type Easing = EasingName | Bezier;

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

/** A landing that swings past its mark one and a half times while it dies away: a damped oscillation, at 1 and at rest when x is 1. */
function settling(x: Unit): number {
  return 1 - Math.exp(-4 * x) * (1 - x) * Math.cos(3 * Math.PI * x);
}

/** Eased progress of a span, `x` in 0..1 (clamped); `hold` stays at 0 until the very end. 0 at 0 and 1 at 1 for every easing. */
export function ease(easing: Easing, x: Unit): number {
  if (typeof easing === 'object') return bezierEase(easing, x);
  const at = clamp(x, 0, 1);
  if (easing === 'hold') return at >= 1 ? 1 : 0;
  if (easing === 'settle') return settling(at);
  return easing === 'linear' ? at : bezierEase(EASINGS[easing], at);
}

/** The curve of an easing as two handles; those that are no single cubic as the nearest that is. */
export function handlesOf(easing: Easing): Bezier {
  if (typeof easing === 'object') return easing;
  if (easing === 'hold') return { x1: 1, y1: 0, x2: 1, y2: 0 };
  return EASINGS[easing === 'settle' ? 'overshoot' : easing];
}
