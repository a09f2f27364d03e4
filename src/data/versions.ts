import type { Project, Shot } from '@/core/document';
import { shownSpan } from '@/core/edit';
import { partAround, sceneOf } from '@/core/evaluate';
import type { Size } from '@/core/sources';
import { median } from '@/core/units';
import { Cancelled, type Progress } from './jobs';
import { courseOf } from './kept';
import { changeShot } from './shots';
import { edit } from './store';

/** Which part of a shot versions in other shapes show. */
export const setPart = (shotId: string, part: NonNullable<Shot['part']>): void =>
  changeShot(shotId, 'Choose what other shapes show', (shot) => ({ ...shot, part }));

/** Where the performers of a shot are in the middle, per cent of the frame, over the seconds it shows; null where nobody is found in its takes. */
async function middleOf(project: Project, shot: Shot, tell: Progress): Promise<{ x: number; y: number } | null> {
  const scene = sceneOf(project, shot);
  const places: { x: number; y: number }[] = [];
  for (const layer of shot.layers) {
    if (!layer.on || layer.source.kind !== 'take') continue;
    const [from, to] = shownSpan(scene, layer).sort((a, b) => a - b);
    const course = await courseOf(project, layer.source.takeId, tell).catch((error: unknown) => {
      if (error instanceof Cancelled) throw error;
      return [];
    });
    const seen = course.filter(({ source }) => source >= from - 0.05 && source <= to + 0.05);
    if (seen.length > 0) places.push({ x: median(seen.map((p) => p.x)), y: median(seen.map((p) => p.y)) });
  }
  if (places.length === 0) return null;
  const mean = (of: 'x' | 'y') => places.reduce((sum, p) => sum + p[of], 0) / places.length;
  return { x: mean('x'), y: mean('y') };
}

/** Lays the part that a version shows around the performers, in every shot in which they are found. Returns what to know of it. */
export async function followPerformers(project: Project, version: Size, tell: Progress, signal?: AbortSignal): Promise<string> {
  const parts = new Map<string, NonNullable<Shot['part']>>();
  for (const [i, shot] of project.shots.entries()) {
    const at = await middleOf(project, shot, (p) => tell((i + p) / project.shots.length));
    if (signal?.aborted) throw new Cancelled();
    if (at) parts.set(shot.id, partAround(project.frame, version, at.x, at.y));
  }
  if (parts.size === 0) return 'Nobody was found in any shot. Choose the part of each by hand.';
  edit(
    'Follow the performers',
    (draft) => {
      for (const shot of draft.shots) {
        const part = parts.get(shot.id);
        if (part) shot.part = part;
      }
    },
    project.id,
  );
  const left = project.shots.length - parts.size;
  return left > 0 ? `In ${left} of ${project.shots.length} shots nobody was found: they show what they did.` : '';
}
