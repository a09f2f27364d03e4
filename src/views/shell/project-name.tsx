'use client';
import { ChevronDown } from 'lucide-react';
import dynamic from 'next/dynamic';
import { type ComponentProps, useEffect, useRef, useState } from 'react';
import { say } from '@/core/words';
import { onOpened } from '@/data/installed';
import { useProject } from '@/data/store';
import { sentenceOf } from '@/media/sentence';
import { Mark } from '@/ui/mark';

const ProjectMenu = dynamic(() => import('./project-menu').then((m) => m.ProjectMenu), { ssr: false, loading: () => <NameButton /> });
const Versions = dynamic(() => import('./versions').then((m) => m.Versions), { ssr: false });

function NameButton({ busy = '', ...rest }: ComponentProps<'button'> & { busy?: string }) {
  const name = useProject((s) => s.project?.name);
  return (
    <button type="button" className="flex min-h-12 items-center gap-2 pr-2 text-left" aria-haspopup="menu" {...rest}>
      <Mark />
      <span className="leading-tight">
        <span className="block font-semibold">{name ?? say`Fickle Ribbon`}</span>
        <span className="hidden text-xs text-faint sm:block">{busy || say`Fickle Ribbon`}</span>
      </span>
      <ChevronDown size={16} aria-hidden className="text-faint" />
    </button>
  );
}

/** The open project's name; pressing it opens the menu of projects and files, but not while the demo is still being opened. */
export function ProjectName({ opening }: { opening: boolean }) {
  const [asked, setAsked] = useState(false);
  const [busy, setBusy] = useState('');
  const [versions, setVersions] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const run = async (job: () => Promise<{ problem: string; said: string }>) => {
    const { problem, said } = await job().catch((error: unknown) => ({ problem: sentenceOf(error), said: '' }));
    setBusy('');
    if (problem) useProject.setState({ problem });
    if (said) useProject.setState({ notice: said });
  };
  const openFile = (file: File) =>
    run(async () => {
      const { openProjectFile } = await import('@/data/project-file');
      return openProjectFile(file, (doing, p) => setBusy(`${doing} ${Math.round(p * 100)} %`));
    });
  // biome-ignore lint/correctness/useExhaustiveDependencies: told once for as long as the page lives
  useEffect(() => onOpened((file) => void openFile(file)), []);
  const demo = () =>
    run(async () => {
      const { openDemo } = await import('@/data/demo');
      return { problem: await openDemo((text) => setBusy(text)), said: '' };
    });
  return (
    <>
      {asked ? (
        <ProjectMenu
          trigger={<NameButton busy={busy} disabled={opening || busy !== ''} />}
          onOpenFile={() => picker.current?.click()}
          onDemo={() => void demo()}
          onVersions={() => setVersions(true)}
        />
      ) : (
        <NameButton busy={busy} disabled={opening} onClick={() => setAsked(true)} />
      )}
      {versions && <Versions onClose={() => setVersions(false)} />}
      <input
        ref={picker}
        type="file"
        accept=".zip"
        hidden
        aria-label={say`Project file`}
        data-testid="project-file"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file) void openFile(file);
        }}
      />
    </>
  );
}
