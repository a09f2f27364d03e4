import type { SeamKeyframe } from '../layer';
import type { Percent } from '../units';

/** How far to both sides a pull takes the seam along, per cent of its length. */
const ALONG = 14;

/** A seam's points with the seam pulled aside by `by` at a place along it (per cent); what is near goes along, less the further it is. */
export function pulledSeam({ points, across }: Pick<SeamKeyframe, 'points' | 'across'>, at: Percent, by: Percent): SeamKeyframe['points'] {
  const share = (along: number) => by * Math.exp(-(((along - at) / ALONG) ** 2));
  return points.map((p) => (across ? { ...p, y: p.y + share(p.x) } : { ...p, x: p.x + share(p.y) }));
}
