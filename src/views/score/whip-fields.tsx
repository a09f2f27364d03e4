'use client';
import { type MoveOf, WHIP_WAYS } from '@/core/shot';
import { SelectField } from '@/ui/value-field';
import { type FieldsProps, MoveNumber, options, SyncField } from './move-number';
import { PlaceField } from './place-field';

/** What is typed or chosen of a whip. */
export function WhipFields({ project, shot, move, set }: FieldsProps<MoveOf<'whip'>>) {
  return (
    <>
      <PlaceField project={project} label="Cut" place={move.cut} from={shot.start.beat} onChange={(cut) => set('Move the cut', { cut })} />
      <div className="grid grid-cols-2 gap-2">
        <SelectField
          label="The view goes"
          value={move.way}
          options={options(WHIP_WAYS)}
          onChange={(way) => set('Whip another way', { way: way as typeof move.way })}
        />
        <MoveNumber label="Frames in all" unit="f" of="frames" range={[4, 120]} step={2} move={move} set={set} said="Lengthen the whip" />
        <MoveNumber
          label="Travel each side"
          unit="×"
          of="travel"
          range={[0.1, 8]}
          step={0.1}
          digits={1}
          move={move}
          set={set}
          said="Whip further"
        />
        <MoveNumber label="Shutter angle" unit="°" of="shutter" range={[0, 720]} step={45} move={move} set={set} said="Change the smear" />
        <SyncField label="First take at the cut" use={move.out} onChange={(out) => set('Slide the take', { out })} />
        <SyncField label="Second take at the cut" use={move.into} onChange={(into) => set('Slide the take', { into })} />
      </div>
    </>
  );
}
