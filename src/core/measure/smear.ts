import type { Pixels, Unit } from '../units';
import { centreOf, type Mask } from './grid';

/**
 * How far a figure smears while the shutter is open, from where it is a frame earlier and a frame later: pixels of the masks, or
 * none where it is not seen or turns about. `open` is the share of the frame for which the shutter is open (180° is 0.5).
 */
export function smearOf(before: Mask, now: Mask, after: Mask, open: Unit): { dx: Pixels; dy: Pixels } {
  const least = now.data.length / 2000;
  const [a, b, c] = [before, now, after].map(centreOf);
  if ([a, b, c].some(({ count }) => count === 0 || count < least)) return { dx: 0, dy: 0 };
  const [first, second] = [
    { dx: b.x - a.x, dy: b.y - a.y },
    { dx: c.x - b.x, dy: c.y - b.y },
  ];
  // One who comes in or leaves, or is hidden in part, shifts its middle by more than it moves.
  const odd = Math.hypot(first.dx - second.dx, first.dy - second.dy) > 1 + 0.5 * Math.hypot(first.dx + second.dx, first.dy + second.dy);
  if (odd) return { dx: 0, dy: 0 };
  return { dx: (open * (first.dx + second.dx)) / 2, dy: (open * (first.dy + second.dy)) / 2 };
}
