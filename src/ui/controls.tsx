'use client';
import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { say } from '@/core/words';
import { tapeStyle } from './tape';
import { useTyped } from './typed';

type Kind = 'main' | 'plain' | 'quiet';

const KINDS: Record<Kind, string> = {
  main: 'bg-ink text-sheet hover:opacity-90',
  plain: 'bg-sheet text-ink border border-rule hover:border-ink',
  quiet: 'text-ink hover:bg-rule/40',
};

/** A button at least 44 px high on touch screens. */
export function Button({ kind = 'plain', className = '', ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return (
    <button
      type="button"
      className={`inline-flex min-h-11 items-center justify-center gap-2 rounded-md px-3.5 text-[0.95rem] font-medium disabled:opacity-45 sm:min-h-9 ${KINDS[kind]} ${className}`}
      {...rest}
    />
  );
}

/** A box to tick with its name beside it. */
export function Tick({
  ticked,
  onTick,
  className = '',
  children,
}: {
  ticked: boolean;
  onTick: (ticked: boolean) => void;
  className?: string;
  children: ReactNode;
}) {
  return (
    <label className={`flex min-h-11 items-center gap-2 sm:min-h-9 ${className}`}>
      <input type="checkbox" className="h-4 w-4 accent-[var(--color-ink)]" checked={ticked} onChange={(e) => onTick(e.target.checked)} />
      {children}
    </label>
  );
}

/** A strip of tape with a name on it. */
export function Tape({ index, children }: { index: number; children: ReactNode }) {
  return (
    <span className="inline-flex items-center gap-2 font-medium">
      <span aria-hidden className="h-4 w-9 -rotate-2 rounded-[1px]" style={tapeStyle(index)} />
      {children}
    </span>
  );
}

const NOTES = {
  good: 'bg-good-soft text-good',
  fix: 'bg-warn-soft text-warn',
  unsure: 'bg-rule/50 text-ink',
  bad: 'bg-mark-soft text-mark',
} as const;

/** A sentence that judges or warns. */
export function Note({ level, children }: { level: keyof typeof NOTES; children: ReactNode }) {
  return <p className={`rounded-md px-3 py-2 ${NOTES[level]}`}>{children}</p>;
}

/** What is being done, how far it is, and a way to stop it. */
export function Working({ text, done, onStop }: { text: string; done: number; onStop?: () => void }) {
  return (
    <div className="flex items-center gap-3">
      <div className="grow">
        <div className="mb-1 text-sm">
          {/* Nothing is known yet while it is 0: what was begun before goes on from where it was. */}
          {text} {done > 0 && <span className="num">{Math.round(done * 100)} %</span>}
        </div>
        <div
          role="progressbar"
          aria-label={text}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(done * 100)}
          className="h-2 overflow-hidden rounded-full bg-rule"
        >
          <div className="h-full bg-mark" style={{ width: `${done * 100}%` }} />
        </div>
      </div>
      {onStop && <Button onClick={onStop}>{say`Stop`}</Button>}
    </div>
  );
}

interface NumberFieldProps {
  label: string;
  unit: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  digits?: number;
  onChange: (value: number) => void;
}

/** A number with its unit: typed, or nudged by arrow keys. Nonsense and what is out of range are refused with a sentence. */
export function NumberField({ label, unit, value, min, max, step = 1, digits = 0, onChange }: NumberFieldProps) {
  const within = (v: number) => (Number.isFinite(v) && v >= min - 1e-9 && v <= max + 1e-9 ? v : null);
  const { input, refusal } = useTyped(
    value.toFixed(digits),
    (raw) => {
      const text = raw.trim().replace(',', '.').replace('−', '-');
      const bare = unit && text.endsWith(unit) ? text.slice(0, -unit.length).trim() : text;
      return bare === '' ? null : within(Number(bare));
    },
    say`${Math.min(max, Math.max(min, value)).toFixed(digits)} (${min} to ${max})`,
    onChange,
    (direction) => within(Math.min(max, Math.max(min, value + direction * step))),
  );
  return (
    <div className="flex min-w-0 flex-col gap-0.5 text-sm text-faint">
      <label className="flex flex-col gap-0.5">
        {label}
        <span className="flex items-center rounded-md border border-rule bg-sheet focus-within:border-ink">
          <input
            className="num min-h-11 w-16 min-w-0 grow bg-transparent px-2 text-ink sm:min-h-9"
            inputMode="decimal"
            aria-label={unit ? say`${label} in ${unit}` : label}
            {...input}
          />
          <span className="num pr-2 text-faint">{unit}</span>
        </span>
      </label>
      {refusal}
    </div>
  );
}

/** A heading with the user's question of the stage under it. */
export function Heading({ title, question }: { title: string; question: string }) {
  return (
    <header className="mb-4">
      <h1 className="text-2xl font-semibold leading-tight">{title}</h1>
      <p className="text-faint">{question}</p>
    </header>
  );
}

/** What to do when there is nothing here yet. */
export function Empty({ text, children }: { text: string; children?: ReactNode }) {
  return (
    <div className="mx-auto my-10 flex max-w-md flex-col items-center gap-4 text-center">
      <svg viewBox="0 0 120 60" className="w-40 text-rule" aria-hidden>
        <path d="M4 14 H96 A10 10 0 0 1 96 34 H24 A8 8 0 0 0 24 50 H116" fill="none" stroke="currentColor" strokeWidth="9" />
      </svg>
      <p>{text}</p>
      {children}
    </div>
  );
}
