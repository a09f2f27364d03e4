import type { Beats, Frames, Seconds } from '../units';
import { say } from '../words';
import { barAndBeat, barName } from './bars';
import { type BeatMap, beatToSeconds, secondsToBeat } from './beatmap';
import { type FrameRate, frameToSeconds, nearestFrame } from './rate';

/** A place in the song: a beat (0 is bar 1 beat 1, fractions allowed) and an offset in whole frames. */
export interface Anchor {
  beat: Beats;
  offset: Frames;
}

/** Exact song time of the anchor's beat, without its frame offset. */
export function anchorBeatSeconds(map: BeatMap, anchor: Anchor): Seconds {
  return beatToSeconds(map, anchor.beat);
}

/** The frame of an anchor: its absolute time rounded once to the nearest frame, plus the offset. Never off by more than half a frame. */
export function resolveAnchor(map: BeatMap, anchor: Anchor, rate: FrameRate): Frames {
  return nearestFrame(beatToSeconds(map, anchor.beat), rate) + anchor.offset;
}

/** The anchor for `frame`: the nearest beat division (`divisions` a beat) and what is left as frames. */
export function anchorAtFrame(map: BeatMap, frame: Frames, rate: FrameRate, divisions = 1): Anchor {
  const beat = Math.round(secondsToBeat(map, frameToSeconds(frame, rate)) * divisions) / divisions;
  return { beat, offset: frame - resolveAnchor(map, { beat, offset: 0 }, rate) };
}

/** The beat at a frame's start; a frame that is the nearest to a whole beat counts as that beat. */
export function beatOfFrame(map: BeatMap, frame: Frames, rate: FrameRate): Beats {
  const beat = secondsToBeat(map, frameToSeconds(frame, rate));
  // Adding nothing makes a zero of a negative one.
  const whole = Math.round(beat) + 0;
  return resolveAnchor(map, { beat: whole, offset: 0 }, rate) === frame ? whole : beat;
}

/** Reads like `bar 9 beat 1 1/2 +2 f`. */
export function describeAnchor(map: BeatMap, anchor: Anchor): string {
  const { bar, beat } = barAndBeat(map, anchor.beat);
  const whole = Math.floor(beat + 1e-6);
  const part = beat - whole;
  const fraction =
    part < 0.01 ? '' : part === 0.5 ? ' 1/2' : part === 0.25 ? ' 1/4' : part === 0.75 ? ' 3/4' : ` ${part.toFixed(2).slice(1)}`;
  const offset = anchor.offset === 0 ? '' : ` ${anchor.offset > 0 ? '+' : '−'}${Math.abs(anchor.offset)} f`;
  return say`${barName(bar)} beat ${whole}${fraction}${offset}`;
}
