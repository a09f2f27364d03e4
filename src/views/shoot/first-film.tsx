'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { footageName, footageOf, type Project } from '@/core/document';
import type { SortedTakes } from '@/core/plan';
import { say } from '@/core/words';
import { firstFilm, lookAtTakes, unsorted } from '@/data/first-film';
import { useProject } from '@/data/store';
import { useTakingIn } from '@/data/taking-in';
import { Button, Note, Working } from '@/ui/controls';
import { useJob, useThumbnail } from '@/views/shared';

function TakePicture({ project, takeId }: { project: Project; takeId: string }) {
  const media = footageOf(project, takeId);
  const src = useThumbnail(media.id, media.width, (media.from + media.to) / 2);
  return (
    <span className="flex h-16 w-28 shrink-0 items-center justify-center overflow-hidden bg-well">
      {src && <img src={src} alt={footageName(media)} className="h-full w-full object-contain" />}
    </span>
  );
}

const LOOKING = say`Looking at the takes`;

/** What the takes that nobody has planned look like, and one press to a film of them. */
export function FirstFilm({ project }: { project: Project }) {
  const router = useRouter();
  const { doing: taking, results, projectId } = useTakingIn();
  const takes = unsorted(project);
  const [sorted, setSorted] = useState<{ of: string; takes: SortedTakes[] } | null>(null);
  const { doing, problem, run, stop } = useJob();
  const of = `${project.id} ${takes.map((t) => t.id).join()}`;
  const look = async () => {
    const found = await run(LOOKING, (tell, signal) => lookAtTakes(project, tell, signal));
    if (found) setSorted({ of, takes: found });
  };
  const make = (known: readonly SortedTakes[]) =>
    run(say`Making a first film`, async (tell, signal) => {
      const said = await firstFilm(known, tell);
      if (said) useProject.setState({ notice: said });
      // Whoever has gone elsewhere meanwhile stays there.
      if (!signal.aborted) router.push('/score');
    });
  const fresh = taking === null && projectId === project.id && results.length > 0 && takes.length > 0 && project.shots.length === 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for what has just come in
  useEffect(() => {
    if (fresh && sorted?.of !== of && doing === null) void look();
  }, [fresh, of]);
  if (takes.length === 0 || taking) return null;
  const known = sorted?.of === of ? sorted.takes : null;
  return (
    <section aria-label={say`First film`} className="mb-5 border border-rule bg-sheet p-3">
      <h2 className="mb-1 text-lg font-semibold">{say`What these takes can become`}</h2>
      {known ? (
        <ul className="mb-3 space-y-2">
          {known.map(({ takes: own, looks }) => (
            <li key={own[0].id} className="flex flex-wrap items-center gap-2" data-testid="sorted">
              {own.map(({ id }) => project.takes.some((t) => t.id === id) && <TakePicture key={id} project={project} takeId={id} />)}
              <span className="grow basis-40 first-letter:uppercase">{looks}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="mb-2 text-faint">{say`Which of them show one room, who is where, and which moves that makes possible.`}</p>
      )}
      {doing ? (
        <Working text={doing.text} done={doing.done} onStop={doing.text === LOOKING ? stop : undefined} />
      ) : known ? (
        <div className="flex flex-wrap items-center gap-3">
          <Button kind="main" onClick={() => void make(known)}>
            {say`Make a first film`}
          </Button>
          <span className="text-sm text-faint">
            {say`${project.song?.map ? say`On the beats of the song.` : say`On even bars; a song taken in later takes it along.`} Every part of it can be changed.`}
          </span>
        </div>
      ) : (
        <Button onClick={() => void look()}>{say`Look at them`}</Button>
      )}
      {problem && <Note level="bad">{problem}</Note>}
    </section>
  );
}
