'use client';
import { Dialog } from 'radix-ui';
import { say } from '@/core/words';
import { beginGuide } from '@/data/guide';
import { LOOKS, type LookChoice, useLookChoice } from '@/data/look';
import { useProject } from '@/data/store';
import { Button } from '@/ui/controls';
import { KEYMAP } from '@/ui/keymap';
import { SelectField } from '@/ui/value-field';

/** The sheet of shortcuts. */
export function Shortcuts({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const choice = useLookChoice((s) => s.choice);
  const projectId = useProject((s) => s.project?.id);
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/50" />
        <Dialog.Content
          className="fixed top-1/2 left-1/2 w-[min(28rem,92vw)] -translate-x-1/2 -translate-y-1/2 rounded-lg bg-sheet p-6"
          aria-describedby={undefined}
        >
          <Dialog.Title className="mb-3 text-xl font-semibold">{say`Keys`}</Dialog.Title>
          <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
            {Object.entries(KEYMAP).map(([name, { shown, does }]) => (
              <div key={name} className="contents">
                <dt className="num font-medium">{shown}</dt>
                <dd className="text-faint">{does}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-4 max-w-60">
            <SelectField
              label={say`Light or dark`}
              value={choice}
              options={LOOKS}
              onChange={(next) => useLookChoice.setState({ choice: next as LookChoice })}
            />
          </div>
          {projectId && (
            <Button
              className="mt-4"
              onClick={() => {
                beginGuide(projectId, true);
                onOpenChange(false);
              }}
            >
              {say`Show the way to a first film`}
            </Button>
          )}
          <p className="mt-4 text-sm text-faint">
            <a href="/licences" className="underline">
              {say`Licences of what ships`}
            </a>
          </p>
          <Dialog.Close asChild>
            <Button className="mt-4" kind="main">
              {say`Close`}
            </Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
