'use client';
import { Plus, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import type { LengthUnit, PlannedShot } from '@/core/plan';
import { say } from '@/core/words';
import { changePlan } from '@/data/plans';
import { Button, NumberField, Tape } from '@/ui/controls';
import { SelectField, TextField } from '@/ui/value-field';
import { type FieldsProps, LengthField } from './length-field';
import { type Picked, thingsOf } from './use-set';

/** Lists of places, props and lamps, and the fields of the one picked. */
export function ThingFields({
  project,
  plan,
  picked,
  onPick,
}: FieldsProps & { picked: Picked | null; onPick: (p: Picked | null) => void }) {
  const unit = project.units;
  const add = (kind: Picked['kind']) => {
    const id = crypto.randomUUID();
    changePlan(plan.id, say`Add a ${kind}`, (p) => {
      const n = thingsOf(p, kind).length + 1;
      const z = Math.min(3, p.room.back - 0.5);
      if (kind === 'place')
        p.places.push({ id, name: say`Place ${n}`, tape: n - 1 < 12 ? n - 1 : 0, x: 0, z, height: 1.72, reach: 0.45, actions: [] });
      if (kind === 'prop')
        p.props.push({ id, name: say`Prop ${n}`, kind: 'prop', x: 0.6, z, width: 0.8, depth: 0.5, height: 0.8, base: 0 });
      if (kind === 'lamp') p.lamps.push({ id, name: say`Lamp ${n}`, x: -1, z: Math.max(0.5, z - 1), height: 2.2, size: 0.3 });
    });
    onPick({ kind, id });
  };
  return (
    <section>
      <div className="flex flex-wrap gap-2">
        {(['place', 'prop', 'lamp'] as const).map((kind) => (
          <Button key={kind} onClick={() => add(kind)}>
            <Plus size={16} aria-hidden /> {kind}
          </Button>
        ))}
      </div>
      <ul className="mt-2 flex flex-wrap gap-x-1 gap-y-0">
        {(['place', 'prop', 'lamp'] as const).flatMap((kind) =>
          thingsOf(plan, kind).map((t) => (
            <li key={t.id}>
              <button
                type="button"
                className={`min-h-11 rounded px-2 sm:min-h-8 ${picked?.id === t.id ? 'bg-ink text-sheet' : 'text-faint hover:text-ink'}`}
                aria-pressed={picked?.id === t.id}
                onClick={() => onPick(picked?.id === t.id ? null : { kind, id: t.id })}
              >
                {kind === 'place' ? <Tape index={plan.places.findIndex((p) => p.id === t.id)}>{t.name}</Tape> : t.name}
              </button>
            </li>
          )),
        )}
      </ul>
      {picked?.kind === 'place' && <PlaceFields plan={plan} unit={unit} id={picked.id} onGone={() => onPick(null)} />}
      {picked?.kind === 'prop' && <PropFields plan={plan} unit={unit} id={picked.id} onGone={() => onPick(null)} />}
      {picked?.kind === 'lamp' && <LampFields plan={plan} unit={unit} id={picked.id} onGone={() => onPick(null)} />}
    </section>
  );
}

interface OneProps {
  plan: PlannedShot;
  unit: LengthUnit;
  id: string;
  onGone: () => void;
}

const LISTS = { place: 'places', prop: 'props', lamp: 'lamps' } as const;

/** Changes one thing on the set as a named step. */
function changeThing(plan: PlannedShot, kind: Picked['kind'], id: string, label: string, change: object): void {
  changePlan(plan.id, label, (p) => void Object.assign(p[LISTS[kind]].find((t) => t.id === id) ?? {}, change));
}

/** Name, spot and a way to take a thing off the set; its own fields between. */
function Frame({ plan, kind, id, unit, onGone, children }: OneProps & { kind: Picked['kind']; children: ReactNode }) {
  const thing = thingsOf(plan, kind).find((t) => t.id === id);
  if (!thing) return null;
  const set = (label: string, change: object) => changeThing(plan, kind, id, label, change);
  return (
    <div className="mt-2 grid grid-cols-2 gap-3 border-l-4 border-rule pl-3 sm:grid-cols-3">
      <TextField label={say`Name`} value={thing.name} onChange={(name) => set(say`Name a ${kind}`, { name })} />
      <LengthField
        label={say`Right of the axis`}
        unit={unit}
        value={thing.x}
        min={-plan.room.left}
        max={plan.room.right}
        onChange={(x) => set(say`Move a ${kind}`, { x })}
      />
      <LengthField
        label={say`From the lens`}
        unit={unit}
        value={thing.z}
        min={0.3}
        max={plan.room.back}
        onChange={(z) => set(say`Move a ${kind}`, { z })}
      />
      {children}
      <Button
        kind="quiet"
        className="self-end text-mark"
        onClick={() => {
          onGone();
          changePlan(plan.id, say`Take a ${kind} off the set`, (p) => {
            const list = p[LISTS[kind]];
            list.splice(list.findIndex((t) => t.id === id) >>> 0, 1);
          });
        }}
      >
        <Trash2 size={16} aria-hidden />
        {say` Take off`}
      </Button>
    </div>
  );
}

function PlaceFields(props: OneProps) {
  const { plan, unit, id } = props;
  const place = plan.places.find((p) => p.id === id);
  if (!place) return null;
  const set = (label: string, change: Partial<typeof place>) => changeThing(plan, 'place', id, label, change);
  const beats = plan.bars * 4;
  return (
    <>
      <Frame {...props} kind="place">
        <LengthField
          label={say`Height`}
          unit={unit}
          value={place.height}
          min={0.3}
          max={3}
          onChange={(height) => set(say`Set a height`, { height })}
        />
        <LengthField
          label={say`Arm reach`}
          unit={unit}
          value={place.reach}
          min={0.1}
          max={3}
          onChange={(reach) => set(say`Set the reach`, { reach })}
        />
      </Frame>
      {place.actions.map((action) => {
        const change = (label: string, next: Partial<typeof action>) =>
          set(label, { actions: place.actions.map((a) => (a.id === action.id ? { ...a, ...next } : a)) });
        return (
          <div key={action.id} className="mt-2 grid grid-cols-2 gap-3 border-l-4 border-rule pl-3 sm:grid-cols-5">
            <TextField label={say`Action`} value={action.what} onChange={(what) => change(say`Name an action`, { what })} />
            <NumberField
              label={say`From beat`}
              unit=""
              value={action.from}
              min={0}
              max={4000}
              step={0.5}
              digits={1}
              onChange={(from) => change(say`Time an action`, { from, to: Math.max(from, action.to) })}
            />
            <NumberField
              label={say`To beat`}
              unit=""
              value={action.to}
              min={0}
              max={4000}
              step={0.5}
              digits={1}
              onChange={(to) => change(say`Time an action`, { to, from: Math.min(to, action.from) })}
            />
            <LengthField
              label={say`Reaches left`}
              unit={unit}
              value={action.left}
              min={0}
              max={20}
              onChange={(left) => change(say`Widen an action`, { left })}
            />
            <LengthField
              label={say`Reaches right`}
              unit={unit}
              value={action.right}
              min={0}
              max={20}
              onChange={(right) => change(say`Widen an action`, { right })}
            />
          </div>
        );
      })}
      <Button
        kind="quiet"
        className="mt-1"
        onClick={() =>
          set(say`Add an action`, {
            actions: [
              ...place.actions,
              {
                id: crypto.randomUUID(),
                what: say`reaches out`,
                from: 0,
                to: Math.min(4, beats),
                left: place.reach,
                right: place.reach + 0.3,
              },
            ],
          })
        }
      >
        <Plus size={16} aria-hidden />
        {say` action`}
      </Button>
    </>
  );
}

function PropFields(props: OneProps) {
  const { plan, unit, id } = props;
  const prop = plan.props.find((p) => p.id === id);
  if (!prop) return null;
  const set = (label: string, change: Partial<typeof prop>) => changeThing(plan, 'prop', id, label, change);
  return (
    <Frame {...props} kind="prop">
      <SelectField
        label={say`It is`}
        value={prop.kind}
        options={[
          ['prop', say`a prop`],
          ['structure', say`upright: may hide a seam`],
          ['wall', say`a wall`],
        ]}
        onChange={(kind) => set(say`Change a prop`, { kind: kind as typeof prop.kind })}
      />
      <LengthField
        label={say`Width`}
        unit={unit}
        value={prop.width}
        min={0.02}
        max={30}
        onChange={(width) => set(say`Change a prop`, { width })}
      />
      <LengthField
        label={say`Depth`}
        unit={unit}
        value={prop.depth}
        min={0.02}
        max={30}
        onChange={(depth) => set(say`Change a prop`, { depth })}
      />
      <LengthField
        label={say`Height`}
        unit={unit}
        value={prop.height}
        min={0.02}
        max={20}
        onChange={(height) => set(say`Change a prop`, { height })}
      />
      <LengthField
        label={say`Above the floor`}
        unit={unit}
        value={prop.base}
        min={0}
        max={20}
        onChange={(base) => set(say`Change a prop`, { base })}
      />
    </Frame>
  );
}

function LampFields(props: OneProps) {
  const { plan, unit, id } = props;
  const lamp = plan.lamps.find((l) => l.id === id);
  if (!lamp) return null;
  const set = (label: string, change: Partial<typeof lamp>) => changeThing(plan, 'lamp', id, label, change);
  return (
    <Frame {...props} kind="lamp">
      <LengthField
        label={say`Height`}
        unit={unit}
        value={lamp.height}
        min={0.05}
        max={20}
        onChange={(height) => set(say`Move a lamp`, { height })}
      />
      <LengthField
        label={say`Width of its light`}
        unit={unit}
        value={lamp.size}
        min={0.005}
        max={6}
        onChange={(size) => set(say`Change a lamp`, { size })}
      />
    </Frame>
  );
}
