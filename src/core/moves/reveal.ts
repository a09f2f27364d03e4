import * as z from 'zod/mini';
import {
  anchorSchema,
  finite,
  id,
  type Key,
  keyAt,
  type Layer,
  type Mask,
  type Place,
  placeFrame,
  plainMask,
  remapKeyAt,
  silhouetteMask,
  still,
} from '../layer';
import { beatsPerBarAt, frameToSeconds } from '../time';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, placeField, secondField } from './fields';
import {
  anchorAt,
  chosen,
  type MoveContext,
  type MoveKind,
  type Problem,
  type Proposal,
  type ProposeContext,
  percentSchema,
  takeUseSchema,
} from './kind';
import { followLine, meanPath, plainLine } from './reveal-line';
import { beatsBack, beatsIn, lasts, middleOf, onBeat } from './spans';

const REVEALS = ['line', 'ring', 'rectangle', 'silhouette', 'drawn'] as const;
const revealSchema = z.object({
  kind: z.literal('reveal'),
  /** What uncovers the second take: a line that passes, a ring or rectangle that grows, somebody's outline that spreads, or what is drawn. */
  by: z.enum(REVEALS),
  /** Whose outline spreads. */
  outOf: z.enum(['before', 'after']),
  /** Whose figure the edge gives way to, and how far from the edge, per cent of the frame. */
  duck: z.enum(['nobody', 'before', 'after']),
  reach: percentSchema,
  /** Files that keep where somebody is in a take, frame by frame. */
  silhouettes: z.array(z.object({ takeId: id, silhouetteId: id })).check(z.maxLength(8)),
  /** 0 level, moving down; 90 upright, moving right. */
  angle: finite.check(z.gte(-180), z.lte(180)),
  start: anchorSchema,
  end: anchorSchema,
  /** Full width of the soft edge in per cent of the frame's height. */
  feather: percentSchema,
  /** Speed of both takes between start and end; 1 as filmed. */
  fallSpeed: finite.check(z.gte(0.1), z.lte(8)),
  before: takeUseSchema,
  after: takeUseSchema,
  /** What was seen falling: shares of the way across, evenly over its own length in seconds; null for a straight run. */
  path: z.nullable(z.object({ share: z.array(finite).check(z.minLength(2), z.maxLength(400)), seconds: finite.check(z.positive()) })),
});
export type Reveal = z.infer<typeof revealSchema>;

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

const silhouetteOf = ({ silhouettes, ...move }: Reveal, which: 'before' | 'after'): string | null =>
  silhouettes.find((f) => f.takeId === move[which].takeId)?.silhouetteId ?? null;

/** The mask of what uncovers, pushed on by some per cent of the frame. */
function edgeMask(id: string, move: Reveal, at: Key[], push: number, more: Partial<Omit<Mask, 'kind'>> = {}): Mask | null {
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
    case 'silhouette': {
      const silhouetteId = silhouetteOf(move, move.outOf);
      const numbers = { grow: grows(ALL_SHRUNK, ALL_GROWN), outside: still(Math.max(1, feather / 2)) };
      return silhouetteId ? silhouetteMask(id, silhouetteId, move.outOf, numbers, more) : null;
    }
  }
}

/** What lets the second take through, its edge giving way to a figure that crosses it. */
function edgeMasks(move: Reveal, at: Key[]): Mask[] {
  const edge = edgeMask(move.by, move, at, 0);
  if (!edge) return [];
  const { duck, reach, by } = move;
  const silhouetteId = duck === 'nobody' ? null : silhouetteOf(move, duck);
  if (!silhouetteId || by === 'silhouette' || by === 'drawn') return [edge];
  const ducked = { grow: still(DUCKED.grow), outside: still(DUCKED.soft) };
  // Who comes after is seen whole a little ahead of the edge; who was there before stays whole a little behind it.
  const [yields, limit] = duck === 'after' ? (['add', 'intersect'] as const) : (['subtract', 'add'] as const);
  const far = edgeMask('limit', move, at, duck === 'after' ? reach : -reach, { combine: limit });
  return [edge, silhouetteMask('duck', silhouetteId, duck, ducked, { combine: yields }), ...(far ? [far] : [])];
}

