'use client';
import type { PlannedShot } from '@/core/plan';
import { say } from '@/core/words';
import { changePlan } from '@/data/plans';
import { NumberField } from '@/ui/controls';
import { SelectField, TickField } from '@/ui/value-field';
import { type FieldsProps, Group, LengthField } from './length-field';

export function RoomFields({ project, plan }: FieldsProps) {
  const set = (change: Partial<PlannedShot['room']>) =>
    changePlan(plan.id, say`Change the room`, (p) => void Object.assign(p.room, change));
  const field = (label: string, key: keyof PlannedShot['room'], min: number) => (
    <LengthField label={label} unit={project.units} value={plan.room[key]} min={min} max={60} onChange={(v) => set({ [key]: v })} />
  );
  return (
    <Group title={say`Room, from the lens`}>
      {field(say`Wall on the left`, 'left', 0.3)}
      {field(say`Wall on the right`, 'right', 0.3)}
      {field(say`Back wall`, 'back', 0.5)}
      {field(say`Free behind`, 'behind', 0)}
      {plan.recipe === 'dolly zoom' && (
        <LengthField
          label={say`Walk ends at`}
          unit={project.units}
          value={plan.dolly.end}
          min={0.2}
          max={60}
          onChange={(v) => changePlan(plan.id, say`Change the walk`, (p) => void Object.assign(p.dolly, { end: v }))}
        />
      )}
    </Group>
  );
}

const CROPS = [
  ['0', say`none`],
  ['0.5625', say`upright 9:16`],
  ['0.8', say`upright 4:5`],
  ['1', say`square`],
  ['1.7778', say`lying 16:9`],
  ['2.39', say`wide 2.39:1`],
] as const;

export function DeliveryFields({ plan }: FieldsProps) {
  const { delivery } = plan;
  const set = (change: Partial<PlannedShot['delivery']>) =>
    changePlan(plan.id, say`Change what is wanted of the picture`, (p) => void Object.assign(p.delivery, change));
  return (
    <Group title={say`What the edit will ask of the picture`}>
      <NumberField
        label={say`Slowest speed`}
        unit="%"
        value={delivery.slowest}
        min={2}
        max={100}
        step={5}
        onChange={(v) => set({ slowest: v })}
      />
      <NumberField
        label={say`Largest scale`}
        unit="%"
        value={delivery.scale}
        min={100}
        max={1000}
        step={5}
        onChange={(v) => set({ scale: v })}
      />
      <NumberField
        label={say`Overscan`}
        unit="%"
        value={delivery.overscan}
        min={100}
        max={200}
        step={0.5}
        digits={1}
        onChange={(v) => set({ overscan: v })}
      />
      <NumberField
        label={say`Stabilising`}
        unit="%"
        value={delivery.stabilise}
        min={100}
        max={200}
        step={1}
        onChange={(v) => set({ stabilise: v })}
      />
      <SelectField
        label={say`Another shape`}
        value={String(delivery.cropAspect)}
        options={CROPS}
        onChange={(v) => set({ cropAspect: Number(v) })}
      />
    </Group>
  );
}

export function OutdoorFields({ plan }: FieldsProps) {
  const { outdoors, schedule } = plan;
  const change = (next: Partial<NonNullable<PlannedShot['outdoors']>>) =>
    changePlan(plan.id, say`Change the place under the sky`, (p) => void (p.outdoors && Object.assign(p.outdoors, next)));
  return (
    <Group title={outdoors ? say`Outdoors` : say`Indoors`}>
      <div className="col-span-full">
        <TickField
          label={say`Filmed outdoors`}
          value={outdoors !== null}
          onChange={(outside) =>
            changePlan(plan.id, outside ? say`Film outdoors` : say`Film indoors`, (p) => {
              p.outdoors = outside
                ? { latitude: 52, longitude: 13, utcOffset: -new Date(schedule.date).getTimezoneOffset(), bearing: 0 }
                : null;
            })
          }
        />
      </div>
      {outdoors && (
        <>
          <NumberField
            label={say`Latitude`}
            unit="° N"
            value={outdoors.latitude}
            min={-90}
            max={90}
            step={0.1}
            digits={2}
            onChange={(v) => change({ latitude: v })}
          />
          <NumberField
            label={say`Longitude`}
            unit="° E"
            value={outdoors.longitude}
            min={-180}
            max={180}
            step={0.1}
            digits={2}
            onChange={(v) => change({ longitude: v })}
          />
          <NumberField
            label={say`Camera looks at`}
            unit="°"
            value={outdoors.bearing}
            min={0}
            max={360}
            step={5}
            onChange={(v) => change({ bearing: v })}
          />
          <NumberField
            label={say`Clock ahead of UTC`}
            unit="min"
            value={outdoors.utcOffset}
            min={-840}
            max={840}
            step={15}
            onChange={(v) => change({ utcOffset: Math.round(v) })}
          />
        </>
      )}
    </Group>
  );
}
