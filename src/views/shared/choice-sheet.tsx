'use client';
import { Dialog } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { say } from '@/core/words';
import { Button } from '@/ui/controls';

/** Something that can be chosen from a sheet. */
export interface Choice<Kind extends string> {
  kind: Kind;
  name: string;
  about: string;
  /** A word beside its name. */
  aside?: string;
}

/** What is chosen on the demo's takes, moving unless less motion is asked for; nothing where none was made (`scripts/bake-moves.ts`, `contact-sheet.ts`, `measure-pictures.ts`). */
function ChoicePicture({ path }: { path: string }) {
  return (
    <picture className="shrink-0">
      <source media="(prefers-reduced-motion: reduce)" srcSet={`${path}.jpg`} />
      <img
        src={`${path}.webp`}
        alt=""
        width={96}
        height={54}
        loading="lazy"
        onError={(e) => {
          e.currentTarget.hidden = true;
        }}
      />
    </picture>
  );
}

interface ChoiceSheetProps<Kind extends string> {
  title: string;
  /** The button that opens it. */
  button: ReactNode;
  /** Asks for words to find by. */
  asks: string;
  choices: readonly Choice<Kind>[];
  /** Where its pictures lie in `public`. */
  pictures: string;
  /** Said where no choice has the words. */
  none: string;
  onChoose: (kind: Kind) => void;
}

/** A sheet of choices with a small moving picture and a sentence each, found by typing what they do. It slides up under the thumb. */
export function ChoiceSheet<Kind extends string>({ title, button, asks, choices, pictures, none, onChoose }: ChoiceSheetProps<Kind>) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const found = choices.filter(({ name, about }) => words.every((w) => `${name} ${about}`.toLowerCase().includes(w)));
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button>{button}</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-0 bottom-0 z-50 mx-auto flex max-h-[88dvh] w-full max-w-4xl flex-col gap-3 rounded-t-lg bg-sheet p-4 sm:top-1/2 sm:bottom-auto sm:-translate-y-1/2 sm:rounded-lg sm:p-6"
        >
          <div className="flex items-center justify-between gap-3">
            <Dialog.Title className="text-xl font-semibold">{title}</Dialog.Title>
            <Dialog.Close asChild>
              <Button kind="quiet">{say`Close`}</Button>
            </Dialog.Close>
          </div>
          <label className="text-sm text-faint">
            {asks}
            <input
              className="mt-0.5 block min-h-11 w-full rounded-md border border-rule bg-paper px-2 text-base text-ink focus:border-ink"
              type="search"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
          </label>
          <ul className="grid min-h-0 grid-cols-1 gap-2 overflow-y-auto sm:grid-cols-2">
            {found.map(({ kind, name, about, aside }) => (
              <li key={kind}>
                <button
                  type="button"
                  aria-label={name}
                  className="flex h-full min-h-11 w-full gap-3 rounded-md border border-rule p-2 text-left hover:border-ink focus-visible:outline-2 focus-visible:outline-ink"
                  onClick={() => {
                    setOpen(false);
                    onChoose(kind);
                  }}
                >
                  <ChoicePicture path={`/${pictures}/${kind.replaceAll(' ', '-')}`} />
                  <span className="flex min-w-0 grow flex-col gap-0.5">
                    <span className="flex items-baseline justify-between gap-2">
                      <span className="font-medium">{name}</span>
                      {aside && <span className="text-sm text-faint">{aside}</span>}
                    </span>
                    <span className="text-sm text-faint">{about}</span>
                  </span>
                </button>
              </li>
            ))}
            {found.length === 0 && <li className="text-faint">{none}</li>}
          </ul>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
