import { numberKind } from '../motion';
import type { Degrees } from '../units';
import { say } from '../words';
import { byMatrix } from './by-matrix';
import type { EffectKind } from './kind';

/** Turns every colour about grey (W3C Filter Effects Level 1, hueRotate). */
export const hue: EffectKind<{ turn: Degrees }> = {
  kind: 'hue',
  name: say`Hue`,
  about: say`Turns all colours round the circle.`,
  numbers: { amount: numberKind(say`Hue turned by`, '°', -360, 360, 0) },
  resolve: ({ amount }) => (amount % 360 === 0 ? null : { turn: amount }),
  scale: (resolved) => resolved,
  reach: () => 0,
  colour: ({ turn }) => {
    const a = (turn * Math.PI) / 180;
    const [c, s] = [Math.cos(a), Math.sin(a)];
    return byMatrix([
      0.213 + 0.787 * c - 0.213 * s,
      0.715 - 0.715 * c - 0.715 * s,
      0.072 - 0.072 * c + 0.928 * s,
      0,
      0.213 - 0.213 * c + 0.143 * s,
      0.715 + 0.285 * c + 0.14 * s,
      0.072 - 0.072 * c - 0.283 * s,
      0,
      0.213 - 0.213 * c - 0.787 * s,
      0.715 - 0.715 * c + 0.715 * s,
      0.072 + 0.928 * c + 0.072 * s,
      0,
    ]);
  },
};
