'use client';
import { useMemo, useState } from 'react';
import type { Project, Shot } from '@/core/document';
import { moveProblems } from '@/core/edit';
import { say } from '@/core/words';
import { changeMove, freshMove } from '@/data/shots';
import { Button, Note } from '@/ui/controls';
import { MoveForm } from './move-form';
import { MoveSounds } from './move-sounds';

/** What is typed or chosen of a shot's move, and what stands in its way with the nearest that can be had. */
export function MoveFields({ project, shot }: { project: Project; shot: Shot }) {
  const { move } = shot;
  const problems = useMemo(() => moveProblems(project, shot), [project, shot]);
  const [all, showAll] = useState(false);
  return (
    <div className="space-y-3">
      {problems.slice(0, all ? undefined : 3).map(({ text, nearest }) => (
        <div key={text} className="space-y-1" data-testid="move-problem">
          <Note level="fix">{text}</Note>
          {nearest && <Button onClick={() => changeMove(shot.id, nearest.label, () => nearest.move)}>{nearest.label}</Button>}
        </div>
      ))}
      {problems.length > 3 && !all && <Button onClick={() => showAll(true)}>{say`All ${problems.length} problems`}</Button>}
      {move && <MoveForm key={shot.id} project={project} shot={shot} move={move} />}
      {move && project.shots.includes(shot) && <MoveSounds project={project} shot={shot} />}
      {shot.overrides.length > 0 && move && (
        <div className="space-y-1">
          <p className="text-sm text-faint">
            {say`${shot.overrides.length === 1 ? say`One number is` : say`${shot.overrides.length} numbers are`} yours now: the move leaves ${shot.overrides.length === 1 ? say`its` : say`their`} keys alone.`}
          </p>
          <Button onClick={() => freshMove(shot.id)}>{say`Let the move make them again`}</Button>
        </div>
      )}
    </div>
  );
}
