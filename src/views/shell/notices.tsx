'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { type ReactNode, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { say } from '@/core/words';
import { goOver, useInstalled } from '@/data/installed';
import { save, useProject } from '@/data/store';
import { Note } from '@/ui/controls';

/** Comes in with the first result. */
const Told = dynamic(() => import('@/ui/toasts').then((m) => m.Told), { ssr: false });
const forget = () => useProject.setState({ notice: '' });

const act = 'min-h-11 underline sm:min-h-0';

/** A sentence over the stage, with what can be done about it. */
function Line({ level, children, alert = false }: { level: 'bad' | 'fix' | 'unsure'; children: ReactNode; alert?: boolean }) {
  return (
    <div className="no-print p-2 pb-0" role={alert ? 'alert' : 'status'}>
      <Note level={level}>{children}</Note>
    </div>
  );
}

/** What the user must know of the open project wherever they are: a problem, another tab, what was set aside, what an opened file lacked. */
export function Notices() {
  const { problem, notice, setAside, writable, unsaved, project } = useProject(
    useShallow(({ problem, notice, setAside, writable, unsaved, project }) => ({
      problem,
      notice,
      setAside,
      writable,
      unsaved,
      project: project !== null,
    })),
  );
  const update = useInstalled((s) => s.update);
  const [later, setLater] = useState(false);
  return (
    <>
      {update !== 'none' && !later && (
        <Line level="unsure">
          {update === 'ready'
            ? say`A newer version of this application is ready. `
            : say`Another tab has gone over to a newer version of this application. `}
          <button type="button" className={act} onClick={() => void goOver()}>
            {update === 'ready' ? say`Go over to it now` : say`Load this tab anew`}
          </button>{' '}
          <button type="button" className={act} onClick={() => setLater(true)}>
            {say`Later`}
          </button>
        </Line>
      )}
      {project && !writable && (
        <Line level="unsure">
          {say`This project is open in another tab, which is the one that writes. Here you can look. When that tab is closed, you can work here.`}
        </Line>
      )}
      {problem && (
        <Line level="bad" alert>
          {problem}{' '}
          {unsaved && (
            <button type="button" className={act} onClick={() => void save()}>
              {say`Try again`}
            </button>
          )}{' '}
          {/storage|space|room/i.test(problem) && (
            <Link href="/storage" prefetch={false} className={act}>
              {say`Free some space`}
            </Link>
          )}{' '}
          <button type="button" className={act} onClick={() => useProject.setState({ problem: '' })}>
            {say`Dismiss`}
          </button>
        </Line>
      )}
      {notice && <Told text={notice} onGone={forget} />}
      {setAside.length > 0 && (
        <Line level="fix">
          {say`The project was damaged and has been repaired. Everything else works. Set aside:`}
          <ul className="my-1 list-inside list-disc">
            {setAside.slice(0, 6).map((what) => (
              <li key={what}>{what}</li>
            ))}
            {setAside.length > 6 && <li>{say`and ${setAside.length - 6} more`}</li>}
          </ul>
          {say`Its original is kept under`}{' '}
          <Link href="/storage" prefetch={false} className={act}>
            {say`Storage`}
          </Link>
          .{' '}
          <button type="button" className={act} onClick={() => useProject.setState({ setAside: [] })}>
            {say`Dismiss`}
          </button>
        </Line>
      )}
    </>
  );
}
