import { type Key, type Place, placeFrame, type Scene } from '../layer';
import { anchorAtFrame } from '../time';
import type { Frames } from '../units';

/** The place of a film frame in a shot: on the nearest half beat, and as many frames from it as it takes. */
export function placeAt(scene: Scene, frame: Frames): Place {
  const { beat, offset } = anchorAtFrame(scene.map, frame, scene.rate, 2);
  return { beat: beat - scene.beat, offset };
}

const frameOf = (scene: Scene, { beat, offset }: Key) => placeFrame(scene, { beat, offset });
const ordered = (scene: Scene, keys: Key[]) => keys.sort((a, b) => frameOf(scene, a) - frameOf(scene, b));

/** The keys with one on a film frame: its value is changed where there is one, else it is added on the nearest half beat. */
export function withKey(scene: Scene, keys: readonly Key[], frame: Frames, value: number, easing?: Key['easing']): Key[] {
  const known = keys.find((k) => frameOf(scene, k) === frame);
  if (known) return keys.map((k) => (k === known ? { ...k, value, easing: easing ?? k.easing } : k));
  return ordered(scene, [...keys, { ...placeAt(scene, frame), value, easing: easing ?? 'linear' }]);
}

/** The keys without those on the given film frames; all but the last may go. */
export function withoutKeys(scene: Scene, keys: readonly Key[], frames: ReadonlySet<Frames>): Key[] {
  const left = keys.filter((k) => !frames.has(frameOf(scene, k)));
  return left.length > 0 ? left : keys.slice(0, 1);
}

/**
 * The keys on the given film frames put where `to` says; one that lands on a key that is not moved replaces it. Each keeps to its
 * beat where it is moved by nothing.
 */
export function withMoved(scene: Scene, keys: readonly Key[], frames: ReadonlySet<Frames>, to: (frame: Frames) => Frames): Key[] {
  const landed = new Map<Frames, Key>();
  for (const key of keys) {
    const frame = frameOf(scene, key);
    if (!frames.has(frame)) continue;
    const next = Math.round(to(frame));
    landed.set(next, next === frame ? key : { ...key, ...placeAt(scene, next) });
  }
  const stay = keys.filter((k) => !frames.has(frameOf(scene, k)) && !landed.has(frameOf(scene, k)));
  return ordered(scene, [...stay, ...landed.values()]);
}

/** Frames stretched by a factor about their first. */
export const stretched = (frames: readonly Frames[], factor: number) => {
  const first = Math.min(...frames);
  return (frame: Frames) => first + (frame - first) * factor;
};

/**
 * The keys on the given frames turned end for end: what came last comes first, with every span eased the other way round. Named easings
 * become curves of their own where their reverse has no name.
 */
export function withMirrored(scene: Scene, keys: readonly Key[], frames: ReadonlySet<Frames>): Key[] {
  const chosen = keys.filter((k) => frames.has(frameOf(scene, k)));
  if (chosen.length < 2) return [...keys];
  const at = chosen.map((k) => frameOf(scene, k));
  const ends = at[0] + at[at.length - 1];
  const turned = chosen.map((key, i): Key => {
    // The span that began at the key before now begins here.
    const before = chosen[i - 1];
    const easing = before ? reversed(before.easing) : chosen[chosen.length - 1].easing;
    return { ...key, ...placeAt(scene, ends - at[i]), easing };
  });
  const taken = new Set(turned.map((k) => frameOf(scene, k)));
  const stay = keys.filter((k) => !frames.has(frameOf(scene, k)) && !taken.has(frameOf(scene, k)));
  return ordered(scene, [...stay, ...turned]);
}

const REVERSES: Partial<Record<Extract<Key['easing'], string>, Key['easing']>> = {
  'ease in': 'ease out',
  'ease out': 'ease in',
  'strong in': 'strong out',
  'strong out': 'strong in',
  ease: { x1: 0.75, y1: 0, x2: 0.75, y2: 0.9 },
  overshoot: { x1: 0.4, y1: 0, x2: 0.7, y2: -0.4 },
};

/** The easing run backwards: handles (x1, y1, x2, y2) become (1 - x2, 1 - y2, 1 - x1, 1 - y1). Those without a reverse stay. */
function reversed(easing: Key['easing']): Key['easing'] {
  if (typeof easing === 'string') return REVERSES[easing] ?? easing;
  return { x1: 1 - easing.x2, y1: 1 - easing.y2, x2: 1 - easing.x1, y2: 1 - easing.y1 };
}

/** Film frame of the whole or half beat nearest to a frame. */
export function onBeat(scene: Scene, frame: Frames): Frames {
  return placeFrame(scene, { ...placeAt(scene, frame), offset: 0 });
}
