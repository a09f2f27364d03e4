import { keyAt, type Layer, type MoveOf, type Place, pinAt, placeFrame, plainMask, type Scene, still } from '../shot';
import { frameToSeconds } from '../time';
import { followLine, plainLine } from './curtain-reveal';
import type { TakeLayer } from './take-layer';

/** A place some share of the way from one to another, in beats, so that it keeps its share at any tempo. */
const along = (from: Place, to: Place, share: number): Place => ({
  beat: from.beat + share * (to.beat - from.beat),
  offset: Math.round(from.offset + share * (to.offset - from.offset)),
});

/** The half sides of a ring, per cent of the frame, at which nothing of the frame is left uncovered: a frame's corner lies √2 of its half sides away. */
const WHOLE_RING = 145;

/** Two takes, the second uncovered by a line that follows what falls, or by a ring that grows. */
export function revealLayers(scene: Scene, move: MoveOf<'reveal'>, take: TakeLayer): Layer[] {
  const { start, end, before, after, feather, fallSpeed, path } = move;
  const pins = (sync: number) => [
    pinAt(0, 0, null, 1),
    pinAt(start.beat, start.offset, sync, fallSpeed),
    pinAt(end.beat, end.offset, null, 1),
  ];
  const length = Math.max(2, placeFrame(scene, end) - placeFrame(scene, start));
  const half = still(feather / 2);
  const keys = path
    ? followLine(path.share, length, feather, (frameToSeconds(length, scene.rate) * fallSpeed) / path.seconds)
    : plainLine(length, feather);
  const at = keys.map((k) => {
    const place = along(start, end, k.frame / length);
    return keyAt(place.beat, place.offset, k.value, k.easing);
  });
  const ring = (values: [number, number]) => [
    keyAt(start.beat, start.offset, values[0], 'ease in'),
    keyAt(end.beat, end.offset, values[1]),
  ];
  const mask =
    move.by === 'line'
      ? plainMask('line', 'line', { at, angle: still(move.angle), inside: half, outside: half })
      : plainMask('ring', 'ellipse', {
          x: still(50),
          y: still(50),
          width: ring([0, WHOLE_RING + 2 * feather]),
          height: ring([0, WHOLE_RING + 2 * feather]),
          inside: still(feather),
          outside: still(0),
        });
  return [
    take('before', 'Seen first', before.takeId, pins(before.sync), { to: end }),
    take('after', 'Seen after', after.takeId, pins(after.sync), { from: start, masks: [mask] }),
  ];
}
