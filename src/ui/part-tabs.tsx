'use client';
import { Tabs } from 'radix-ui';
import { Fragment, type ReactNode, useDeferredValue, useState } from 'react';

/**
 * The parts of a stage side by side, one shown at a time; only that one is there. A part that is pressed is marked at
 * once; what it holds takes the place of the part before when it is ready, so that a large one keeps no press waiting.
 */
export function PartTabs({
  label,
  parts,
  value,
  onValue,
  children,
}: {
  label: string;
  /** Key and name of each part; the first is shown to begin with. */
  parts: readonly (readonly [string, string])[];
  /** The key shown and what to do when another is chosen, where the stage keeps that itself. */
  value?: string;
  onValue?: (key: string) => void;
  children: (key: string) => ReactNode;
}) {
  const [own, setOwn] = useState<string>(parts[0][0]);
  const asked = value ?? own;
  const shown = useDeferredValue(asked);
  return (
    <Tabs.Root value={asked} onValueChange={onValue ?? setOwn}>
      <Tabs.List aria-label={label} className="no-print mb-4 flex overflow-x-auto border-b border-rule">
        {parts.map(([key, name]) => (
          <Tabs.Trigger
            key={key}
            value={key}
            className="min-h-11 shrink-0 px-3 text-faint data-[state=active]:border-b-4 data-[state=active]:border-mark data-[state=active]:font-semibold data-[state=active]:text-ink sm:px-4"
          >
            {name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {/* One and the same place for whichever part is there: it stays until the next one is. */}
      <Tabs.Content value={asked} className="print-flow" aria-busy={shown !== asked}>
        <Fragment key={shown}>{children(shown)}</Fragment>
      </Tabs.Content>
    </Tabs.Root>
  );
}
