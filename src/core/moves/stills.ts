import * as z from 'zod/mini';
import { anchorSchema, finite, type Layer, placeFrame, plainMask, remapKeyAt, still } from '../layer';
import { beatsPerBarAt } from '../time';
import { say } from '../words';
import { everyField, type Field, listField, optionsOf, placeField } from './fields';
import {
  anchorAt,
  chosen,
  type MoveContext,
  type MoveKind,
  type Proposal,
  type ProposeContext,
  percentSchema,
  type TakeUse,
  takeUseSchema,
} from './kind';
import { effect, keysAt } from './parts';
import { endsAfter, onBeat } from './spans';

const GROUNDS = ['black', 'paper', 'the first, blurred'] as const;
/** How much a still behind a wall is blurred, per cent of the height, and by how many stops it is darker. */
const BEHIND = { blur: 6, darker: -1.5 };
/** R'G'B' of paper. */
const PAPER = { r: 0.95, g: 0.91, b: 0.84 };

const stillsSchema = z.object({
  kind: z.literal('stills'),
  /** The stills: each a take at a second of it. One fills the frame; several make a wall. */
  uses: z.array(takeUseSchema).check(z.minLength(1), z.maxLength(16)),
  at: anchorSchema,
  until: anchorSchema,
  /** Scale at the beginning and the end, per cent, and how far it drifts, per cent of the frame. */
  from: finite.check(z.gte(100), z.lte(300)),
  to: finite.check(z.gte(100), z.lte(300)),
  driftX: finite.check(z.gte(-50), z.lte(50)),
  driftY: finite.check(z.gte(-50), z.lte(50)),
  /** Dust and scratches laid over by screen, per cent. */
  texture: percentSchema,
  /** The stills of a wall come one every so many beats, and pop in within so many frames. */
  every: finite.check(z.gte(0.25), z.lte(16)),
  pop: z.int().check(z.gte(0), z.lte(60)),
  columns: z.int().check(z.gte(1), z.lte(4)),
  /** Width between them, per cent of the height. */
  gutter: finite.check(z.gte(0), z.lte(20)),
  /** What is seen behind a wall. */
  ground: z._default(z.enum(GROUNDS), 'black'),
});
export type Stills = z.infer<typeof stillsSchema>;

/** Stills with a slow change of size and place; several stand beside each other, each arriving on its beat. */
function layersOf({ take, made, frame }: MoveContext, move: Stills): Layer[] {
  const { uses, at, until, from, to, driftX, driftY, texture, every, pop, columns, gutter, ground } = move;
  const moves = (value: number, end: number) => [...keysAt(at, [[0, value]]), ...keysAt(until, [[0, end]])];
  const frozen = ({ sync }: TakeUse) => [remapKeyAt(at.beat, at.offset, sync, 0, 'freeze')];
  const rows = Math.ceil(uses.length / columns);
  // A still of a wall keeps the frame's shape: it is as large as both its column and its row leave room for.
  const across = (gutter * frame.height) / frame.width;
  const share = Math.min((100 - across * (columns + 1)) / columns, (100 - gutter * (rows + 1)) / rows) / 100;
  const place = (i: number) => {
    const [row, column] = [Math.floor(i / columns), i % columns];
    const inRow = Math.min(columns, uses.length - row * columns);
    return {
      x: (column - (inRow - 1) / 2) * (100 * share + across),
      y: (row - (rows - 1) / 2) * (100 * share + gutter),
    };
  };
  const groundOf = (what: Stills['ground']): Layer[] => {
    if (what === 'paper') return [made('ground', 'Paper', { kind: 'colour', ...PAPER }, {})];
    if (what === 'black') return [];
    const effects = [effect('blur', { amount: BEHIND.blur }), effect('exposure', { amount: BEHIND.darker })];
    // Larger, so that its blur has no rim.
    return [
      take('ground', say`Behind the wall`, uses[0].takeId, frozen(uses[0]), { edge: 'mirror', numbers: { scale: still(110) }, effects }),
    ];
  };
  const shown =
    uses.length === 1
      ? [
          take('still1', 'Still', uses[0].takeId, frozen(uses[0]), {
            edge: 'mirror',
            numbers: { scale: moves(from, to), ...(driftX ? { x: moves(0, driftX) } : {}), ...(driftY ? { y: moves(0, driftY) } : {}) },
          }),
        ]
      : uses.map((use, i) => {
          const comes = { beat: at.beat + i * every, offset: at.offset };
          const size = 100 * share;
          const { x, y } = place(i);
          return take(`still${i + 1}`, say`Still ${i + 1}`, use.takeId, frozen(use), {
            from: comes,
            masks: [
              plainMask(
                'edge',
                'rectangle',
                { x: still(50), y: still(50), width: still(100), height: still(100), turn: still(0), inside: still(0), outside: still(0) },
                { attachedToLayer: true },
              ),
            ],
            numbers: {
              x: still(x),
              y: still(y),
              scale:
                pop > 0
                  ? keysAt(comes, [
                      [0, 0.6 * size, 'overshoot'],
                      [pop, size],
                    ])
                  : still(size),
            },
          });
        });
  const dust =
    texture > 0
      ? [
          made(
            'texture',
            'Dust',
            { kind: 'dust', specks: 14, scratches: 2, every: 2, seed: 1 },
            { blend: 'screen', numbers: { opacity: still(texture) } },
          ),
        ]
      : [];
  const behind = uses.length > 1 ? groundOf(ground) : [];
  return [...behind, ...shown, ...dust];
}

