'use client';
import type { MoveOf } from '@/core/shot';
import { Button } from '@/ui/parts';
import { type FieldsProps, MoveNumber } from './move-number';
import { PlaceField } from './place-field';

/** What is typed or chosen of a split screen. */
export function SplitFields({ project, shot, move, set }: FieldsProps<MoveOf<'split'>>) {
  const from = shot.start.beat;
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
    </>
  );
}
