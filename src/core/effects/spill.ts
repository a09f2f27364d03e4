import { numberKind } from '../motion';
import { type Chroma, chromaOfHue, hueOfChroma, takeSpillOut } from '../picture';
import type { Unit } from '../units';
import type { EffectKind } from './kind';

/** Takes out what a coloured backing throws on whoever stands before it. */
export const spill: EffectKind<{ towards: Chroma; amount: Unit }> = {
  kind: 'spill',
  name: 'Spill taken out',
  numbers: { amount: numberKind('Amount', '%', 0, 100, 0), hue: numberKind('Hue of the backing', '°', 0, 360, 120) },
  usual: { amount: 100 },
  forBacking: (backing) => ({ amount: 100, hue: hueOfChroma(backing) }),
  resolve: ({ amount, hue }) => (amount > 0 ? { towards: chromaOfHue(hue), amount: amount / 100 } : null),
  scale: (resolved) => resolved,
  reach: () => 0,
  apply: (planes, { towards, amount }) => {
    const out = { ...planes, u: planes.u.slice(), v: planes.v.slice() };
    takeSpillOut(out.u, out.v, towards, amount);
    return out;
  },
};
