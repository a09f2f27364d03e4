import type { Shot } from '../document';
import type { PartPlace } from '../evaluate';
import { type Key, placeFrame, type Scene } from '../layer';
import { type Keyframe, simplify } from '../motion';
import type { Frames, Percent } from '../units';
import { withKey } from './edit-keys';

type PartKey = NonNullable<Shot['part']>[number];
/** How a pan runs from a key where nothing else is said: it starts and stops gently. */
const EASING = 'ease in and out';

/** A part that stands still. */
export const stillPart = ({ x, y }: PartPlace): PartKey[] => [{ beat: 0, offset: 0, x, y, easing: EASING }];

/** The part of a shot with a key on a film frame: the one there is changed, else one is added. */
export function withPartKey(scene: Scene, part: readonly PartKey[], frame: Frames, at: PartPlace, easing?: PartKey['easing']): PartKey[] {
  const along = (axis: 'x' | 'y') => {
    const keys = part.map(({ beat, offset, easing: own, ...key }): Key => ({ beat, offset, easing: own, value: key[axis] }));
    return withKey(scene, keys, frame, at[axis], easing ?? part.find((k) => placeFrame(scene, k) === frame)?.easing ?? EASING);
  };
  const down = along('y');
  // The easings are names, for none but those are put in.
  return along('x').map(({ beat, offset, easing: own, value }, i) => ({
    beat,
    offset,
    x: value,
    y: down[i].value,
    easing: own as PartKey['easing'],
  }));
}

/** The part without its key on a film frame; the last key stays. */
export function withoutPartKey(scene: Scene, part: readonly PartKey[], frame: Frames): PartKey[] {
  const left = part.filter((key) => placeFrame(scene, key) !== frame);
  return left.length > 0 ? left : part.slice(0, 1);
}

/** Keys of a pan that follows a course looked at on ascending frames: no more than keep it within `tolerance` per cent of it. */
export function panAlong(scene: Scene, frames: readonly Frames[], at: (frame: Frames) => PartPlace, tolerance: Percent): PartKey[] {
  const places = frames.map((frame) => ({ frame, ...at(frame) }));
  const track = (axis: 'x' | 'y') => places.map((place): Keyframe => ({ frame: place.frame, value: place[axis], easing: 'linear' }));
  const needed = new Set((['x', 'y'] as const).flatMap((axis) => simplify(track(axis), tolerance).map((key) => key.frame)));
  const chosen = places.filter(({ frame }) => needed.has(frame));
  const [first] = chosen;
  const moves = chosen.some((place) => Math.max(Math.abs(place.x - first.x), Math.abs(place.y - first.y)) > tolerance);
  if (!moves) return stillPart(first);
  return chosen.reduce<PartKey[]>((part, { frame, x, y }) => withPartKey(scene, part, frame, { x, y }, 'linear'), []);
}
