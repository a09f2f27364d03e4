import type { Project } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import { kindOf, MOVES, type Move } from '@/core/moves';
import type { PlannedShot, Slot } from '@/core/plan';
import { barToBeat } from '@/core/time';
import { say } from '@/core/words';
import type { Progress } from './jobs';
import { layMoveOn, takeOfSlot, wantedSlots } from './moves';
import { correctOnReference } from './set-up';
import { useProject } from './store';

/** What of a planned shot can be laid on the score: its move, the takes there are for it, and the slots that have none. */
export interface Layable {
  kind: Move['kind'];
  takes: string[];
  missing: Slot[];
  /** Whether enough is there to lay it. */
  enough: boolean;
}

/** The move a planned shot becomes, and what there is of its takes; null for a recipe without a move. */
export function layable(project: Project, plan: PlannedShot): Layable | null {
  const known = MOVES.find(({ planned }) => planned?.recipe === plan.recipe);
  if (!known?.planned) return null;
  const slots = wantedSlots(project, plan, known.planned.slots);
  const found = slots.map((slot, i) => takeOfSlot(project, plan, slot.id, i));
  const takes = found.flatMap((id) => id ?? []);
  // The first slot is what it is about; without it the others are nothing.
  return {
    kind: known.kind,
    takes,
    missing: slots.filter((_, i) => found[i] === null),
    enough: takes.length >= known.takes.min && found[0] !== null,
  };
}

/** The planned shots of which enough is filmed to be laid. */
export const readyPlans = (project: Project): { plan: PlannedShot; kind: Move['kind']; missing: number }[] =>
  project.plans.flatMap((plan) => {
    const found = layable(project, plan);
    return found?.enough ? [{ plan, kind: found.kind, missing: found.missing.length }] : [];
  });

/** Takes that are mixed in one picture laid on their set-up's reference, where they are not yet. */
export async function corrected(takes: readonly string[], onProgress: Progress): Promise<void> {
  for (const [i, takeId] of takes.entries()) {
    const { project } = useProject.getState();
    const take = project?.takes.find((t) => t.id === takeId);
    if (!project || !take) continue;
    await correctOnReference(project, take, (p) => onProgress((i + p) / takes.length));
  }
}

/**
 * Lays a planned shot on the score where the plan says, its takes corrected and its recipe's move made of them. Returns what to know of it.
 * Throws a sentence where it cannot be laid.
 */
export async function layPlan(planId: string, onProgress: Progress): Promise<string> {
  const { project } = useProject.getState();
  const plan = project?.plans.find((p) => p.id === planId);
  if (!project || !plan) throw new Error(say`That planned shot is no longer in the project.`);
  const found = layable(project, plan);
  if (!found) throw new Error(say`There is no move for this recipe.`);
  const { kind, takes, missing, enough } = found;
  const names = missing.map((s) => `“${s.name}”`).join(', ');
  if (!enough) throw new Error(say`Still to be filmed: ${names}. The shot can be laid once they are there.`);
  const { mixes, planned } = kindOf({ kind });
  if (mixes) await corrected(takes, (p) => onProgress(0.4 * p));
  const at = planned?.beat ? plan.inputs[planned.beat] : undefined;
  const beat = barToBeat(beatMapOf(project), plan.bar) + (typeof at === 'number' ? Math.max(0, at - 1) : 0);
  const said = await layMoveOn(kind, takes, beat, (p) => onProgress(0.4 + 0.6 * p), plan.name);
  return [said, missing.length > 0 ? say`Laid without ${names}: lay it again when it is filmed.` : ''].filter(Boolean).join(' ');
}
