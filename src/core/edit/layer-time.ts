import type { Project, Shot } from '../document';
import { footageOf } from '../document';
import { sceneOf } from '../evaluate';
import {
  type Key,
  type Layer,
  layerFrames,
  layerTime,
  type Place,
  placeFrame,
  remapKeyAt,
  type Scene,
  sourceSecond,
  type TimeRemapKey,
} from '../layer';
import { sourceKind } from '../sources';
import { frameToSeconds } from '../time';
import type { Frames, Seconds } from '../units';
import { trimmedShot } from './arrange';
import { placeAt } from './edit-keys';

const pinned = (layer: Layer, how: (key: TimeRemapKey) => TimeRemapKey): Layer => ({ ...layer, timeRemap: layer.timeRemap.map(how) });

/** Another part of the source at the same places: every pinned second later by some. */
export function slipped(layer: Layer, by: Seconds): Layer {
  const later = pinned(layer, (key) => (key.source === null ? key : { ...key, source: key.source + by }));
  // Where nothing is pinned the run begins at 0; the first key holds it from then on.
  if (!later.timeRemap.some((key) => key.source !== null))
    later.timeRemap = later.timeRemap.map((key, i) => (i ? key : { ...key, source: by }));
  return layer.repeat
    ? { ...later, repeat: { ...layer.repeat, from: Math.max(0, layer.repeat.from + by), to: layer.repeat.to + by } }
    : later;
}

/** The seconds of its source that a layer shows on its first frame and on its last. */
export function shownSpan(scene: Scene, layer: Layer): [Seconds, Seconds] {
  const [first, end] = layerFrames(scene, layer);
  return [first, Math.max(first, end - 1)].map((frame) => sourceSecond(scene, layer, frameToSeconds(frame, scene.rate))) as [
    Seconds,
    Seconds,
  ];
}

/** The layer with its first frame showing a second of the source. */
export function shownFrom(scene: Scene, layer: Layer, second: Seconds): Layer {
  return slipped(layer, second - shownSpan(scene, layer)[0]);
}

/** What a layer shows, shown the other way round in the same place: its last frame first. Turned twice it is as it was. */
export function turned(scene: Scene, layer: Layer): Layer {
  const [first, end] = layerFrames(scene, layer);
  const ends = first + end - 1;
  const across = (frame: Frames): Place => placeAt(scene, ends - frame);
  const { speed } = layer.numbers;
  const time = layerTime(scene, layer);
  const at = (frame: Frames) => time.sourceAt(frameToSeconds(frame, scene.rate));
  const frameOf = (place: Place) => placeFrame(scene, place);
  if (speed) {
    const keys = speed.map((key): Key => ({ ...key, ...across(frameOf(key)), value: -key.value })).reverse();
    // The easing of a span stands at its beginning, which was its end.
    const eased = keys.map((key, i) => ({ ...key, easing: keys[i + 1]?.easing ?? key.easing }));
    return {
      ...layer,
      numbers: { ...layer.numbers, speed: eased },
      timeRemap: [{ ...remapKeyAt(0, 0, at(ends - first)), ...across(ends - first) }],
    };
  }
  const keys = [...layer.timeRemap].sort((a, b) => frameOf(a) - frameOf(b));
  const made = keys
    .map((key, i): TimeRemapKey => {
      // A run belongs to the key it begins at; turned it begins at the next one.
      const before = keys[i - 1];
      // What stood still shows what it stood on.
      const shown = before?.way === 'freeze' ? before : key;
      return { ...key, ...across(frameOf(key)), source: at(frameOf(shown)), speed: -key.speed, way: (before ?? key).way };
    })
    .reverse();
  return { ...layer, timeRemap: made };
}

/** The span of its source that a layer shows, repeated from there on: over and over, or there and back. Null plays on. */
export function repeated(scene: Scene, layer: Layer, how: NonNullable<Layer['repeat']>['how'] | null): Layer {
  if (!how) {
    const { repeat: _, ...rest } = layer;
    return rest;
  }
  if (layer.repeat) return { ...layer, repeat: { ...layer.repeat, how } };
  const span = shownSpan(scene, layer);
  const [from, to] = [Math.max(0, Math.min(...span)), Math.max(...span)];
  return to > from ? { ...layer, repeat: { from, to, how } } : layer;
}

/** A layer in two at a film frame, what it shows unchanged; null where the frame is not within it. `id` is that of the later part. */
export function splitLayer(scene: Scene, layer: Layer, frame: Frames, id: string): [Layer, Layer] | null {
  const [first, end] = layerFrames(scene, layer);
  if (frame <= first || frame >= end) return null;
  const at = placeAt(scene, frame);
  return [
    { ...layer, to: at },
    { ...layer, id, madeBy: 'user', from: at },
  ];
}

/** A shot in two at a film frame, what is seen unchanged; null where the frame is not within it. A move is laid down as the layers it made. */
export function splitShot(project: Project, shot: Shot, frame: Frames, id: string): [Shot, Shot] | null {
  const { first, end } = sceneOf(project, shot);
  if (frame <= first || frame >= end) return null;
  const still = { ...shot, move: null, overrides: [] };
  // What the application makes counts from where it began, words that are typed or dust: in the later part it goes on.
  const begun = shot.layers.map((l) =>
    sourceKind(l.source).fresh && !l.from ? { ...l, from: { beat: 0, offset: shot.start.offset } } : l,
  );
  return [trimmedShot(project, still, 'end', frame), { ...trimmedShot(project, { ...still, layers: begun }, 'start', frame), id }];
}

/** How much of its footage a layer uses, and how much there is; null for what has no end of its own. */
export function footageUsed(project: Project, scene: Scene, layer: Layer): { used: [Seconds, Seconds]; whole: [Seconds, Seconds] } | null {
  if (layer.source.kind !== 'take') return null;
  const { from, to } = footageOf(project, layer.source.takeId);
  const [first, end] = layerFrames(scene, layer);
  const steps = Math.max(1, Math.min(60, end - first - 1));
  const seconds = Array.from({ length: steps + 1 }, (_, k) =>
    sourceSecond(scene, layer, frameToSeconds(first + (k / steps) * (end - 1 - first), scene.rate)),
  );
  return { used: [Math.min(...seconds), Math.max(...seconds)], whole: [from, to] };
}
