'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { footageName, footageOf, type Project } from '@/core/document';
import type { SortedTakes } from '@/core/plan';
import { firstFilm, lookAtTakes, unsorted } from '@/data/first-film';
import { useTakingIn } from '@/data/taking-in';
import { Button, Note, Working } from '@/ui/controls';
import { useThumbnail } from '@/views/shared';

function TakePicture({ project, takeId }: { project: Project; takeId: string }) {
  const media = footageOf(project, takeId);
  const src = useThumbnail(media.id, media.width, (media.from + media.to) / 2);
  return (
    <span className="flex h-16 w-28 shrink-0 items-center justify-center overflow-hidden bg-well">
      {src && <img src={src} alt={footageName(media)} className="h-full w-full object-contain" />}
    </span>
  );
}

/** What the takes that nobody has planned look like, and one press to a film of them. */
export function FirstFilm({ project }: { project: Project }) {
  const router = useRouter();
  const { doing: taking, results, projectId } = useTakingIn();
  const takes = unsorted(project);
  const [sorted, setSorted] = useState<{ of: string; takes: SortedTakes[] } | null>(null);
  const [doing, setDoing] = useState<{ text: string; done: number } | null>(null);
  const [said, setSaid] = useState('');
  const busy = useRef(false);
  const of = `${project.id} ${takes.map((t) => t.id).join()}`;
  const work = async (text: string, what: (tell: (done: number) => void) => Promise<void>) => {
    if (busy.current) return;
    busy.current = true;
    setSaid('');
    setDoing({ text, done: 0 });
    await what((done) => setDoing({ text, done })).catch((e: unknown) => setSaid(e instanceof Error ? e.message : String(e)));
    setDoing(null);
    busy.current = false;
  };
  const look = () => work('Looking at the takes', async (tell) => setSorted({ of, takes: await lookAtTakes(project, tell) }));
  const fresh = taking === null && projectId === project.id && results.length > 0 && takes.length > 0 && project.shots.length === 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for what has just come in
  useEffect(() => {
    if (fresh && sorted?.of !== of) void look();
  }, [fresh, of]);
  if (takes.length === 0 || taking) return null;
  const known = sorted?.of === of ? sorted.takes : null;
  return (
    <section aria-label="First film" className="mb-5 border border-rule bg-sheet p-3">
      <h2 className="mb-1 text-lg font-semibold">What these takes can become</h2>
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
        <p className="mb-2 text-faint">Which of them show one room, who is where, and which moves that makes possible.</p>
      )}
      {doing ? (
        <Working text={doing.text} done={doing.done} />
      ) : known ? (
        <div className="flex flex-wrap items-center gap-3">
          <Button
            kind="main"
            onClick={() =>
              void work('Making a first film', async (tell) => {
                const to = await firstFilm(known, tell);
                if (to) setSaid(to);
                router.push('/score');
              })
            }
          >
            Make a first film
          </Button>
          <span className="text-sm text-faint">
            {project.song?.map ? 'On the beats of the song.' : 'On even bars; a song taken in later takes it along.'} Every part of it can
            be changed.
          </span>
        </div>
      ) : (
        <Button onClick={() => void look()}>Look at them</Button>
      )}
      {said && <Note level="unsure">{said}</Note>}
    </section>
  );
}
