'use client';
import type { ReactNode } from 'react';
import { useTyped } from './typed';

interface ValueFieldProps<T> {
  label: string;
  /** The value as it is shown, unit included. */
  shown: string;
  /** Reads what was typed; null for nonsense. */
  read: (text: string) => T | null;
  /** What could be typed, for the sentence when nothing fits. */
  example: string;
  onChange: (value: T) => void;
  /** The next value for the up (1) and down (-1) arrow keys. */
  nudge?: (direction: 1 | -1) => T;
}

/** A value in the user's own words: "2.4 m", "f/8", "1/50". What cannot be read is said so, and the value stays. */
export function ValueField<T>({ label, shown, read, example, onChange, nudge }: ValueFieldProps<T>) {
  const { input, refusal } = useTyped(shown, read, example, onChange, nudge);
  return (
    <div className="flex min-w-0 flex-col gap-0.5 text-sm text-faint">
      <label className="flex flex-col gap-0.5">
        {label}
        <input
          className="num min-h-11 w-full min-w-0 rounded-md border border-rule bg-sheet px-2 text-ink focus:border-ink sm:min-h-9"
          onFocus={(e) => e.target.select()}
          {...input}
        />
      </label>
      {refusal}
    </div>
  );
}

/** A choice from a short list. */
export function SelectField({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <label className="flex min-w-0 flex-col gap-0.5 text-sm text-faint">
      {label}
      <select
        className="min-h-11 w-full min-w-0 rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      >
        {options.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A line of text, taken when the field is left. Empty is not taken unless `optional`. */
export function TextField({
  label,
  value,
  onChange,
  optional = false,
  max = 100,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  optional?: boolean;
  max?: number;
}) {
  return (
    <label className="flex min-w-0 flex-col gap-0.5 text-sm text-faint">
      {label}
      <input
        className="min-h-11 w-full min-w-0 rounded-md border border-rule bg-sheet px-2 text-ink focus:border-ink sm:min-h-9"
        defaultValue={value}
        key={value}
        maxLength={max}
        onBlur={(e) => {
          const next = e.target.value.trim();
          if (next !== value && (next || optional)) onChange(next);
          else e.target.value = value;
        }}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
    </label>
  );
}

/** Several lines of text, taken when the field is left. */
export function LinesField({
  label,
  value,
  onChange,
  max = 2000,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  max?: number;
}) {
  return (
    <label className="flex min-w-0 flex-col gap-0.5 text-sm text-faint">
      {label}
      <textarea
        className="min-h-16 w-full min-w-0 rounded-md border border-rule bg-sheet px-2 py-1.5 text-ink focus:border-ink"
        rows={Math.min(6, Math.max(2, value.split('\n').length))}
        dir="auto"
        defaultValue={value}
        key={value}
        maxLength={max}
        onBlur={(e) => e.target.value !== value && onChange(e.target.value)}
        onKeyDown={(e) => e.stopPropagation()}
      />
    </label>
  );
}

/** Something that is so or not. */
export function TickField({ label, value, onChange }: { label: ReactNode; value: boolean; onChange: (value: boolean) => void }) {
  return (
    <label className="flex min-h-11 items-center gap-3">
      <input type="checkbox" className="h-5 w-5 accent-[var(--color-ink)]" checked={value} onChange={(e) => onChange(e.target.checked)} />
      {label}
    </label>
  );
}
