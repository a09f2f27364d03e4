import { keyAt, type Layer, type LayerNumber, type MoveOf, pinAt } from '../shot';
import type { TakeLayer } from './take-layer';

/** What a whip's ways key: the number, and its value for one width, height, quarter turn or doubling of travel out of the first take. */
const WAYS: Record<
  MoveOf<'whip'>['way'],
  { number: LayerNumber; rest: number; out(travel: number): number; into(travel: number): number }
> = {
  left: { number: 'x', rest: 0, out: (t) => -100 * t, into: (t) => 100 * t },
  right: { number: 'x', rest: 0, out: (t) => 100 * t, into: (t) => -100 * t },
  up: { number: 'y', rest: 0, out: (t) => -100 * t, into: (t) => 100 * t },
  down: { number: 'y', rest: 0, out: (t) => 100 * t, into: (t) => -100 * t },
  turn: { number: 'turn', rest: 0, out: (t) => 90 * t, into: (t) => -90 * t },
  zoom: { number: 'scale', rest: 100, out: (t) => 100 * 2 ** t, into: (t) => 100 * 2 ** -t },
};

/** How steep the second half is at the cut: the slope of `strong out` at its beginning. */
const STEEPEST = 0.85 / 0.15;

/**
 * Out of one take and into another with the fastest travel at the cut, in output frames, so that it holds at any speed of the clips. The
 * picture is mirrored at its edges, and the smear comes of the travel itself.
 */
export function whipLayers(move: MoveOf<'whip'>, take: TakeLayer): Layer[] {
  const { cut, frames, way, travel, shutter, out, into } = move;
  const { number, rest, ...values } = WAYS[way];
  const half = Math.round(frames / 2);
  const [gone, come] = [values.out(travel), values.into(travel)];
  const at = (offset: number, value: number, easing?: Parameters<typeof keyAt>[3]) => keyAt(cut.beat, cut.offset + offset, value, easing);
  // A frame before the cut the second take is already under way, so that its first frame smears as it moves.
  const earlier = come - (STEEPEST * (rest - come)) / half;
  const lens = { edge: 'mirror' as const, shutter };
  return [
    take('out', 'Whip out of', out.takeId, [pinAt(cut.beat, cut.offset, out.sync)], {
      ...lens,
      to: cut,
      numbers: { [number]: [at(-half, rest, 'strong in'), at(0, gone)] },
    }),
    take('into', 'Whip into', into.takeId, [pinAt(cut.beat, cut.offset, into.sync)], {
      ...lens,
      from: cut,
      numbers: { [number]: [at(-1, number === 'scale' ? Math.max(1, earlier) : earlier), at(0, come, 'strong out'), at(half, rest)] },
    }),
  ];
}
