import type { Project, Shot } from '@/core/document';
import { panAlong, shownSpan, stillPart, withoutPartKey, withPartKey } from '@/core/edit';
import { layerSecond, type PartPlace, partAround, partOf, sceneOf } from '@/core/evaluate';
import { placeFrame } from '@/core/layer';
import type { Size } from '@/core/sources';
import { median } from '@/core/units';
import { say } from '@/core/words';
import { Cancelled, type Progress } from './jobs';
import { courseOf } from './kept';
import { changeShot } from './shots';
import { edit } from './store';

type PartKey = NonNullable<Shot['part']>[number];

/** Which part of a shot versions in other shapes show: as a whole, or where it pans, from a film frame on. */
export const setPart = (shotId: string, at: PartPlace, frame: number): void =>
  changeShot(shotId, say`Choose what other shapes show`, (shot, project) => ({
    ...shot,
    part: shot.part && shot.part.length > 1 ? withPartKey(sceneOf(project, shot), shot.part, frame, at) : stillPart(at),
  }));

/** A key of the part on a film frame, where it lies there now: from two keys on it pans. */
export const keyPart = (shotId: string, frame: number, easing?: PartKey['easing']): void =>
  changeShot(shotId, easing ? say`Ease a pan` : say`Set a key of the pan`, (shot, project) => {
    const scene = sceneOf(project, shot);
    return { ...shot, part: withPartKey(scene, shot.part ?? [], frame, partOf(project, shot, frame), easing) };
  });

/** Removes the key of the part on a film frame. */
export const unkeyPart = (shotId: string, frame: number): void =>
  changeShot(shotId, say`Remove a key of the pan`, (shot, project) =>
    shot.part ? { ...shot, part: withoutPartKey(sceneOf(project, shot), shot.part, frame) } : shot,
  );

/** Film frames of the keys of a shot's part. */
export const partFrames = (project: Project, shot: Shot): number[] => {
  const scene = sceneOf(project, shot);
  return (shot.part ?? []).map((key) => placeFrame(scene, key));
};

/** Seconds around a moment whose middle place counts: a step to the side and back is not followed. */
const EVENED = 0.4;

/**
 * Where the performers of a shot are, per cent of the frame, over the seconds it shows or about a film frame; null where nobody is found in
 * its takes.
 */
async function performersOf(project: Project, shot: Shot, tell: Progress): Promise<((frame: number | null) => PartPlace) | null> {
  const scene = sceneOf(project, shot);
  const found: ((frame: number | null) => PartPlace)[] = [];
  for (const layer of shot.layers) {
    if (!layer.on || layer.source.kind !== 'take') continue;
    const [from, to] = shownSpan(scene, layer).sort((a, b) => a - b);
    const course = await courseOf(project, layer.source.takeId, tell).catch((error: unknown) => {
      if (error instanceof Cancelled) throw error;
      return [];
    });
    const seen = course.filter(({ source }) => source >= from - 0.05 && source <= to + 0.05);
    if (seen.length === 0) continue;
    found.push((frame) => {
      const second = frame === null ? 0 : layerSecond(project, scene, layer, frame);
      const near = frame === null ? seen : seen.filter(({ source }) => Math.abs(source - second) <= EVENED);
      const [nearest] = seen.toSorted((a, b) => Math.abs(a.source - second) - Math.abs(b.source - second));
      const places = near.length > 0 ? near : [nearest];
      return { x: median(places.map((p) => p.x)), y: median(places.map((p) => p.y)) };
    });
  }
  if (found.length === 0) return null;
  return (frame) => {
    const places = found.map((at) => at(frame));
    const mean = (of: 'x' | 'y') => places.reduce((sum, p) => sum + p[of], 0) / places.length;
    return { x: mean('x'), y: mean('y') };
  };
}

/** Times a beat at which a pan looks where the performers are, and how far it may be off between, per cent. */
const LOOKS = 2;
const TOLERANCE = 4;

/** The part of a shot around its performers: where they are in the middle, or panning along with them. */
function partFor(project: Project, shot: Shot, version: Size, at: (frame: number | null) => PartPlace, pan: boolean): PartKey[] {
  const around = (frame: number | null) => {
    const { x, y } = at(frame);
    return partAround(project.frame, version, x, y);
  };
  if (!pan) return stillPart(around(null));
  const scene = sceneOf(project, shot);
  const beats = Math.max(1, Math.round((shot.end.beat - shot.start.beat) * LOOKS));
  const frames = Array.from({ length: beats + 1 }, (_, i) => Math.round(scene.first + (i / beats) * (scene.end - 1 - scene.first)));
  return panAlong(scene, [...new Set(frames)], around, TOLERANCE);
}

/** Lays the part that a version shows around the performers, in every shot in which they are found; with `pan` along with them. Returns what to know of it. */
export async function followPerformers(
  project: Project,
  version: Size,
  pan: boolean,
  tell: Progress,
  signal?: AbortSignal,
): Promise<string> {
  const parts = new Map<string, NonNullable<Shot['part']>>();
  for (const [i, shot] of project.shots.entries()) {
    const at = await performersOf(project, shot, (p) => tell((i + p) / project.shots.length));
    if (signal?.aborted) throw new Cancelled();
    if (at) parts.set(shot.id, partFor(project, shot, version, at, pan));
  }
  if (parts.size === 0) return say`Nobody was found in any shot. Choose the part of each by hand.`;
  edit(
    say`Follow the performers`,
    (draft) => {
      for (const shot of draft.shots) {
        const part = parts.get(shot.id);
        if (part) shot.part = part;
      }
    },
    project.id,
  );
  const left = project.shots.length - parts.size;
  return left > 0 ? say`In ${left} of ${project.shots.length} shots nobody was found: they show what they did.` : '';
}
