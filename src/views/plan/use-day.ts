'use client';
import { useEffect, useState } from 'react';
import type { Project } from '@/core/document';
import { plannedFrame, tempoOf } from '@/core/edit';
import type { PlannedOrder, PlannedShot, Timetable } from '@/core/plan';
import { Cancelled, planDay } from '@/data/jobs';

export interface Day {
  order: PlannedOrder;
  table: Timetable;
}

/** Order and timetable, worked out beside the page; the last ones stay until the new ones are there. */
export function useDay(project: Project, plan: PlannedShot): { day: Day | null; problem: string } {
  const [state, setState] = useState<{ id: string; day: Day | null; problem: string }>({ id: '', day: null, problem: '' });
  const tempo = JSON.stringify(tempoOf(project, plan));
  const { fps } = plannedFrame(project);
  useEffect(() => {
    const control = new AbortController();
    planDay(plan, JSON.parse(tempo), fps, control.signal).then(
      (day) => setState({ id: plan.id, day, problem: '' }),
      (error: unknown) => {
        if (!(error instanceof Cancelled))
          setState({ id: plan.id, day: null, problem: error instanceof Error ? error.message : String(error) });
      },
    );
    return () => control.abort();
  }, [plan, tempo, fps]);
  return state.id === plan.id ? state : { day: null, problem: '' };
}
