'use client';
import { Popover } from 'radix-ui';
import { say } from '@/core/words';
import { useMeasuring } from '@/data/measuring';
import { Button } from '@/ui/controls';

/** What is measured in the background, in the corner of every stage: how far it is, what comes after it, and a way to stop it. */
export function Background() {
  const { doing, queue } = useMeasuring();
  if (!doing) return null;
  const percent = Math.round(100 * doing.done);
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button
          kind="quiet"
          className="num gap-2 text-sm text-faint"
          aria-label={say`Measuring in the background: ${percent} % of ${doing.name}`}
        >
          <svg viewBox="0 0 20 20" className="h-5 w-5 -rotate-90" aria-hidden>
            <circle cx="10" cy="10" r="8" fill="none" stroke="var(--color-rule)" strokeWidth="3" />
            <circle cx="10" cy="10" r="8" fill="none" stroke="currentColor" strokeWidth="3" strokeDasharray={`${doing.done * 50.3} 50.3`} />
          </svg>
          <span className="hidden lg:inline">{say`Measuring${queue.length > 0 ? say`, ${queue.length} more` : ''}`}</span>
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} className="z-30 w-72 border border-rule bg-paper p-3 text-sm text-ink shadow-lg">
          <p className="mb-1 font-semibold">{say`Measured in the background`}</p>
          <ol className="mb-3">
            <li className="flex justify-between gap-2">
              <span className="truncate">{doing.name}</span>
              <span className="num">{percent} %</span>
            </li>
            {queue.slice(0, 8).map(({ key, media }) => (
              <li key={key} className="truncate text-faint">
                {media.name}
              </li>
            ))}
            {queue.length > 8 && <li className="text-faint">{say`and ${queue.length - 8} more`}</li>}
          </ol>
          <p className="mb-3 text-faint">
            {say`It waits while the film plays. Broken off by a reload, it goes on from there when Takes is opened.`}
          </p>
          <Button onClick={() => void import('@/data/measure-queue').then((m) => m.stopMeasuring())}>{say`Stop measuring`}</Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
