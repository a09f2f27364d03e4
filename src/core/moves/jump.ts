import * as z from 'zod/mini';
import { anchorSchema, finite, id, type Layer, matteMask, placeFrame, remapKeyAt } from '../layer';
import { beatsPerBarAt, fps } from '../time';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, placeField, shakeSizeField } from './fields';
import { anchorAt, chosen, type MoveContext, type MoveKind, type Problem, type Proposal, type ProposeContext, takeUseSchema } from './kind';
import { effect, keysAt } from './parts';
import { shakeKeys } from './shake';
import { beatsIn, middleOf, onBeat, stretchAround } from './spans';

const cutOutUse = z.extend(takeUseSchema, { matteId: z.nullable(id) });
const jumpSchema = z.object({
  kind: z.literal('jump'),
  /** The jump at its highest, and the landing as both feet are down, with the figure cut out there. */
  up: cutOutUse,
  down: cutOutUse,
  plate: z.nullable(id),
  /** The highest of the jump, and the landing. */
  at: anchorSchema,
  lands: anchorSchema,
  /** Frames in which the cut-out leaves, and in which it comes. */
  carry: z.int().check(z.gte(1), z.lte(30)),
  /** Speed of the jump on its last frames before the highest, and how many. */
  faster: finite.check(z.gte(1), z.lte(8)),
  fastFrames: z.int().check(z.gte(0), z.lte(60)),
  /** Length of the streak, per cent of the height. */
  streak: finite.check(z.gte(0), z.lte(100)),
  shake: z.int().check(z.gte(0), z.lte(60)),
  shakeSize: finite.check(z.gte(0), z.lte(20)),
  way: z.enum(['up', 'left', 'right']),
});
export type Jump = z.infer<typeof jumpSchema>;

/** Which way the cut-out leaves: the number, how far it goes, and the angle of its streak. */
const OUT = { up: ['y', -120, 90], left: ['x', -115, 0], right: ['x', 115, 0] } as const;

/** The jump until it is highest; the empty set; a cut-out that carries the figure out; and the same back, with a shake as it lands. */
function layersOf({ take, picture, scene }: MoveContext, move: Jump): Layer[] {
  const { up, down, plate, at, lands, carry, faster, fastFrames, streak, shake, shakeSize, way } = move;
  const [number, far, angle] = OUT[way];
  const rate = fps(scene.rate);
  // Before the fast frames it runs as filmed.
  const fast = (frames: number) => remapKeyAt(at.beat, at.offset - frames, up.sync, 1);
  const hurries =
    fastFrames > 0 && faster > 1
      ? [
          { ...fast(fastFrames + 1), source: up.sync - (faster * fastFrames + 1) / rate },
          { ...fast(fastFrames), source: up.sync - (faster * fastFrames) / rate, speed: faster },
        ]
      : [];
  const runs = [...hurries, fast(0)];
  const smear = streak > 0 ? [effect('directional blur', { amount: streak, angle })] : [];
  const shaken = shake > 0 && shakeSize > 0 ? shakeKeys(lands.beat, lands.offset, shake, shakeSize) : null;
  const cut = (use: Jump['up']) => (use.matteId ? [matteMask(use.matteId)] : []);
  return [
    take('jump', say`The jump`, up.takeId, runs, { to: at }),
    ...(plate ? [picture('empty', say`Empty set`, plate, [remapKeyAt(0, 0, 0)], { from: at, to: lands })] : []),
    ...(up.matteId
      ? [
          take('out', say`Out of the frame`, up.takeId, [remapKeyAt(at.beat, at.offset, up.sync, 0, 'freeze')], {
            from: at,
            to: { beat: at.beat, offset: at.offset + carry },
            masks: cut(up),
            effects: smear,
            shutter: 180,
            numbers: {
              [number]: keysAt(at, [
                [-1, 0, 'ease in'],
                [carry, far],
              ]),
            },
          }),
        ]
      : []),
    ...(down.matteId
      ? [
          take('into', say`Into the frame`, down.takeId, [remapKeyAt(lands.beat, lands.offset, down.sync, 0, 'freeze')], {
            from: { beat: lands.beat, offset: lands.offset - carry },
            to: lands,
            masks: cut(down),
            effects: smear,
            shutter: 180,
            numbers: {
              y: keysAt(lands, [
                [-carry, -120, 'ease out'],
                [0, 0],
              ]),
            },
          }),
        ]
      : []),
    take('landing', say`The landing`, down.takeId, [remapKeyAt(lands.beat, lands.offset, down.sync)], {
      from: lands,
      edge: 'mirror',
      ...(shaken ? { numbers: shaken } : {}),
    }),
  ];
}

function problemsOf({ scene, footage }: MoveContext, move: Jump): Problem<Jump>[] {
  const [at, lands] = [placeFrame(scene, move.at), placeFrame(scene, move.lands)];
  const made: Problem<Jump>[] = [];
  if (!move.plate)
    made.push({
      text: say`There is no empty set behind “${footage(move.up.takeId).name}”, so the frame is black between jump and landing. Film a plate.`,
      nearest: null,
    });
  if (!move.up.matteId)
    made.push({ text: say`The figure is not cut out at the highest of the jump: it is gone from one frame to the next.`, nearest: null });
  if (lands - at < 2 * move.carry)
    made.push({
      text: say`To leave and to come back takes ${2 * move.carry} frames, and there are ${Math.max(0, lands - at)} between the jump and the landing.`,
      nearest: {
        label: say`Land a beat later`,
        move: { ...move, lands: { ...move.lands, beat: Math.max(move.lands.beat, move.at.beat) + 1 } },
      },
    });
  return made;
}

