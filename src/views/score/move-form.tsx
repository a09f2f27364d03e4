'use client';
import { kindOf, type MeasureField } from '@/core/moves';
import type { Media, Move, Project, Shot } from '@/core/shot';
import { gatherFacts } from '@/data/facts';
import { keepOutline } from '@/data/kept';
import { changeMove } from '@/data/shots';
import { Button, Note, Working } from '@/ui/parts';
import { type Change, FormFields } from './form-fields';
import { Presets } from './presets';
import { useDoing } from './use-doing';

/** What is typed or chosen of a move, made from its kind's fields. What it then needs to know of its takes is found in them first. */
export function MoveForm({ project, shot, move }: { project: Project; shot: Shot; move: Move }) {
  const { doing, said, start } = useDoing();
  const { fields, outlines } = kindOf(move);
  const change: Change<Move> = (label, how) => {
    const missing = outlines?.missing({ ...move, ...how(move) } as Move) ?? [];
    if (missing.length === 0) return changeMove<Move>(shot.id, label, (now) => ({ ...now, ...how(now) }) as Move);
    start(async (tell) => {
      const media: Media[] = [];
      const found: { takeId: string; figureId: string }[] = [];
      for (const [i, takeId] of missing.entries()) {
        const outline = await keepOutline(project, takeId, (p) => tell((i + p) / missing.length));
        media.push(...outline.media);
        found.push({ takeId, figureId: outline.figureId });
      }
      changeMove<Move>(
        shot.id,
        label,
        (now) => {
          const next = { ...now, ...how(now) } as Move;
          return outlines?.add(next, found) ?? next;
        },
        media,
        project.id,
      );
    });
  };
  const measure = (field: MeasureField<Move>) =>
    start(async (tell) => {
      const asked = { project, takes: field.takes(move), angle: field.angle?.(move) ?? 0 };
      const { facts, media } = await gatherFacts([field.needs], asked, tell);
      const { change: next, said: text } = field.apply(move, facts as Parameters<typeof field.apply>[1]);
      if (next) changeMove<Move>(shot.id, field.said, (now) => ({ ...now, ...next }) as Move, media, project.id);
      return text;
    });
  const lacking = outlines?.missing(move) ?? [];
  return (
    <>
      {doing !== null && <Working text="Reading the takes" done={doing} />}
      {said && <Note level="unsure">{said}</Note>}
      {lacking.length > 0 && doing === null && (
        <Button onClick={() => change('Find the performer in a take', () => ({}))}>Find the performer in the take</Button>
      )}
      <FormFields
        project={project}
        fields={fields}
        value={move}
        from={shot.start.beat}
        change={change}
        measure={doing === null ? measure : null}
      />
      <Presets rate={project.frame.rate} move={move} onTake={(next) => change('Use a preset', () => next)} />
    </>
  );
}
