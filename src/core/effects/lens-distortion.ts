import { numberKind } from '../motion';
import { say } from '../words';
import { drawnFrom, type PlaceOf, stepFor } from './drawn-from';
import type { EffectKind } from './kind';

/**
 * Straight lines bent as by a wide lens (barrel, over 0) or a long one (pincushion, under 0): the first radial term of Brown 1966,
 * drawn from r · (1 + k · r²), with r = 1 at the corner, and enlarged so that the corners stay filled.
 */
export const lensDistortion: EffectKind<{ k: number }> = {
  kind: 'lens distortion',
  name: say`Lens distortion`,
  about: say`Bends straight lines out or in, as a wide or long lens does, or takes that away.`,
  numbers: { amount: numberKind('Amount', '%', -50, 100, 0, 1, 1) },
  usual: { amount: 20 },
  resolve: ({ amount }) => (amount === 0 ? null : { k: amount / 100 }),
  scale: (resolved) => resolved,
  reach: () => Number.POSITIVE_INFINITY,
  apply: (planes, { k }) => {
    const [mx, my] = [planes.width / 2, planes.height / 2];
    const corner = mx * mx + my * my;
    // The furthest that is drawn from is the corner itself; bent outwards, nothing within may be drawn from beyond the edge.
    const fill = k > 0 ? 1 / (1 + k) : 1;
    const bent: PlaceOf = (x, y, at) => {
      const [dx, dy] = [x - mx, y - my];
      const grown = fill * (1 + (k * (dx * dx + dy * dy)) / corner);
      at[0] = mx + dx * grown;
      at[1] = my + dy * grown;
    };
    return drawnFrom(planes, bent, stepFor((6 * Math.abs(k) * fill) / Math.sqrt(corner)));
  },
};
