import * as z from 'zod/mini';
import { anchorSchema, finite, id, type Layer, type Mask, matteMask, type Place, placeFrame, plainMask, remapKeyAt, still } from '../layer';
import { beatsPerBarAt } from '../time';
import type { Frames } from '../units';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, placeField } from './fields';
import { anchorAt, chosen, type MoveContext, type MoveKind, type Problem, type Proposal, type ProposeContext, takeUseSchema } from './kind';
import { effect, keysAt } from './parts';
import { beatsIn, onBeat, stretchAround } from './spans';

const WAYS = ['patches', 'pieces', 'grain', 'light', 'wipe'] as const;
const vanishSchema = z.object({
  kind: z.literal('vanish'),
  /** Who goes: the take, and the second at which it stops. */
  use: takeUseSchema,
  at: anchorSchema,
  /** Their cut-out at that second, or the whole frame where there is none. */
  matteId: z.nullable(id),
  /** The empty set that is left. */
  plate: z.nullable(id),
  way: z.enum(WAYS),
  /** Frames in which they go, and in which they come back. */
  frames: z.int().check(z.gte(2), z.lte(250)),
  /** How bright they grow on the way, per cent of glow. */
  light: finite.check(z.gte(0), z.lte(300)),
  /** How far what is left of them drifts, per cent of the frame. */
  driftX: finite.check(z.gte(-200), z.lte(200)),
  driftY: finite.check(z.gte(-200), z.lte(200)),
  /** Who comes back, and the place at which they are whole again and move on; null where nobody does. */
  back: z.nullable(z.object({ use: takeUseSchema, at: anchorSchema })),
});
export type Vanish = z.infer<typeof vanishSchema>;

/** Numbers of the dissolve, by the way somebody goes. */
const DISSOLVES = {
  patches: { pieces: 0, size: 8, soft: 10 },
  pieces: { pieces: 1, size: 5, soft: 0 },
  grain: { pieces: 0, size: 0.6, soft: 4 },
} as const;

/** Effects, masks and numbers that take a still figure away over some frames from a place on; or, `back`, that bring it until the place. */
function going(move: Vanish, place: Place, back: boolean): Partial<Layer> {
  const { way, frames, light, driftX, driftY } = move;
  const from: Frames = back ? -frames : 0;
  const ramp = (whole: number, gone: number) =>
    keysAt(place, [
      [from, back ? gone : whole, 'ease in and out'],
      [from + frames, back ? whole : gone],
    ]);
  const glow =
    light > 0
      ? [
          effect('glow', {
            from: 20,
            amount: keysAt(place, [
              [from, 0, 'ease in'],
              [from + Math.round(frames / 2), light, 'ease out'],
              [from + frames, 0],
            ]),
          }),
        ]
      : [];
  const drift = {
    ...(driftX === 0 ? {} : { x: ramp(0, driftX) }),
    ...(driftY === 0 ? {} : { y: ramp(0, driftY) }),
  };
  switch (way) {
    case 'light':
      return { effects: [...glow, effect('exposure', { amount: ramp(0, 3) })], numbers: { opacity: ramp(100, 0), ...drift } };
    case 'wipe':
      return { effects: glow, masks: [wipe(ramp(105, -5))], numbers: drift };
    default: {
      const { pieces, size, soft } = DISSOLVES[way];
      return { effects: [...glow, effect('dissolve', { pieces, size, soft, amount: ramp(0, 100) })], numbers: drift };
    }
  }
}

/** A soft level line, what is above it let through. */
const wipe = (at: Mask['numbers']['at']): Mask =>
  plainMask('wipe', 'line', { at, angle: still(0), inside: still(3), outside: still(3) }, { combine: 'intersect' });

