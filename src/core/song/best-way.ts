import type { Seconds, Unit } from '../units';
import { beatFMeasure } from './fmeasure';

/** Ways that are less likely than this do not count. */
const LIKELY = 0.005;
/** How much a way's own likelihood counts beside what its beats have in common with the others'. */
const OWN = 0.5;

/**
 * The way to choose among those a song's beats may be heard in: its beats have the most in common, in the mean, with those that may be
 * meant (F-measure; the least expected loss), and it is likely itself. So of a tempo and its half, the half heard on either of its two
 * places, the tempo is chosen though each of the three is as likely. Undefined where there is none.
 */
export function bestWay<T extends { beats: readonly Seconds[]; likely: Unit }>(ways: readonly T[]): T | undefined {
  const some = ways.filter(({ likely }) => likely >= LIKELY);
  const worth = (way: T) => some.reduce((sum, other) => sum + other.likely * beatFMeasure(way.beats, other.beats), OWN * way.likely);
  return some.map((way) => ({ way, worth: worth(way) })).sort((a, b) => b.worth - a.worth)[0]?.way;
}
