import type { Place } from '../layer';
import { type BeatMap, beatToSeconds } from '../time';
import type { Beats, Frames, Seconds } from '../units';
import { say } from '../words';
import type { Problem, ProposeContext, TakeFootage } from './kind';

/** A place on a beat. */
export const onBeat = (beat: Beats): Place => ({ beat, offset: 0 });

export const middleOf = ({ from, to }: TakeFootage): Seconds => (from + to) / 2;

/** Seconds from one beat to another. */
export const lasts = (map: BeatMap, from: Beats, to: Beats): Seconds => beatToSeconds(map, to) - beatToSeconds(map, from);

/** As many whole beats, at least `least` and at most `most`, as fit into some seconds from a beat on. */
export function beatsIn(map: BeatMap, from: Beats, seconds: Seconds, least: number, most: number): Beats {
  let beats = least;
  while (beats < most && lasts(map, from, from + beats + 1) <= seconds + 1e-6) beats++;
  return beats;
}

/** As many whole beats back from the move's beat as some seconds allow, `most` at most and never before the song. */
export function beatsBack({ map, rate, beat }: ProposeContext, seconds: Seconds, most: number): Beats {
  // Both ends come to lie on whole frames, so the way between them may be a frame longer; half of one too many is not seen.
  const room = seconds - rate.den / rate.num / 2;
  let beats = 0;
  while (beats < most && lasts(map, beat - beats - 1, beat) <= room + 1e-6 && beatToSeconds(map, beat - beats - 1) >= 0) beats++;
  return beats;
}

/** Frames in words. */
export const frames = (n: number): string => `${n} ${n === 1 ? 'frame' : 'frames'}`;

/** Where a move of one take lies: its beat some beats into the shot, a stretch of whole beats from it, and what is left of the take after that. */
export interface Stretch {
  lead: Beats;
  /** From the move's beat to its end. */
  length: Beats;
  /** From the move's beat to the shot's end. */
  tail: Beats;
}

/** At most a bar before the move's beat, `most` beats of the move and a bar after, as far as the take has picture around a second of it. */
export function stretchAround(context: ProposeContext, { from, to }: TakeFootage, second: Seconds, most: Beats, bar: Beats): Stretch {
  const { map, beat } = context;
  const all = beatsIn(map, beat, to - second, 1, most + bar);
  const length = Math.max(1, Math.min(most, all));
  return { lead: beatsBack(context, second - from, bar), length, tail: Math.max(length, all) };
}

/** Why a move's end must come later, and the move with it there; nothing where it does. */
export const endsAfter = <M>(starts: Frames, ends: Frames, what: string, later: M): Problem<M>[] =>
  ends > starts
    ? []
    : [
        {
          text: say`${what} ends before it begins. Move its end to a later beat.`,
          nearest: { label: say`End it two beats later`, move: later },
        },
      ];
