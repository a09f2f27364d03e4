import * as z from 'zod/mini';
import { anchorSchema, finite, type Key, keyAt, type Layer, placeFrame, remapKeyAt, type Scene, still } from '../layer';
import { beatsPerBarAt, fps } from '../time';
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
import { boxFields, boxSchema, effect, ellipseAround, keysAt } from './parts';
import { middleOf, onBeat, stretchAround } from './spans';

const strikeSchema = z.object({
  kind: z.literal('strike'),
  /** The swing, and its second on the beat. */
  use: takeUseSchema,
  at: anchorSchema,
  /** Takes of nobody: with the loose part, and without it. */
  whole: takeUseSchema,
  without: takeUseSchema,
  /** Where the loose part is, per cent of the frame. */
  box: boxSchema,
  soft: percentSchema,
  /** Its speed as it leaves: per cent of the frame's height a second, across and upwards; what pulls it down, per cent a second squared. */
  across: finite.check(z.gte(-2000), z.lte(2000)),
  up: finite.check(z.gte(-2000), z.lte(2000)),
  gravity: finite.check(z.gte(-4000), z.lte(4000)),
  /** Degrees a second, and its size in per cent after a second. */
  spin: finite.check(z.gte(-7200), z.lte(7200)),
  shrinks: finite.check(z.gte(1), z.lte(100)),
  /** Frames it flies. */
  flies: z.int().check(z.gte(2), z.lte(250)),
  shutter: finite.check(z.gte(0), z.lte(720)),
  /** Frames in which the rest settles, and how far it wobbles, degrees. */
  settles: z.int().check(z.gte(0), z.lte(60)),
  wobble: finite.check(z.gte(0), z.lte(30)),
  /** How much of the part is seen again below it, per cent. */
  ghost: percentSchema,
});
export type Strike = z.infer<typeof strikeSchema>;

/** Keys of a ballistic path on every second frame: position in per cent of the frame's width and height. */
function flight(scene: Scene, move: Strike, shape: number): { x: Key[]; y: Key[]; turn: Key[]; scale: Key[] } {
  const { at, across, up, gravity, spin, shrinks, flies } = move;
  const rate = fps(scene.rate);
  const steps = Array.from({ length: Math.ceil(flies / 2) + 1 }, (_, i) => Math.min(flies, 2 * i));
  const key = (k: number, value: number) => keyAt(at.beat, at.offset + k, Math.round(value * 1000) / 1000);
  return {
    x: steps.map((k) => key(k, (across * (k / rate)) / shape)),
    y: steps.map((k) => key(k, -up * (k / rate) + (gravity * (k / rate) ** 2) / 2)),
    turn: steps.map((k) => key(k, spin * (k / rate))),
    scale: steps.map((k) => key(k, Math.max(1, 100 * (shrinks / 100) ** (k / rate)))),
  };
}

/** The swing; behind it, where the part was, the picture without it, which wobbles; and the part, which flies, spins and shrinks. */
function layersOf({ scene, take, frame }: MoveContext, move: Strike): Layer[] {
  const { use, at, whole, without, box, soft, settles, wobble, shutter, flies, ghost } = move;
  const still1 = (second: number) => [remapKeyAt(at.beat, at.offset, second, 0, 'freeze')];
  const pivot = { pivotX: still((box.left + box.right) / 2 - 50), pivotY: still((box.top + box.bottom) / 2 - 50) };
  // It is out and smeared from its first frame on (common practice), and dies away as a shake does.
  const rocks: (readonly [number, number])[] = Array.from({ length: settles }, (_, k) => [
    k,
    (k % 2 ? -1 : 1) * wobble * (1 - k / settles) ** 2,
  ]);
  const path = flight(scene, move, frame.width / frame.height);
  const part = ellipseAround(box, 0.5, soft, { attachedToLayer: true });
  const flying = { from: at, to: { beat: at.beat, offset: at.offset + flies }, masks: [part] };
  return [
    take('base', say`The swing`, use.takeId, [remapKeyAt(at.beat, at.offset, use.sync)], {}),
    take('without', say`Without the part`, without.takeId, still1(without.sync), {
      from: at,
      masks: [ellipseAround(box, 1, soft)],
      numbers: settles > 0 && wobble > 0 ? { ...pivot, turn: keysAt(at, [...rocks, [settles, 0]]) } : {},
    }),
    ...(ghost > 0
      ? [
          take('ghost', say`Its reflection`, whole.takeId, still1(whole.sync), {
            ...flying,
            numbers: {
              ...pivot,
              ...path,
              y: path.y.map((k) => ({ ...k, value: 2 * (box.bottom - (box.top + box.bottom) / 2) - k.value })),
              opacity: still(ghost),
            },
            effects: [effect('blur', { amount: 0.8 })],
          }),
        ]
      : []),
    take('part', say`The loose part`, whole.takeId, still1(whole.sync), { ...flying, shutter, numbers: { ...pivot, ...path } }),
  ];
}

