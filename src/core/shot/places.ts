import type { Anchor } from '../time';
import type { Seconds } from '../units';
import type { Key, Layer, Mask, Pin, Place } from './layer-schema';
import type { Move } from './move-schema';
import type { Shot } from './schema';

type Change = (anchor: Anchor) => Anchor;

const placed = <P extends Place>(place: P, change: Change): P => ({ ...place, ...change({ beat: place.beat, offset: place.offset }) });

function keyed<Numbers extends Record<string, Key[] | undefined>>(numbers: Numbers, change: Change): Numbers {
  const out: Record<string, Key[]> = {};
  for (const [name, keys] of Object.entries(numbers)) if (keys) out[name] = keys.map((key) => placed(key, change));
  return out as Numbers;
}

function layerPlaces(layer: Layer, change: Change): Layer {
  return {
    ...layer,
    from: layer.from && change(layer.from),
    to: layer.to && change(layer.to),
    pins: layer.pins.map((pin: Pin) => placed(pin, change)),
    numbers: keyed(layer.numbers, change),
    masks: layer.masks.map((mask: Mask) => ({ ...mask, numbers: keyed(mask.numbers, change) })),
  };
}

function movePlaces(move: Move, change: Change): Move {
  switch (move.kind) {
    case 'reveal':
      return { ...move, start: change(move.start), end: change(move.end) };
    case 'freeze':
      return { ...move, at: change(move.at), until: change(move.until) };
    case 'whip':
      return { ...move, cut: change(move.cut) };
    case 'ramp':
      return { ...move, poses: move.poses.map((pose) => placed(pose, change)) };
    case 'split':
      return { ...move, open: change(move.open), close: change(move.close), swaps: move.swaps.map(change) };
  }
}

/** The shot with every place in it changed, given and taken as places of the song; its own start and end as well. */
export function withPlaces(shot: Shot, change: Change): Shot {
  const start = change(shot.start);
  const inside: Change = (place) => {
    const next = change({ beat: place.beat + shot.start.beat, offset: place.offset });
    return { beat: next.beat - start.beat, offset: next.offset };
  };
  return {
    ...shot,
    start,
    end: change(shot.end),
    layers: shot.layers.map((layer) => layerPlaces(layer, inside)),
    move: shot.move && movePlaces(shot.move, inside),
  };
}

/** The shot begun on another beat with everything in it staying where it is in the song. */
export function withStart(shot: Shot, start: Anchor): Shot {
  const by = shot.start.beat - start.beat;
  const stay: Change = (place) => ({ beat: place.beat + by, offset: place.offset });
  return {
    ...shot,
    start,
    layers: shot.layers.map((layer) => layerPlaces(layer, stay)),
    move: shot.move && movePlaces(shot.move, stay),
  };
}

/** The takes a shot uses, bottom layer first, each once; those of shots within it are not counted. */
export function takesOf(shot: Shot): string[] {
  return [...new Set(shot.layers.flatMap(({ source }) => (source.kind === 'take' ? [source.takeId] : [])))];
}

/** The shot with each of its takes chosen anew, by the take it is and the first second of it that is pinned. */
export function withTakes(shot: Shot, choose: (takeId: string, second: Seconds) => string): Shot {
  const use = <U extends { takeId: string; sync: Seconds }>(u: U): U => ({ ...u, takeId: choose(u.takeId, u.sync) });
  // Where somebody is in one take says nothing of another.
  const followed = <T extends { takeId: string; track: unknown }>(before: T, after: T): T =>
    after.takeId === before.takeId ? after : { ...after, track: null };
  const moved = (move: Move): Move => {
    switch (move.kind) {
      case 'reveal':
        return { ...move, before: use(move.before), after: use(move.after) };
      case 'freeze':
        return { ...move, use: use(move.use) };
      case 'whip':
        return { ...move, out: use(move.out), into: use(move.into) };
      case 'ramp':
        return followed(move, { ...move, takeId: choose(move.takeId, move.poses[0].source) });
      case 'split':
        return { ...move, panels: move.panels.map((panel) => followed(panel, use(panel))) };
    }
  };
  return {
    ...shot,
    layers: shot.layers.map((layer) => {
      const { source } = layer;
      if (source.kind !== 'take') return layer;
      const second = layer.pins.find((p) => p.source !== null)?.source ?? 0;
      const takeId = choose(source.takeId, second);
      // An outline that was told in one take is another's in the next: such a mask is switched off, not left wrong.
      const stale = (mask: Mask) => takeId !== source.takeId && mask.kind === 'figure' && mask.layerId === null;
      const masks = layer.masks.map((mask) => (stale(mask) ? { ...mask, on: false } : mask));
      return { ...layer, source: { kind: 'take', takeId }, masks };
    }),
    move: shot.move && moved(shot.move),
  };
}
