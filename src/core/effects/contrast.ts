import { numberKind } from '../motion';
import { say } from '../words';
import { evenly } from './by-matrix';
import type { EffectKind } from './kind';

/** Steepens or flattens all tones about a level that stays (W3C Filter Effects Level 1, contrast, where that is the middle). */
export const contrast: EffectKind<{ slope: number; about: number }> = {
  kind: 'contrast',
  name: say`Contrast`,
  about: say`Parts light from dark, or brings them together, around one level.`,
  numbers: { amount: numberKind('Contrast', '%', 0, 400, 100), about: numberKind(say`Level that stays`, '%', 0, 100, 50) },
  resolve: ({ amount, about }) => (amount === 100 ? null : { slope: amount / 100, about: about / 100 }),
  scale: (resolved) => resolved,
  reach: () => 0,
  colour: ({ slope, about }) => evenly(slope, about * (1 - slope)),
};