/** Two takes, the second uncovered by a line that follows what falls, by a shape or an outline that grows, or by what is drawn. */
function layersOf({ scene, take }: MoveContext, move: Reveal): Layer[] {
  const { start, end, before, after, feather, fallSpeed, path } = move;
  const timeRemap = (sync: number) => [
    remapKeyAt(0, 0, null, 1),
    remapKeyAt(start.beat, start.offset, sync, fallSpeed),
    remapKeyAt(end.beat, end.offset, null, 1),
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
    take('before', say`Seen first`, before.takeId, timeRemap(before.sync), { to: move.by === 'drawn' ? null : end }),
    take('after', say`Seen after`, after.takeId, timeRemap(after.sync), { from: start, masks: edgeMasks(move, at) }),
  ];
}

/** The takes in which the performer has to be found for it. */
function outlinesMissing(move: Reveal): string[] {
  const sides = [...(move.by === 'silhouette' ? [move.outOf] : []), ...(move.duck === 'nobody' ? [] : [move.duck])];
  const takes = sides.map((side) => move[side].takeId).filter((takeId) => !move.silhouettes.some((f) => f.takeId === takeId));
  return [...new Set(takes)];
}

function problemsOf({ scene, footage }: MoveContext, move: Reveal): Problem<Reveal>[] {
  const missing = outlinesMissing(move).map((takeId) => ({
    text: say`Where somebody is in “${footage(takeId).name}” is not known yet, so the edge takes no notice of them. Find them in it first.`,
    nearest: null,
  }));
  if (placeFrame(scene, move.end) > placeFrame(scene, move.start)) return missing;
  return [
    ...missing,
    {
      text: say`The reveal ends before it begins. Move its end to a later beat.`,
      nearest: { label: say`End it two beats later`, move: { ...move, end: { ...move.start, beat: move.start.beat + 2 } } },
    },
  ];
}

const FEATHER = 18;

/**
 * The fall's first frame meets the beat, the line follows the densest movement and ends on the beat nearest to the fall's own end; the shot
 * opens a bar before and closes as far after as both takes have picture. Without a measured fall the reveal lasts two beats from a second
 * before the middle of the takes.
 */
function propose(context: ProposeContext, { fall }: Pick<Facts, 'fall'>): Proposal<Reveal> {
  const { map, beat, takes } = context;
  const falls = fall.filter((f) => f !== null);
  const seconds = falls.length ? falls.reduce((s, f) => s + f.to - f.from, 0) / falls.length : 0;
  let length = falls.length ? 1 : 2;
  while (lasts(map, beat, beat + length + 0.5) < seconds) length++;
  const use = (i: 0 | 1) => ({
    takeId: takes[i].takeId,
    sync: fall[i]?.from ?? Math.max(takes[i].footage.from, middleOf(takes[i].footage) - 1),
  });
  const before = use(0);
  const alike = takes[1].alike?.(before.sync) ?? null;
  const after = alike === null ? use(1) : { takeId: takes[1].takeId, sync: alike };
  const lead = beatsBack(context, before.sync - takes[0].footage.from, beatsPerBarAt(map, beat));
  return {
    lead,
    tail: beatsIn(map, beat, takes[1].footage.to - after.sync, length, length + 2 * beatsPerBarAt(map, beat)),
    move: {
      kind: 'reveal',
      by: 'line',
      angle: 0,
      start: onBeat(lead),
      end: onBeat(lead + length),
      feather: FEATHER,
      fallSpeed: 1,
      before,
      after,
      path: falls.length ? { share: meanPath(falls), seconds } : null,
      outOf: 'before',
      duck: 'nobody',
      reach: 15,
      silhouettes: [],
    },
    said:
      falls.length < 2
        ? say`Nothing clearly falls in one of the takes, so the line runs straight and the takes meet at their middle. Set both by hand.`
        : '',
  };
}

