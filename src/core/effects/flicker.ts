import { numberKind } from '../motion';
import { BT709, takeToProject } from '../picture';
import { randomAt } from '../room';
import { say } from '../words';
import type { EffectKind } from './kind';

/** Light that comes and goes by chance, the same every time: up to so many stops, at most one change every few frames. */
export const flicker: EffectKind<{ light: number }> = {
  kind: 'flicker',
  name: say`Flicker`,
  about: say`Light that is not steady: an old tube, a projector.`,
  numbers: {
    amount: numberKind(say`Up to`, 'EV', 0, 4, 0, 0.1, 2),
    every: numberKind(say`Changes every`, 'frames', 1, 50, 3),
    seed: numberKind('Seed', '', 0, 9999, 1),
  },
  usual: { amount: 0.5 },
  resolve: ({ amount, every, seed }, { index }) =>
    amount > 0 ? { light: 2 ** (amount * (2 * randomAt(seed, Math.floor(index / Math.max(1, every)))() - 1)) } : null,
  scale: (resolved) => resolved,
  reach: () => 0,
  colour: ({ light }) => takeToProject(BT709, { r: light, g: light, b: light }),
};
