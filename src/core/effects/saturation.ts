import { numberKind } from '../motion';
import { say } from '../words';
import { byMatrix } from './by-matrix';
import type { EffectKind } from './kind';

/** Brightness weights of ITU-R BT.709, as W3C Filter Effects Level 1 rounds them. */
const [R, G, B] = [0.2126, 0.7152, 0.0722];

/** More or less colour; 0 is black and white (W3C Filter Effects Level 1, saturate). */
export const saturation: EffectKind<{ amount: number }> = {
  kind: 'saturation',
  name: say`Saturation`,
  about: say`More or less colour; none is black and white.`,
  numbers: { amount: numberKind('Saturation', '%', 0, 400, 100) },
  resolve: ({ amount }) => (amount === 100 ? null : { amount: amount / 100 }),
  scale: (resolved) => resolved,
  reach: () => 0,
  colour: ({ amount: s }) => {
    const row = (own: number) => [R, G, B].map((weight, c) => weight * (1 - s) + (c === own ? s : 0));
    return byMatrix([...row(0), 0, ...row(1), 0, ...row(2), 0]);
  },
};
