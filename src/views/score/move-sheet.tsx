'use client';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { MOVES, type Move } from '@/core/moves';
import { Button } from '@/ui/controls';

const NUMBERS: Record<number, string> = { 1: 'one', 2: 'two', 3: 'three', 5: 'five', 9: 'nine' };

/** How many takes a move is made of, in words. */
function takesWords({ min, max }: (typeof MOVES)[number]['takes']): string {
  if (max === 1) return 'one take';
  if (min === max) return `${NUMBERS[min] ?? min} takes`;
  return max === min + 1
    ? `${NUMBERS[min]} or ${NUMBERS[max]} takes`
    : max > 9
      ? `${NUMBERS[min]} take${min > 1 ? 's' : ''} or more`
      : `${NUMBERS[min]} to ${NUMBERS[max] ?? max} takes`;
}

/** A move on the demo's takes, moving unless less motion is asked for; nothing where none was made (`scripts/bake-moves.ts`). */
function MovePicture({ kind }: { kind: Move['kind'] }) {
  return (
    <picture className="shrink-0">
      <source media="(prefers-reduced-motion: reduce)" srcSet={`/moves/${kind}.jpg`} />
      <img
        src={`/moves/${kind}.webp`}
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

/** Every move with what it does, found by typing, those that fit the planned takes first; one press lays it. */
export function MoveSheet({ fitting, onChoose }: { fitting: readonly Move['kind'][]; onChoose: (kind: Move['kind']) => void }) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (kind: Move['kind']) => (fitting.includes(kind) ? 0 : 1);
  const found = MOVES.filter(({ words: { name, about } }) => words.every((w) => `${name} ${about}`.toLowerCase().includes(w))).toSorted(
    (a, b) => fits(a.kind) - fits(b.kind),
  );
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button>All moves…</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-0 bottom-0 z-50 mx-auto flex max-h-[88dvh] w-full max-w-4xl flex-col gap-3 rounded-t-lg bg-sheet p-4 sm:top-1/2 sm:bottom-auto sm:-translate-y-1/2 sm:rounded-lg sm:p-6"
        >
          <div className="flex items-center justify-between gap-3">
            <Dialog.Title className="text-xl font-semibold">Moves</Dialog.Title>
            <Dialog.Close asChild>
              <Button kind="quiet">Close</Button>
            </Dialog.Close>
          </div>
          <label className="text-sm text-faint">
            What should happen?
            <input
              className="mt-0.5 block min-h-11 w-full rounded-md border border-rule bg-paper px-2 text-base text-ink focus:border-ink"
              type="search"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
          </label>
          <ul className="grid min-h-0 grid-cols-1 gap-2 overflow-y-auto sm:grid-cols-2">
            {found.map(({ kind, words: { name, about }, takes }) => (
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
                  <MovePicture kind={kind} />
                  <span className="flex min-w-0 grow flex-col gap-0.5">
                    <span className="flex items-baseline justify-between gap-2">
                      <span className="font-medium">{name}</span>
                      <span className="text-sm text-faint">{fits(kind) === 0 ? 'as planned' : takesWords(takes)}</span>
                    </span>
                    <span className="text-sm text-faint">{about}</span>
                  </span>
                </button>
              </li>
            ))}
            {found.length === 0 && <li className="text-faint">No move is called that or does that. Try fewer words.</li>}
          </ul>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
