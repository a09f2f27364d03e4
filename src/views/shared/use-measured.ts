'use client';
import { useEffect, useMemo } from 'react';
import { footageOf, type Project, type Take } from '@/core/document';
import { pairKey, wantMeasured } from '@/data/measure-queue';
import { type Pair, useMeasuring } from '@/data/measuring';
import { useProject } from '@/data/store';
import type { TakeMeasurement } from '@/media/measuring';

export interface Measured {
  /** Figures by take; what is known already comes at once. */
  measured: ReadonlyMap<string, TakeMeasurement>;
  /** The pairs that are asked for; `MeasuringNow` tells how far they are. */
  keys: ReadonlySet<string>;
  busy: boolean;
  again: () => void;
  problem: string;
}

/**
 * Has takes measured one after another, anew when the takes or their slots change or the user asks; it goes on when the page is left.
 * `choose` gives the takes in order, each with the take it is measured against.
 */
export function useMeasured(choose: (project: Project) => readonly { take: Take; against: Take | null }[]): Measured {
  const project = useProject((s) => s.project);
  // Not how far it is: that changes several times a second, and only one line shows it.
  const measured = useMeasuring((s) => s.measured);
  const problems = useMeasuring((s) => s.problems);
  const takes =
    project?.takes
      .map((t) => `${t.id}:${t.mediaId}:${t.part?.from}-${t.part?.to}:${t.plan}:${t.slot}:${JSON.stringify(t.byHand ?? null)}`)
      .join() ?? '';
  // biome-ignore lint/correctness/useExhaustiveDependencies: made anew only when the list of takes changes
  const pairs = useMemo(() => {
    const { project: now } = useProject.getState();
    if (!now) return [];
    return choose(now).map(({ take, against }) => {
      const pair: Pair = { media: footageOf(now, take.id), against: against && against.id !== take.id ? footageOf(now, against.id) : null };
      return { ...pair, takeId: take.id, key: pairKey(pair) };
    });
  }, [takes, project?.id]);
  useEffect(() => wantMeasured(pairs), [pairs]);
  const keys = useMemo(() => new Set(pairs.map((p) => p.key)), [pairs]);
  const busy = useMeasuring((s) => s.doing !== null && keys.has(s.doing.key));
  const figures = new Map<string, TakeMeasurement>();
  for (const { takeId, key } of pairs) {
    const value = measured.get(key);
    if (value) figures.set(takeId, value);
  }
  return {
    measured: figures,
    keys,
    busy,
    again: () => wantMeasured(pairs),
    problem: pairs.flatMap(({ key, media }) => (problems.has(key) ? [`${media.name}: ${problems.get(key)}`] : [])).join(' '),
  };
}
