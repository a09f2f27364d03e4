import type { Project } from '@/core/document';
import { proposeMove, takesOf } from '@/core/edit';
import { shotAt } from '@/core/evaluate';
import { kindOf, type Move } from '@/core/moves';
import { anchorAtFrame } from '@/core/time';
import { gatherFacts } from './facts';
import type { Progress } from './jobs';
import { isPlate, marginFor } from './media';
import { addShot } from './shots';
import { useProject } from './store';

/**
 * The takes a move would be made of when nothing is chosen: those of its planned slots where all are filled, those of the shot at the
 * playhead, then those with somebody in them.
 */
export function likelyTakes(project: Project, kind: Move['kind'], frame: number): string[] {
  const here = shotAt(project, frame);
  const { planned, mixes } = kindOf({ kind });
  const plan = planned && project.plans.find((p) => p.recipe === planned.recipe);
  // Of several takes of a slot the first is the one it was planned with; the last slot has the latest try.
  const inSlot = (slot: string, i: number) => {
    const takes = project.takes.filter((t) => plan && t.plan === plan.id && t.slot === slot);
    return (i === 0 ? takes[0] : takes.at(-1))?.id ?? [];
  };
  const slots = planned?.slots.flatMap(inSlot) ?? [];
  const acted = project.takes.filter((t) => !isPlate(project, t)).map((t) => t.id);
  return [
    ...new Set([
      ...(slots.length === planned?.slots.length ? slots : []),
      ...(here && !mixes ? takesOf(here) : []),
      ...acted,
      ...project.takes.map((t) => t.id),
    ]),
  ];
}

/** Lays a move on the score at the playhead's beat from some takes. Returns '' or what to know of it. Throws a sentence when it cannot be. */
export async function layMove(kind: Move['kind'], takes: readonly string[], onProgress: Progress): Promise<string> {
  const { project, playhead } = useProject.getState();
  if (!project) return 'No project is open.';
  const { min } = kindOf({ kind }).takes;
  if (takes.length < min)
    return min === 1 ? 'Take in a film under Shoot first.' : `This needs ${min} takes. Take them in under Shoot first.`;
  if (!project.song?.map) return 'There is no beat to put it on yet. Take in a song, or tap its beat, under Song.';
  const { beat } = anchorAtFrame(project.song.map, playhead, project.frame.rate);
  const { facts, media } = await gatherFacts(kindOf({ kind }).needs, { project, takes, angle: 0 }, onProgress);
  const { shot, said } = proposeMove(project, crypto.randomUUID(), kind, Math.max(0, beat), takes, facts, marginFor(project, takes));
  addShot(shot, media, project.id);
  return said;
}
