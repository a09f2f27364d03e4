import { valueAt } from '../motion';
import { keyAt, type Layer, type MoveOf, pinAt, type Scene, trackOf } from '../shot';
import { followed, type OnFrame } from './follow';
import type { TakeLayer } from './take-layer';

/**
 * One take that meets its poses on their beats, smoothly or in hard steps, in and out of an enlargement by turns; whoever is followed
 * is held in the middle of the frame as far as the enlargement leaves room.
 */
export function rampLayers(scene: Scene, move: MoveOf<'ramp'>, take: TakeLayer, onFrame: OnFrame): Layer[] {
  const poses = move.poses.toSorted((a, b) => a.beat - b.beat || a.offset - b.offset);
  const pins = poses.map((p) => pinAt(p.beat, p.offset, p.source, p.speed, move.hard ? 'even' : 'smooth'));
  const least = move.track ? move.hold : 100;
  const zoomed = poses.map((p, i) => keyAt(p.beat, p.offset, (least * (i % 2 ? 100 + move.zoom : 100)) / 100, 'ease in and out'));
  const layer = take('take', 'The take', move.takeId, pins, {
    limits: { fastest: move.fastest, acceleration: move.acceleration },
    between: move.between,
    sound: move.sound,
    numbers: move.zoom > 0 || least > 100 ? { scale: zoomed } : {},
  });
  if (!move.track) return [layer];
  const scale = trackOf(scene, zoomed);
  const held = followed(
    scene,
    layer,
    move.track,
    onFrame,
    [scene.first, scene.end],
    { x: 50, y: 50 },
    { width: 100, height: 100 },
    (frame) => valueAt(scale, frame),
  );
  return [{ ...layer, numbers: { ...layer.numbers, ...held } }];
}
