import type { Project, Shot } from '../document';
import { type Alignment, slid } from '../song';
import {
  type Anchor,
  type BeatMap,
  barAndBeat,
  barToBeat,
  beatToSeconds,
  isDownbeat,
  movedChanges,
  nearestBarLine,
  secondsToBeat,
} from '../time';
import { type Beats, median, type Seconds } from '../units';
import { say } from '../words';
import { withPlaces } from './places';

/** What became of a project whose song was replaced by another mix of it. */
export interface RetimedProject {
  map: BeatMap;
  shots: Shot[];
  /** Shots that have no place any more, as they were. */
  unplacedShots: Shot[];
  parts: { beat: Beats; name: string; tape: number }[];
  sound: Project['sound'];
  plans: Project['plans'];
  /** In words: what has no place any more. */
  lost: string[];
}

/** Where the beats of the old map are in the new recording, in its order; what lies between is filled from its own beats, or evenly. */
function retimedMap(
  map: BeatMap,
  alignment: Alignment,
  fresh: BeatMap | null,
  duration: Seconds,
): { map: BeatMap; place: Map<number, number> } {
  const found = map.beats
    .flatMap((t, from) => {
      const time = slid(alignment, t);
      return time === null ? [] : [{ from, time }];
    })
    .sort((a, b) => a.time - b.time);
  const usual = median(map.beats.slice(1).map((t, i) => t - map.beats[i])) * (alignment.pieces[0]?.rate ?? 1);
  const kept = found.filter((f, i) => i === 0 || f.time - found[i - 1].time > usual / 2);
  const beats: Seconds[] = [];
  const place = new Map<number, number>();
  const fill = (from: Seconds, to: Seconds) => {
    if (to - from < 1.5 * usual) return;
    const own = fresh?.beats.filter((t) => t > from + usual / 2 && t < to - usual / 2) ?? [];
    const count = Math.round((to - from) / usual) - 1;
    beats.push(...(own.length ? own : Array.from({ length: count }, (_, k) => from + ((k + 1) * (to - from)) / (count + 1))));
  };
  const first = kept[0]?.time ?? 0;
  for (let t = first - usual; t > -usual / 2; t -= usual) beats.unshift(t);
  for (const [i, { from, time }] of kept.entries()) {
    if (i > 0) fill(kept[i - 1].time, time);
    place.set(from, beats.length);
    beats.push(time);
  }
  for (let t = (beats.at(-1) ?? 0) + usual; t < duration; t += usual) beats.push(t);
  const bar = kept.find((f) => f.from >= map.bar1 && isDownbeat(map, f.from - map.bar1)) ?? kept[0];
  const bar1 = place.get(map.bar1) ?? place.get(bar?.from ?? 0) ?? 0;
  const locked = map.locked?.flatMap((i) => place.get(i) ?? []).sort((a, b) => a - b);
  return { map: { ...map, beats, bar1, locked, ...movedChanges(map, (i) => place.get(i) ?? null) }, place };
}

/** A shot with all that is in it where it is in the new recording; null where its place, or that of something in it, is gone or out of order. */
function shotAgain(shot: Shot, again: (anchor: Anchor) => Anchor | null): Shot | null {
  const [start, end] = [again(shot.start), again(shot.end)];
  if (!start || !end || start.beat >= end.beat) return null;
  let whole = true;
  const moved = withPlaces(shot, (anchor) => {
    const next = again(anchor);
    // What lies outside the shot keeps its distance from it.
    if (anchor.beat < shot.start.beat || anchor.beat > shot.end.beat)
      return next ?? { ...anchor, beat: anchor.beat + start.beat - shot.start.beat };
    if (next && next.beat >= start.beat - 1e-6 && next.beat <= end.beat + 1e-6) return next;
    whole = false;
    return anchor;
  });
  return whole ? moved : null;
}

