import { type Key, type Layer, type LayerNumber, layerFrames, layerNumber, type Mask, plainMask, type Scene, still } from '../layer';
import { lineNormal } from '../picture';
import type { Size } from '../sources';
import type { Degrees, Frames } from '../units';
import { placeAt, withKey } from './edit-keys';
import { type FadeSide, withFade } from './fades';

/** How a layer comes in or goes out. */
export const ENTRANCES = ['fade', 'slide', 'wipe', 'iris'] as const;
export type Entrance = (typeof ENTRANCES)[number];

/** How soft the edge of a wipe or an iris is, per cent of the frame's height. */
const SOFT = 2;

export interface EntranceOf {
  how: Entrance;
  side: FadeSide;
  frames: Frames;
  /** Where a slide or a wipe comes from or goes to: 0° from the top, 90° from the left. */
  angle: Degrees;
}

/**
 * A layer that comes in over its first frames, or goes out over its last, by ordinary keys: a fade of its opacity, a slide of its position
 * from outside the frame, a wipe or an iris by one more mask under `maskId`. Not longer than the layer; with less than a frame as it was.
 */
export function withEntrance(scene: Scene, layer: Layer, frame: Size, { how, side, frames, angle }: EntranceOf, maskId: string): Layer {
  const [first, end] = layerFrames(scene, layer);
  const length = Math.min(Math.round(frames), end - first);
  if (length < 1) return layer;
  if (how === 'fade') return withFade(scene, layer, side, length);
  const [away, there] = side === 'in' ? [first, first + length] : [end, end - length];
  if (how === 'slide') return slid(scene, layer, frame, angle, away, there);
  return withMask(layer, how === 'wipe' ? wipeMask(scene, angle, side, away, there, maskId) : irisMask(scene, frame, away, there, maskId));
}

/** The shape of a span: in fast and gently to rest, out the other way round. */
const easing = (away: Frames, there: Frames): Key['easing'] => (away < there ? 'ease out' : 'ease in');

function slid(scene: Scene, layer: Layer, { width, height }: Size, angle: Degrees, away: Frames, there: Frames): Layer {
  const [nx, ny] = lineNormal(angle);
  // Far enough that nothing of a picture as large as the frame is left in it.
  const far = Math.min(width / Math.max(1e-6, Math.abs(nx)), height / Math.max(1e-6, Math.abs(ny)));
  const numbers = { ...layer.numbers };
  for (const [name, off] of [
    ['x', (-100 * nx * far) / width],
    ['y', (-100 * ny * far) / height],
  ] as const satisfies readonly (readonly [LayerNumber, number])[]) {
    if (Math.abs(off) < 1e-6) continue;
    const rest = layerNumber(scene, layer, name, there);
    const keys = withKey(scene, numbers[name] ?? [], there, rest, easing(away, there));
    numbers[name] = withKey(scene, keys, away, rest + off, easing(away, there));
  }
  return { ...layer, numbers };
}

/** A number that goes from one value to another between two frames, in whichever order they lie. */
function going(scene: Scene, from: readonly [Frames, number], to: readonly [Frames, number]): Key[] {
  const [a, b] = from[0] < to[0] ? [from, to] : [to, from];
  return [a, b].map(([frame, value]) => ({ ...placeAt(scene, frame), value, easing: easing(from[0], to[0]) }));
}

/** Past the frame's far side by the soft edge. */
const PAST = 100 + SOFT + 1;

function wipeMask(scene: Scene, angle: Degrees, side: FadeSide, away: Frames, there: Frames, id: string): Mask {
  // Out, the edge goes on the way it came.
  const at = going(scene, [away, side === 'in' ? 0 : PAST], [there, side === 'in' ? PAST : 0]);
  return plainMask(id, 'line', { at, angle: still(angle), inside: still(SOFT), outside: still(0) }, { invert: side === 'out' });
}

function irisMask(scene: Scene, { width, height }: Size, away: Frames, there: Frames, id: string): Mask {
  const across = Math.hypot(width, height) + (2 * SOFT * height) / 100;
  const size = (of: number) => going(scene, [away, 0], [there, (100 * across) / of]);
  const soft = { inside: still(SOFT), outside: still(0) };
  return plainMask(id, 'ellipse', { x: still(50), y: still(50), width: size(width), height: size(height), turn: still(0), ...soft });
}

/** One more mask: only where those before it let through as well. */
const withMask = (layer: Layer, mask: Mask): Layer => ({
  ...layer,
  masks: [...layer.masks, { ...mask, combine: layer.masks.length > 0 ? 'intersect' : 'add' }],
});
