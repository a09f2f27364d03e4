import type { Media, Project } from '@/core/document';
import { plannedSlots, proposeMove, takesOf } from '@/core/edit';
import { beatMapOf, shotAt } from '@/core/evaluate';
import { kindOf, type Move } from '@/core/moves';
import type { PlannedShot, Slot } from '@/core/plan';
import { anchorAtFrame } from '@/core/time';
import { say } from '@/core/words';
import { gatherFacts } from './facts';
import type { Progress } from './jobs';
import { isPlate, marginFor } from './media';
import { addShot } from './shots';
import { useProject } from './store';

/** The slots of a plan that a move is made of, in its order. */
export const wantedSlots = (project: Project, plan: PlannedShot, slots: readonly string[] | 'all'): Slot[] => {
  const all = plannedSlots(project, plan);
  return slots === 'all' ? all.filter((s) => s.plate === null) : slots.flatMap((id) => all.find((s) => s.id === id) ?? []);
};

/** The take for a slot: of several the best rated; of those the first slot's first (it was planned with it) and the others' latest try. */
export function takeOfSlot(project: Project, plan: PlannedShot, slot: string, i: number): string | null {
  const takes = project.takes.filter((t) => t.plan === plan.id && t.slot === slot);
  const best = Math.max(...takes.map((t) => t.rating));
  const rated = takes.filter((t) => t.rating === best);
  return (i === 0 ? rated[0] : rated.at(-1))?.id ?? null;
}

/** The takes of a plan's slots for a move, where each of them has one; else none. */
function plannedTakes(project: Project, kind: Move['kind']): string[] {
  const { planned } = kindOf({ kind });
  const plan = planned && project.plans.find((p) => p.recipe === planned.recipe);
  if (!plan || !planned) return [];
  const takes = wantedSlots(project, plan, planned.slots).map((slot, i) => takeOfSlot(project, plan, slot.id, i));
  return takes.includes(null) ? [] : takes.flatMap((id) => id ?? []);
}

/**
 * The takes a move would be made of when nothing is chosen: those of its planned slots where all are filled, those of the shot at the
 * playhead, then those with somebody in them.
 */
export function likelyTakes(project: Project, kind: Move['kind'], frame: number): string[] {
  const here = shotAt(project, frame);
  const acted = project.takes.filter((t) => !isPlate(project, t)).map((t) => t.id);
  return [
    ...new Set([
      ...plannedTakes(project, kind),
      ...(here && !kindOf({ kind }).mixes ? takesOf(here) : []),
      ...acted,
      ...project.takes.map((t) => t.id),
    ]),
  ];
}

/**
 * The takes a move is made of: those that are chosen, then likely ones; of a move that may have several, as many as are planned for it, else
 * `several`. One take may stand in for more than one.
 */
export function takesForMove(
  project: Project,
  kind: Move['kind'],
  frame: number,
  chosen: readonly (string | undefined)[],
  several: number | null,
): string[] {
  const { min, max, usual: mostly } = kindOf({ kind }).takes;
  const planned = plannedTakes(project, kind).length;
  // One that is mostly made of fewer takes has more only where their number is given: those chosen for another move do not join it.
  const usual = (max > 2 ? several : null) ?? (planned > 0 ? planned : (mostly ?? (max > 2 ? 3 : min)));
  const known = chosen.map((id) => (project.takes.some((t) => t.id === id) ? id : undefined));
  const picked = mostly === undefined ? known.findLastIndex((id) => id !== undefined) + 1 : 0;
  const count = Math.min(max, Math.max(min, usual, picked));
  const likely = likelyTakes(project, kind, frame);
  // What is chosen keeps its place, and what is not is filled up in order, the same again where there are too few.
  const left = likely.filter((id) => !known.includes(id));
  return Array.from({ length: count }, (_, i) => known[i] ?? left.shift() ?? likely[i % Math.max(1, likely.length)]).filter(
    (id) => id !== undefined,
  );
}

/** Lays a move on the score at the playhead's beat from some takes. Returns '' or what to know of it. Throws a sentence when it cannot be. */
export async function layMove(kind: Move['kind'], takes: readonly string[], onProgress: Progress): Promise<string> {
  const { project, playhead } = useProject.getState();
  if (!project) return say`No project is open.`;
  const { min } = kindOf({ kind }).takes;
  if (takes.length < min)
    return min === 1 ? say`Take in a film under Shoot first.` : say`This needs ${min} takes. Take them in under Shoot first.`;
  // Without a song it lies on the even beats that the score shows; a song's own take it along.
  const { beat } = anchorAtFrame(beatMapOf(project), playhead, project.frame.rate);
  return layMoveOn(kind, takes, Math.max(0, beat), onProgress);
}

/** Lays a move on a beat of the song. Returns '' or what to know of it. */
export async function layMoveOn(
  kind: Move['kind'],
  takes: readonly string[],
  beat: number,
  onProgress: Progress,
  name?: string,
): Promise<string> {
  const before = useProject.getState().project;
  if (!before) return say`No project is open.`;
  const { facts, media } = await gatherFacts(kindOf({ kind }).needs, { project: before, takes, angle: 0 }, onProgress);
  // What was corrected or laid meanwhile counts.
  const { project } = useProject.getState();
  if (project?.id !== before.id) return '';
  const { shot, said } = proposeMove(withFiles(project, media), crypto.randomUUID(), kind, beat, takes, facts, marginFor(project, takes));
  addShot(name ? { ...shot, name } : shot, media, project.id);
  return said;
}

/** The project with files that are about to be added to it. */
const withFiles = (project: Project, media: readonly Media[]): Project => ({
  ...project,
  media: [...project.media, ...media.filter((m) => !project.media.some((known) => known.id === m.id))],
});
