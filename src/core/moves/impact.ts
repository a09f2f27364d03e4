import * as z from 'zod/mini';
import { anchorSchema, finite, type Key, type Layer, type Place, placeFrame, remapKeyAt, type Scene } from '../layer';
import { beatsPerBarAt } from '../time';
import type { Beats, Frames, Percent } from '../units';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, listField, secondField, shakeSizeField } from './fields';
import {
  anchorsIn,
  chosen,
  type MoveContext,
  type MoveKind,
  type Problem,
  type Proposal,
  type ProposeContext,
  percentSchema,
  takeUseSchema,
} from './kind';
import { effect, keysAt } from './parts';
import { shakeKeys } from './shake';
import { frames, onBeat, stretchAround } from './spans';

const count = (most: number) => z.int().check(z.gte(0), z.lte(most));
const impactSchema = z.object({
  kind: z.literal('impact'),
  /** The take, and its second that meets the first hit. */
  use: takeUseSchema,
  hits: z.array(anchorSchema).check(z.minLength(1), z.maxLength(200)),
  /** How long and how dense a flash of white is. */
  flash: count(12),
  light: percentSchema,
  /** The size on the hit, per cent, and frames until it is back. */
  bump: finite.check(z.gte(100), z.lte(200)),
  back: z.int().check(z.gte(1), z.lte(60)),
  /** Frames of shake and how far, per cent of the height. */
  shake: count(60),
  shakeSize: finite.check(z.gte(0), z.lte(20)),
  /** Light from one side, gone after two frames. */
  side: z.enum(['none', 'left', 'right', 'above', 'below']),
  /** Saturation on the hit, per cent; 100 for as it is. */
  pop: finite.check(z.gte(0), z.lte(400)),
  /** A flicker up to so many stops all the while, changed every so many frames; 0 for none. */
  flicker: finite.check(z.gte(0), z.lte(4)),
  flickerEvery: z.int().check(z.gte(1), z.lte(50)),
});
export type Impact = z.infer<typeof impactSchema>;

/** Angles of a gradient whose first colour lies at a side. */
const FROM_SIDE = { left: 90, right: -90, above: 0, below: 180 } as const;
const SIDE_NAMES = {
  left: say`Light from the left`,
  right: say`Light from the right`,
  above: say`Light from above`,
  below: say`Light from below`,
} as const;
/** Frames in which the light of one side is gone. Common practice. */
const SIDE_FRAMES = 2;

const sorted = (scene: Scene, hits: readonly Place[]): Place[] => hits.toSorted((a, b) => placeFrame(scene, a) - placeFrame(scene, b));

/** A number that is at `rest`, at `peak` on each hit, and back after some frames or just before the next hit. */
function pulsed(scene: Scene, hits: readonly Place[], back: Frames, rest: number, peak: number, easing: Key['easing']): Key[] {
  return hits.flatMap((hit, i) => {
    const room = i + 1 < hits.length ? placeFrame(scene, hits[i + 1]) - placeFrame(scene, hit) - 1 : Number.POSITIVE_INFINITY;
    const before = i === 0 ? keysAt(hit, [[-1, rest]]) : [];
    if (room < 1) return [...before, ...keysAt(hit, [[0, peak]])];
    const done = Math.min(back, room);
    // It rests until the frame before the next hit, so that each hits at once.
    return [
      ...before,
      ...keysAt(hit, [
        [0, peak, easing],
        [done, rest, 'hold'],
      ]),
    ];
  });
}

