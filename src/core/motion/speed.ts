import type { Seconds } from '../units';

/** Speed of a take over a span of output time; 1 is as filmed, 2 is twice as fast. Outside the span the take runs at 1. */
export interface SpeedSpan {
  /** Output seconds from the sync point at which the changed speed begins. */
  from: Seconds;
  /** Output seconds at which it ends; at or after `from`. */
  to: Seconds;
  speed: number;
}

/**
 * How far the take has run, in source seconds from its sync point, at output time `t` from the sync point:
 * the integral of speed from 0 to t. Exact; monotone for speeds over 0. Before the sync point it runs at 1.
 */
export function sourceTime(t: Seconds, span: SpeedSpan): Seconds {
  const overlap = (x: number) => Math.min(Math.max(x, span.from), span.to) - span.from;
  return t + (span.speed - 1) * (overlap(t) - overlap(0));
}
