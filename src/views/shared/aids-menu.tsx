'use client';
import { Eye } from 'lucide-react';
import { Popover } from 'radix-ui';
import { say } from '@/core/words';
import { Button, NumberField, Tick } from '@/ui/controls';
import { usePlace } from './filled-window';
import { noAids, usePictureAids } from './picture-aids';

/** Frames that are seen through the picture at most. */
const FAR = 48;

/** What is shown over the film's picture, chosen; nothing of it is in the film. */
export function AidsMenu() {
  const aids = usePictureAids();
  const place = usePlace();
  const set = usePictureAids.setState;
  const on = aids.guides || aids.safe || aids.scopes || aids.bare || aids.before > 0 || aids.after > 0;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button aria-label={say`Shown over the picture`} aria-pressed={on} className={on ? 'border-mark text-mark' : ''}>
          <Eye size={18} aria-hidden />
        </Button>
      </Popover.Trigger>
      <Popover.Portal container={place}>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-[70dvh] w-72 overflow-y-auto rounded-lg border border-rule bg-sheet p-3 shadow-lg"
        >
          <p className="mb-1 font-semibold">{say`Over the picture`}</p>
          <p className="mb-2 text-sm text-faint">{say`To look by; not in the film.`}</p>
          <Tick ticked={aids.guides} onTick={(guides) => set({ guides })}>
            {say`Thirds and the middle`}
          </Tick>
          <Tick ticked={aids.safe} onTick={(safe) => set({ safe })}>
            {say`Safe areas`}
          </Tick>
          <Tick ticked={aids.scopes} onTick={(scopes) => set({ scopes })}>
            {say`Waveform, vectorscope, histogram`}
          </Tick>
          <Tick ticked={aids.bare} onTick={(bare) => set({ bare })}>
            {say`Before: no masks, no effects`}
          </Tick>
          <p className="mt-2 text-sm text-faint">{say`Onion skin: frames seen through the picture, 0 for none`}</p>
          <div className="flex gap-2">
            <NumberField label={say`Before`} unit="f" value={aids.before} min={0} max={FAR} onChange={(before) => set({ before })} />
            <NumberField label={say`After`} unit="f" value={aids.after} min={0} max={FAR} onChange={(after) => set({ after })} />
          </div>
          {on && (
            <Button className="mt-3" onClick={noAids}>
              {say`None of these`}
            </Button>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
