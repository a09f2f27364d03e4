import { numberKind } from '../motion';
import { throughCube } from '../picture';
import { say } from '../words';
import type { EffectKind } from './kind';

interface Resolved {
  tableId: string;
  /** How much of it, 0 to 1. */
  amount: number;
}

/** Colours changed by a table from a file (`.cube`), as far as asked. */
export const colourTable: EffectKind<Resolved> = {
  kind: 'colour table',
  name: say`Colour table from a file`,
  about: say`Looks the colours up in a .cube file: a look made elsewhere.`,
  numbers: { amount: numberKind('Amount', '%', 0, 100, 100) },
  byTable: true,
  resolve: ({ amount }, _, tableId) => (tableId && amount > 0 ? { tableId, amount: amount / 100 } : null),
  scale: (resolved) => resolved,
  reach: () => 0,
  tables: ({ tableId }) => [tableId],
  rgb: ({ tableId, amount }, tables) => {
    const cube = tables.get(tableId);
    if (!cube) return null;
    const change = throughCube(cube);
    return (rgb) => {
      const [r, g, b] = rgb;
      change(rgb);
      for (const [c, before] of [r, g, b].entries()) rgb[c] = before + amount * (rgb[c] - before);
    };
  },
};
