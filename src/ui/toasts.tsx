'use client';
import { useEffect } from 'react';
import { Toaster, toast } from 'sonner';

/** How long a result stays, milliseconds: long enough to be read with one eye on the set. */
const STAYS = 12_000;

/** A result told in passing; `onGone` when it has gone or was put away. */
export function Told({ text, onGone }: { text: string; onGone: () => void }) {
  useEffect(() => {
    if (!text) return;
    const id = toast(text, { duration: STAYS, onDismiss: onGone, onAutoClose: onGone });
    return () => void toast.dismiss(id);
  }, [text, onGone]);
  return (
    <Toaster
      position="top-center"
      closeButton
      visibleToasts={3}
      toastOptions={{
        unstyled: true,
        classNames: {
          toast: 'flex w-[min(30rem,92vw)] items-start gap-2 rounded-md border border-rule bg-sheet px-3 py-2 text-ink shadow-lg',
          closeButton: 'order-last ml-auto min-h-11 min-w-11 shrink-0 text-faint hover:text-ink sm:min-h-6 sm:min-w-6',
        },
      }}
    />
  );
}
