import { type Keyframe, simplify, type Track } from '../motion';
import type { Frames, Unit } from '../units';
import type { MeasuredFall } from './facts';

/** Inputs of the line's path when no footage was read: a straight run with one easing. */
export function plainLine(length: Frames, featherPercent: number, easing: Keyframe['easing'] = 'ease in and out'): Track {
  const over = overrun(featherPercent);
  return [
    { frame: 0, value: -over, easing },
    { frame: length, value: 100 + over, easing: 'linear' },
  ];
}

/** How far past the frame, in per cent, the line must stand for nothing of its feather to show. */
function overrun(featherPercent: number): number {
  return Math.ceil(featherPercent / 2) + 1;
}

/**
 * The line's keys from a measured path (shares of the way across, never decreasing): it enters from outside the frame,
 * follows the path, and leaves. `length` is the reveal in frames; `runs` is how many times the fall's own length fits
 * into the reveal as it is shown (0.5: only half of it falls before the end; 2: it is over at half time).
 * Keys within 1.2 per cent of a straight run are dropped.
 */
export function followLine(path: readonly Unit[], length: Frames, featherPercent: number, runs = 1): Track {
  const over = overrun(featherPercent);
  const done = Math.min(length, Math.max(2, Math.round(length / runs)));
  const samples: Keyframe[] = [];
  for (let frame = 0; frame <= done; frame++) {
    const at = Math.min(1, (frame / length) * runs) * (path.length - 1);
    const i = Math.min(path.length - 2, Math.floor(at));
    samples.push({ frame, value: 100 * (path[i] + (at - i) * (path[i + 1] - path[i])), easing: 'linear' });
  }
  const enter = Math.max(1, Math.round(done * 0.08));
  const inside = samples.filter((k) => k.frame >= enter && k.frame <= done - enter);
  const joined: Track = [{ frame: 0, value: -over, easing: 'linear' }, ...inside, { frame: done, value: 100 + over, easing: 'linear' }];
  return simplify(joined, 1.2).map((k) => ({ ...k, value: Math.round(k.value * 10) / 10 }));
}

/** The mean of the takes' paths, resampled to 101 places. One path or more. */
export function meanPath(falls: readonly MeasuredFall[]): Unit[] {
  return Array.from({ length: 101 }, (_, i) => {
    const values = falls.map(({ position }) => position[Math.round((i / 100) * (position.length - 1))]);
    return values.reduce((a, b) => a + b, 0) / values.length;
  });
}