/** One take that answers each of its hits by light, size, shake and colour. */
function layersOf({ scene, take, made }: MoveContext, move: Impact): Layer[] {
  const { use, flash, light, bump, back, shake, shakeSize, side, pop } = move;
  const hits = sorted(scene, move.hits);
  const shaken = shake > 0 && shakeSize > 0 ? hits.map((hit, i) => shakeOf(scene, hit, hits[i + 1], shake, shakeSize)) : [];
  const base = take('take', say`The take`, use.takeId, [remapKeyAt(hits[0].beat, hits[0].offset, use.sync)], {
    edge: 'mirror',
    numbers: {
      ...(bump > 100 ? { scale: pulsed(scene, hits, back, 100, bump, 'ease out') } : {}),
      ...(shaken.length > 0 ? { x: shaken.flatMap((s) => s.x), y: shaken.flatMap((s) => s.y) } : {}),
    },
    effects: [
      ...(pop !== 100 ? [effect('saturation', { amount: pulsed(scene, hits, back, 100, pop, 'ease out') })] : []),
      ...(move.flicker > 0 ? [effect('flicker', { amount: move.flicker, every: move.flickerEvery })] : []),
    ],
  });
  const sideLight =
    side === 'none'
      ? []
      : [
          made(
            'side',
            SIDE_NAMES[side],
            { kind: 'gradient', r: 1, g: 0.92, b: 0.8, toR: 0, toG: 0, toB: 0, angle: FROM_SIDE[side], shape: 'even' },
            { blend: 'screen', numbers: { opacity: pulsed(scene, hits, SIDE_FRAMES, 0, 100, 'linear') } },
          ),
        ];
  const flashed =
    flash > 0 && light > 0
      ? [
          made(
            'flash',
            'Flash',
            { kind: 'colour', r: 1, g: 1, b: 1 },
            { numbers: { opacity: pulsed(scene, hits, flash, 0, light, 'hold') } },
          ),
        ]
      : [];
  return [base, ...sideLight, ...flashed];
}

/** A shake from a hit on, over before the next. */
function shakeOf(scene: Scene, hit: Place, next: Place | undefined, length: Frames, size: Percent) {
  const room = next ? placeFrame(scene, next) - placeFrame(scene, hit) - 2 : length;
  return shakeKeys(hit.beat, hit.offset, Math.max(1, Math.min(length, room)), size);
}

function problemsOf({ scene }: MoveContext, move: Impact): Problem<Impact>[] {
  const hits = sorted(scene, move.hits);
  const outside = hits.filter((hit) => placeFrame(scene, hit) < scene.first || placeFrame(scene, hit) >= scene.end);
  const inside = hits.filter((hit) => !outside.includes(hit));
  if (outside.length === 0) return [];
  return [
    {
      text: say`${outside.length} of ${hits.length} hits lie outside the shot, which has ${frames(scene.end - scene.first)}. Lengthen the shot, or leave them out.`,
      nearest: inside.length > 0 ? { label: say`Leave them out`, move: { ...move, hits: inside } } : null,
    },
  ];
}

/** Hits every so many beats from one place on, up to the beat of the last. */
export const hitsEvery = (first: Place, last: Beats, every: Beats): Place[] =>
  Array.from({ length: Math.max(1, Math.min(200, Math.floor((last - first.beat) / every + 1e-6) + 1)) }, (_, k) => ({
    beat: first.beat + k * every,
    offset: first.offset,
  }));

/** On every second beat (the accents of most bars of four; common practice), a frame of light, 5 % of size and a short shake. */
function propose(context: ProposeContext): Proposal<Impact> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = footage.from + Math.min(1, (footage.to - footage.from) / 4);
  const { lead, tail } = stretchAround(context, footage, sync, 3 * bar, 1);
  return {
    lead: Math.min(1, lead),
    tail,
    move: {
      kind: 'impact',
      use: { takeId, sync },
      hits: hitsEvery(onBeat(Math.min(1, lead)), Math.min(1, lead) + Math.max(0, tail - 1), Math.min(2, Math.max(1, tail - 1))),
      flash: 1,
      light: 60,
      bump: 105,
      back: 6,
      shake: 8,
      shakeSize: 0.8,
      side: 'none',
      pop: 100,
      flicker: 0,
      flickerEvery: 3,
    },
    said: '',
  };
}

/** The hits that stand, spread anew. */
const spread = (every: Beats) => (move: Impact) => {
  const beats = move.hits.map((h) => h.beat);
  const first = move.hits.reduce((a, b) => (b.beat < a.beat ? b : a));
  return { hits: hitsEvery(first, Math.max(...beats), every) };
};

