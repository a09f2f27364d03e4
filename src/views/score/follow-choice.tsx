'use client';
import type { Project } from '@/core/document';
import type { Course } from '@/core/moves';
import { say } from '@/core/words';
import { courseOf } from '@/data/kept';
import { Note, Tick, Working } from '@/ui/controls';
import { useDoing } from './use-doing';

/** Whether somebody in a take is followed; where they are is found in the take when it is first asked for. */
export function FollowChoice({
  project,
  takeId,
  label,
  track,
  onChange,
}: {
  project: Project;
  takeId: string;
  label: string;
  track: Course | null;
  onChange: (track: Course | null) => void;
}) {
  const { doing, said, start } = useDoing();
  const find = () => start(async (tell) => onChange(await courseOf(project, takeId, tell)));
  return (
    <div className="space-y-1">
      {doing !== null ? (
        <Working text={say`Finding the performer in the take`} done={doing} />
      ) : (
        <Tick ticked={track !== null} onTick={(on) => (on ? find() : onChange(null))}>
          {label}
        </Tick>
      )}
      {said && <Note level="unsure">{said}</Note>}
    </div>
  );
}