/**
 * All that hangs on a song moved to where it is in another mix or edit of it (see `alignSongs`): beats, shots, parts, gains, sounds,
 * planned bars. `fresh` is the new recording's own beat map, for what is new in it; `duration` its length in seconds. What lies in a stretch that is gone
 * is set aside and named.
 */
export function retimedToRecording(
  project: Project,
  old: BeatMap,
  alignment: Alignment,
  fresh: BeatMap | null,
  duration: Seconds,
): RetimedProject {
  const { map, place } = retimedMap(old, alignment, fresh, duration);
  const [first, last] = [alignment.pieces[0], alignment.pieces[alignment.pieces.length - 1]];
  const moved = (beat: Beats): Beats | null => {
    const at = beat + old.bar1;
    const [low, high] = [place.get(Math.floor(at)), place.get(Math.floor(at) + 1)];
    if (low !== undefined && (high === low + 1 || at === Math.floor(at))) return low - map.bar1 + (at - Math.floor(at));
    const time = beatToSeconds(old, beat);
    // Before the first sample and after the last, time goes on as it did at the end.
    const edge =
      time < 0 && first?.from < 0.5 ? first : time > last?.to && last?.to > 0 && old.beats[old.beats.length - 1] < time ? last : null;
    const now = edge ? edge.offset + edge.rate * time : slid(alignment, time);
    return now === null ? null : secondsToBeat(map, now);
  };
  const again = (anchor: Anchor): Anchor | null => {
    const beat = moved(anchor.beat);
    return beat === null ? null : { ...anchor, beat };
  };
  const lost: string[] = [];
  const shots: Shot[] = [];
  const unplacedShots: Shot[] = [];
  for (const shot of project.shots) {
    const retimedShot = shotAgain(shot, again);
    if (retimedShot) shots.push(retimedShot);
    else {
      unplacedShots.push(shot);
      lost.push(say`the shot “${shot.name}”`);
    }
  }
  const parts = (project.song?.parts ?? []).flatMap((part, i, all) => {
    const beat = moved(part.beat);
    if (beat !== null) return [{ ...part, beat: Math.round(beat) }];
    // A part whose beginning is gone begins where the rest of it does.
    const end = all[i + 1]?.beat ?? Number.POSITIVE_INFINITY;
    const rest = [...place.keys()].filter((k) => k - old.bar1 > part.beat && k - old.bar1 < end).sort((a, b) => a - b)[0];
    if (rest !== undefined) return [{ ...part, beat: (place.get(rest) as number) - map.bar1 }];
    lost.push(say`the part “${part.name}”`);
    return [];
  });
  const gains = (thread: 'song' | 'takes' | 'effects') =>
    project.sound[thread].gains.flatMap((key) => {
      const beat = moved(key.beat);
      if (beat === null)
        lost.push(say`a gain of ${key.gain} dB on the ${thread === 'song' ? 'song' : thread === 'takes' ? 'takes’ sound' : 'effects'}`);
      return beat === null ? [] : [{ ...key, beat }];
    });
  const clips = project.sound.clips.flatMap((clip) => {
    const start = again(clip.start);
    if (!start) lost.push(say`the sound of “${project.media.find((m) => m.id === clip.mediaId)?.name ?? 'a file'}”`);
    return start ? [{ ...clip, start }] : [];
  });
  const plans = project.plans.map((plan) => {
    const beat = moved(barToBeat(old, plan.bar));
    if (beat === null) lost.push(say`the planned place of “${plan.name}” (it stays at bar ${plan.bar})`);
    return beat === null ? plan : { ...plan, bar: barAndBeat(map, nearestBarLine(map, beat)).bar };
  });
  const { sound } = project;
  return {
    map,
    shots,
    unplacedShots,
    parts: parts.sort((a, b) => a.beat - b.beat),
    sound: {
      song: { ...sound.song, gains: gains('song') },
      takes: { ...sound.takes, gains: gains('takes') },
      effects: { ...sound.effects, gains: gains('effects') },
      clips,
    },
    plans,
    lost,
  };
}
