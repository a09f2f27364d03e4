import { keyAt, type Layer, type MoveOf, pinAt } from '../shot';
import type { TakeLayer } from './take-layer';

/** One take that meets its poses on their beats, smoothly or in hard steps, in and out of an enlargement by turns. */
export function rampLayers(move: MoveOf<'ramp'>, take: TakeLayer): Layer[] {
  const poses = move.poses.toSorted((a, b) => a.beat - b.beat || a.offset - b.offset);
  const pins = poses.map((p) => pinAt(p.beat, p.offset, p.source, p.speed, move.hard ? 'even' : 'smooth'));
  const zoomed = poses.map((p, i) => keyAt(p.beat, p.offset, i % 2 ? 100 + move.zoom : 100, 'ease in and out'));
  return [
    take('take', 'The take', move.takeId, pins, {
      limits: { fastest: move.fastest, acceleration: move.acceleration },
      between: move.between,
      numbers: move.zoom > 0 ? { scale: zoomed } : {},
    }),
  ];
}