/** The take until it stops; the empty set; the still figure over it that goes; and, where somebody comes back, the same the other way round. */
function layersOf({ take, picture }: MoveContext, move: Vanish): Layer[] {
  const { use, at, matteId, plate, frames, back } = move;
  const went = going(move, at, false);
  // Without an empty set what lies beneath is the frame as it stopped: nothing could be seen to go.
  const runs = plate
    ? [remapKeyAt(at.beat, at.offset, use.sync)]
    : [remapKeyAt(at.beat, at.offset, use.sync, 0, 'freeze'), remapKeyAt(0, 0, null, 1)].reverse();
  return [
    take('base', say`Who goes`, use.takeId, runs, plate ? { to: at } : back ? { to: back.at } : {}),
    ...(plate ? [picture('empty', say`Empty set`, plate, [remapKeyAt(0, 0, 0)], { from: at, to: back?.at ?? null })] : []),
    ...(plate
      ? [
          take('going', 'Going', use.takeId, [remapKeyAt(at.beat, at.offset, use.sync, 0, 'freeze')], {
            ...went,
            from: at,
            to: { beat: at.beat, offset: at.offset + frames },
            masks: [...(matteId ? [matteMask(matteId)] : []), ...(went.masks ?? [])],
          }),
        ]
      : []),
    ...(back
      ? [
          take('coming', say`Coming back`, back.use.takeId, [remapKeyAt(back.at.beat, back.at.offset, back.use.sync, 0, 'freeze')], {
            ...going(move, back.at, true),
            from: { beat: back.at.beat, offset: back.at.offset - frames },
            to: back.at,
          }),
          take('after', 'Back', back.use.takeId, [remapKeyAt(back.at.beat, back.at.offset, back.use.sync)], { from: back.at }),
        ]
      : []),
  ];
}

function problemsOf({ scene, footage }: MoveContext, move: Vanish): Problem<Vanish>[] {
  const [at, end] = [placeFrame(scene, move.at), move.back ? placeFrame(scene, move.back.at) : scene.end];
  const empty = move.plate
    ? []
    : [
        {
          text: say`There is no empty set behind “${footage(move.use.takeId).name}”, so nothing can be left when they go. Film a plate in the same set-up.`,
          nearest: null,
        },
      ];
  const room = end - at;
  const needs = move.frames * (move.back ? 2 : 1);
  if (room >= needs) return empty;
  const fit = Math.max(2, Math.floor(room / (move.back ? 2 : 1)));
  return [
    ...empty,
    {
      text: say`To go${move.back ? say` and to come back` : ''} takes ${needs} frames, and there are ${Math.max(0, room)}: at most ${fit} each.`,
      nearest: room >= 4 ? { label: say`Go within ${fit} frames`, move: { ...move, frames: fit } } : null,
    },
  ];
}

/** They stop on the beat and are gone in three quarters of a second; a bar later they are back where another take has them. */
function propose(context: ProposeContext, { cutOut }: Pick<Facts, 'cutOut'>): Proposal<Vanish> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }, other] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = cutOut.second;
  const { lead } = stretchAround(context, footage, sync, 1, bar);
  const second = other ? other.footage.from + Math.min(2, (other.footage.to - other.footage.from) / 3) : 0;
  const back = other && other.takeId !== takeId ? { use: { takeId: other.takeId, sync: second }, at: onBeat(lead + bar) } : null;
  const after = back ? beatsIn(map, beat + bar, other.footage.to - second, 1, bar) : 0;
  return {
    lead,
    tail: bar + after,
    move: {
      kind: 'vanish',
      use: { takeId, sync },
      at: onBeat(lead),
      matteId: cutOut.matte?.matteId ?? null,
      plate: cutOut.plate,
      way: 'patches',
      frames: 18,
      light: 80,
      driftX: 0,
      driftY: 0,
      back,
    },
    said: cutOut.matte ? '' : cutOut.why,
  };
}

const goneBack = ({ back }: Vanish) => back !== null;

