import type { Place } from '../layer';
import { type BeatMap, beatToSeconds } from '../time';
import type { Beats, Seconds } from '../units';
import type { ProposeContext, TakeFootage } from './kind';

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
