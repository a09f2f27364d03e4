'use client';
import { X } from 'lucide-react';
import Link from 'next/link';
import { useEffect } from 'react';
import { say } from '@/core/words';
import { GUIDE, leaveGuide, passStep, stepAt, useGuide } from '@/data/guide';
import { usePlayback } from '@/data/playback';
import { useProject } from '@/data/store';
import { Button } from '@/ui/controls';

/** The step to a first film that a project is at, with the way there; nothing where none is followed. */
export function Guide({ path }: { path: string }) {
  const project = useProject((s) => s.project);
  const guide = useGuide();
  const playing = usePlayback((s) => s.playing);
  const followed = project !== null && guide.projectId === project.id;
  const at = project && stepAt(project, guide);
  useEffect(() => {
    if (!followed) return;
    if (playing && path.startsWith('/score')) passStep('play');
    if (path.startsWith('/check')) passStep('check');
  }, [followed, playing, path]);
  useEffect(() => {
    if (followed && !at) leaveGuide();
  }, [followed, at]);
  if (!at) return null;
  const { step, n } = at;
  return (
    <section
      aria-label={say`First film`}
      className="no-print flex flex-wrap items-center gap-x-3 border-b border-rule bg-sheet px-3 py-1 text-[0.95rem]"
      data-testid="guide"
    >
      <p className="min-w-0 grow basis-48" role="status">
        <span className="num text-faint">{say`${n} of ${GUIDE.length}`}</span> {step.text}
      </p>
      <span className="flex items-center gap-1">
        {!path.startsWith(step.href) && (
          <Link href={step.href} prefetch={false} className="inline-flex min-h-11 items-center px-2 font-medium underline sm:min-h-9">
            {say`Go there`}
          </Link>
        )}
        <Button kind="quiet" onClick={() => passStep(step.id)}>
          {say`Skip`}
        </Button>
        <Button kind="quiet" onClick={leaveGuide} aria-label={say`Leave the guide`}>
          <X size={17} aria-hidden />
        </Button>
      </span>
    </section>
  );
}
