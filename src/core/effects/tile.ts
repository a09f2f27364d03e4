import { numberKind } from '../motion';
import { say } from '../words';
import { drawnFrom } from './drawn-from';
import type { EffectKind } from './kind';

/** The whole picture again and again, so many across and down; every second one mirrored where wished, so that no edge shows. */
export const tile: EffectKind<{ across: number; mirrored: boolean }> = {
  kind: 'tile',
  name: say`Tile`,
  about: say`The picture over and over, side by side, mirrored when wished.`,
  numbers: { amount: numberKind(say`Across and down`, '', 1, 20, 1, 1, 1), mirrored: numberKind(say`Mirrored: 0 no, 1 yes`, '', 0, 1, 0) },
  usual: { amount: 2 },
  resolve: ({ amount, mirrored }) => (amount > 1 ? { across: amount, mirrored: Math.round(mirrored) === 1 } : null),
  scale: (resolved) => resolved,
  reach: () => Number.POSITIVE_INFINITY,
  apply: (planes, { across, mirrored }) => {
    const { width, height } = planes;
    const within = (k: number, size: number) => {
      const m = (k * across) / size;
      const part = m - Math.floor(m);
      return (mirrored && Math.floor(m) % 2 === 1 ? 1 - part : part) * size;
    };
    return drawnFrom(planes, (x, y, at) => {
      at[0] = within(x, width);
      at[1] = within(y, height);
    });
  },
};
