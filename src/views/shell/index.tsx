'use client';
import { AudioLines, CircleHelp, ClipboardList, Film, Layers, PackageCheck, Redo2, SearchCheck, Undo2, Video } from 'lucide-react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import { type ReactNode, useCallback, useEffect, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { say } from '@/core/words';
import { useQuestions } from '@/data/ask';
import { openData } from '@/data/db';
import { watchVersions } from '@/data/earlier';
import { keepApplication } from '@/data/installed';
import { useLook } from '@/data/look';
import { useMeasuring } from '@/data/measuring';
import { demoIsBegun, newProject, openLast, redo, undo, useProject } from '@/data/store';
import { sentenceOf } from '@/media/sentence';
import { Button, Working } from '@/ui/controls';
import { useKeys } from '@/ui/keymap';
import { Guide } from './guide';
import { NextStep } from './next-step';
import { NoProject } from './no-project';
import { Notices } from './notices';
import { ProjectName } from './project-name';
import { useDrops } from './use-drops';

/** Comes in when first asked for. */
const Shortcuts = dynamic(() => import('./shortcuts').then((m) => m.Shortcuts), { ssr: false });
const Background = dynamic(() => import('./background').then((m) => m.Background), { ssr: false });
const Questions = dynamic(() => import('./questions').then((m) => m.Questions), { ssr: false });

const STAGES = [
  { href: '/plan', name: say`Plan`, icon: ClipboardList },
  { href: '/shoot', name: say`Shoot`, icon: Video },
  { href: '/takes', name: say`Takes`, icon: Layers },
  { href: '/song', name: say`Song`, icon: AudioLines },
  { href: '/score', name: say`Score`, icon: Film },
  { href: '/check', name: say`Check`, icon: SearchCheck },
  { href: '/deliver', name: say`Deliver`, icon: PackageCheck },
] as const;

interface Step {
  text: string;
  done: number;
}

/** The data base could not be opened at all: private windows of some browsers, or a disk that is full. */
const NO_STORE = say`What is kept in this browser could not be opened. Nothing was changed. Reload the page; if it stays so, leave private browsing, or free some space on this device.`;

/** Opens the last project, or the demo on the very first start; one that was broken off while it was being opened is gone on with. */
function useFirstOpening(path: string): { step: Step | null; demo: () => void } {
  const [step, setStep] = useState<Step | null>(null);
  const demo = useCallback(async () => {
    const { openDemo } = await import('@/data/demo');
    setStep({ text: say`Fetching the demo`, done: 0 });
    const problem = await openDemo((text, done) => setStep({ text, done })).finally(() => setStep(null));
    if (problem) useProject.setState({ problem, ...(useProject.getState().project ? {} : { state: 'failed' }) });
  }, []);
  const run = useCallback(
    (work: () => Promise<unknown>) =>
      void work().catch((error: unknown) => useProject.setState({ state: 'failed', problem: sentenceOf(error) })),
    [],
  );
  const own = OWN_PAGES.includes(path);
  useEffect(() => {
    if (started) return;
    started = true;
    run(async () => {
      const begun = await openData()
        .then(demoIsBegun)
        .catch(() => {
          throw new Error(NO_STORE);
        });
      // On the first page one was opened already.
      if (useProject.getState().state === 'opening' && (begun || !(await openLast()))) {
        // Whoever comes to receive a project did not come for the demo; it is opened once they go to a stage.
        started = !own;
        if (own) return;
        await demo();
      }
      setTimeout(() => void import('@/data/storage').then(({ tidy }) => tidy()).catch(() => undefined), TIDY_AFTER);
      const { watchForMissing } = await import('@/data/missing');
      watchForMissing();
    });
  }, [demo, run, own]);
  return { step, demo: () => run(demo) };
}
let started = false;
/** Pages that are there without a project. */
const OWN_PAGES = ['/storage', '/devices'];
/** Milliseconds after a start until what belongs to nothing is removed: long after the page is there. */
const TIDY_AFTER = 20_000;

/** Milliseconds until the application is fetched to be kept: the first picture and the first playing come before. */
const KEEP_AFTER = 10_000;

/** Fetches the other stages once the first one is there, so that they open at once, and keeps the application for times without a network. */
function useStagesFetched(ready: boolean): void {
  const router = useRouter();
  useEffect(() => {
    if (!ready) return;
    const soon = setTimeout(() => {
      for (const { href } of STAGES) router.prefetch(href);
    }, 4000);
    const later = setTimeout(() => void keepApplication(), KEEP_AFTER);
    return () => {
      clearTimeout(soon);
      clearTimeout(later);
    };
  }, [ready, router]);
}

