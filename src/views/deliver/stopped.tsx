'use client';
import Link from 'next/link';
import type { Project } from '@/core/document';
import { toTimecode } from '@/core/time';
import { say } from '@/core/words';
import { useProject } from '@/data/store';
import type { FilmFault, Leave } from '@/media/fault';
import { Button, Note } from '@/ui/controls';

interface StoppedProps {
  project: Project;
  /** The film's first frame. */
  first: number;
  fault: FilmFault;
  onLeave: (how: Leave['how']) => void;
  onAway: () => void;
}

/** Why the film was not made, where, and what can be done about it. */
export function Stopped({ project, first, fault, onLeave, onAway }: StoppedProps) {
  const { rate } = project.frame;
  const frame = first + fault.frame;
  const these = fault.frames === 1 ? say`this frame` : say`these ${fault.frames} frames`;
  return (
    <div role="alert" className="space-y-3" data-testid="film-stopped">
      <Note level="bad">{say`The film was not made. ${fault.sentence} It is needed at ${toTimecode(frame, rate)}, frame ${fault.frame + 1} of the film${fault.kind === 'picture' ? say`, for ${these}` : ''}. Nothing was lost.`}</Note>
      <div className="flex flex-wrap gap-2">
        {fault.kind === 'picture' ? (
          <>
            {fault.frame > 0 && <Button onClick={() => onLeave('hold')}>{say`Hold the last picture for ${these}`}</Button>}
            <Button onClick={() => onLeave('black')}>{say`Leave ${these} black`}</Button>
          </>
        ) : (
          <Button onClick={() => onLeave('silent')}>{say`Leave it silent`}</Button>
        )}
        <Link
          href="/score"
          prefetch={false}
          className="inline-flex min-h-11 items-center underline sm:min-h-9"
          onClick={() => useProject.setState({ playhead: frame })}
        >
          {say`Go to the frame`}
        </Link>
        <Button kind="quiet" onClick={onAway}>
          {say`Dismiss`}
        </Button>
      </div>
    </div>
  );
}
