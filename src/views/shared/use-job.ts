'use client';
import { useEffect, useRef, useState } from 'react';
import { Cancelled, type Progress } from '@/data/jobs';

/** One long job of a part of the page: what it does, how far it is, a way to stop it, and what went wrong. */
export function useJob() {
  const [doing, setDoing] = useState<{ text: string; done: number } | null>(null);
  const [problem, setProblem] = useState('');
  const control = useRef<AbortController | null>(null);
  useEffect(() => () => control.current?.abort(), []);
  const run = async <T>(text: string, work: (tell: Progress, signal: AbortSignal) => Promise<T>): Promise<T | null> => {
    control.current?.abort();
    const own = new AbortController();
    control.current = own;
    setProblem('');
    setDoing({ text, done: 0 });
    try {
      return await work((done) => control.current === own && setDoing({ text, done }), own.signal);
    } catch (error) {
      if (!(error instanceof Cancelled) && !own.signal.aborted) setProblem(error instanceof Error ? error.message : String(error));
      return null;
    } finally {
      if (control.current === own) setDoing(null);
    }
  };
  return { doing, problem, run, stop: () => control.current?.abort() };
}