function StageLinks({ phone }: { phone: boolean }) {
  const path = usePathname();
  return (
    <nav
      aria-label={say`Stages`}
      className={phone ? 'flex border-t border-rule bg-sheet pb-[env(safe-area-inset-bottom)] md:hidden' : 'hidden md:flex'}
    >
      {STAGES.map(({ href, name, icon: Icon }, i) => {
        const here = path.startsWith(href);
        const look = here ? 'text-ink' : 'text-faint hover:text-ink';
        return phone ? (
          <Link
            key={href}
            href={href}
            prefetch={false}
            aria-current={here ? 'page' : undefined}
            className={`flex min-h-14 min-w-11 flex-1 flex-col items-center justify-center text-[0.68rem] ${look}`}
          >
            <Icon size={19} aria-hidden />
            <span className={here ? 'font-semibold underline decoration-mark decoration-2 underline-offset-4' : ''}>{name}</span>
          </Link>
        ) : (
          <Link
            key={href}
            href={href}
            prefetch={false}
            aria-current={here ? 'page' : undefined}
            className={`relative px-3.5 py-2 ${look} ${here ? 'font-semibold' : ''}`}
          >
            {name}
            <svg
              viewBox="0 0 60 8"
              preserveAspectRatio="none"
              aria-hidden
              className={`absolute inset-x-1 bottom-0 h-1.5 w-[calc(100%-0.5rem)] ${here ? 'text-mark' : 'text-rule'}`}
            >
              <path
                d={i % 2 ? 'M0 5 Q15 1 30 4 T60 3' : 'M0 3 Q15 7 30 4 T60 5'}
                fill="none"
                stroke="currentColor"
                strokeWidth={here ? 4 : 2}
                vectorEffect="non-scaling-stroke"
              />
            </svg>
          </Link>
        );
      })}
    </nav>
  );
}

/** Asks before the page is left while the last change is still being written. */
function useLeavingGuard(): void {
  useEffect(watchVersions, []);
  useEffect(() => {
    const onLeave = (e: BeforeUnloadEvent) => {
      if (useProject.getState().saving) e.preventDefault();
    };
    window.addEventListener('beforeunload', onLeave);
    return () => window.removeEventListener('beforeunload', onLeave);
  }, []);
}

/** Everything around a stage: the project, the stages, undo and redo, problems. */
export function Shell({ children }: { children: ReactNode }) {
  const path = usePathname();
  const { step, demo } = useFirstOpening(path);
  // Picked one by one: the playhead is no part of what is around a stage.
  const { there, undoLabel, redoLabel, state, written } = useProject(
    useShallow(({ project, undoLabel, redoLabel, state, saving, unsaved }) => ({
      there: project !== null,
      undoLabel,
      redoLabel,
      state,
      written: !saving && !unsaved,
    })),
  );
  const measuring = useMeasuring((s) => s.doing !== null);
  const asked = useQuestions((s) => s.asked.length > 0);
  const router = useRouter();
  const [help, setHelp] = useState(false);
  useKeys({ undo: () => void undo(), redo: () => void redo(), help: () => setHelp(true) });
  useLeavingGuard();
  const { over, drops } = useDrops();
  useStagesFetched(state === 'open');
  useLook(path);
  return (
    <div className="print-flow flex h-dvh flex-col" data-saved={written} {...drops}>
      <header className="no-print flex items-center gap-1 border-b border-rule bg-sheet px-3">
        <ProjectName opening={step !== null} />
        <div className="grow" />
        <StageLinks phone={false} />
        <div className="grow" />
        {measuring && <Background />}
        <Button
          kind="quiet"
          onClick={() => void undo()}
          disabled={!undoLabel || step !== null}
          aria-label={undoLabel ? say`Undo: ${undoLabel}` : say`Nothing to undo`}
          title={undoLabel ? say`Undo: ${undoLabel}` : ''}
        >
          <Undo2 size={18} aria-hidden />
        </Button>
        <Button
          kind="quiet"
          onClick={() => void redo()}
          disabled={!redoLabel || step !== null}
          aria-label={redoLabel ? say`Redo: ${redoLabel}` : say`Nothing to redo`}
          title={redoLabel ? say`Redo: ${redoLabel}` : ''}
        >
          <Redo2 size={18} aria-hidden />
        </Button>
        <Button kind="quiet" onClick={() => setHelp(true)} aria-label={say`Keyboard shortcuts`}>
          <CircleHelp size={18} aria-hidden />
        </Button>
      </header>
      <Guide path={path} />
      <Notices />
      <main className="print-flow min-h-0 grow overflow-y-auto">
        {step ? (
          <div className="mx-auto mt-16 max-w-md p-4">
            <p className="mb-4 text-lg">{say`Opening the demo: a night laundrette, two takes and a song.`}</p>
            <Working text={step.text} done={step.done} />
          </div>
        ) : there || OWN_PAGES.includes(path) ? (
          <>
            {children}
            <NextStep path={path} />
          </>
        ) : state === 'failed' ? (
          <NoProject onDemo={demo} onNew={() => void newProject(say`New project`)} onStorage={() => router.push('/storage')} />
        ) : (
          <p className="p-6 text-faint">{say`Opening…`}</p>
        )}
      </main>
      <div className="no-print">
        <StageLinks phone />
      </div>
      {over && (
        <div className="pointer-events-none fixed inset-0 z-40 flex items-center justify-center border-4 border-mark border-dashed bg-paper/80">
          <p className="text-xl font-semibold">{say`Let go: films become takes, a sound the song, a .zip opens as a project.`}</p>
        </div>
      )}
      {help && <Shortcuts open={help} onOpenChange={setHelp} />}
      {asked && <Questions />}
    </div>
  );
}
