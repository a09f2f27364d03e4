'use client';
import { type MeasuredFall, meanPath, outlinesMissing } from '@/core/moves';
import { footageOf, type Media, type MoveOf } from '@/core/shot';
import { keepOutline } from '@/data/kept';
import { takeFall } from '@/data/media';
import { changeMove } from '@/data/shots';
import { Button, Note, Working } from '@/ui/parts';
import { SelectField } from '@/ui/value-field';
import { type FieldsProps, MoveNumber, SyncField } from './move-number';
import { PlaceField } from './place-field';
import { useDoing } from './use-doing';

/** What is typed or chosen of a masked reveal. */
export function RevealFields({ project, shot, move, set }: FieldsProps<MoveOf<'reveal'>>) {
  const { doing, said, start } = useDoing();
  const follow = () =>
    start(async (tell) => {
      const falls: MeasuredFall[] = [];
      const sync = { before: move.before, after: move.after };
      let cover = 0;
      for (const [i, side] of (['before', 'after'] as const).entries()) {
        const fall = await takeFall(footageOf(project, move[side].takeId), move.angle, (p) => tell((i + p) / 2));
        if (!fall) continue;
        falls.push(fall);
        cover = Math.max(cover, fall.cover);
        sync[side] = { ...move[side], sync: fall.from };
      }
      if (falls.length === 0) return 'Nothing clearly moves that way in either take. Turn the line, or set its keys by hand.';
      const seconds = falls.reduce((sum, f) => sum + f.to - f.from, 0) / falls.length;
      set('Follow the fall', { ...sync, path: { share: meanPath(falls), seconds } });
      return `The line runs under the densest movement: ${Math.round(cover * 100)} % of all falling movement lies within a seventh of the frame of it.`;
    });
  /** Changes the move, after whoever it then needs to know of has been found in their takes. */
  const withOutlines = (label: string, next: Partial<MoveOf<'reveal'>>) => {
    const missing = outlinesMissing({ ...move, ...next });
    if (missing.length === 0) return set(label, next);
    start(async (tell) => {
      const media: Media[] = [];
      const figures = [...move.figures];
      for (const [i, takeId] of missing.entries()) {
        const found = await keepOutline(project, takeId, (p) => tell((i + p) / missing.length));
        media.push(...found.media);
        figures.push({ takeId, figureId: found.figureId });
      }
      changeMove<MoveOf<'reveal'>>(shot.id, label, (m) => ({ ...m, ...next, figures }), media, project.id);
    });
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
        <Working text="Reading the takes" done={doing} />
      ) : (
        move.by === 'line' && (
          <Button className="w-full" onClick={() => follow()}>
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
          ['rectangle', 'a rectangle that grows'],
          ['figure', 'an outline of somebody that spreads'],
          ['drawn', 'what is drawn on the picture'],
        ]}
        onChange={(by) => withOutlines('Uncover it otherwise', { by: by as MoveOf<'reveal'>['by'] })}
      />
      {outlinesMissing(move).length > 0 && doing === null && (
        <Button onClick={() => withOutlines('Find somebody in a take', {})}>Find them in the take</Button>
      )}
      {move.by === 'figure' && (
        <SelectField
          label="Whose outline"
          value={move.outOf}
          options={[
            ['before', 'of the first take'],
            ['after', 'of the second take'],
          ]}
          onChange={(outOf) => withOutlines('Spread another outline', { outOf: outOf as typeof move.outOf })}
        />
      )}
      {move.by !== 'figure' && move.by !== 'drawn' && (
        <SelectField
          label="The edge ducks under"
          value={move.duck}
          options={[
            ['nobody', 'nobody'],
            ['after', 'who comes after'],
            ['before', 'who was there before'],
          ]}
          onChange={(duck) => withOutlines('Let the edge duck', { duck: duck as typeof move.duck })}
        />
      )}
      <div className="grid grid-cols-2 gap-2">
        <MoveNumber label="Feather" unit="%" of="feather" range={[0, 100]} move={move} set={set} said="Feather the edge" />
        {move.duck !== 'nobody' && move.by !== 'figure' && move.by !== 'drawn' && (
          <MoveNumber label="Ducks up to" unit="%" of="reach" range={[0, 100]} move={move} set={set} said="Let the edge duck further" />
        )}
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
