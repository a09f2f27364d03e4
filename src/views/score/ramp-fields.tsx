'use client';
import type { MoveOf } from '@/core/shot';
import { Button, NumberField, Tick } from '@/ui/parts';
import { SelectField } from '@/ui/value-field';
import { FollowChoice } from './follow-choice';
import { type FieldsProps, MoveNumber } from './move-number';
import { PlaceField } from './place-field';

/** What is typed or chosen of a speed ramp. */
export function RampFields({ project, shot, move, set }: FieldsProps<MoveOf<'ramp'>>) {
  const pose = (i: number, next: Partial<(typeof move.poses)[number]>) =>
    set('Move a pose', { poses: move.poses.map((p, k) => (k === i ? { ...p, ...next } : p)) });
  const last = move.poses[move.poses.length - 1];
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <MoveNumber
          label="Fastest"
          unit="%"
          of="fastest"
          range={[10, 6400]}
          step={10}
          percent
          move={move}
          set={set}
          said="Limit the speed"
        />
        <NumberField
          label="Change (0: any)"
          unit="%/s"
          value={100 * (move.acceleration ?? 0)}
          min={0}
          max={100000}
          step={100}
          onChange={(v) => set('Limit the change of speed', { acceleration: v > 0 ? v / 100 : null })}
        />
        <MoveNumber label="Zoom by turns" unit="%" of="zoom" range={[0, 200]} move={move} set={set} said="Zoom by turns" />
        <SelectField
          label="Between its frames"
          value={move.between}
          options={[
            ['repeat', 'the frame before again'],
            ['blend', 'both frames blended'],
            ['flow', 'both moved along what moves'],
          ]}
          onChange={(between) => set('Fill in between frames', { between: between as typeof move.between })}
        />
      </div>
      <SelectField
        label="Sound of the take"
        value={move.sound}
        options={[
          ['none', 'muted'],
          ['kept', 'kept as recorded'],
          ['stretched', 'runs as the picture runs'],
        ]}
        onChange={(sound) => set('Let the take sound otherwise', { sound: sound as typeof move.sound })}
      />
      <FollowChoice
        project={project}
        takeId={move.takeId}
        label="Hold them in the middle of the frame"
        track={move.track}
        onChange={(track) =>
          set(track ? 'Hold them in the middle' : 'Let the picture stay put', { track, hold: Math.max(move.hold, track ? 140 : 100) })
        }
      />
      {move.track && (
        <MoveNumber
          label="Enlarged to hold them"
          unit="%"
          of="hold"
          range={[100, 400]}
          step={5}
          move={move}
          set={set}
          said="Leave other room to hold them"
        />
      )}
      <Tick ticked={move.hard} onTick={(hard) => set(hard ? 'Step the speed' : 'Smooth the speed', { hard })}>
        Hard steps of speed
      </Tick>
      {move.poses.map((p, i) => (
        <fieldset key={i} className="border-t border-rule pt-2" aria-label={`Pose ${i + 1}`}>
          <PlaceField
            project={project}
            label={`Pose ${i + 1} on`}
            place={p}
            from={shot.start.beat}
            onChange={({ beat, offset }) => pose(i, { beat, offset })}
          />
          <div className="mt-1 grid grid-cols-2 gap-2">
            <NumberField
              label="Second of the take"
              unit="s"
              value={p.source}
              min={0}
              max={36000}
              step={0.04}
              digits={2}
              onChange={(source) => pose(i, { source })}
            />
            <NumberField
              label="Speed on it"
              unit="%"
              value={100 * p.speed}
              min={0}
              max={1600}
              step={5}
              onChange={(v) => pose(i, { speed: v / 100 })}
            />
          </div>
        </fieldset>
      ))}
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => set('Add a pose', { poses: [...move.poses, { ...last, beat: last.beat + 2, source: last.source + 1 }] })}>
          One more pose
        </Button>
        <Button disabled={move.poses.length < 3} onClick={() => set('Leave a pose out', { poses: move.poses.slice(0, -1) })}>
          One pose fewer
        </Button>
      </div>
    </>
  );
}
