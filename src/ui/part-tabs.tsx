'use client';
import { Tabs } from 'radix-ui';
import type { ReactNode } from 'react';

/** The parts of a stage side by side, one shown at a time; only that one is there. */
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
  return (
    <Tabs.Root defaultValue={parts[0][0]} value={value} onValueChange={onValue}>
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
      {parts.map(([key]) => (
        <Tabs.Content key={key} value={key} className="print-flow">
          {children(key)}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
