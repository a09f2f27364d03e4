import type { Project, Shot } from '../document';
import { type Anchor, anchorAtFrame, type BeatMap, beatToSeconds, fps, resolveAnchor, secondsToBeat } from '../time';
import type { Beats } from '../units';
import { withPlaces } from './places';

/** What hangs on the beats of a song. */
export interface Retimed {
  shots: Project['shots'];
  nestedShots: Project['nestedShots'];
  parts: NonNullable<Project['song']>['parts'];
  sound: Project['sound'];
}

/** The same instants on a changed beat map: all that hangs on the song is laid on the beat division nearest to where it was. */
export function retimed(project: Project, from: BeatMap, to: BeatMap): Retimed {
  const { rate } = project.frame;
  const at = (beat: Beats) => secondsToBeat(to, beatToSeconds(from, beat));
  const again = (anchor: Anchor): Anchor => {
    // What lies between half beats follows a movement, not the beat.
    if (Math.abs(2 * anchor.beat - Math.round(2 * anchor.beat)) > 1e-6) return { beat: at(anchor.beat), offset: anchor.offset };
    const frame = resolveAnchor(from, anchor, rate);
    const next = anchorAtFrame(to, frame, rate, 2);
    return Math.abs(next.offset) <= Math.ceil(fps(rate) / 12) ? { beat: next.beat, offset: anchor.offset } : next;
  };
  const keyed = <Thread extends { gains: { beat: Beats; gain: number }[] }>(thread: Thread): Thread => ({
    ...thread,
    gains: thread.gains.map((key) => ({ ...key, beat: at(key.beat) })),
  });
  const { sound } = project;
  const shotsAgain = (shots: Shot[]) => shots.map((shot) => withPlaces(shot, again));
  return {
    shots: shotsAgain(project.shots),
    nestedShots: shotsAgain(project.nestedShots),
    parts: (project.song?.parts ?? []).map((part) => ({ ...part, beat: Math.round(at(part.beat)) })),
    sound: {
      song: keyed(sound.song),
      takes: keyed(sound.takes),
      effects: keyed(sound.effects),
      clips: sound.clips.map((clip) => ({ ...clip, start: again(clip.start) })),
    },
  };
}