/** One still from 100 to 110 per cent over two bars; several come one a beat. Common practice. */
function propose(context: ProposeContext): Proposal<Stills> {
  const { map, beat, takes } = context;
  const bar = beatsPerBarAt(map, beat);
  const uses = takes.map(({ takeId, footage: { from, to } }, i) => ({
    takeId,
    // The same take several times gives as many moments of it.
    sync: from + ((to - from) * (i + 1)) / (takes.length + 1),
  }));
  const length = 2 * bar;
  return {
    lead: 0,
    tail: length,
    move: {
      kind: 'stills',
      uses,
      at: onBeat(0),
      until: onBeat(length),
      from: 100,
      to: 110,
      driftX: 0,
      driftY: 0,
      texture: 30,
      every: 1,
      pop: 6,
      columns: uses.length > 4 ? 3 : 2,
      gutter: 2,
      ground: 'black',
    },
    said: '',
  };
}

const one = ({ uses }: Stills) => uses.length === 1;
const wall = ({ uses }: Stills) => uses.length > 1;

const FIELDS: readonly Field<Stills>[] = [
  placeField('at', 'Begins', say`Move the still`),
  placeField('until', 'Ends', say`Lengthen the still`),
  { is: 'number', label: say`Scale from`, unit: '%', of: 'from', min: 100, max: 300, said: say`Move the still`, when: one },
  { is: 'number', label: say`Scale to`, unit: '%', of: 'to', min: 100, max: 300, said: say`Move the still`, when: one },
  {
    is: 'number',
    label: say`Drifts across`,
    unit: '%',
    of: 'driftX',
    min: -50,
    max: 50,
    step: 0.5,
    digits: 1,
    said: say`Let the still drift`,
    when: one,
  },
  {
    is: 'number',
    label: say`Drifts down`,
    unit: '%',
    of: 'driftY',
    min: -50,
    max: 50,
    step: 0.5,
    digits: 1,
    said: say`Let the still drift`,
    when: one,
  },
  { ...everyField<Stills>(say`One every`, say`Space the stills`), when: wall },
  { is: 'number', label: say`Pops in within`, unit: 'f', of: 'pop', min: 0, max: 60, said: say`Let them pop`, when: wall },
  { is: 'number', label: say`Columns`, unit: '', of: 'columns', min: 1, max: 4, said: say`Arrange the stills`, when: wall },
  {
    is: 'number',
    label: say`Between them`,
    unit: '%',
    of: 'gutter',
    min: 0,
    max: 20,
    step: 0.5,
    digits: 1,
    said: say`Space the stills`,
    when: wall,
  },
  {
    is: 'choice',
    label: say`Behind them`,
    of: 'ground',
    options: optionsOf(GROUNDS),
    said: say`Change what is behind the wall`,
    when: wall,
  },
  { is: 'number', label: say`Dust over it`, unit: '%', of: 'texture', min: 0, max: 100, step: 5, said: say`Lay dust over it` },
  listField<Stills, TakeUse>({
    label: say`Still`,
    said: say`Change the stills`,
    get: ({ uses }) => uses,
    set: (_, uses) => ({ uses: [...uses] }),
    fields: [
      {
        is: 'second',
        label: say`Second of the take`,
        said: say`Choose another moment`,
        get: ({ sync }) => sync,
        set: (_, sync) => ({ sync }),
      },
    ],
    min: 1,
    max: 16,
    fewer: 'any',
    more: { label: say`One still more`, make: ({ uses }) => ({ ...uses[uses.length - 1], sync: uses[uses.length - 1].sync + 0.5 }) },
  }),
];

/** Still in motion, and a wall of stills. */
export const stills: MoveKind<Stills, never> = {
  kind: 'stills',
  schema: stillsSchema,
  words: {
    name: say`Still in motion`,
    working: say`Laying the stills`,
    about: say`A frozen moment grows or drifts slowly under dust; several fill a wall, one a beat.`,
  },
  takes: { min: 1, max: 16 },
  needs: [],
  mixes: false,
  propose,
  layers: layersOf,
  problems: ({ scene }, move) =>
    endsAfter(placeFrame(scene, move.at), placeFrame(scene, move.until), say`The still`, {
      ...move,
      until: { ...move.at, beat: move.at.beat + 2 },
    }),
  anchors: [anchorAt('at', 'still'), anchorAt('until', say`end of the still`)],
  withTakes: (move, choose) => ({ ...move, uses: move.uses.map((use) => chosen(use, choose)) }),
  sounds: (_, { uses, at, every }) =>
    uses.map((_use, i) => ({ sound: 'shutter' as const, at: { beat: at.beat + i * every, offset: at.offset } })),
  poster: ({ scene }, { until }) => placeFrame(scene, until) - 1,
  fields: FIELDS,
};
