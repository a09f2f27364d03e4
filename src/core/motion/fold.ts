import { around, type Seconds } from '../units';

/** What happens when a source's run leaves a span of its seconds. */
export const REPEATS = ['loop', 'there and back'] as const;
export interface Repeat {
  from: Seconds;
  to: Seconds;
  how: (typeof REPEATS)[number];
}

/** A second of a run brought into the span it repeats: from its end to its beginning again, or turning at both ends. */
export function folded(second: Seconds, { from, to, how }: Repeat): Seconds {
  const long = to - from;
  if (!(long > 0)) return from;
  const period = how === 'loop' ? long : 2 * long;
  const at = around(second - from, period);
  return from + (at > long ? period - at : at);
}
