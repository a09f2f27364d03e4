import { type Key, keyAt, type Layer, type Mask, type MoveOf, matteMask, pinAt, plainLayer, plainMask, type Scene, still } from '../shot';
import { fps } from '../time';
import type { TakeLayer } from './take-layer';

const FROM = { left: ['x', -110], right: ['x', 110], top: ['y', -120], bottom: ['y', 120] } as const;

/** A shake that is full at once and dies away: keys on every second frame, across and down out of step. Common practice. */
function shakeKeys(beat: number, offset: number, frames: number, size: number): { x: Key[]; y: Key[] } {
  const at = (k: number, value: number) => keyAt(beat, offset + k, value);
  const x: Key[] = [at(-1, 0)];
  const y: Key[] = [at(-1, 0)];
  for (let k = 0; k < frames; k += 2) {
    const left = size * (1 - k / frames) ** 2;
    x.push(at(k, (k % 4 ? -0.6 : 0.6) * left));
    y.push(at(k, (k % 4 ? -1 : 1) * left));
  }
  x.push(at(frames, 0));
  y.push(at(frames, 0));
  return { x, y };
}

/** A stored cut-out as a mask that moves with its picture, cut down to a band of the frame where only a part of the figure is meant. */
function partMasks(part: MoveOf<'freeze'>['parts'][number]): Mask[] {
  const matte = matteMask(part.matteId);
  if (!part.band) return [matte];
  const { from, to } = part.band;
  const band = plainMask(
    'band',
    'rectangle',
    {
      x: still(50),
      y: still((from + to) / 2),
      width: still(300),
      height: still(to - from),
      inside: still(0),
      outside: still(0),
    },
    { rides: true, combine: 'intersect' },
  );
  return [matte, band];
}

/**
 * The picture freezes on a beat; cut-out parts fly in and land one after another; as the last lands the frame shakes. Or the take runs on
 * under the frozen cut-out; or frozen copies trail behind.
 */
export function freezeLayers(scene: Scene, move: MoveOf<'freeze'>, take: TakeLayer): Layer[] {
  const { use, at, until, parts, every, flight, trail } = move;
  const frozen = [pinAt(at.beat, at.offset, use.sync, 0, 'freeze')];
  const runs = [pinAt(0, 0, null, 1), pinAt(at.beat, at.offset, use.sync, 1)];
  const stops = [pinAt(0, 0, null, 1), pinAt(at.beat, at.offset, use.sync, 0, 'freeze'), pinAt(until.beat, until.offset, null, 1)];
  const base = take('base', 'The take', use.takeId, move.under === 'running' ? runs : stops, {});
  const copies = trail.every > 0 ? trailLayers(scene, move, take) : [];
  const landing = (i: number) => at.beat + every * (i + 1);
  const flying = parts.map((part, i) => {
    const [number, away] = FROM[part.side];
    const [off, land] = [at.offset - flight, landing(i)];
    const fly = (from: number, to: number, easing: Parameters<typeof keyAt>[3] = 'overshoot') => [
      keyAt(land, off, from, easing),
      keyAt(land, at.offset, to),
    ];
    return take(`part${i + 1}`, `Part ${i + 1}`, use.takeId, frozen, {
      from: { beat: land, offset: off },
      to: until,
      masks: partMasks(part),
      shutter: 180,
      numbers: { [number]: fly(away, 0), scale: fly(part.scale, 100, 'strong out'), turn: fly(part.turn, 0, 'strong out') },
    });
  });
  const empty =
    move.under === 'plate' && move.plate
      ? [
          plainLayer('plate', 'Clean plate', 0, { kind: 'still', mediaId: move.plate }, [pinAt(at.beat, at.offset, 0)], {
            from: at,
            to: until,
          }),
        ]
      : [];
  const layers = [base, ...empty, ...copies, ...flying];
  if (move.shake === 0 || parts.length === 0) return layers;
  const shake = shakeKeys(landing(parts.length - 1), at.offset, move.shake, move.shakeSize);
  return layers.map((layer) => ({
    ...layer,
    edge: layer.id === 'base' || layer.id === 'plate' ? 'mirror' : layer.edge,
    numbers: {
      ...layer.numbers,
      x: [...(layer.numbers.x ?? []).filter((k) => !shake.x.some((s) => same(s, k))), ...shake.x],
      y: [...(layer.numbers.y ?? []).filter((k) => !shake.y.some((s) => same(s, k))), ...shake.y],
    },
  }));
}

const same = (a: Key, b: Key) => a.beat === b.beat && a.offset === b.offset;

/** Copies frozen every few frames from the freeze on, each fading as the figure moves away from it. */
function trailLayers(scene: Scene, { use, at, trail, until }: MoveOf<'freeze'>, take: TakeLayer): Layer[] {
  const { every, count, opacity } = trail;
  return Array.from({ length: count }, (_, k) => {
    const offset = at.offset + k * every;
    const pins = [pinAt(at.beat, offset, use.sync + (k * every) / fps(scene.rate), 0, 'freeze')];
    return take(`trail${k + 1}`, `Trail ${k + 1}`, use.takeId, pins, {
      from: { beat: at.beat, offset },
      to: until,
      blend: 'lighten',
      numbers: { opacity: [keyAt(at.beat, offset, opacity), keyAt(at.beat, offset + count * every, 0)] },
    });
  });
}
