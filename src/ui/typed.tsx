'use client';
import { type InputHTMLAttributes, type ReactNode, useId, useState } from 'react';
import { say } from '@/core/words';

/**
 * The text of a field that is taken on Enter or when the field is left: `read` gives the value or null for nonsense,
 * which is refused with a sentence while the value stays. Arrow keys nudge.
 */
export function useTyped<T>(
  shown: string,
  read: (text: string) => T | null,
  example: string,
  onChange: (value: T) => void,
  nudge?: (direction: 1 | -1) => T | null,
): { input: InputHTMLAttributes<HTMLInputElement>; refusal: ReactNode } {
  const [text, setText] = useState<string | null>(null);
  const [refused, setRefused] = useState('');
  const note = useId();
  const commit = (raw: string) => {
    setText(null);
    if (raw.trim() === shown) return setRefused('');
    const value = read(raw);
    setRefused(value === null ? say`“${raw.trim().slice(0, 20)}” is not taken. Type for example ${example}.` : '');
    if (value !== null) onChange(value);
  };
  return {
    input: {
      value: text ?? shown,
      'aria-invalid': refused !== '',
      'aria-describedby': refused ? note : undefined,
      onChange: (e) => setText(e.target.value),
      onBlur: (e) => text !== null && commit(e.target.value),
      onKeyDown: (e) => {
        if (e.key === 'Enter') commit(e.currentTarget.value);
        if (e.key === 'Escape') {
          setText(null);
          setRefused('');
        }
        if (nudge && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
          e.preventDefault();
          const next = nudge(e.key === 'ArrowUp' ? 1 : -1);
          if (next !== null) onChange(next);
        }
      },
    },
    refusal: refused ? (
      <span id={note} role="alert" className="text-mark">
        {refused}
      </span>
    ) : null,
  };
}
