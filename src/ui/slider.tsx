'use client';
import { Slider as RadixSlider } from 'radix-ui';
import { useEffect, useState } from 'react';

/** A slider that reports while it moves and commits when let go. */
export function Slider({
  label,
  value,
  min,
  max,
  step,
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  onChange: (v: number) => void;
}) {
  const [live, setLive] = useState(value);
  useEffect(() => setLive(value), [value]);
  return (
    <RadixSlider.Root
      className="relative flex h-11 w-full touch-none items-center sm:h-8"
      value={[live]}
      min={min}
      max={max}
      step={step}
      onValueChange={([v]) => setLive(v)}
      onValueCommit={([v]) => onChange(v)}
    >
      <RadixSlider.Track className="relative h-1 grow rounded-full bg-rule">
        <RadixSlider.Range className="absolute h-full rounded-full bg-ink" />
      </RadixSlider.Track>
      <RadixSlider.Thumb aria-label={label} className="block h-6 w-6 rounded-full border-2 border-ink bg-sheet" />
    </RadixSlider.Root>
  );
}
