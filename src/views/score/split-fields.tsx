'use client';
import { nextSwap } from '@/core/moves';
import type { MoveOf } from '@/core/shot';
import { Button, NumberField } from '@/ui/parts';
import { FollowChoice } from './follow-choice';
import { type FieldsProps, MoveNumber, SyncField } from './move-number';
import { PlaceField } from './place-field';

type Panel = MoveOf<'split'>['panels'][number];

/** What is typed or chosen of a split screen. */
export function SplitFields({ project, shot, move, set }: FieldsProps<MoveOf<'split'>>) {
  const from = shot.start.beat;
  const change = (i: number, label: string, next: Partial<Panel>) =>
    set(label, { panels: move.panels.map((p, k) => (k === i ? { ...p, ...next } : p)) });
  const swaps = (i: number, now: MoveOf<'split'>['swaps']) => set('Swap the panels', { swaps: move.swaps.toSpliced(i, 1, ...now) });
  const swapped = () => set('Swap the panels', { panels: [...move.panels.slice(1), move.panels[0]] });
  return (
    <>
      <PlaceField project={project} label="Opens" place={move.open} from={from} onChange={(open) => set('Move the opening', { open })} />
      <PlaceField
        project={project}
        label="Closes"
        place={move.close}
        from={from}
        onChange={(close) => set('Move the closing', { close })}
      />
      <div className="grid grid-cols-2 gap-2">
        <MoveNumber label="Panels in a row" unit="" of="columns" range={[1, 9]} move={move} set={set} said="Lay the panels otherwise" />
        <MoveNumber label="Slant" unit="°" of="slant" range={[-45, 45]} step={5} move={move} set={set} said="Slant the panels" />
        <MoveNumber
          label="Gutter"
          unit="%"
          of="gutter"
          range={[0, 20]}
          step={0.5}
          digits={1}
          move={move}
          set={set}
          said="Change the gutter"
        />
        <MoveNumber
          label="Feather"
          unit="%"
          of="feather"
          range={[0, 30]}
          step={0.5}
          digits={1}
          move={move}
          set={set}
          said="Feather the panels"
        />
        <MoveNumber label="Opening takes" unit="f" of="frames" range={[0, 120]} move={move} set={set} said="Open in other frames" />
        <MoveNumber
          label="One after another by"
          unit="beats"
          of="stagger"
          range={[0, 8]}
          step={0.25}
          digits={2}
          move={move}
          set={set}
          said="Stagger the panels"
        />
        <MoveNumber
          label="Each lags by"
          unit="s"
          of="delay"
          range={[0, 10]}
          step={0.04}
          digits={2}
          move={move}
          set={set}
          said="Let the panels lag"
        />
      </div>
      <Button onClick={swapped}>Each panel one place on</Button>
      {move.swaps.map((place, i) => (
        <div key={i}>
          <PlaceField project={project} label={`Swap ${i + 1} lands on`} place={place} from={from} onChange={(p) => swaps(i, [p])} />
          <Button kind="quiet" onClick={() => swaps(i, [])}>
            Leave swap {i + 1} out
          </Button>
        </div>
      ))}
      <Button onClick={() => swaps(move.swaps.length, [nextSwap(move)])}>Swap them on a beat</Button>
      {move.panels.map((panel, i) => (
        <fieldset key={i} className="space-y-1 border-t border-rule pt-2" aria-label={`Panel ${i + 1}`}>
          <legend className="text-sm font-medium">Panel {i + 1}</legend>
          <div className="grid grid-cols-2 gap-2">
            <SyncField label="Second as it opens" use={panel} onChange={(next) => change(i, 'Slide the take', next)} />
            <NumberField
              label="Enlarged"
              unit="%"
              value={panel.zoom}
              min={100}
              max={600}
              step={5}
              onChange={(zoom) => change(i, 'Enlarge a panel’s picture', { zoom })}
            />
            <NumberField
              label="Across"
              unit="%"
              value={panel.x}
              min={-200}
              max={200}
              onChange={(x) => change(i, 'Push a panel’s picture', { x })}
            />
            <NumberField
              label="Down"
              unit="%"
              value={panel.y}
              min={-200}
              max={200}
              onChange={(y) => change(i, 'Push a panel’s picture', { y })}
            />
          </div>
          <FollowChoice
            project={project}
            takeId={panel.takeId}
            label="Follow whoever is in it"
            track={panel.track}
            onChange={(track) => change(i, track ? 'Follow them in a panel' : 'Let a panel stay put', { track })}
          />
        </fieldset>
      ))}
    </>
  );
}
