import { effectKind } from '../effects';
import type { Easing } from '../motion';
import type { Chroma } from '../picture';
import type { Effect, Key, Layer, Mask, SeamKeyframe, TimeRemapKey } from './schema';

/** A number that is not keyed: one key on the shot's first beat. */
export const still = (value: number): Key[] => [{ beat: 0, offset: 0, value, easing: 'linear' }];

/** A key some frames from a beat of the shot. */
export const keyAt = (beat: number, offset: number, value: number, easing: Easing = 'linear'): Key => ({ beat, offset, value, easing });

/** A remap key some frames from a beat of the shot. */
export const remapKeyAt = (
  beat: number,
  offset: number,
  source: number | null,
  speed = 1,
  way: TimeRemapKey['way'] = 'even',
): TimeRemapKey => ({
  beat,
  offset,
  source,
  speed,
  way,
});

/** A layer as it is before anything is said of it. */
export function plainLayer(
  id: string,
  name: string,
  tape: number,
  source: Layer['source'],
  timeRemap: TimeRemapKey[],
  more: Partial<Layer> = {},
): Layer {
  return {
    id,
    madeBy: 'user',
    name,
    on: true,
    tape,
    source,
    from: null,
    to: null,
    timeRemap,
    limits: null,
    frameInterpolation: 'repeat',
    sound: 'none',
    numbers: {},
    effects: [],
    masks: [],
    blend: 'normal',
    edge: 'clear',
    shutter: 0,
    ...more,
  };
}

/** An effect as it is before anything is said of it: every number keyed once where it changes nothing, or as given. */
export function plainEffect(id: string, kind: string, numbers: Effect['numbers'] = {}): Effect {
  const otherwise = Object.entries(effectKind(kind).numbers).map(([name, { otherwise }]) => [name, still(otherwise)]);
  return { id, madeBy: 'user', on: true, kind, numbers: { ...Object.fromEntries(otherwise), ...numbers } };
}

/** An effect as it is added by hand: so that it is seen, measured on the backing of its take where there is one. */
export function addedEffect(id: string, kind: string, backing: (Chroma & { spread: number }) | null): Effect {
  const { usual, forBacking } = effectKind(kind);
  const numbers = backing && forBacking ? forBacking(backing) : (usual ?? {});
  return plainEffect(id, kind, Object.fromEntries(Object.entries(numbers).map(([name, value]) => [name, still(value)])));
}

/** What every mask is before anything is said of it. */
const PLAIN = { madeBy: 'user', on: true, invert: false, combine: 'add', attachedToLayer: false } as const;

type Drawn = Exclude<Mask['kind'], 'seam' | 'matte' | 'silhouette' | 'travelling'>;
/** A drawn mask as it is before anything is said of it. */
export function plainMask(id: string, kind: Drawn, numbers: Mask['numbers'], more: Partial<Omit<Mask, 'kind'>> = {}): Mask {
  return { kind, id, ...PLAIN, numbers, ...more };
}

/** A measured seam as a mask; `feather` in per cent of the frame's height at its widest. */
export const seamMask = (keyframes: SeamKeyframe[], feather: number): Mask => ({
  kind: 'seam',
  id: 'seam',
  ...PLAIN,
  numbers: { outside: still(feather) },
  keyframes,
});

/** A kept cut-out as a mask that moves with its picture. */
export const matteMask = (matteId: string): Mask => ({ kind: 'matte', id: 'matte', ...PLAIN, attachedToLayer: true, numbers: {}, matteId });

/** A cut-out over time as a mask that moves with its picture; `begins` is the second of the take at which its film begins. */
export const travellingMask = (id: string, matteId: string, begins: number): Mask => ({
  kind: 'travelling',
  id,
  ...PLAIN,
  attachedToLayer: true,
  numbers: {},
  matteId,
  begins,
  layerId: null,
});

/** Somebody's outline over time as a mask, `layerId` the layer whose seconds it follows; numbers in per cent of the frame's height. */
export function silhouetteMask(
  id: string,
  silhouetteId: string,
  layerId: string | null,
  numbers: Mask['numbers'],
  more: Partial<Omit<Mask, 'kind'>> = {},
): Mask {
  return { kind: 'silhouette', id, ...PLAIN, numbers, silhouetteId, layerId, ...more };
}
