'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type DragEvent, useEffect, useRef, useState } from 'react';
import { say } from '@/core/words';
import { useLook } from '@/data/look';
import { ACCEPTED } from '@/ui/accepted';
import { Button, Note } from '@/ui/controls';
import { Mark } from '@/ui/mark';
import { Projects } from './projects';

/** The first page: the demo's film playing, one's own files, and the projects there are. What opens them comes in when it is asked for. */
export function Start() {
  const router = useRouter();
  const picker = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [doing, setDoing] = useState('');
  const [problem, setProblem] = useState('');
  useLook('/');
  useEffect(() => {
    // Fetched while one looks, so that whatever is chosen opens at once.
    const soon = setTimeout(() => void import('@/data/start'), 1500);
    return () => clearTimeout(soon);
  }, []);
  const run = async (text: string, work: () => Promise<string>) => {
    if (doing) return;
    setProblem('');
    setDoing(text);
    try {
      router.push(await work());
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
      setDoing('');
    }
  };
  const own = (files: readonly File[]) =>
    run(say`Beginning a project`, async () => {
      const { startOwn } = await import('@/data/start');
      return startOwn(files);
    });
  const open = (id: string) =>
    run(say`Opening the project`, async () => {
      const [{ openProject }, { stageOf }] = await Promise.all([import('@/data/store'), import('@/data/start')]);
      await openProject(id);
      return stageOf();
    });
  const demo = () =>
    run(say`Opening the demo`, async () => {
      const { openTheDemo } = await import('@/data/start');
      await openTheDemo((text, done) => setDoing(`${text}, ${Math.round(done * 100)} %`));
      return '/score';
    });
  const plan = () =>
    run(say`Beginning a plan`, async () => {
      const { startOwn } = await import('@/data/start');
      await startOwn([]);
      return '/plan';
    });
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    const files = [...e.dataTransfer.files];
    if (files.length > 0) void own(files);
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the whole page takes dropped files; the button does the same by keyboard
    <div
      className="min-h-dvh pb-10"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <header className="flex min-h-12 items-center gap-2 border-b border-rule bg-sheet px-3">
        <Mark />
        <span className="font-semibold">{say`Fickle Ribbon`}</span>
        <span className="grow" />
        <Link href="/devices" prefetch={false} className="mr-4 flex min-h-11 items-center text-sm underline">
          {say`From another device`}
        </Link>
        <Link href="/storage" prefetch={false} className="flex min-h-11 items-center text-sm underline">
          {say`Storage`}
        </Link>
      </header>
      <main className="mx-auto grid max-w-6xl gap-x-8 gap-y-6 p-4 sm:p-6 md:grid-cols-[3fr_2fr]">
        <div className={problem || doing ? 'md:col-span-2' : 'sr-only'} role="status" aria-live="polite">
          {problem ? <Note level="bad">{problem}</Note> : <p className="text-faint">{doing && `${doing}…`}</p>}
        </div>
        <section aria-labelledby="demo">
          <h1 id="demo" className="mb-1 text-2xl font-semibold">
            {say`One camera, one room, one song`}
          </h1>
          <p className="mb-3 text-faint">
            {say`A film made with Fickle Ribbon: clones, reveals on the beat, whips, freezes and things that arrive by themselves.`}
          </p>
          <video
            className="aspect-video w-full bg-well"
            src="/demo/film.mp4"
            poster="/demo/film.jpg"
            aria-label={say`The demo film`}
            autoPlay
            muted
            loop
            playsInline
            controls
          />
          <Button className="mt-3" disabled={doing !== ''} onClick={() => void demo()}>
            {say`See how it is made`}
          </Button>
        </section>
        <section aria-labelledby="own">
          <h2 id="own" className="mb-1 text-2xl font-semibold">
            {say`Your own`}
          </h2>
          <p className="mb-3 text-faint">{say`Films from the phone and the song they are for. They stay on this device.`}</p>
          <div
            className={`flex flex-col items-center justify-center gap-3 rounded-md border-2 border-dashed p-6 text-center md:aspect-[4/3] ${over ? 'border-mark bg-sheet' : 'border-rule'}`}
          >
            <p className="hidden sm:block">{say`Drop them anywhere on this page, or`}</p>
            <Button kind="main" disabled={doing !== ''} onClick={() => picker.current?.click()}>
              {say`Choose films and a song`}
            </Button>
            <input
              ref={picker}
              type="file"
              multiple
              hidden
              accept={`${ACCEPTED},.zip`}
              data-testid="own-files"
              onChange={(e) => {
                const files = [...(e.target.files ?? [])];
                e.target.value = '';
                if (files.length > 0) void own(files);
              }}
            />
            <p className="text-sm text-faint">
              {say`Nothing filmed yet?`}{' '}
              <button type="button" className="min-h-11 underline sm:min-h-0" disabled={doing !== ''} onClick={() => void plan()}>
                {say`Plan a shot first`}
              </button>
              {say`, for what to film and in which order.`}
            </p>
          </div>
        </section>
        <Projects busy={doing !== ''} onOpen={(id) => void open(id)} onSay={setProblem} />
      </main>
    </div>
  );
}