/** The reveal with what falls in its takes followed. */
function follow(move: Reveal, { fall }: Pick<Facts, 'fall'>): { change: Partial<Reveal> | null; said: string } {
  const falls = fall.filter((f) => f !== null);
  if (falls.length === 0)
    return { change: null, said: say`Nothing clearly moves that way in either take. Turn the line, or set its keys by hand.` };
  const seconds = falls.reduce((sum, f) => sum + f.to - f.from, 0) / falls.length;
  const met = (side: 'before' | 'after', i: 0 | 1) => ({ ...move[side], sync: fall[i]?.from ?? move[side].sync });
  const cover = Math.max(...falls.map((f) => f.cover));
  return {
    change: { before: met('before', 0), after: met('after', 1), path: { share: meanPath(falls), seconds } },
    said: say`The line runs under the densest movement: ${Math.round(cover * 100)} % of all falling movement lies within a seventh of the frame of it.`,
  };
}

const hasEdge = ({ by }: Reveal) => by !== 'silhouette' && by !== 'drawn';

const FIELDS: readonly Field<Reveal>[] = [
  placeField('start', say`Reveal begins`, say`Move the reveal`),
  placeField('end', say`Reveal ends`, say`Move the reveal’s end`),
  {
    is: 'measure',
    label: say`Follow the fall`,
    said: say`Follow the fall`,
    needs: 'fall',
    when: ({ by }) => by === 'line',
    takes: ({ before, after }) => [before.takeId, after.takeId],
    angle: ({ angle }) => angle,
    apply: follow,
  },
  {
    is: 'choice',
    label: say`Uncovered by`,
    of: 'by',
    said: say`Uncover it otherwise`,
    options: [
      ['line', say`a line that passes`],
      ['ring', say`a ring that grows`],
      ['rectangle', say`a rectangle that grows`],
      ['silhouette', say`the performer’s outline, spreading`],
      ['drawn', say`what is drawn on the picture`],
    ],
  },
  {
    is: 'choice',
    label: say`Whose outline`,
    of: 'outOf',
    said: say`Spread another outline`,
    when: ({ by }) => by === 'silhouette',
    options: [
      ['before', say`of the first take`],
      ['after', say`of the second take`],
    ],
  },
  {
    is: 'choice',
    label: say`The edge ducks under`,
    of: 'duck',
    said: say`Let the edge duck`,
    when: hasEdge,
    options: [
      ['nobody', say`nobody`],
      ['after', say`who comes after`],
      ['before', say`who was there before`],
    ],
  },
  { is: 'number', label: say`Feather`, unit: '%', of: 'feather', min: 0, max: 100, said: say`Feather the edge` },
  {
    is: 'number',
    label: say`Ducks up to`,
    unit: '%',
    of: 'reach',
    min: 0,
    max: 100,
    said: say`Let the edge duck further`,
    when: (move) => move.duck !== 'nobody' && hasEdge(move),
  },
  { is: 'number', label: say`Angle`, unit: '°', of: 'angle', min: -180, max: 180, step: 5, said: say`Turn the line` },
  {
    is: 'number',
    label: say`Speed of the fall`,
    unit: '×',
    of: 'fallSpeed',
    min: 0.1,
    max: 8,
    step: 0.1,
    digits: 2,
    preset: false,
    said: say`Change the speed of the fall`,
  },
  secondField('before', say`First take at the start`),
  secondField('after', say`Second take at the start`),
];

/** A masked reveal: one take uncovers another. */
export const reveal: MoveKind<Reveal, 'fall'> = {
  kind: 'reveal',
  schema: revealSchema,
  words: {
    name: say`Masked reveal`,
    working: say`Reading what falls in both takes`,
    about: say`A soft edge uncovers a second take along what falls, a shape that grows, or an outline that spreads.`,
  },
  takes: { min: 2, max: 2 },
  needs: ['fall'],
  mixes: true,
  planned: { recipe: 'curtain reveal', slots: ['one', 'two'] },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('start', say`reveal start`), anchorAt('end', say`reveal end`)],
  withTakes: (move, choose) => ({ ...move, before: chosen(move.before, choose), after: chosen(move.after, choose) }),
  outlines: { missing: outlinesMissing, add: (move, found) => ({ ...move, silhouettes: [...move.silhouettes, ...found] }) },
  sounds: (_, { start }) => [{ sound: 'cloth', at: start, gain: -4 }],
  poster: ({ scene }, { start, end }) => Math.round((placeFrame(scene, start) + placeFrame(scene, end)) / 2),
  fields: FIELDS,
};