const FIELDS: readonly Field<Impact>[] = [
  ...([1, 2, 4] as const).map(
    (every): Field<Impact> => ({
      is: 'action',
      label: every === 1 ? say`On every beat` : say`On every ${every} beats`,
      said: say`Spread the hits`,
      apply: spread(every),
    }),
  ),
  {
    is: 'measure',
    label: say`On the song’s own hits`,
    said: say`Put the hits on those of the song`,
    needs: 'hits',
    takes: ({ use }) => [use.takeId],
    apply: (move, { hits }) => onSong(move, hits),
  },
  { is: 'number', label: say`Flash`, unit: 'f', of: 'flash', min: 0, max: 12, said: say`Change the flash` },
  { is: 'number', label: say`Its light`, unit: '%', of: 'light', min: 0, max: 100, step: 5, said: say`Change the flash` },
  {
    is: 'number',
    label: say`Size on the hit`,
    unit: '%',
    of: 'bump',
    min: 100,
    max: 200,
    step: 0.5,
    digits: 1,
    said: say`Change the bump`,
  },
  { is: 'number', label: say`Back after`, unit: 'f', of: 'back', min: 1, max: 60, said: say`Change the bump` },
  { is: 'number', label: say`Shake`, unit: 'f', of: 'shake', min: 0, max: 60, said: say`Change the shake` },
  shakeSizeField(0.1),
  {
    is: 'choice',
    label: say`Light from one side`,
    of: 'side',
    said: say`Light it from a side`,
    options: [
      ['none', say`none`],
      ['left', say`from the left`],
      ['right', say`from the right`],
      ['above', say`from above`],
      ['below', say`from below`],
    ],
  },
  { is: 'number', label: say`Saturation on the hit`, unit: '%', of: 'pop', min: 0, max: 400, step: 5, said: say`Let the colour jump` },
  {
    is: 'number',
    label: say`Flicker all the while`,
    unit: say`EV`,
    of: 'flicker',
    min: 0,
    max: 4,
    step: 0.1,
    digits: 1,
    said: say`Let it flicker`,
  },
  {
    is: 'number',
    label: say`Flicker every`,
    unit: 'f',
    of: 'flickerEvery',
    min: 1,
    max: 50,
    said: say`Let it flicker`,
    when: ({ flicker }) => flicker > 0,
  },
  secondField('use', say`Take on the first hit`),
  listField<Impact, Place>({
    label: say`Hit`,
    said: say`Change the hits`,
    get: ({ hits }) => hits,
    set: (_, hits) => ({ hits: [...hits] }),
    fields: [{ is: 'place', label: say`On`, said: say`Move a hit`, get: (p) => p, set: (_, { beat, offset }) => ({ beat, offset }) }],
    min: 1,
    max: 200,
    fewer: 'any',
    more: { label: say`One hit more`, make: ({ hits }) => ({ ...hits[hits.length - 1], beat: hits[hits.length - 1].beat + 1 }) },
  }),
];

/** The hits put on what is heard in the song, the strongest half of what lies between the first and the last there are. */
function onSong(move: Impact, heard: Facts['hits']): { change: Partial<Impact> | null; said: string } {
  const beats = move.hits.map((h) => h.beat);
  const [from, to] = [Math.min(...beats) - 0.5, Math.max(...beats) + 0.5];
  const near = heard.filter(({ beat }) => beat >= from && beat <= to);
  if (near.length === 0)
    return { change: null, said: say`No hits are known of this stretch of the song. Have the song read under Song first.` };
  const strong = near.toSorted((a, b) => b.strength - a.strength).slice(0, Math.max(1, Math.min(200, Math.ceil(near.length / 2))));
  const hits = strong.map(({ beat }) => onBeat(beat)).sort((a, b) => a.beat - b.beat);
  return {
    change: { hits },
    said: hits.length === 1 ? say`On the strongest hit of the song there.` : say`On the ${hits.length} strongest hits of the song there.`,
  };
}

/** Impact: the picture answers hits of the song by light, size, shake and colour. */
export const impact: MoveKind<Impact, never> = {
  kind: 'impact',
  schema: impactSchema,
  words: {
    name: say`Impact`,
    working: say`Laying the hits`,
    about: say`Flash, bump of scale, shake, light from a side or a jump of colour on chosen beats.`,
  },
  takes: { min: 1, max: 1 },
  needs: [],
  mixes: false,
  planned: { recipe: 'impact and pulse', slots: ['shot'] },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorsIn('hits', 'hit')],
  withTakes: (move, choose) => ({ ...move, use: chosen(move.use, choose) }),
  sounds: (_, { hits }) => hits.slice(0, 48).map((at) => ({ sound: 'impact' as const, at, seconds: 0.5, gain: -3 })),
  poster: ({ scene }, { hits }) => placeFrame(scene, hits[0]),
  fields: FIELDS,
};
