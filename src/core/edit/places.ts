import type { Shot } from '../document';
import type { Key, Layer, Mask, Place, TimeRemapKey } from '../layer';
import { kindOf, type Move } from '../moves';
import type { Anchor } from '../time';
import type { Seconds } from '../units';

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
    timeRemap: layer.timeRemap.map((pin: TimeRemapKey) => placed(pin, change)),
    numbers: keyed(layer.numbers, change),
    ...(layer.sourceNumbers && { sourceNumbers: keyed(layer.sourceNumbers, change) }),
    masks: layer.masks.map((mask: Mask) => ({ ...mask, numbers: keyed(mask.numbers, change) })),
    effects: layer.effects.map((effect) => ({ ...effect, numbers: keyed(effect.numbers, change) })),
  };
}

/** A move with every place in it changed. */
const movePlaces = (move: Move, change: Change): Move => kindOf(move).anchors.reduce((m, anchors) => anchors.map(m, change), move);

/** What a shot holds, with every place that counts from its beginning changed. */
const withinShot = ({ layers, move, part }: Shot, change: Change): Pick<Shot, 'layers' | 'move' | 'part'> => ({
  layers: layers.map((layer) => layerPlaces(layer, change)),
  move: move && movePlaces(move, change),
  ...(part && { part: part.map((key) => placed(key, change)) }),
});

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
    ...withinShot(shot, inside),
  };
}

/** The shot begun on another beat with everything in it staying where it is in the song. */
export function withStart(shot: Shot, start: Anchor): Shot {
  const by = shot.start.beat - start.beat;
  const stay: Change = (place) => ({ beat: place.beat + by, offset: place.offset });
  return {
    ...shot,
    start,
    ...withinShot(shot, stay),
  };
}

/** The takes a shot uses, bottom layer first, each once; those of shots within it are not counted. */
export function takesOf(shot: Shot): string[] {
  return [...new Set(shot.layers.flatMap(({ source }) => (source.kind === 'take' ? [source.takeId] : [])))];
}

/** The shot with each of its takes chosen anew, by the take it is and the first second of it that is pinned. */
export function withTakes(shot: Shot, choose: (takeId: string, second: Seconds) => string): Shot {
  return {
    ...shot,
    layers: shot.layers.map((layer) => {
      const { source } = layer;
      if (source.kind !== 'take') return layer;
      const second = layer.timeRemap.find((p) => p.source !== null)?.source ?? 0;
      const takeId = choose(source.takeId, second);
      // An outline that was told in one take is another's in the next: such a mask is switched off, not left wrong.
      const told = (mask: Mask) => mask.kind === 'silhouette' || mask.kind === 'travelling';
      const stale = (mask: Mask) => takeId !== source.takeId && told(mask) && 'layerId' in mask && mask.layerId === null;
      const masks = layer.masks.map((mask) => (stale(mask) ? { ...mask, on: false } : mask));
      return { ...layer, source: { kind: 'take', takeId }, masks };
    }),
    move: shot.move && kindOf(shot.move).withTakes(shot.move, choose),
  };
}

/** Named places of a shot's move, as places of the song. */
export function moveEvents({ start, move }: Shot): [name: string, place: Anchor][] {
  if (!move) return [];
  return kindOf(move).anchors.flatMap(({ event, map }) => {
    const places: Anchor[] = [];
    map(move, (place) => {
      places.push({ beat: place.beat + start.beat, offset: place.offset });
      return place;
    });
    return event === null ? [] : places.map((place): [string, Anchor] => [event, place]);
  });
}

/** A shot's move with the places of one name changed; they count from the shot's start. */
export function withEvents(move: Move, name: string, change: Change): Move {
  const anchors = kindOf(move).anchors.find(({ event }) => event === name);
  return anchors ? anchors.map(move, change) : move;
}
