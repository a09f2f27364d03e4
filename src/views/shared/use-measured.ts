'use client';
import { useEffect, useMemo } from 'react';
import { footageOf, type Project, type Take } from '@/core/document';
import { pairKey, stopMeasuring, wantMeasured } from '@/data/measure-queue';
import { type Pair, useMeasuring } from '@/data/measuring';
import { useProject } from '@/data/store';
import type { TakeMeasurement } from '@/media/measuring';

export interface Measured {
  /** Figures by take; what is known already comes at once. */
  measured: ReadonlyMap<string, TakeMeasurement>;
  doing: { text: string; done: number } | null;
  stop: () => void;
  again: () => void;
  problem: string;
}

/**
 * Has takes measured one after another, anew when the takes or their slots change or the user asks; it goes on when the page is left.
 * `choose` gives the takes in order, each with the take it is measured against.
 */
export function useMeasured(choose: (project: Project) => readonly { take: Take; against: Take | null }[]): Measured {
  const project = useProject((s) => s.project);
  const { measured, doing, problems } = useMeasuring();
  const takes =
    project?.takes
      .map((t) => `${t.id}:${t.mediaId}:${t.part?.from}-${t.part?.to}:${t.plan}:${t.slot}:${JSON.stringify(t.byHand ?? null)}`)
      .join() ?? '';
  // biome-ignore lint/correctness/useExhaustiveDependencies: made anew only when the list of takes changes
  const pairs = useMemo(() => {
    const { project: now } = useProject.getState();
    if (!now) return [];
    return choose(now).map(({ take, against }): Pair & { takeId: string } => ({
      takeId: take.id,
      media: footageOf(now, take.id),
      against: against && against.id !== take.id ? footageOf(now, against.id) : null,
    }));
  }, [takes, project?.id]);
  useEffect(() => wantMeasured(pairs), [pairs]);
  const keyed = pairs.map((pair) => ({ ...pair, key: pairKey(pair) }));
  const figures = new Map<string, TakeMeasurement>();
  for (const { takeId, key } of keyed) {
    const value = measured.get(key);
    if (value) figures.set(takeId, value);
  }
  return {
    measured: figures,
    doing: doing && keyed.some(({ key }) => key === doing.key) ? { text: `Measuring ${doing.name}`, done: doing.done } : null,
    stop: stopMeasuring,
    again: () => wantMeasured(pairs),
    problem: keyed.flatMap(({ key, media }) => (problems.has(key) ? [`${media.name}: ${problems.get(key)}`] : [])).join(' '),
  };
}
