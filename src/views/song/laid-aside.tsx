'use client';
import type { Project } from '@/core/document';
import { say } from '@/core/words';
import { dropAside, layAside } from '@/data/song';
import { Button, Note } from '@/ui/controls';

/** Shots whose place is no longer in the song: laid again, or given up. */
export function LaidAside({ project }: { project: Project }) {
  if (!project.unplacedShots.length) return null;
  return (
    <section aria-label={say`No longer in the song`} className="space-y-2">
      <Note level="fix">{say`These shots were laid where the song has changed. Nothing of them is lost.`}</Note>
      <ul className="space-y-2">
        {project.unplacedShots.map((shot) => (
          <li key={shot.id} className="flex flex-wrap items-center gap-2">
            <span className="grow">{shot.name}</span>
            <Button onClick={() => layAside(shot.id)}>{say`Lay it at the playhead`}</Button>
            <Button kind="quiet" onClick={() => dropAside(shot.id)}>
              {say`Give it up`}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
