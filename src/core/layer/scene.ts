import { effectKind } from '../effects';
import { folded, type Keyframe, NO_LIMITS, type NumberKind, speedTrackMap, type TimeMap, type Track, timeMap, valueAt } from '../motion';
import { type Source, sourceKind } from '../sources';
import { type BeatMap, type FrameRate, frameToSeconds, resolveAnchor } from '../time';
import type { Beats, Frames, Seconds } from '../units';
import { LAYER_NUMBERS, type LayerNumber, maskNumber } from './numbers';
import type { Effect, Key, Layer, Mask, Place, TimeRemapKey } from './schema';

/** A shot where it lies in the film: the beat its places count from, its first frame and the one after its last. */
export interface Scene {
  map: BeatMap;
  rate: FrameRate;
  beat: Beats;
  first: Frames;
  end: Frames;
}

/** The film frame of a place of a shot. */
export function placeFrame({ map, rate, beat }: Scene, place: Place): Frames {
  return resolveAnchor(map, { beat: beat + place.beat, offset: place.offset }, rate);
}

/** When a layer is there: its first frame and the one after its last, within the shot. */
export function layerFrames(scene: Scene, layer: Layer): [Frames, Frames] {
  const from = layer.from ? Math.max(scene.first, placeFrame(scene, layer.from)) : scene.first;
  return [from, layer.to ? Math.min(scene.end, placeFrame(scene, layer.to)) : scene.end];
}

interface Kept<T> {
  map: BeatMap;
  rate: FrameRate;
  beat: Beats;
  value: T;
}
/** What follows from a list and where its shot lies is worked out once; lists are never changed in place. */
function kept<From extends object, T>(store: WeakMap<From, Kept<T>>, from: From, { map, rate, beat }: Scene, make: () => T): T {
  const known = store.get(from);
  if (known && known.map === map && known.rate === rate && known.beat === beat) return known.value;
  const value = make();
  store.set(from, { map, rate, beat, value });
  return value;
}

const tracks = new WeakMap<Key[], Kept<Track>>();
/** Keys on the film's frames, ascending; of two on one frame the later in the list stands. */
export function trackOf(scene: Scene, keys: Key[]): Track {
  return kept(tracks, keys, scene, () => {
    const onFrames = new Map<Frames, Keyframe>();
    for (const { value, easing, ...place } of keys) {
      const frame = placeFrame(scene, place);
      onFrames.set(frame, { frame, value, easing });
    }
    return [...onFrames.values()].sort((a, b) => a.frame - b.frame);
  });
}

/** A number at a film frame (fractions allowed); `otherwise` where it has no keys. */
export const numberAt = (scene: Scene, keys: Key[] | undefined, otherwise: number, frame: Frames): number =>
  keys ? valueAt(trackOf(scene, keys), frame) : otherwise;

/** A layer's number at a film frame (fractions allowed). */
export function layerNumber(scene: Scene, layer: Layer, name: LayerNumber, frame: Frames): number {
  return numberAt(scene, layer.numbers[name], LAYER_NUMBERS[name].otherwise, frame);
}

/** Every number of an effect at a film frame. */
export function effectNumbers(scene: Scene, { kind, numbers }: Effect, frame: Frames): Record<string, number> {
  const all = Object.entries(effectKind(kind).numbers);
  return Object.fromEntries(all.map(([name, { otherwise }]) => [name, numberAt(scene, numbers[name], otherwise, frame)]));
}

/** Stands for a layer's source where masks and effects have their ids. */
export const SOURCE_PART = 'source';

/** The numbers among what is chosen of a source, by name. */
function settingKind(source: Source, name: string): NumberKind | null {
  const setting = sourceKind(source).settings.find((s) => s.is === 'number' && s.of === name);
  if (setting?.is !== 'number') return null;
  return { ...setting, otherwise: Number((source as unknown as Record<string, unknown>)[name]) };
}

