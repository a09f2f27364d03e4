import type { Project, Shot } from '../document';
import { type Layer, placeFrame, type Scene } from '../layer';
import { type BeatMap, constantBeatMap, resolveAnchor } from '../time';
import type { Frames } from '../units';

/** The song's beats, or 120 BPM from 0 s while there is no song, so that a film can be made without one. */
export function beatMapOf(project: Project): BeatMap {
  return project.song?.map ?? NO_SONG;
}
const NO_SONG = constantBeatMap(120, 0, 240);

/** The shot that lies over the whole film; null where there is none. */
export const shotOverAll = ({ overAll, nestedShots }: Project): Shot | null =>
  (overAll !== undefined && nestedShots.find((s) => s.id === overAll)) || null;

/** The film: from the first shot's start to the last shot's end, or the whole song when there is no shot. */
export function filmFrames(project: Project): [Frames, Frames] {
  const spans = project.shots.map((shot) => shotFrames(project, shot));
  if (spans.length > 0) return [Math.min(...spans.map((s) => s[0])), Math.max(...spans.map((s) => s[1]))];
  const song = project.media.find((m) => m.id === project.song?.mediaId);
  return [0, song ? Math.ceil((song.duration * project.frame.rate.num) / project.frame.rate.den) : 0];
}

/** First frame of the shot and the frame after its last; of the one over the whole film those of the film. */
export function shotFrames(project: Project, shot: Shot): [Frames, Frames] {
  if (shot.id === project.overAll) return filmFrames(project);
  const map = beatMapOf(project);
  const { rate } = project.frame;
  const first = resolveAnchor(map, shot.start, rate);
  return [first, Math.max(first + 1, resolveAnchor(map, shot.end, rate))];
}

/** The layer that shows an inner shot, and the shot it is in; of several the first. Null for a shot on the score. */
export function holderOf(project: Project, shotId: string): { shot: Shot; layer: Layer } | null {
  if (!project.nestedShots.some((s) => s.id === shotId)) return null;
  for (const shot of [...project.shots, ...project.nestedShots]) {
    const layer = shot.layers.find((l) => l.source.kind === 'shot' && l.source.shotId === shotId);
    if (layer) return { shot, layer };
  }
  return null;
}

/** An inner shot where a layer of another shows it: it begins on the beat its layer begins on, so its keys hang on the song there. */
export function sceneWithin(project: Project, outer: Scene, layer: Layer, inner: Shot): Scene {
  const first = placeFrame(outer, layer.from ?? { beat: 0, offset: 0 });
  const [ownFirst, ownEnd] = shotFrames(project, inner);
  return { ...outer, beat: outer.beat + (layer.from?.beat ?? 0), first, end: first + ownEnd - ownFirst };
}

/** The shot as it lies on the score, or within the shot that shows it. */
export function sceneOf(project: Project, shot: Shot): Scene {
  const use = holderOf(project, shot.id);
  if (use) return sceneWithin(project, sceneOf(project, use.shot), use.layer, shot);
  const [first, end] = shotFrames(project, shot);
  return { map: beatMapOf(project), rate: project.frame.rate, beat: shot.start.beat, first, end };
}
