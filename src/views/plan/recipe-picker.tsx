'use client';
import { RECIPES } from '@/core/plan';
import { say } from '@/core/words';
import { addPlan } from '@/data/plans';
import { Button, Heading } from '@/ui/controls';
import { tapeStyle } from '@/ui/tape';

/** All recipes, to plan a shot from. */
export function RecipePicker({ onDone, onPicked }: { onDone?: () => void; onPicked: () => void }) {
  return (
    <div className="mx-auto max-w-6xl p-4 sm:p-6">
      <div className="flex items-start justify-between gap-3">
        <Heading
          title={say`Which trick shall it be?`}
          question={say`Choose one: its takes, marks, order and times come with it, and all can be changed.`}
        />
        {onDone && <Button onClick={onDone}>{say`Back`}</Button>}
      </div>
      <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
        {RECIPES.map((recipe, i) => (
          <li key={recipe.id}>
            <button
              type="button"
              className="relative flex h-full min-h-11 w-full flex-col border border-rule bg-sheet p-3 pt-4 text-left hover:border-ink"
              onClick={() => {
                addPlan(recipe);
                onPicked();
              }}
            >
              <span aria-hidden className="absolute -top-1 left-4 h-3 w-12 -rotate-3" style={tapeStyle(i)} />
              <span className="font-semibold">{recipe.name}</span>
              <span className="mt-1 block text-sm text-faint">{recipe.idea}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
