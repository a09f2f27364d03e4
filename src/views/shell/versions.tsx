'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { say } from '@/core/words';
import type { VersionRow } from '@/data/db';
import { goBackTo, keepVersion, openVersion, versionsOf } from '@/data/earlier';
import { useProject } from '@/data/store';
import { sentenceOf } from '@/media/sentence';
import { Button, Note } from '@/ui/controls';

const when = (at: number) => new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;

/** A name for how the project is now. */
function KeepNow({ run }: { run: (work: () => Promise<void>) => Promise<boolean> }) {
  const [name, setName] = useState('');
  const keep = () =>
    run(async () => {
      const { project } = useProject.getState();
      if (project) await keepVersion(project, name.trim());
    }).then((done) => done && setName(''));
  return (
    <form
      className="mb-3 flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void keep();
      }}
    >
      <label className="flex grow flex-col gap-0.5 text-sm text-faint">
        {say`Keep how it is now as`}
        <input
          className="min-h-11 rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <Button type="submit" disabled={name.trim() === ''}>
        {say`Keep`}
      </Button>
    </form>
  );
}

function Version({ row, onBack, onOpen }: { row: VersionRow; onBack: () => void; onOpen: () => void }) {
  return (
    <li className="flex flex-wrap items-center justify-between gap-2 border-t border-rule py-2" data-testid="version">
      <span className="min-w-0 grow basis-40">
        <span className="block truncate font-medium">{row.name || when(row.at)}</span>
        <span className="num text-sm text-faint">
          {row.name ? `${when(row.at)}, ` : ''}
          {count(row.shots, 'shot')}, {count(row.takes, 'take')}
        </span>
      </span>
      <span className="flex gap-2">
        <Button onClick={onBack}>{say`Go back to it`}</Button>
        <Button kind="quiet" onClick={onOpen}>
          {say`Open beside`}
        </Button>
      </span>
    </li>
  );
}

/** The open project as it was at other times. */
export function Versions({ onClose }: { onClose: () => void }) {
  const projectId = useProject((s) => s.project?.id ?? '');
  const rows = useLiveQuery(() => versionsOf(projectId), [projectId]);
  const [problem, setProblem] = useState('');
  const run = async (work: () => Promise<void>) => {
    setProblem('');
    try {
      await work();
      return true;
    } catch (error) {
      setProblem(sentenceOf(error));
      return false;
    }
  };
  const leave = (work: () => Promise<void>) => void run(work).then((done) => done && onClose());
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[85dvh] w-[min(34rem,94vw)] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg bg-sheet p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="mb-1 text-xl font-semibold">{say`Earlier versions`}</Dialog.Title>
          <p className="mb-3 text-sm text-faint">
            {say`While you work one is kept every ten minutes; the older they are, the fewer stay, up to two weeks. Those you name stay. Going back is a step that can be undone.`}
          </p>
          <KeepNow run={run} />
          {problem && <Note level="bad">{problem}</Note>}
          {rows?.length === 0 && <p className="text-faint">{say`None yet: the first is kept with the next change.`}</p>}
          <ul className="min-h-0 overflow-y-auto">
            {rows?.map((row) => (
              <Version key={row.id} row={row} onBack={() => leave(() => goBackTo(row))} onOpen={() => leave(() => openVersion(row))} />
            ))}
          </ul>
          <Dialog.Close asChild>
            <Button className="mt-3 self-start">{say`Close`}</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
