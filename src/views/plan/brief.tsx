'use client';
import { Trash2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import type { Project } from '@/core/document';
import { type PlannedShot, type RecipeInput, recipeOf } from '@/core/plan';
import { say } from '@/core/words';
import { changePlan, removePlan } from '@/data/plans';
import { Button, Note, NumberField, Tape } from '@/ui/controls';
import { TextField } from '@/ui/value-field';
import { usePlanContext } from './use-set';

const Sketch = dynamic(() => import('./acted').then((m) => m.Sketch), {
  ssr: false,
  loading: () => <div className="mt-3 aspect-[5.5]" />,
});

/** How many digits a step needs. */
const digitsOf = (step: number) => (step >= 1 ? 0 : step >= 0.1 ? 1 : 2);

function InputField({ plan, input }: { plan: PlannedShot; input: RecipeInput }) {
  const value = plan.inputs[input.key] ?? input.value;
  const set = (v: number | string) =>
    changePlan(plan.id, input.label, (p) => {
      p.inputs[input.key] = v;
    });
  if (input.kind === 'text') return <TextField label={input.label} value={String(value)} onChange={set} max={200} optional />;
  return (
    <NumberField
      label={input.label}
      unit={input.unit}
      value={Number(value)}
      min={input.min}
      max={input.max}
      step={input.step}
      digits={digitsOf(input.step)}
      onChange={(v) => set(input.step >= 1 ? Math.round(v) : v)}
    />
  );
}

/** What the shot is, what it asks, what to film, what will be built from it. */
export function Brief({ project, plan }: { project: Project; plan: PlannedShot }) {
  const recipe = recipeOf(plan);
  const c = usePlanContext(project, plan);
  const slots = recipe.slots(c);
  const filmed = (id: string) => project.takes.filter((t) => t.plan === plan.id && t.slot === id).length;
  const tick = (id: string) =>
    changePlan(plan.id, say`Tick the list`, (p) => {
      p.ticked = p.ticked.includes(id) ? p.ticked.filter((t) => t !== id) : [...p.ticked, id];
    });
  return (
    <div>
      <div className="grid gap-6 md:grid-cols-[1fr_18rem]">
        <div>
          <p className="max-w-prose text-lg">{recipe.idea}</p>
          <Sketch project={project} plan={plan} />
        </div>
        <div className="grid grid-cols-2 content-start gap-3">
          <div className="col-span-2 grid grid-cols-[1fr_auto] items-end gap-1">
            <TextField
              label={say`This shot is called`}
              value={plan.name}
              onChange={(name) => changePlan(plan.id, say`Name the planned shot`, (p) => void Object.assign(p, { name }))}
            />
            <Button kind="quiet" className="text-mark" aria-label={say`Remove ${plan.name}`} onClick={() => removePlan(plan.id)}>
              <Trash2 size={17} aria-hidden />
            </Button>
          </div>
          <NumberField
            label={say`From bar`}
            unit=""
            value={plan.bar}
            min={-8}
            max={2000}
            onChange={(v) => changePlan(plan.id, say`Move the planned shot`, (p) => void Object.assign(p, { bar: Math.round(v) }))}
          />
          <NumberField
            label={say`Lasts`}
            unit="bars"
            value={plan.bars}
            min={0.25}
            max={400}
            step={0.5}
            digits={plan.bars % 1 ? 2 : 0}
            onChange={(v) => changePlan(plan.id, say`Change the planned length`, (p) => void Object.assign(p, { bars: v }))}
          />
          {recipe.inputs.map((input) => (
            <div key={input.key} className={input.kind === 'text' ? 'col-span-2' : ''}>
              <InputField plan={plan} input={input} />
            </div>
          ))}
        </div>
      </div>
      <h2 className="mt-6 mb-2 text-lg font-semibold">{say`What to film`}</h2>
      <ul className="border-t border-rule">
        {slots.map((slot, i) => (
          <li key={slot.id} className="grid grid-cols-[2.75rem_1fr] gap-x-2 border-b border-rule py-3 sm:grid-cols-[2.75rem_14rem_1fr]">
            <label className="flex h-11 w-11 items-center justify-center">
              <input
                type="checkbox"
                className="h-5 w-5 accent-[var(--color-ink)]"
                checked={plan.ticked.includes(slot.id)}
                onChange={() => tick(slot.id)}
                aria-label={say`${slot.name} is filmed`}
              />
            </label>
            <div>
              <Tape index={i}>{slot.name}</Tape>
              <p className="num mt-1 text-sm text-faint">{filmed(slot.id) === 0 ? say`none filmed yet` : say`${filmed(slot.id)} filmed`}</p>
            </div>
            <div className="col-start-2 sm:col-start-3">
              <p>{slot.what}</p>
              <p className="text-sm text-faint">{slot.why}</p>
            </div>
          </li>
        ))}
      </ul>
      <div className="mt-6 grid gap-6 md:grid-cols-2">
        <section>
          <h2 className="mb-2 text-lg font-semibold">{say`What the score will build`}</h2>
          <ul className="space-y-1.5">
            {recipe.builds(c).map((b) => (
              <li key={b.text}>
                <strong className="font-semibold">{b.move}:</strong> {b.text}
              </li>
            ))}
          </ul>
          <h2 className="mt-4 mb-2 text-lg font-semibold">{say`What the check will look for`}</h2>
          <ul className="list-disc space-y-1 pl-5">
            {recipe.checks(c).map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </section>
        <section>
          <h2 className="mb-2 text-lg font-semibold">{say`Take care`}</h2>
          <div className="space-y-2">
            {recipe.cautions(c).map((text) => (
              <Note key={text} level="fix">
                {text}
              </Note>
            ))}
          </div>
        </section>
      </div>
    </div>
  );
}
