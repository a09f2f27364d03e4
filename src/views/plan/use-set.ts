'use client';
import { type RefObject, useEffect, useMemo } from 'react';
import type { Project } from '@/core/document';
import { tempoOf } from '@/core/edit';
import { contextOf, type PlanContext, type PlannedShot } from '@/core/plan';

/** What the recipe's functions look at. */
export function usePlanContext(project: Project, plan: PlannedShot): PlanContext {
  return useMemo(() => contextOf(plan, tempoOf(project, plan)), [project, plan]);
}

/** Something on the set that can be picked and dragged. */
export interface Picked {
  kind: 'place' | 'prop' | 'lamp';
  id: string;
}

/** The list a picked thing stands in. */
export function thingsOf(plan: PlannedShot, kind: Picked['kind']): { id: string; name: string; x: number; z: number }[] {
  return { place: plan.places, prop: plan.props, lamp: plan.lamps }[kind];
}

/** The plan with a thing at another spot; x and z within the room, to whole centimetres. */
export function movedThing(plan: PlannedShot, picked: Picked, x: number, z: number, height?: number): PlannedShot {
  const { left, right, back } = plan.room;
  const to = {
    x: Math.round(100 * Math.min(right, Math.max(-left, x))) / 100,
    z: Math.round(100 * Math.min(back, Math.max(0.3, z))) / 100,
  };
  const move = <T extends { id: string }>(list: T[]) => list.map((t) => (t.id === picked.id ? { ...t, ...to } : t));
  if (picked.kind === 'place') return { ...plan, places: move(plan.places) };
  if (picked.kind === 'prop') return { ...plan, props: move(plan.props) };
  return {
    ...plan,
    lamps: move(plan.lamps).map((l) =>
      l.id === picked.id && height !== undefined ? { ...l, height: Math.round(100 * Math.min(6, Math.max(0.2, height))) / 100 } : l,
    ),
  };
}

/**
 * Keeps the page from scrolling while a finger drags something of class `grip`; elsewhere on the drawing it scrolls.
 * touch-action has no effect on the parts of an SVG, so the touch itself is held back.
 */
export function useGrip(drawing: RefObject<SVGSVGElement | null>): void {
  useEffect(() => {
    const svg = drawing.current;
    const hold = (e: TouchEvent) => {
      if (e.target instanceof Element && e.target.closest('.grip')) e.preventDefault();
    };
    svg?.addEventListener('touchstart', hold, { passive: false });
    return () => svg?.removeEventListener('touchstart', hold);
  }, [drawing]);
}
