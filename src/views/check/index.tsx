'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { type Finding, RULES } from '@/core/check';
import type { Project } from '@/core/document';
import { toTimecode } from '@/core/time';
import { say } from '@/core/words';
import { findingsOf, mendFinding } from '@/data/check';
import { seek, seekIntoFilm } from '@/data/playback';
import { useProject } from '@/data/store';
import { Button, Empty, Heading, Note } from '@/ui/controls';
import { FilmPicture } from '@/views/shared';

/** What mends a finding: here, or where it leads to. */
function Mend({ project, finding }: { project: Project; finding: Finding }) {
  const router = useRouter();
  const { fix } = finding;
  if (!fix) return null;
  const press = () => (fix.by === 'stage' ? router.push(`/${fix.stage}`) : void mendFinding(project, finding));
  return (
    <Button kind="main" onClick={press}>
      {fix.label}
    </Button>
  );
}

export function CheckView() {
  const project = useProject((s) => s.project);
  const projectId = project?.id;
  useEffect(() => {
    if (projectId) seekIntoFilm();
  }, [projectId]);
  const [findings, setFindings] = useState<Finding[] | null>(null);
  const [failed, setFailed] = useState('');
  useEffect(() => {
    let wanted = true;
    if (project)
      findingsOf(project).then(
        (found) => {
          if (!wanted) return;
          setFindings(found);
          setFailed('');
        },
        (error: Error) => wanted && setFailed(error.message),
      );
    return () => {
      wanted = false;
    };
  }, [project]);
  if (!project) return null;
  if (project.shots.length === 0) {
    return (
      <Empty text={say`There is no shot to check yet.`}>
        <Link href="/score" className="inline-flex min-h-11 items-center underline">
          {say`To the score`}
        </Link>
      </Empty>
    );
  }
  return (
    <div className="mx-auto max-w-5xl p-4 sm:p-6">
      <Heading title={say`Check`} question={say`Will anyone see the trick?`} />
      <div className="grid gap-5 md:grid-cols-[1fr_24rem]">
        <ul className="space-y-3">
          {failed && (
            <li>
              <Note level="fix">{failed}</Note>
            </li>
          )}
          {!findings && !failed && (
            <li>
              <p role="status">{say`Looking at every frame`}</p>
            </li>
          )}
          {findings?.length === 0 && (
            <li>
              <Note level="good">{say`Nothing found. Looked at on every frame: ${RULES.map(({ asks }) => asks).join('; ')}.`}</Note>
            </li>
          )}
          {findings?.map((f) => (
            <li key={`${f.rule}${f.frame}${f.text}`} className="rounded-md border border-rule bg-sheet p-3" data-testid="finding">
              <p>{f.text}</p>
              <div className="mt-2 flex flex-wrap items-center gap-2">
                <Mend project={project} finding={f} />
                <Button onClick={() => seek(f.frame)}>
                  {say`Show frame `}
                  <span className="num">{toTimecode(f.frame, project.frame.rate)}</span>
                </Button>
              </div>
            </li>
          ))}
        </ul>
        <FilmPicture className="order-first aspect-video md:order-none md:self-start" />
      </div>
    </div>
  );
}
