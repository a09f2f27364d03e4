import type { Project, Shot } from '../document';
import { beatMapOf, shotFrames } from '../evaluate';
import { plainLayer, remapKeyAt } from '../layer';
import { anchorAtFrame, type BeatMap, barAndBeat, barToBeat, beatToSeconds, frameToSeconds, secondsToBeat } from '../time';
import type { Beats, Frames, Seconds } from '../units';
import { say } from '../words';
import { withStart } from './places';
import { plainShot } from './propose';

/** The shot some beats later with all that is in it; unchanged where it would begin before the song. */
export function movedShot(project: Project, shot: Shot, beats: Beats): Shot {
  const next = { ...shot, start: { ...shot.start, beat: shot.start.beat + beats }, end: { ...shot.end, beat: shot.end.beat + beats } };
  return shotFrames(project, next)[0] < 0 ? shot : next;
}

/** The shot with its first or last frame on another film frame; what is in it stays where it is. A shot keeps a frame at least. */
export function trimmedShot(project: Project, shot: Shot, side: 'start' | 'end', frame: Frames): Shot {
  const [first, end] = shotFrames(project, shot);
  const at = side === 'start' ? Math.min(Math.max(0, frame), end - 1) : Math.max(frame, first + 1);
  const anchor = anchorAtFrame(beatMapOf(project), at, project.frame.rate, 2);
  return side === 'start' ? withStart(shot, anchor) : { ...shot, end: anchor };
}

/** What a dragged edge or shot comes to rest on. */
export const SNAPS = ['beat', 'half beat', 'hit', 'frame'] as const;
export type Snap = (typeof SNAPS)[number];

/** The beat nearest to `beat` that the snap allows: whole beats, half beats, hits of the song (seconds, ascending), or frames. */
export function snapped(project: Project, beat: Beats, snap: Snap, hits: readonly Seconds[] = []): Beats {
  if (snap === 'beat') return Math.round(beat);
  if (snap === 'half beat') return Math.round(2 * beat) / 2;
  const map = beatMapOf(project);
  const { rate } = project.frame;
  const time = beatToSeconds(map, beat);
  if (snap === 'hit' && hits.length > 0)
    return secondsToBeat(
      map,
      hits.reduce((best, t) => (Math.abs(t - time) < Math.abs(best - time) ? t : best)),
    );
  return secondsToBeat(map, frameToSeconds(Math.round((time * rate.num) / rate.den), rate));
}

/** An anchor for a beat anywhere: itself on a half beat, else the nearest half beat and frames. */
export function anchorOn(map: BeatMap, beat: Beats, rate: Project['frame']['rate']): Shot['start'] {
  if (Math.abs(2 * beat - Math.round(2 * beat)) < 1e-6) return { beat: Math.round(2 * beat) / 2, offset: 0 };
  return anchorAtFrame(map, Math.round((beatToSeconds(map, beat) * rate.num) / rate.den), rate, 2);
}

/** A copy of a shot under a new id, some beats later. Layers keep their names, so its move can be run again. */
export function copiedShot(project: Project, shot: Shot, id: string, beats: Beats): Shot {
  return { ...structuredClone(movedShot(project, shot, beats)), id };
}

/** The beats by which copies lie later when a shot is repeated every `bars` bars up to `until`, itself not counted. */
export function repeats(project: Project, shot: Shot, bars: number, until: Beats): Beats[] {
  const map = beatMapOf(project);
  const length = shot.end.beat - shot.start.beat;
  const { bar, beat } = barAndBeat(map, shot.start.beat);
  const out: Beats[] = [];
  for (let k = bar + bars; ; k += bars) {
    const by = barToBeat(map, k) + beat - 1 - shot.start.beat;
    if (shot.start.beat + by + length > until + 1e-6) return out;
    out.push(by);
  }
}

/** Several shots put into one: a shot that spans them, with each as a layer where it lay. Null with fewer than one. */
export function shotOfShots(project: Project, shots: readonly Shot[], id: string): Shot | null {
  if (shots.length === 0) return null;
  const spans = shots.map((shot) => ({ shot, frames: shotFrames(project, shot) })).sort((a, b) => a.frames[0] - b.frames[0]);
  const [{ shot: firstShot }] = spans;
  const last = spans.reduce((a, b) => (b.frames[1] > a.frames[1] ? b : a)).shot;
  const inside = ({ beat, offset }: Shot['start']) => ({ beat: beat - firstShot.start.beat, offset });
  const name = shots.length === 1 ? firstShot.name : say`${firstShot.name} and more`;
  return plainShot(id, name, firstShot.start, last.end, {
    layers: spans.map(({ shot }, i) => {
      const from = inside(shot.start);
      return plainLayer(`shot${i + 1}`, shot.name, i % 12, { kind: 'shot', shotId: shot.id }, [remapKeyAt(from.beat, from.offset, 0)], {
        from,
        to: inside(shot.end),
      });
    }),
  });
}

/** The shots that are seen in a shot, however deep. */
function shotsWithin(project: Project, shot: Shot, seen = new Set<string>()): Set<string> {
  for (const { source } of shot.layers) {
    if (source.kind !== 'shot' || seen.has(source.shotId)) continue;
    seen.add(source.shotId);
    const inner = [...project.nestedShots, ...project.shots].find((s) => s.id === source.shotId);
    if (inner) shotsWithin(project, inner, seen);
  }
  return seen;
}

/** The shots that may be seen in a shot, each with its name and bar: those of the film that do not hold it, and those it shows already. */
export function shotsToShow(project: Project, shot: Shot): { id: string; text: string }[] {
  const map = beatMapOf(project);
  const own = shotsWithin(project, shot);
  const film = project.shots.filter((s) => s.id !== shot.id && !shotsWithin(project, s).has(shot.id));
  const shown = project.nestedShots.filter((s) => own.has(s.id));
  return [...film, ...shown].map((s) => ({ id: s.id, text: say`${s.name}, bar ${barAndBeat(map, s.start.beat).bar}` }));
}
