'use client';
import { AlertDialog } from 'radix-ui';
import { useQuestions } from '@/data/ask';
import { Button } from '@/ui/controls';

/** Shows what only the user can decide, one question at a time. */
export function Questions() {
  const [first] = useQuestions((s) => s.asked);
  if (!first) return null;
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && first.answer(null)}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <AlertDialog.Content className="fixed inset-x-0 bottom-0 z-50 mx-auto max-h-[90dvh] w-full max-w-lg overflow-y-auto rounded-t-lg bg-sheet p-5 sm:top-1/3 sm:bottom-auto sm:rounded-lg">
          <AlertDialog.Title className="text-xl font-semibold">{first.title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-2">{first.text}</AlertDialog.Description>
          <div className="mt-5 flex flex-col gap-2">
            {first.answers.map(({ id, label }, i) => (
              <Button key={id} kind={i === 0 ? 'main' : 'plain'} onClick={() => first.answer(id)}>
                {label}
              </Button>
            ))}
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
