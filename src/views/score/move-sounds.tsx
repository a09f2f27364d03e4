'use client';
import { useMemo } from 'react';
import type { Project, Shot } from '@/core/document';
import { say } from '@/core/words';
import { layMoveSounds, soundsOf } from '@/data/move-sounds';
import { Button, Note, Working } from '@/ui/controls';
import { useDoing } from './use-doing';

/** What is heard of a shot's move, laid on the effects by a press. */
export function MoveSounds({ project, shot }: { project: Project; shot: Shot }) {
  const { doing, said, start } = useDoing();
  const kinds = useMemo(() => [...new Set(soundsOf(project, shot).map((cue) => cue.sound))], [project, shot]);
  if (kinds.length === 0) return null;
  return (
    <div className="space-y-1">
      <Button disabled={doing !== null} onClick={() => start((tell) => layMoveSounds(shot.id, tell))}>
        {say`Lay its sounds: ${kinds.join(', ')}`}
      </Button>
      {doing !== null && <Working text={say`Making the sounds`} done={doing} />}
      {said && (
        <div role="status">
          <Note level="good">{said}</Note>
        </div>
      )}
    </div>
  );
}
