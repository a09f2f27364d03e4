'use client';
import { useMemo, useState } from 'react';
import { moveProblems } from '@/core/moves';
import type { Move, Project, Shot } from '@/core/shot';
import { changeMove, freshMove } from '@/data/shots';
import { Button, Note } from '@/ui/parts';
import { FreezeFields } from './freeze-fields';
import { Presets } from './presets';
import { RampFields } from './ramp-fields';
import { RevealFields } from './reveal-fields';
import { SplitFields } from './split-fields';
import { WhipFields } from './whip-fields';

/** What is typed or chosen of a shot's move, and what stands in its way with the nearest that can be had. */
export function MoveFields({ project, shot }: { project: Project; shot: Shot }) {
  const { move } = shot;
  const problems = useMemo(() => moveProblems(project, shot), [project, shot]);
  const [all, showAll] = useState(false);
  const set = (label: string, next: Partial<Move>) => changeMove(shot.id, label, (m) => ({ ...m, ...next }) as Move);
  return (
    <div className="space-y-3">
      {problems.slice(0, all ? undefined : 3).map(({ text, nearest }) => (
        <div key={text} className="space-y-1" data-testid="move-problem">
          <Note level="fix">{text}</Note>
          {nearest && <Button onClick={() => changeMove(shot.id, nearest.label, () => nearest.move)}>{nearest.label}</Button>}
        </div>
      ))}
      {problems.length > 3 && !all && <Button onClick={() => showAll(true)}>All {problems.length} problems</Button>}
      {move?.kind === 'reveal' && <RevealFields project={project} shot={shot} move={move} set={set} />}
      {move?.kind === 'whip' && <WhipFields project={project} shot={shot} move={move} set={set} />}
      {move?.kind === 'freeze' && <FreezeFields project={project} shot={shot} move={move} set={set} />}
      {move?.kind === 'ramp' && <RampFields project={project} shot={shot} move={move} set={set} />}
      {move?.kind === 'split' && <SplitFields project={project} shot={shot} move={move} set={set} />}
      {move && <Presets rate={project.frame.rate} move={move} onTake={(next) => set('Take what was kept', next)} />}
      {shot.hand.length > 0 && move && (
        <div className="space-y-1">
          <p className="text-sm text-faint">
            {shot.hand.length === 1 ? 'One number is' : `${shot.hand.length} numbers are`} yours now: the move leaves{' '}
            {shot.hand.length === 1 ? 'its' : 'their'} keys alone.
          </p>
          <Button onClick={() => freshMove(shot.id)}>Let the move make them again</Button>
        </div>
      )}
    </div>
  );
}
