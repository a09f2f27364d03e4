import { numberKind } from '../motion';
import { gaussianBlur } from '../picture';
import type { Pixels } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

/** A Gaussian blur; its standard deviation in per cent of the frame's height. */
export const blur: EffectKind<{ deviation: Pixels }> = {
  kind: 'blur',
  name: say`Gaussian blur`,
  about: say`Softens the picture evenly: a background that must not be read.`,
  numbers: { amount: numberKind('Blur', '%', 0, 20, 0, 0.1, 2) },
  usual: { amount: 1 },
  resolve: ({ amount }, { height }) => (amount > 0 ? { deviation: (amount / 100) * height } : null),
  scale: ({ deviation }, factor) => ({ deviation: deviation * factor }),
  reach: ({ deviation }) => 3 * deviation,
  apply: (planes, { deviation }) => gaussianBlur(planes, deviation),
};