/** Highest on the beat and out in two frames, at twice the speed before; back three beats later with a shake of eleven frames. Common practice. */
function propose(context: ProposeContext, { jump }: Pick<Facts, 'jump'>): Proposal<Jump> {
  const { map, beat, takes } = context;
  const [first, second] = [takes[0], takes[1] ?? takes[0]];
  const bar = beatsPerBarAt(map, beat);
  const highest = jump.up?.second ?? middleOf(first.footage);
  const down = jump.down?.second ?? middleOf(second.footage);
  const { lead } = stretchAround(context, first.footage, highest, 1, bar);
  const later = Math.max(1, bar - 1);
  const after = beatsIn(map, beat + later, second.footage.to - down, 1, bar);
  return {
    lead,
    tail: later + after,
    move: {
      kind: 'jump',
      up: { takeId: first.takeId, sync: highest, matteId: jump.up?.matteId ?? null },
      down: { takeId: second.takeId, sync: down, matteId: jump.down?.matteId ?? null },
      plate: jump.plate,
      at: onBeat(lead),
      lands: onBeat(lead + later),
      carry: 2,
      faster: 2,
      fastFrames: lead > 0 ? 4 : 0,
      streak: 30,
      shake: 11,
      shakeSize: 1.5,
      way: 'up',
    },
    said: jump.why,
  };
}

/** A take slid to another second: who was cut out at the one before is not who is there. */
const slid = (use: Jump['up'], sync: number): Jump['up'] => ({ ...use, sync, matteId: sync === use.sync ? use.matteId : null });

const FIELDS: readonly Field<Jump>[] = [
  placeField('at', say`Highest on`, say`Move the jump`),
  placeField('lands', say`Lands on`, say`Move the landing`),
  {
    is: 'choice',
    label: say`Leaves`,
    of: 'way',
    said: say`Let the figure leave otherwise`,
    options: [
      ['up', say`upwards`],
      ['left', say`to the left`],
      ['right', say`to the right`],
    ],
  },
  { is: 'number', label: say`Carried out in`, unit: 'f', of: 'carry', min: 1, max: 30, said: say`Change how fast the figure leaves` },
  { is: 'number', label: say`Streak`, unit: '%', of: 'streak', min: 0, max: 100, said: say`Change the streak` },
  { is: 'number', label: say`Speed before it`, unit: '×', of: 'faster', min: 1, max: 8, step: 0.1, digits: 1, said: say`Change the speed` },
  { is: 'number', label: say`For`, unit: 'f', of: 'fastFrames', min: 0, max: 60, said: say`Change the speed` },
  { is: 'number', label: say`Shake`, unit: 'f', of: 'shake', min: 0, max: 60, said: say`Change the shake` },
  shakeSizeField(0.1),
  {
    is: 'second',
    label: say`Jump at its highest`,
    said: say`Slide the take`,
    get: ({ up }) => up.sync,
    set: ({ up }, sync) => ({ up: slid(up, sync) }),
  },
  {
    is: 'second',
    label: say`Landing, both feet down`,
    said: say`Slide the take`,
    get: ({ down }) => down.sync,
    set: ({ down }, sync) => ({ down: slid(down, sync) }),
  },
  {
    is: 'measure',
    label: say`Cut the figure out at both`,
    said: say`Cut the figure out`,
    needs: 'cutOuts',
    when: ({ up, down }) => up.matteId === null || down.matteId === null,
    takes: ({ up, down }) => [up.takeId, down.takeId],
    seconds: ({ up, down }) => [up.sync, down.sync],
    apply: ({ up, down }, { cutOuts }) => {
      const [first, second] = cutOuts.mattes;
      const change = { up: { ...up, matteId: first ?? up.matteId }, down: { ...down, matteId: second ?? down.matteId } };
      return { change: first || second ? change : null, said: cutOuts.why };
    },
  },
];

/** Take-off and landing. */
export const jump: MoveKind<Jump, 'jump'> = {
  kind: 'jump',
  schema: jumpSchema,
  words: {
    name: say`Take-off`,
    working: say`Looking for the jump`,
    about: say`A jump is carried out of the frame by a cut-out, the set stays empty, and somebody lands with a shake.`,
  },
  takes: { min: 1, max: 2 },
  needs: ['jump'],
  mixes: true,
  planned: { recipe: 'take-off and landing', slots: ['jump', 'landing'], beat: 'jumpBeat' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', say`highest of the jump`), anchorAt('lands', 'landing')],
  withTakes: (move, choose) => {
    const anew = (use: Jump['up']) => {
      const now = chosen(use, choose);
      return now.takeId === use.takeId ? now : { ...now, matteId: null };
    };
    return { ...move, up: anew(move.up), down: anew(move.down) };
  },
  sounds: (_, { at, lands }) => [
    { sound: 'whoosh', at, seconds: 0.6 },
    { sound: 'impact', at: lands },
    { sound: 'rumble', at: lands, seconds: 1.5, gain: -6 },
  ],
  poster: ({ scene }, { at }) => placeFrame(scene, at),
  fields: FIELDS,
};
