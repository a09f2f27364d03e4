import { numberKind } from '../motion';
import { takeToProject } from '../picture';
import { say } from '../words';
import type { EffectKind } from './kind';

/** More or less light, in stops, on linear light through the BT.709 transfer. */
export const exposure: EffectKind<{ light: number }> = {
  kind: 'exposure',
  name: say`Exposure`,
  about: say`More or less light, in stops, as the iris would do it.`,
  numbers: { amount: numberKind('Exposure', 'EV', -6, 6, 0, 0.1, 2) },
  resolve: ({ amount }) => (amount === 0 ? null : { light: 2 ** amount }),
  scale: (resolved) => resolved,
  reach: () => 0,
  colour: ({ light }) => takeToProject({ matrix: 'bt709', fullRange: false }, { r: light, g: light, b: light }),
};
