import { numberKind } from '../motion';
import type { Unit } from '../units';
import { say } from '../words';
import { evenly } from './by-matrix';
import type { EffectKind } from './kind';

/** Turns tones round, all the way or in part (W3C Filter Effects Level 1, invert). */
export const invert: EffectKind<{ amount: Unit }> = {
  kind: 'invert',
  name: say`Invert`,
  about: say`A negative: light becomes dark, each colour its opposite.`,
  numbers: { amount: numberKind(say`Inverted by`, '%', 0, 100, 0) },
  usual: { amount: 100 },
  resolve: ({ amount }) => (amount > 0 ? { amount: amount / 100 } : null),
  scale: (resolved) => resolved,
  reach: () => 0,
  colour: ({ amount }) => evenly(1 - 2 * amount, amount),
};
