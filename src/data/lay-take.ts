import { footageOf, type Project } from '@/core/document';
import { anchorOn, posterFrame, proposePlain } from '@/core/edit';
import { beatMapOf } from '@/core/evaluate';
import { beatsPerBarAt, beatToSeconds, secondsToBeat } from '@/core/time';
import type { Beats } from '@/core/units';
import { seek } from './playback';
import { addShot } from './shots';
import { useProject } from './store';

/** How long a take that is laid by itself is shown: a bar, or whole beats of what there is of it, one at least. */
function lengthOf(project: Project, takeId: string, beat: Beats): Beats {
  const map = beatMapOf(project);
  const { from, to } = footageOf(project, takeId);
  const room = Math.floor(secondsToBeat(map, beatToSeconds(map, beat) + to - from) - beat + 1e-6);
  return Math.max(1, Math.min(beatsPerBarAt(map, beat), room));
}

/** Lays a take as a plain shot from a beat on, and shows it. */
export function layTake(takeId: string, beat: Beats): void {
  const { project } = useProject.getState();
  if (!project?.takes.some((t) => t.id === takeId)) return;
  const map = beatMapOf(project);
  const [start, end] = [beat, beat + lengthOf(project, takeId, beat)].map((at) => anchorOn(map, at, project.frame.rate));
  const made = proposePlain(project, crypto.randomUUID(), start, end, takeId);
  addShot(made);
  seek(posterFrame(project, made));
}
