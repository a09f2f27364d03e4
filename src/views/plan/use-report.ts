'use client';
import { useMemo } from 'react';
import type { Project } from '@/core/document';
import { plannedFrame, tempoOf } from '@/core/edit';
import { judgeSet, type PlannedShot, type SetReport } from '@/core/plan';

/** Everything worked out of a planned set, afresh whenever it changes. */
export function useReport(project: Project, plan: PlannedShot): SetReport {
  return useMemo(() => judgeSet(plan, tempoOf(project, plan), plannedFrame(project), project.units), [project, plan]);
}