/** A layer's source with what is keyed of it as it is at a film frame. */
export function sourceAt(scene: Scene, { source, sourceNumbers }: Layer, frame: Frames): Source {
  if (!sourceNumbers) return source;
  const keyed = Object.entries(sourceNumbers).map(([name, keys]) => [name, numberAt(scene, keys, 0, frame)]);
  return { ...source, ...Object.fromEntries(keyed) };
}

/** Where the numbers of a layer, or of one of its masks or effects, are kept; undefined for a part it does not have. */
export function numbersIn(layer: Layer, partId: string | null): Readonly<Record<string, Key[] | undefined>> | undefined {
  if (partId === null) return layer.numbers;
  if (partId === SOURCE_PART) return layer.sourceNumbers;
  return [...layer.masks, ...layer.effects].find(({ id }) => id === partId)?.numbers;
}

/** A layer with keys put in the place of a number's. */
export function withNumberIn(layer: Layer, partId: string | null, name: string, keys: Key[]): Layer {
  const put = <N extends object>(numbers: N | undefined): N => ({ ...numbers, [name]: keys }) as N;
  if (partId === null) return { ...layer, numbers: put(layer.numbers) };
  if (partId === SOURCE_PART) return { ...layer, sourceNumbers: put(layer.sourceNumbers) };
  const within = <Part extends { id: string; numbers: Record<string, Key[]> }>(parts: Part[]): Part[] =>
    parts.map((part) => (part.id === partId ? { ...part, numbers: put(part.numbers) } : part));
  return { ...layer, masks: within(layer.masks), effects: within(layer.effects) };
}

/** What a number of a layer, of its source, or of one of its masks or effects, is; null for one it does not have. */
export function numberKindOf(layer: Layer, partId: string | null, name: string): NumberKind | null {
  if (partId === null) return LAYER_NUMBERS[name as LayerNumber] ?? null;
  if (partId === SOURCE_PART) return settingKind(layer.source, name);
  const mask = layer.masks.find((m) => m.id === partId);
  if (mask) return maskNumber(mask.kind, name);
  const effect = layer.effects.find((e) => e.id === partId);
  return effect ? (effectKind(effect.kind).numbers[name] ?? null) : null;
}

/** A mask's number at a film frame; `otherwise` of its kind where it is not set. */
export function maskNumberAt(scene: Scene, mask: Mask, name: string, frame: Frames): number {
  return numberAt(scene, mask.numbers[name], maskNumber(mask.kind, name)?.otherwise ?? 0, frame);
}

const times = new WeakMap<TimeRemapKey[], Kept<{ limits: Layer['limits']; speed: Key[] | undefined; time: TimeMap }>>();
/** How a layer's source runs: output second of the film to second of the source. */
export function layerTime(scene: Scene, { timeRemap, limits, numbers: { speed } }: Layer): TimeMap {
  const known = kept(times, timeRemap, scene, () => ({ limits, speed, time: makeTime(scene, timeRemap, limits, speed) }));
  if (known.limits === limits && known.speed === speed) return known.time;
  Object.assign(known, { limits, speed, time: makeTime(scene, timeRemap, limits, speed) });
  return known.time;
}

/** The second of its source that a layer shows at an output second: its run, folded where a span of it is repeated. */
export function sourceSecond(scene: Scene, layer: Layer, at: Seconds): Seconds {
  const second = layerTime(scene, layer).sourceAt(at);
  return layer.repeat ? folded(second, layer.repeat) : second;
}

function makeTime(scene: Scene, timeRemap: TimeRemapKey[], limits: Layer['limits'], speed: Key[] | undefined): TimeMap {
  const { rate } = scene;
  if (speed) {
    const pin = timeRemap.find((p) => p.source !== null) ?? timeRemap[0];
    return speedTrackMap(trackOf(scene, speed), frameToSeconds(1, rate), placeFrame(scene, pin), pin.source ?? 0);
  }
  return timeMap(
    timeRemap.map((pin) => ({ ...pin, at: frameToSeconds(placeFrame(scene, pin), rate) })),
    limits ? { fastest: limits.fastest, acceleration: limits.acceleration ?? Number.POSITIVE_INFINITY } : NO_LIMITS,
  );
}
