'use client';
import { useState } from 'react';

/** What it gives as text is said. */
type Work = (tell: (done: number) => void) => Promise<unknown>;

/** Work that takes a while: how far it is, and what it said or what went wrong. */
export function useDoing(): { doing: number | null; said: string; start: (work: Work) => void } {
  const [doing, setDoing] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const start = (work: Work) => {
    setDoing(0);
    setSaid('');
    work(setDoing)
      .then((text) => setSaid(typeof text === 'string' ? text : ''))
      .catch((error: unknown) => setSaid(error instanceof Error ? error.message : String(error)))
      .finally(() => setDoing(null));
  };
  return { doing, said, start };
}
