'use client';
import { useState } from 'react';
import { type MeasuredFall, meanPath } from '@/core/moves';
import { footageOf, type MoveOf } from '@/core/shot';
import { takeFall } from '@/data/media';
import { Button, Note, Working } from '@/ui/parts';
import { SelectField } from '@/ui/value-field';
import { type FieldsProps, MoveNumber, SyncField } from './move-number';
import { PlaceField } from './place-field';

/** What is typed or chosen of a masked reveal. */
export function RevealFields({ project, shot, move, set }: FieldsProps<MoveOf<'reveal'>>) {
  const [doing, setDoing] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const follow = async () => {
    setDoing(0);
    setSaid('');
    try {
      const falls: MeasuredFall[] = [];
      const sync = { before: move.before, after: move.after };
      let cover = 0;
      for (const [i, side] of (['before', 'after'] as const).entries()) {
        const fall = await takeFall(footageOf(project, move[side].takeId), move.angle, (p) => setDoing((i + p) / 2));
        if (!fall) continue;
        falls.push(fall);
        cover = Math.max(cover, fall.cover);
        sync[side] = { ...move[side], sync: fall.from };
      }
      if (falls.length === 0) setSaid('Nothing clearly moves that way in either take. Turn the line, or set its keys by hand.');
      else {
        const seconds = falls.reduce((sum, f) => sum + f.to - f.from, 0) / falls.length;
        set('Follow the fall', { ...sync, path: { share: meanPath(falls), seconds } });
        setSaid(
          `The line runs under the densest movement: ${Math.round(cover * 100)} % of all falling movement lies within a seventh of the frame of it.`,
        );
      }
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
    setDoing(null);
  };
  const from = shot.start.beat;
  return (
    <>
      <PlaceField
        project={project}
        label="Reveal begins"
        place={move.start}
        from={from}
        onChange={(start) => set('Move the reveal', { start })}
      />
      <PlaceField
        project={project}
        label="Reveal ends"
        place={move.end}
        from={from}
        onChange={(end) => set('Move the reveal’s end', { end })}
      />
      {doing !== null ? (
        <Working text="Reading what falls" done={doing} />
      ) : (
        move.by === 'line' && (
          <Button className="w-full" onClick={() => void follow()}>
            Follow the fall
          </Button>
        )
      )}
      {said && <Note level="unsure">{said}</Note>}
      <SelectField
        label="Uncovered by"
        value={move.by}
        options={[
          ['line', 'a line that passes'],
          ['ring', 'a ring that grows'],
        ]}
        onChange={(by) => set('Uncover it otherwise', { by: by as MoveOf<'reveal'>['by'] })}
      />
      <div className="grid grid-cols-2 gap-2">
        <MoveNumber label="Feather" unit="%" of="feather" range={[0, 100]} move={move} set={set} said="Feather the edge" />
        <MoveNumber label="Angle" unit="°" of="angle" range={[-180, 180]} step={5} move={move} set={set} said="Turn the line" />
        <MoveNumber
          label="Speed of the fall"
          unit="×"
          of="fallSpeed"
          range={[0.1, 8]}
          step={0.1}
          digits={2}
          move={move}
          set={set}
          said="Change the speed of the fall"
        />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <SyncField label="First take at the start" use={move.before} onChange={(before) => set('Slide the take', { before })} />
        <SyncField label="Second take at the start" use={move.after} onChange={(after) => set('Slide the take', { after })} />
      </div>
    </>
  );
}
