'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { applyFix, checkProject, type Finding, type MeasuredTake } from '@/core/check';
import { footageOf, type Project, takesOf } from '@/core/shot';
import { toTimecode } from '@/core/time';
import { correctTake, knownMeasurement, takeMeasurement } from '@/data/media';
import { seek } from '@/data/playback';
import { changeShot } from '@/data/shots';
import { useProject } from '@/data/store';
import { Button, Empty, Heading, Note } from '@/ui/parts';
import { FilmPicture } from '@/views/shared';

/** What has been measured of the takes the shots mix. Nothing is measured here. */
async function known(project: Project): Promise<MeasuredTake[]> {
  const found: MeasuredTake[] = [];
  for (const shot of project.shots) {
    const [below, ...others] = takesOf(shot);
    for (const takeId of others) {
      const lock = (await knownMeasurement(footageOf(project, takeId), footageOf(project, below)))?.against;
      if (lock)
        found.push({
          takeId,
          referenceTakeId: below,
          moves: lock.readings.map((r, i) => ({ ...r, time: lock.times[i] })).filter((r) => r.trusted),
        });
    }
  }
  return found;
}

async function mend(project: Project, finding: Finding): Promise<void> {
  const { fix } = finding;
  const shot = project.shots.find((s) => s.id === finding.shotId);
  if (!fix || !shot) return;
  if (fix.kind === 'correct take')
    correctTake(
      fix.takeId,
      fix.referenceTakeId,
      await takeMeasurement(footageOf(project, fix.takeId), footageOf(project, fix.referenceTakeId)),
    );
  else changeShot(fix.shotId, fix.label, (s, now) => applyFix(s, now, fix));
}

export function CheckView() {
  const project = useProject((s) => s.project);
  const [measured, setMeasured] = useState<MeasuredTake[] | null>(null);
  const router = useRouter();
  useEffect(() => {
    let wanted = true;
    if (project) void known(project).then((m) => wanted && setMeasured(m));
    return () => {
      wanted = false;
    };
  }, [project]);
  if (!project) return null;
  if (project.shots.length === 0) {
    return (
      <Empty text="There is no shot to check yet.">
        <Link href="/score" className="inline-flex min-h-11 items-center underline">
          To the score
        </Link>
      </Empty>
    );
  }
  const findings = measured ? checkProject(project, measured) : [];
  const asked = ['the camera stands still between takes', 'no picture edge shows', 'every event is on its beat'];
  return (
    <div className="mx-auto max-w-5xl p-4 sm:p-6">
      <Heading title="Check" question="Will anyone see the trick?" />
      <div className="grid gap-5 md:grid-cols-[1fr_24rem]">
        <ul className="space-y-3">
          {measured && findings.length === 0 && (
            <li>
              <Note level="good">Nothing found. Looked at on every frame: {asked.join('; ')}.</Note>
            </li>
          )}
          {findings.map((f) => (
            <li key={`${f.rule}${f.frame}${f.text}`} className="rounded-md border border-rule bg-sheet p-3" data-testid="finding">
              <p>{f.text}</p>
              <div className="mt-2 flex flex-wrap items-center gap-2">
                {f.fix && (
                  <Button kind="main" onClick={() => void mend(project, f)}>
                    {f.fix.label}
                  </Button>
                )}
                {f.rule === 'not measured' && (
                  <Button kind="main" onClick={() => router.push('/takes')}>
                    Measure the takes
                  </Button>
                )}
                <Button onClick={() => seek(f.frame)}>
                  Show frame <span className="num">{toTimecode(f.frame, project.frame.rate)}</span>
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
