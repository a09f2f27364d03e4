import {
  figureMask,
  type Key,
  keyAt,
  type Layer,
  type Mask,
  type MoveOf,
  type Place,
  pinAt,
  placeFrame,
  plainMask,
  type Scene,
  still,
} from '../shot';
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

/** A grown outline at which all of the frame is covered, and a shrunken one at which nobody is: per cent of the height. */
const ALL_GROWN = 230;
const ALL_SHRUNK = -40;
/** How far past somebody's outline an edge gives way to them, and how softly: per cent of the height. */
const DUCKED = { grow: 1, soft: 2 };

/** The corners of what is drawn before anything is: a lozenge round the middle. */
const LOZENGE = [
  [50, 15],
  [80, 50],
  [50, 85],
  [20, 50],
] as const;

const figureOf = ({ figures, ...move }: MoveOf<'reveal'>, which: 'before' | 'after'): string | null =>
  figures.find((f) => f.takeId === move[which].takeId)?.figureId ?? null;

/** The mask of what uncovers, pushed on by some per cent of the frame. */
function edgeMask(id: string, move: MoveOf<'reveal'>, at: Key[], push: number, more: Partial<Omit<Mask, 'kind'>> = {}): Mask | null {
  const { start, end, feather } = move;
  const half = still(feather / 2);
  const grows = (from: number, to: number, late = 0) => {
    const begin = along(start, end, late);
    return [keyAt(begin.beat, begin.offset, from, 'ease in'), keyAt(end.beat, end.offset, to)];
  };
  // Nothing shows before it begins and all does when it ends, so the first key is not pushed on, nor the last one back.
  const stays = (i: number) => (push > 0 ? i === 0 : i === at.length - 1);
  const pushed = () => at.map((k, i) => (stays(i) ? k : { ...k, value: k.value + push }));
  const whole = WHOLE_RING + 2 * feather;
  const grown = () => grows(0, whole + Math.max(0, push), Math.max(0, -push / whole));
  const [inside, outside] = [still(feather), still(0)];
  switch (move.by) {
    case 'line':
      return plainMask(id, 'line', { at: pushed(), angle: still(move.angle), inside: half, outside: half }, more);
    case 'ring':
      return plainMask(id, 'ellipse', { x: still(50), y: still(50), width: grown(), height: grown(), inside, outside }, more);
    case 'rectangle':
      return plainMask(
        id,
        'rectangle',
        { x: still(50), y: still(50), width: grown(), height: grown(), turn: still(move.angle), inside, outside },
        more,
      );
    case 'drawn': {
      // Opens from its middle to where its points are drawn.
      const points = LOZENGE.flatMap(([x, y], i) => [[`x${i}`, grows(50, x)] as const, [`y${i}`, grows(50, y)] as const]);
      return plainMask(id, 'outline', { ...Object.fromEntries(points), inside: half, outside: half }, more);
    }
    case 'figure': {
      const figureId = figureOf(move, move.outOf);
      const numbers = { grow: grows(ALL_SHRUNK, ALL_GROWN), outside: still(Math.max(1, feather / 2)) };
      return figureId ? figureMask(id, figureId, move.outOf, numbers, more) : null;
    }
  }
}

/** What lets the second take through, its edge giving way to a figure that crosses it. */
function edgeMasks(move: MoveOf<'reveal'>, at: Key[]): Mask[] {
  const edge = edgeMask(move.by, move, at, 0);
  if (!edge) return [];
  const { duck, reach, by } = move;
  const figureId = duck === 'nobody' ? null : figureOf(move, duck);
  if (!figureId || by === 'figure' || by === 'drawn') return [edge];
  const ducked = { grow: still(DUCKED.grow), outside: still(DUCKED.soft) };
  // Who comes after is seen whole a little ahead of the edge; who was there before stays whole a little behind it.
  const [yields, limit] = duck === 'after' ? (['add', 'intersect'] as const) : (['subtract', 'add'] as const);
  const far = edgeMask('limit', move, at, duck === 'after' ? reach : -reach, { combine: limit });
  return [edge, figureMask('duck', figureId, duck, ducked, { combine: yields }), ...(far ? [far] : [])];
}

/** Two takes, the second uncovered by a line that follows what falls, by a shape or an outline that grows, or by what is drawn. */
export function revealLayers(scene: Scene, move: MoveOf<'reveal'>, take: TakeLayer): Layer[] {
  const { start, end, before, after, feather, fallSpeed, path } = move;
  const pins = (sync: number) => [
    pinAt(0, 0, null, 1),
    pinAt(start.beat, start.offset, sync, fallSpeed),
    pinAt(end.beat, end.offset, null, 1),
  ];
  const length = Math.max(2, placeFrame(scene, end) - placeFrame(scene, start));
  const keys = path
    ? followLine(path.share, length, feather, (frameToSeconds(length, scene.rate) * fallSpeed) / path.seconds)
    : plainLine(length, feather);
  const at = keys.map((k) => {
    const place = along(start, end, k.frame / length);
    return keyAt(place.beat, place.offset, k.value, k.easing);
  });
  return [
    take('before', 'Seen first', before.takeId, pins(before.sync), { to: move.by === 'drawn' ? null : end }),
    take('after', 'Seen after', after.takeId, pins(after.sync), { from: start, masks: edgeMasks(move, at) }),
  ];
}
