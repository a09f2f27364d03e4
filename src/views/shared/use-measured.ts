'use client';
import { useEffect, useRef, useState } from 'react';
import { footageOf, type Project, type Take } from '@/core/shot';
import { Cancelled } from '@/data/jobs';
import { takeMeasurement } from '@/data/media';
import { useProject } from '@/data/store';
import type { TakeMeasurement } from '@/media/measuring';
import { sentenceOf } from '@/media/sentence';

export interface Measured {
  /** Figures by take; what is known already comes at once. */
  measured: ReadonlyMap<string, TakeMeasurement>;
  doing: { text: string; done: number } | null;
  stop: () => void;
  again: () => void;
  problem: string;
}

/**
 * Measures takes one after another while the page is open, anew when the takes or their slots change or the user asks.
 * `choose` gives the takes in order, each with the take it is measured against.
 */
export function useMeasured(choose: (project: Project) => readonly { take: Take; against: Take | null }[]): Measured {
  const project = useProject((s) => s.project);
  const [measured, setMeasured] = useState<ReadonlyMap<string, TakeMeasurement>>(new Map());
  const [doing, setDoing] = useState<Measured['doing']>(null);
  const [problem, setProblem] = useState('');
  const [round, setRound] = useState(0);
  const stopper = useRef<AbortController | null>(null);
  const takes = project?.takes.map((t) => `${t.id}:${t.mediaId}:${t.part?.from}-${t.part?.to}:${t.plan}:${t.slot}`).join() ?? '';
  // biome-ignore lint/correctness/useExhaustiveDependencies: runs anew only when the list of takes changes or the user asks
  useEffect(() => {
    const { project: now } = useProject.getState();
    if (!now) return;
    const control = new AbortController();
    stopper.current = control;
    const problems: string[] = [];
    void (async () => {
      for (const { take, against } of choose(now)) {
        const media = footageOf(now, take.id);
        const other = against && against.id !== take.id ? footageOf(now, against.id) : null;
        const tell = (done: number) => setDoing({ text: `Measuring ${media.name}`, done });
        // One take that cannot be measured does not stop those after it.
        const value = await takeMeasurement(media, other, tell, control.signal).catch((error: unknown) => {
          if (error instanceof Cancelled) throw error;
          problems.push(`${media.name}: ${sentenceOf(error)}`);
          return null;
        });
        setProblem(problems.join(' '));
        if (value) setMeasured((m) => new Map(m).set(take.id, value));
      }
    })()
      .catch((error: unknown) => {
        if (!(error instanceof Cancelled)) setProblem(sentenceOf(error));
      })
      .finally(() => stopper.current === control && setDoing(null));
    return () => control.abort();
  }, [takes, round, project?.id]);
  return { measured, doing, stop: () => stopper.current?.abort(), again: () => setRound((n) => n + 1), problem };
}