function problemsOf({ scene }: MoveContext, move: Strike): Problem<Strike>[] {
  const same =
    move.whole.takeId === move.without.takeId
      ? [
          {
            text: say`The picture with the part and the one without it are the same take: film the thing once more with the part taken off.`,
            nearest: null,
          },
        ]
      : [];
  const room = scene.end - placeFrame(scene, move.at);
  if (room >= move.flies) return same;
  return [
    ...same,
    {
      text: say`The part flies ${move.flies} frames, and the shot has ${Math.max(0, room)} after the blow.`,
      nearest: room >= 2 ? { label: say`Let it fly ${room} frames`, move: { ...move, flies: room } } : null,
    },
  ];
}

const MIDDLE = { left: 45, top: 40, right: 60, bottom: 55 };

/** Struck on the beat: away to the right and up, a turn and a half a second, at half its size after one. A pull of 500 per cent of the height a second squared is a frame 2 m high. */
function propose(context: ProposeContext, { thing }: Pick<Facts, 'thing'>): Proposal<Strike> {
  const { map, beat, takes } = context;
  const [first, whole, without] = [takes[0], takes[1] ?? takes[0], takes[2] ?? takes[1] ?? takes[0]];
  const bar = beatsPerBarAt(map, beat);
  const sync = middleOf(first.footage);
  const { lead, tail } = stretchAround(context, first.footage, sync, 1, bar);
  const middle = (t: typeof first) => ({ takeId: t.takeId, sync: middleOf(t.footage) });
  return {
    lead,
    tail,
    move: {
      kind: 'strike',
      use: { takeId: first.takeId, sync },
      at: onBeat(lead),
      whole: middle(whole),
      without: middle(without),
      box: thing ?? MIDDLE,
      soft: 1,
      across: 160,
      up: 170,
      gravity: 500,
      spin: 540,
      shrinks: 50,
      flies: 24,
      shutter: 180,
      settles: 6,
      wobble: 1.5,
      ghost: 6,
    },
    said: thing ? '' : say`What comes loose was not found by itself: move the part’s box onto it.`,
  };
}

const n = (
  label: string,
  unit: string,
  of: 'across' | 'up' | 'gravity' | 'spin' | 'shrinks' | 'flies' | 'shutter' | 'settles' | 'wobble' | 'ghost' | 'soft',
  min: number,
  max: number,
  step = 1,
): Field<Strike> => ({
  is: 'number',
  label,
  unit,
  of,
  min,
  max,
  step,
  digits: step < 1 ? 1 : 0,
  said: say`Change the flight`,
});

const FIELDS: readonly Field<Strike>[] = [
  placeField('at', say`Struck on`, say`Move the blow`),
  ...boxFields<Strike>('Part', say`Move the loose part`),
  n(say`Soft edge`, '%', 'soft', 0, 100, 0.5),
  n('Across', '%/s', 'across', -2000, 2000, 10),
  n('Up', '%/s', 'up', -2000, 2000, 10),
  n('Gravity', '%/s²', 'gravity', -4000, 4000, 50),
  n('Spin', '°/s', 'spin', -7200, 7200, 45),
  n(say`Size after a second`, '%', 'shrinks', 1, 100),
  n('Flies', 'f', 'flies', 2, 250),
  n(say`Shutter angle`, '°', 'shutter', 0, 720, 45),
  n(say`The rest settles in`, 'f', 'settles', 0, 60),
  n(say`It wobbles by`, '°', 'wobble', 0, 30, 0.5),
  n(say`Reflection of the part`, '%', 'ghost', 0, 100),
  secondField('use', say`Swing on the beat`),
  secondField('whole', say`Second with the part`),
  secondField('without', say`Second without it`),
];

/** A struck object: a part of it flies off. */
export const strike: MoveKind<Strike, 'thing'> = {
  kind: 'strike',
  schema: strikeSchema,
  words: {
    name: say`Struck object`,
    working: say`Looking for the loose part`,
    about: say`A part flies off as it is struck, spinning and shrinking, and the rest wobbles and settles.`,
  },
  takes: { min: 3, max: 3 },
  needs: ['thing'],
  mixes: true,
  planned: { recipe: 'struck object', slots: ['plain', 'whole', 'without'], beat: 'strikeBeat' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', 'blow')],
  withTakes: (move, choose) => ({
    ...move,
    use: chosen(move.use, choose),
    whole: chosen(move.whole, choose),
    without: chosen(move.without, choose),
  }),
  sounds: (_, { at, flies }) => [
    { sound: 'impact', at },
    { sound: 'whoosh', at: { ...at, offset: at.offset + Math.min(8, flies) }, seconds: 0.6, gain: -6 },
  ],
  poster: ({ scene }, { at, flies }) => placeFrame(scene, at) + Math.min(6, flies - 1),
  fields: FIELDS,
};