const FIELDS: readonly Field<Vanish>[] = [
  placeField('at', say`Stops and goes`, say`Move the vanishing`),
  {
    is: 'choice',
    label: say`Goes`,
    of: 'way',
    said: say`Let them go otherwise`,
    options: [
      ['patches', say`in patches`],
      ['pieces', say`in pieces`],
      ['grain', say`in grain`],
      ['light', say`in light`],
      ['wipe', say`by a soft line, downwards`],
    ],
  },
  { is: 'number', label: say`Within`, unit: 'f', of: 'frames', min: 2, max: 250, said: say`Let them go faster` },
  { is: 'number', label: say`Glows up to`, unit: '%', of: 'light', min: 0, max: 300, step: 10, said: say`Let them glow` },
  { is: 'number', label: say`Drifts across`, unit: '%', of: 'driftX', min: -200, max: 200, said: say`Let them drift` },
  { is: 'number', label: say`Drifts down`, unit: '%', of: 'driftY', min: -200, max: 200, said: say`Let them drift` },
  {
    is: 'second',
    label: say`Stopped second`,
    said: say`Stop at another second`,
    get: ({ use }) => use.sync,
    // Who was cut out at one second is not who is there at another.
    set: ({ use, matteId }, sync) => ({ use: { ...use, sync }, matteId: sync === use.sync ? matteId : null }),
  },
  {
    is: 'measure',
    label: say`Cut them out at that second`,
    said: say`Cut out who goes`,
    needs: 'cutOuts',
    when: ({ matteId }) => matteId === null,
    takes: ({ use }) => [use.takeId],
    seconds: ({ use }) => [use.sync],
    apply: (_, { cutOuts }) => ({ change: cutOuts.mattes[0] ? { matteId: cutOuts.mattes[0] } : null, said: cutOuts.why }),
  },
  {
    is: 'place',
    label: say`Is back`,
    said: say`Move the return`,
    when: goneBack,
    get: ({ back, at }) => back?.at ?? at,
    set: ({ back }, at) => ({ back: back && { ...back, at } }),
  },
  {
    is: 'second',
    label: say`Second take as it moves on`,
    said: say`Slide the take`,
    when: goneBack,
    get: ({ back }) => back?.use.sync ?? 0,
    set: ({ back }, sync) => ({ back: back && { ...back, use: { ...back.use, sync } } }),
  },
  { is: 'action', label: say`Nobody comes back`, said: say`Let nobody come back`, when: goneBack, apply: () => ({ back: null }) },
  {
    is: 'action',
    label: say`They come back a bar later`,
    said: say`Let them come back`,
    when: (move) => !goneBack(move),
    apply: ({ use, at }) => ({ back: { use, at: { ...at, beat: at.beat + 4 } } }),
  },
];

/** Vanish and reappear. */
export const vanish: MoveKind<Vanish, 'cutOut'> = {
  kind: 'vanish',
  schema: vanishSchema,
  words: {
    name: say`Vanish`,
    working: say`Cutting the performer out`,
    about: say`The performer stops, dissolves over the empty set in patches, pieces, grain or light, and is back elsewhere.`,
  },
  takes: { min: 1, max: 2 },
  needs: ['cutOut'],
  mixes: true,
  planned: { recipe: 'vanish and reappear', slots: ['go', 'return'], beat: 'vanishBeat' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [
    anchorAt('at', 'vanishing'),
    { event: 'return', map: (move, change) => ({ ...move, back: move.back && { ...move.back, at: change(move.back.at) } }) },
  ],
  withTakes: (move, choose) => {
    const use = chosen(move.use, choose);
    const back = move.back && { ...move.back, use: chosen(move.back.use, choose) };
    return use.takeId === move.use.takeId ? { ...move, use, back } : { ...move, use, back, matteId: null };
  },
  // What is heard leads what is seen by four frames. Common practice.
  sounds: (_, { at, back }) => [
    { sound: 'reversed rumble', at, seconds: 1.5 },
    { sound: 'whoosh', at: { ...at, offset: at.offset + 2 }, seconds: 0.8, gain: -4 },
    ...(back ? [{ sound: 'whoosh' as const, at: { ...back.at, offset: back.at.offset - 4 }, seconds: 0.8, gain: -4 }] : []),
  ],
  poster: ({ scene }, { at, frames }) => placeFrame(scene, at) + Math.round(frames / 2),
  fields: FIELDS,
};
