'use client';
import type { Media, Project, Shot } from '@/core/document';
import type { Move } from '@/core/moves';
import { kindOf, type MeasureField } from '@/core/moves';
import { say } from '@/core/words';
import { gatherFacts } from '@/data/facts';
import { keepOutline } from '@/data/kept';
import { changeMove } from '@/data/shots';
import { Button, Note, Working } from '@/ui/controls';
import { type Change, FormFields } from './form-fields';
import { Presets } from './presets';
import { useDoing } from './use-doing';

/** What is typed or chosen of a move, made from its kind's fields. What it then needs to know of its takes is found in them first. */
export function MoveForm({ project, shot, move }: { project: Project; shot: Shot; move: Move }) {
  const { doing, said, start } = useDoing();
  const { fields, outlines } = kindOf(move);
  const lacking = outlines?.missing(move) ?? [];
  const put = (label: string, how: (now: Move) => Move, media: readonly Media[] = []) => changeMove(shot.id, label, how, media, project.id);
  /** A change that is made once the performer has been found in some takes. */
  const find = (label: string, takes: readonly string[], how: (now: Move) => Move) =>
    start(async (tell) => {
      const media: Media[] = [];
      const found: { takeId: string; silhouetteId: string }[] = [];
      for (const [i, takeId] of takes.entries()) {
        const outline = await keepOutline(project, takeId, (p) => tell((i + p) / takes.length));
        media.push(...outline.media);
        found.push({ takeId, silhouetteId: outline.silhouetteId });
      }
      put(label, (now) => outlines?.add(how(now), found) ?? how(now), media);
    });
  const change: Change<Move> = (label, how) => {
    const next = (now: Move) => ({ ...now, ...how(now) }) as Move;
    // What lacked them before goes on lacking them; only what is asked for now is looked for.
    const asked = (outlines?.missing(next(move)) ?? []).filter((takeId) => !lacking.includes(takeId));
    if (asked.length > 0) find(label, asked, next);
    else put(label, next);
  };
  const measure = (field: MeasureField<Move>) =>
    start(async (tell) => {
      const asked = {
        project,
        takes: field.takes(move),
        angle: field.angle?.(move) ?? 0,
        from: shot.start.beat,
        seconds: field.seconds?.(move),
      };
      const { facts, media } = await gatherFacts([field.needs], asked, tell);
      const { change: next, said: text } = field.apply(move, facts as Parameters<typeof field.apply>[1]);
      if (next) put(field.said, (now) => ({ ...now, ...next }) as Move, media);
      return text;
    });
  return (
    <>
      {doing !== null && <Working text={say`Reading the takes`} done={doing} />}
      {said && <Note level="unsure">{said}</Note>}
      {lacking.length > 0 && doing === null && (
        <Button
          onClick={() => find(say`Find the performer in a take`, lacking, (now) => now)}
        >{say`Find the performer in the take`}</Button>
      )}
      <FormFields project={project} fields={fields} value={move} shot={shot} change={change} measure={doing === null ? measure : null} />
      <Presets rate={project.frame.rate} move={move} onTake={(next) => change(say`Use a preset`, () => next)} />
    </>
  );
}
