'use client';
import { ArrowRight } from 'lucide-react';
import Link from 'next/link';
import type { Project } from '@/core/document';
import { say } from '@/core/words';
import { useProject } from '@/data/store';

type Step = readonly [href: string, text: string];

/** What usually comes after a stage, as far as the project has come. */
function nextStep(project: Project, path: string): Step | null {
  const score: Step = ['/score', say`Put the takes together on the bars: Score`];
  if (path.startsWith('/plan')) return project.plans.length > 0 ? ['/shoot', say`Film what is planned, or take films in: Shoot`] : null;
  if (path.startsWith('/shoot')) return project.takes.length > 0 ? ['/takes', say`See whether the takes fit together: Takes`] : null;
  if (path.startsWith('/takes')) return project.song ? score : ['/song', say`Take in the song and find its beats: Song`];
  if (path.startsWith('/song')) return project.takes.length > 0 ? score : ['/shoot', say`Film, or take films in: Shoot`];
  if (path.startsWith('/check')) return ['/deliver', say`Make the film: Deliver`];
  return null;
}

/** The way on, at the end of a stage. */
export function NextStep({ path }: { path: string }) {
  const project = useProject((s) => s.project);
  const step = project && nextStep(project, path);
  if (!step) return null;
  const [href, text] = step;
  return (
    <p className="no-print mx-auto max-w-6xl px-4 pb-8 sm:px-6">
      <Link href={href} prefetch={false} className="inline-flex min-h-11 items-center gap-2 font-medium underline underline-offset-4">
        {text} <ArrowRight size={17} aria-hidden />
      </Link>
    </p>
  );
}
