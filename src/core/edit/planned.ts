import type { Project } from '../document';
import { beatMapOf } from '../evaluate';
import { contextOf, type PlannedShot, recipeOf, type Slot, type Tempo } from '../plan';
import { type BeatMap, barToBeat, beatToSeconds, fps } from '../time';

/** How long a bar and a beat last where a planned shot lies in the song; 120 BPM in four while there is no song. */
export function tempoOf(project: Project, shot: PlannedShot): Tempo {
  const map: BeatMap = beatMapOf(project);
  const [first, end] = [barToBeat(map, shot.bar), barToBeat(map, shot.bar + shot.bars)];
  const seconds = Math.max(1e-3, beatToSeconds(map, end) - beatToSeconds(map, first));
  return { beatSeconds: seconds / (end - first), barSeconds: seconds / shot.bars };
}

/** The slots of a planned shot in the recipe's own order. */
export function plannedSlots(project: Project, shot: PlannedShot): Slot[] {
  return recipeOf(shot).slots(contextOf(shot, tempoOf(project, shot)));
}

/** The film's size and rate as the plan's arithmetic takes it. */
export function plannedFrame(project: Project): { width: number; height: number; fps: number } {
  return { width: project.frame.width, height: project.frame.height, fps: fps(project.frame.rate) };
}
