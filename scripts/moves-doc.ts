import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Shot } from '../src/core/document/index';
import { kindOf, MOVES, type Move } from '../src/core/moves/index';
import { stagedMove, stagedProject } from '../src/core/staged/index';

/**
 * Writes `docs/moves.md`: every move with what it lays, and how many presses it takes, beside how many it would take by hand.
 * `npx tsx scripts/moves-doc.ts`
 */
const project = stagedProject();

/** What would have to be done by hand for the same layers: one for each layer, its begin and end, its keys, masks and effects and their numbers. */
function byHand({ layers }: Shot): number {
  const keys = (numbers: Record<string, readonly unknown[] | undefined>) =>
    Object.values(numbers).reduce((sum, list) => sum + Math.max(0, list?.length ?? 0), 0);
  return layers.reduce(
    (sum, layer) =>
      sum +
      1 +
      (layer.from ? 1 : 0) +
      (layer.to ? 1 : 0) +
      layer.timeRemap.length +
      keys(layer.numbers) +
      (layer.blend === 'normal' ? 0 : 1) +
      (layer.shutter > 0 ? 1 : 0) +
      layer.masks.reduce((n, mask) => n + 1 + keys(mask.numbers), 0) +
      layer.effects.reduce(
        (n, effect) =>
          n +
          1 +
          Object.values(effect.numbers)
            .filter((list) => list.length > 1)
            .reduce((k, list) => k + list.length, 0),
        0,
      ),
    0,
  );
}

const rows = MOVES.map(({ kind, words, takes, planned }) => {
  const chosen = ['t1', 't2', 't3'].slice(0, Math.min(3, takes.max));
  const shot = stagedMove(project, kind, 16, chosen);
  const sounds = kindOf(shot.move as Move).sounds ? 'yes' : '–';
  // A bar, all moves, the move; and the list of takes with each of them where they are not the likely ones.
  const sheet = 3;
  const own = takes.max === 1 ? sheet + 2 : sheet + 1 + Math.min(2, chosen.length);
  return `| ${words.name} | ${words.about} | ${planned ? planned.recipe : '–'} | ${planned ? 1 : '–'} | ${sheet} | ${own} | ${byHand(shot)} | ${sounds} |`;
});

writeFileSync(
  join(process.cwd(), 'docs/moves.md'),
  `# Moves

Made by \`npx tsx scripts/moves-doc.ts\`. Every move is laid as ordinary layers, keys, masks and effects, which can all be changed by hand.

- **From its plan**: presses for a shot whose planned takes are filmed. It lies where the plan says, its takes corrected, sounded out and measured. That it does, and that every event of it is on its frame, is a browser test (\`e2e/recipes.spec.ts\`) for each recipe, measured on the exported film.
- **From the sheet**: presses with the takes that are likely (a place on the score, all moves, the move).
- **Of one’s own takes**: presses with up to two takes chosen.
- **By hand**: what the same layers would take without the move, one for each layer, its begin and end, key, mask and effect. Counted on the moves as proposed from staged takes.

| Move | What it does | Recipe of the plan | From its plan | From the sheet | Of one’s own takes | By hand | Brings sounds |
| --- | --- | --- | --- | --- | --- | --- | --- |
${rows.join('\n')}
`,
);
