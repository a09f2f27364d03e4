import type { Frames, Seconds } from '../units';
import type { TimeMap } from './time-map';
import { type Track, valueAt } from './track';

/** Parts of a frame over which keyed speed is integrated; Simpson's rule takes them in pairs. */
const PARTS = 8;

/** The integral of a track over one frame from `frame` on, in values times frames. */
function overFrame(track: Track, frame: Frames, part: number): number {
  let sum = 0;
  for (let k = 0; k <= PARTS; k++) {
    const weight = k === 0 || k === PARTS ? 1 : k % 2 ? 4 : 2;
    sum += weight * valueAt(track, frame + (k * part) / PARTS);
  }
  return (sum * part) / PARTS / 3;
}

/**
 * The time map of keyed speed: `track` in per cent over output frames of `frameSeconds` each; the take's second `source` meets the output
 * frame `pinned`. The source second is the integral of speed, by Simpson's rule eight steps a frame, summed once.
 */
export function speedTrackMap(track: Track, frameSeconds: Seconds, pinned: Frames, source: Seconds): TimeMap {
  const first = Math.min(pinned, Math.floor(track[0].frame));
  const last = Math.max(pinned, Math.ceil(track[track.length - 1].frame));
  const sums = new Float64Array(last - first + 1);
  for (let i = 1; i < sums.length; i++) sums[i] = sums[i - 1] + overFrame(track, first + i - 1, 1);
  const upTo = (frame: number) => {
    if (frame <= first) return (frame - first) * valueAt(track, first);
    if (frame >= last) return sums[sums.length - 1] + (frame - last) * valueAt(track, last);
    const whole = Math.floor(frame);
    return sums[whole - first] + overFrame(track, whole, frame - whole);
  };
  const start = upTo(pinned);
  return {
    sourceAt: (at) => source + ((upTo(at / frameSeconds) - start) * frameSeconds) / 100,
    speedAt: (at) => valueAt(track, at / frameSeconds) / 100,
  };
}
