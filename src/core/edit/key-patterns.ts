import { type Key, keyAt, placeFrame, type Scene } from '../layer';
import { randomAt } from '../room';
import { beatOfFrame } from '../time';
import type { Beats, Frames } from '../units';
import { placeAt, withKey } from './edit-keys';

/** Ways in which a number moves by itself. */
export const PATTERNS = ['pulse', 'shake', 'wiggle', 'hand-held', 'drift'] as const;
export interface Pattern {
  kind: (typeof PATTERNS)[number];
  /** How far it goes from the value it begins with, in the number's unit. */
  amount: number;
  /** How often: a pulse comes every so many beats, a wiggle turns every so many frames, a shake dies away within so many frames. */
  every: number;
  seed: number;
  /** A pulse comes on these film frames instead. */
  on?: readonly Frames[];
}

const key = (scene: Scene, frame: Frames, value: number, easing: Key['easing']): Key => ({
  ...keyAt(0, 0, Math.round(value * 1000) / 1000, easing),
  ...placeAt(scene, frame),
});

/**
 * The film frames on every so many beats, to the end of the shot: counted from the first beat at or after a frame, or (`ofSong`) from the
 * song's first, so that every fourth is a bar's.
 */
export function beatFrames(scene: Scene, from: Frames, every: Beats, ofSong = false): Frames[] {
  const beat = beatOfFrame(scene.map, from, scene.rate) - 1e-6;
  const first = (ofSong && every > 0 ? Math.ceil(beat / every) * every : Math.ceil(beat)) - scene.beat;
  const frames: Frames[] = [];
  for (let beat = first; ; beat += every) {
    const frame = placeFrame(scene, { beat, offset: 0 });
    if (frame >= scene.end || every <= 0) return frames;
    if (frame >= from) frames.push(frame);
  }
}

/** Those of some film frames that lie from a frame to the end of the shot. */
export const framesWithin = (scene: Scene, from: Frames, frames: readonly Frames[]): Frames[] =>
  frames.filter((f) => f >= from && f < scene.end);

/** The keys on some frames again, the first of them on each of `starts`; what stood where they land gives way. */
export function repeatedKeys(scene: Scene, keys: readonly Key[], chosen: ReadonlySet<Frames>, starts: readonly Frames[]): Key[] {
  const group = keys.filter((k) => chosen.has(placeFrame(scene, k)));
  if (group.length === 0) return [...keys];
  const first = Math.min(...group.map((k) => placeFrame(scene, k)));
  return starts.reduce<Key[]>(
    (all, start) =>
      group.reduce((now, k) => {
        const at = start + placeFrame(scene, k) - first;
        return at < scene.end ? withKey(scene, now, at, k.value, k.easing) : now;
      }, all),
    [...keys],
  );
}

/** Chance between -1 and 1, the same for a seed and a step. */
const chance = (seed: number, step: number) => 2 * randomAt(seed, step)() - 1;

/** A pattern's keys from a frame to the end of the shot about the value there; ordinary keys, changed by hand like any. */
function patternKeys(scene: Scene, { kind, amount, every, seed, on }: Pattern, value: number, from: Frames): Key[] {
  const last = scene.end - 1;
  const step = Math.max(1, Math.round(every));
  switch (kind) {
    case 'pulse':
      return (on ? framesWithin(scene, from, on) : beatFrames(scene, from, Math.max(0.25, every), true)).flatMap((beat) => {
        const back = Math.min(last, beat + 5);
        return [key(scene, beat, value + amount, 'ease out'), ...(back > beat ? [key(scene, back, value, 'linear')] : [])];
      });
    case 'shake': {
      // Full at once, nothing left at its end; turned every other frame (common practice for landings).
      const keys: Key[] = [];
      for (let k = 0; k < step && from + k < last; k += 2) {
        const left = (1 - k / step) ** 2;
        keys.push(key(scene, from + k, value + amount * left * ((k / 2) % 2 ? -1 : 1) * (0.7 + 0.3 * Math.abs(chance(seed, k))), 'linear'));
      }
      return [...keys, key(scene, Math.min(last, from + step), value, 'linear')];
    }
    case 'wiggle':
    case 'hand-held': {
      const keys: Key[] = [];
      for (let k = 0; from + k * step <= last; k++) {
        // In a hand what is slow goes further than what is quick.
        const slow = chance(seed, 1000 + Math.floor(k / 4)) * (1 - (k % 4) / 4) + chance(seed, 1001 + Math.floor(k / 4)) * ((k % 4) / 4);
        const off = kind === 'wiggle' ? chance(seed, k) : 0.7 * slow + 0.3 * chance(seed, k);
        keys.push(key(scene, from + k * step, value + amount * off, 'ease'));
      }
      return keys;
    }
    case 'drift':
      return [key(scene, from, value, 'linear'), key(scene, last, value + amount, 'linear')];
  }
}

/** A number's keys with a pattern in the place of those from a frame on. */
export function withPattern(scene: Scene, keys: readonly Key[], pattern: Pattern, value: number, from: Frames): Key[] {
  const made = patternKeys(scene, pattern, value, from);
  if (made.length === 0) return [...keys];
  return [...keys.filter((k) => placeFrame(scene, k) < from), ...made];
}
