import type { Frames } from '../units';
import { type Easing, ease } from './easing';

/** One keyframe: `frame` counted from the track's own start; `easing` shapes the span that begins here. */
export interface Keyframe {
  frame: Frames;
  value: number;
  easing: Easing;
}

/** Keyframes in ascending frame order, no two on one frame. */
export type Track = readonly Keyframe[];

/** Index of the last key at or before `frame`, or -1. Binary search, so a thousand keys cost ten steps. */
function keyBefore(track: Track, frame: Frames): number {
  let low = 0;
  let high = track.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (track[middle].frame <= frame) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** Value of a track at `frame` (fractions allowed); held before the first and after the last key. Throws RangeError for an empty track. */
export function valueAt(track: Track, frame: Frames): number {
  if (track.length === 0) throw new RangeError('valueAt: the track has no keyframes');
  const i = keyBefore(track, frame);
  if (i < 0) return track[0].value;
  const from = track[i];
  const to = track[i + 1];
  if (!to) return from.value;
  return from.value + (to.value - from.value) * ease(from.easing, (frame - from.frame) / (to.frame - from.frame));
}

/**
 * Fewest keys of a densely sampled curve so that linear spans stay within `tolerance` of every sample
 * (Ramer 1972, Douglas & Peucker 1973, by vertical distance). Two samples or more.
 */
export function simplify(samples: Track, tolerance: number): Track {
  if (samples.length < 3) return samples;
  const keep = new Uint8Array(samples.length);
  keep[0] = 1;
  keep[samples.length - 1] = 1;
  const spans: [number, number][] = [[0, samples.length - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [a, b] = span;
    let worst = tolerance;
    let at = -1;
    const slope = (samples[b].value - samples[a].value) / (samples[b].frame - samples[a].frame);
    for (let i = a + 1; i < b; i++) {
      const error = Math.abs(samples[i].value - samples[a].value - slope * (samples[i].frame - samples[a].frame));
      if (error > worst) {
        worst = error;
        at = i;
      }
    }
    if (at >= 0) {
      keep[at] = 1;
      spans.push([a, at], [at, b]);
    }
  }
  return samples.filter((_, i) => keep[i]);
}
