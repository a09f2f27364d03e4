import { numberKind } from '../motion';
import { type Chroma, chromaOfHue, copiedPlanes, hueOfChroma, takeSpillOut } from '../picture';
import type { Unit } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

/** Takes out what a coloured backing throws on whoever stands before it. */
export const spill: EffectKind<{ towards: Chroma; amount: Unit; light: Unit }> = {
  kind: 'spill',
  name: say`Spill taken out`,
  about: say`Takes the light of a coloured backing off hair and edges.`,
  numbers: {
    amount: numberKind('Amount', '%', 0, 100, 0),
    hue: numberKind(say`Hue of the backing`, '°', 0, 360, 120),
    light: numberKind(say`Its light as well`, '%', 0, 100, 0),
  },
  usual: { amount: 100 },
  forBacking: (backing) => ({ amount: 100, hue: hueOfChroma(backing), light: 100 }),
  resolve: ({ amount, hue, light = 0 }) => (amount > 0 ? { towards: chromaOfHue(hue), amount: amount / 100, light: light / 100 } : null),
  scale: (resolved) => resolved,
  reach: () => 0,
  apply: (planes, { towards, amount, light }) => {
    const out = copiedPlanes(planes);
    takeSpillOut(out, towards, amount, light);
    return out;
  },
};
