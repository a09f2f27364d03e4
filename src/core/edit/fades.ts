import { type Key, type Layer, layerFrames, layerNumber, placeFrame, type Scene, still } from '../layer';
import type { Frames } from '../units';
import { withKey } from './edit-keys';

export type FadeSide = 'in' | 'out';

/** The frame on which a fade is at nothing: the layer's first, or the one after its last. */
const edgeOf = (scene: Scene, layer: Layer, side: FadeSide): Frames => layerFrames(scene, layer)[side === 'in' ? 0 : 1];

/** Frames over which a layer comes in from nothing, or goes out to nothing, by its opacity; 0 where it does not. */
export function fadeOf(scene: Scene, layer: Layer, side: FadeSide): Frames {
  const keys = layer.numbers.opacity ?? [];
  const edge = edgeOf(scene, layer, side);
  const [key, next] = side === 'in' ? keys : keys.toReversed();
  return key && next && key.value === 0 && placeFrame(scene, key) === edge ? Math.abs(placeFrame(scene, next) - edge) : 0;
}

/**
 * A layer that comes in from nothing over so many frames, or goes out to nothing: ordinary keys of its opacity; what it is keyed to beyond
 * them stays. With 0 frames the fade is taken out. A fade is at most as long as the layer; two to six frames on a movement hide a splice
 * (common practice).
 */
export function withFade(scene: Scene, layer: Layer, side: FadeSide, frames: Frames): Layer {
  const [first, end] = layerFrames(scene, layer);
  const edge = edgeOf(scene, layer, side);
  const old = fadeOf(scene, layer, side);
  const toward = side === 'in' ? 1 : -1;
  const length = Math.max(0, Math.min(Math.round(frames), end - first));
  // Without the fade there is now, and with nothing keyed within the new one.
  const before: readonly Key[] = layer.numbers.opacity ?? still(100);
  const reach = Math.max(old > 0 ? 1 : 0, length);
  const rest = before.filter((k) => (placeFrame(scene, k) - edge) * toward >= reach);
  const bare =
    rest.length > 0
      ? rest
      : still(old > 0 ? layerNumber(scene, layer, 'opacity', edge + toward * old) : Math.max(...before.map((k) => k.value)));
  const numbers = (opacity: Key[]) => ({ ...layer, numbers: { ...layer.numbers, opacity } });
  if (length === 0) return numbers([...bare]);
  const full = layerNumber(scene, numbers([...bare]), 'opacity', edge + toward * length);
  return numbers(
    withKey(scene, withKey(scene, bare.length === 1 && bare[0].value === full ? [] : bare, edge + toward * length, full), edge, 0),
  );
}
