import type { Project } from '../document';
import { beatMapOf } from '../evaluate';
import { contextOf, type PlannedShot, recipeOf, type Slot, type Tempo } from '../plan';
import { type BeatMap, beatToSeconds, fps } from '../time';

/** How long a bar and a beat last where a planned shot lies in the song; 120 BPM in four while there is no song. */
export function tempoOf(project: Project, shot: PlannedShot): Tempo {
  const map: BeatMap = beatMapOf(project);
  const first = (shot.bar - 1) * map.beatsPerBar;
  const beats = Math.max(1, Math.round(shot.bars * map.beatsPerBar));
  const beatSeconds = (beatToSeconds(map, first + beats) - beatToSeconds(map, first)) / beats;
  return { beatSeconds, barSeconds: beatSeconds * map.beatsPerBar };
}

/** The slots of a planned shot in the recipe's own order. */
export function plannedSlots(project: Project, shot: PlannedShot): Slot[] {
  return recipeOf(shot).slots(contextOf(shot, tempoOf(project, shot)));
}

/** The film's size and rate as the plan's arithmetic takes it. */
export function plannedFrame(project: Project): { width: number; height: number; fps: number } {
  return { width: project.frame.width, height: project.frame.height, fps: fps(project.frame.rate) };
}
