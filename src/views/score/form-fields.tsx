'use client';
import type { Project, Shot } from '@/core/document';
import { shotsToShow } from '@/core/edit';
import type { Field, ListField, MeasureField, NumberField as NumberOf } from '@/core/moves';
import { say } from '@/core/words';
import { Button, NumberField, Tick } from '@/ui/controls';
import { LinesField, SelectField, TextField } from '@/ui/value-field';
import { FollowChoice } from './follow-choice';
import { PlaceField } from './place-field';

/** A change of what a form is about, told how from what it is by then. */
export type Change<M> = (said: string, how: (now: M) => Partial<M>) => void;

interface FormProps<M extends object> {
  project: Project;
  fields: readonly Field<M>[];
  value: M;
  /** The shot it is laid out in: its places count from its beat. */
  shot: Shot;
  change: Change<M>;
  /** Has something measured first; null while it is. */
  measure: ((field: MeasureField<M>) => void) | null;
}

/** What is typed in small boxes, two beside each other. */
const SMALL = new Set<Field<never>['is']>(['number', 'reading', 'second']);

/** Fields one after another, small ones that follow each other together. */
function grouped<M>(fields: readonly Field<M>[]): Field<M>[][] {
  const groups: Field<M>[][] = [];
  for (const field of fields) {
    const last = groups.at(-1);
    if (last && SMALL.has(field.is) && SMALL.has(last[0].is)) last.push(field);
    else groups.push([field]);
  }
  return groups;
}

const keyOf = <M,>(field: Field<M>) => `${field.is} ${field.label}`;

/** Makes a form from fields. */
export function FormFields<M extends object>(props: FormProps<M>) {
  const shown = props.fields.filter(({ when }) => when === undefined || when(props.value));
  return grouped(shown).map((group) =>
    SMALL.has(group[0].is) ? (
      <div key={keyOf(group[0])} className="grid grid-cols-2 gap-2">
        {group.map((field) => (
          <OneField key={keyOf(field)} {...props} field={field} />
        ))}
      </div>
    ) : (
      <OneField key={keyOf(group[0])} {...props} field={group[0]} />
    ),
  );
}

/** What is typed becomes what is kept: whole where neither digits nor a factor say otherwise, even where it must be. */
function keptNumber<M>({ factor = 1, digits = 0, even }: NumberOf<M>, typed: number): number {
  if (even) return 2 * Math.round(typed / 2);
  return digits === 0 && factor === 1 ? Math.round(typed) : typed / factor;
}

function OneField<M extends object>({ field, ...form }: FormProps<M> & { field: Field<M> }) {
  const { project, value, shot, change, measure } = form;
  const named = value as Record<string, unknown>;
  const put = (key: string, next: unknown) => change(field.said, () => ({ [key]: next }) as Partial<M>);
  switch (field.is) {
    case 'number': {
      const { label, unit, min, max, step, digits, factor = 1 } = field;
      const now = factor * (named[field.of] as number);
      return (
        <NumberField
          {...{ label, unit, min, max, step, digits }}
          value={now}
          onChange={(typed) => put(field.of, keptNumber(field, typed))}
        />
      );
    }
    case 'reading': {
      const { label, unit, min, max, step, digits } = field;
      return (
        <NumberField
          {...{ label, unit, min, max, step, digits }}
          value={field.get(value)}
          onChange={(typed) => change(field.said, (now) => field.set(now, typed))}
        />
      );
    }
    case 'second':
      return (
        <NumberField
          label={field.label}
          unit="s"
          value={field.get(value)}
          min={0}
          max={36_000}
          step={0.04}
          digits={2}
          onChange={(second) => change(field.said, (now) => field.set(now, second))}
        />
      );
    case 'place':
      return (
        <PlaceField
          project={project}
          label={field.label}
          place={field.get(value)}
          from={shot.start.beat}
          onChange={(place) => change(field.said, (now) => field.set(now, place))}
        />
      );
    case 'choice': {
      const options = typeof field.options === 'function' ? field.options(value) : field.options;
      return (
        <SelectField label={field.label} value={named[field.of] as string} options={options} onChange={(next) => put(field.of, next)} />
      );
    }
    case 'text':
      return field.lines ? (
        <LinesField label={field.label} value={named[field.of] as string} max={field.max} onChange={(next) => put(field.of, next)} />
      ) : (
        <TextField
          label={field.label}
          value={named[field.of] as string}
          max={field.max}
          optional
          onChange={(next) => put(field.of, next)}
        />
      );
    case 'tick':
      return (
        <Tick ticked={named[field.of] as boolean} onTick={(next) => put(field.of, next)}>
          {field.label}
        </Tick>
      );
    case 'track':
      return (
        <FollowChoice
          project={project}
          takeId={field.take(value)}
          label={field.label}
          track={field.get(value)}
          onChange={(track) => change(field.said, (now) => field.set(now, track))}
        />
      );
    case 'shot':
      return (
        <SelectField
          label={field.label}
          value={field.get(value) ?? ''}
          options={[['', say`its take`], ...shotsToShow(project, shot).map(({ id, text }) => [id, text] as const)]}
          onChange={(next) => change(field.said, (now) => field.set(now, next || null))}
        />
      );
    case 'action':
      return <Button onClick={() => change(field.said, (now) => field.apply(now))}>{field.label}</Button>;
    case 'measure':
      return measure ? (
        <Button className="w-full" onClick={() => measure(field)}>
          {field.label}
        </Button>
      ) : null;
    case 'list':
      return <Items {...form} field={field} />;
  }
}

/** Items one after another, each with its own fields, and presses that add one or leave one out. */
function Items<M extends object>({ field, value, change, ...form }: Omit<FormProps<M>, 'fields'> & { field: ListField<M> }) {
  const items = field.get(value) as readonly object[];
  const name = field.label.toLowerCase();
  const without = (index: number) => change(field.said, (now) => field.set(now, field.get(now).toSpliced(index, 1)));
  return (
    <>
      {items.map((item, i) => (
        <fieldset key={i} className="space-y-1 border-t border-rule pt-2" aria-label={`${field.label} ${i + 1}`}>
          <legend className="text-sm font-medium">
            {field.label} {i + 1}
          </legend>
          <FormFields<object>
            {...form}
            fields={field.fields as readonly Field<object>[]}
            value={item}
            change={(said, how) =>
              change(said, (now) =>
                field.set(
                  now,
                  (field.get(now) as readonly object[]).map((one, k) => (k === i ? { ...one, ...how(one) } : one)),
                ),
              )
            }
            measure={null}
          />
          {field.fewer === 'any' && items.length > field.min && (
            <Button kind="quiet" onClick={() => without(i)}>{say`Leave ${name} ${i + 1} out`}</Button>
          )}
        </fieldset>
      ))}
      <div className="flex flex-wrap gap-2">
        {field.more && items.length < field.max && (
          <Button onClick={() => change(field.said, (now) => field.set(now, [...field.get(now), field.more?.make(now)]))}>
            {field.more.label}
          </Button>
        )}
        {field.fewer === 'last' && (
          <Button disabled={items.length <= field.min} onClick={() => without(items.length - 1)}>{say`One ${name} fewer`}</Button>
        )}
      </div>
    </>
  );
}
