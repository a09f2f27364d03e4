import * as z from 'zod/mini';
import { anchorSchema, finite, type Layer, placeFrame, remapKeyAt, still } from '../layer';
import { TITLE_BY, TITLE_COMES } from '../sources';
import { beatsPerBarAt } from '../time';
import { say } from '../words';
import { type Field, placeField, secondField } from './fields';
import {
  anchorAt,
  chosen,
  type MoveContext,
  type MoveKind,
  type Proposal,
  type ProposeContext,
  percentSchema,
  takeUseSchema,
} from './kind';
import { keysAt } from './parts';
import { endsAfter, onBeat, stretchAround } from './spans';

const titleSchema = z.object({
  kind: z.literal('title'),
  /** What it lies on, and the second of it as the title begins. */
  use: takeUseSchema,
  at: anchorSchema,
  until: anchorSchema,
  text: z.string().check(z.maxLength(2000)),
  font: z.enum(['Fraunces', 'Recursive']),
  size: finite.check(z.gte(0.5), z.lte(100)),
  weight: finite.check(z.gte(100), z.lte(900)),
  /** By which parts it comes, how each does, and after how many beats the next. */
  by: z.enum(['whole', 'line', 'word', 'letter']),
  comes: z.enum(['at once', 'faded', 'risen', 'scattered']),
  every: finite.check(z.gte(0.0625), z.lte(16)),
  /** How much wider it is spaced as it ends, per cent of its size. */
  widens: finite.check(z.gte(0), z.lte(200)),
  bar: percentSchema,
  /** Where its middle is, per cent of the frame from above. */
  place: percentSchema,
  /** Frames in which it fades as it ends. */
  fade: z.int().check(z.gte(0), z.lte(120)),
});
export type Title = z.infer<typeof titleSchema>;

/** A take with words over it that come part by part on the beat, are spaced wider as they stand, and fade. */
function layersOf({ take, made }: MoveContext, move: Title): Layer[] {
  const { use, at, until, text, font, size, weight, by, comes, every, widens, bar, place, fade } = move;
  const source = {
    kind: 'title' as const,
    text,
    font,
    fontId: null,
    size,
    weight,
    line: 120,
    tracking: 0,
    align: 'middle' as const,
    r: 1,
    g: 1,
    b: 1,
    outline: 0,
    outlineR: 0,
    outlineG: 0,
    outlineB: 0,
    bar,
    by,
    comes,
    every,
    lasts: comes === 'at once' ? 0 : every,
    unit: 'beats' as const,
    seed: 1,
  };
  return [
    take('take', say`The take`, use.takeId, [remapKeyAt(at.beat, at.offset, use.sync)], {}),
    made('title', 'Title', source, {
      from: at,
      to: until,
      numbers: {
        y: still(place - 50),
        ...(fade > 0
          ? {
              opacity: keysAt(until, [
                [-fade, 100],
                [0, 0],
              ]),
            }
          : {}),
      },
      ...(widens > 0 ? { sourceNumbers: { tracking: [...keysAt(at, [[0, 0, 'linear']]), ...keysAt(until, [[0, widens]])] } } : {}),
    }),
  ];
}

/** Two bars of a word, one letter a quarter of a beat. */
function propose(context: ProposeContext): Proposal<Title> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = footage.from;
  const { length, tail } = stretchAround(context, footage, sync, 2 * bar, 0);
  return {
    lead: 0,
    tail,
    move: {
      kind: 'title',
      use: { takeId, sync },
      at: onBeat(0),
      until: onBeat(length),
      text: say`Title`,
      font: 'Fraunces',
      size: 14,
      weight: 600,
      by: 'letter',
      comes: 'at once',
      every: 0.25,
      widens: 12,
      bar: 0,
      place: 50,
      fade: 8,
    },
    said: '',
  };
}

const FIELDS: readonly Field<Title>[] = [
  { is: 'text', label: say`Words`, of: 'text', said: say`Change the words`, preset: false, max: 2000, lines: true },
  placeField('at', 'Begins', say`Move the title`),
  placeField('until', say`Is gone`, say`Lengthen the title`),
  {
    is: 'choice',
    label: say`Comes by`,
    of: 'by',
    said: say`Let the title come otherwise`,
    options: TITLE_BY,
  },
  {
    is: 'choice',
    label: say`Each comes`,
    of: 'comes',
    said: say`Let the title come otherwise`,
    options: TITLE_COMES,
  },
  {
    is: 'number',
    label: say`The next after`,
    unit: say`beats`,
    of: 'every',
    min: 0.0625,
    max: 16,
    step: 0.25,
    digits: 2,
    said: say`Let the title come faster`,
  },
  { is: 'number', label: say`Widens by`, unit: '%', of: 'widens', min: 0, max: 200, said: say`Widen the title` },
  {
    is: 'number',
    label: say`Size, of the height`,
    unit: '%',
    of: 'size',
    min: 0.5,
    max: 100,
    step: 0.5,
    digits: 1,
    said: say`Change the size`,
  },
  { is: 'number', label: say`Weight`, unit: '', of: 'weight', min: 100, max: 900, step: 50, said: say`Change the weight` },
  { is: 'number', label: say`Middle, from above`, unit: '%', of: 'place', min: 0, max: 100, said: say`Move the title` },
  { is: 'number', label: say`Dark bar behind`, unit: '%', of: 'bar', min: 0, max: 100, step: 5, said: say`Put a bar behind` },
  { is: 'number', label: say`Fades in`, unit: 'f', of: 'fade', min: 0, max: 120, said: say`Fade the title` },
  {
    is: 'choice',
    label: say`Font`,
    of: 'font',
    said: say`Change the font`,
    options: [
      ['Fraunces', say`Fraunces`],
      ['Recursive', say`Recursive`],
    ],
  },
  secondField('use', say`Take as it begins`),
];

/** A title over a take. */
export const title: MoveKind<Title, never> = {
  kind: 'title',
  schema: titleSchema,
  words: {
    name: say`Title`,
    working: say`Laying the title`,
    about: say`Words over a take, typed or coming part by part on the beat, spaced wider as they stand.`,
  },
  takes: { min: 1, max: 1 },
  needs: [],
  mixes: false,
  propose,
  layers: layersOf,
  problems: ({ scene }, move) =>
    endsAfter(placeFrame(scene, move.at), placeFrame(scene, move.until), say`The title`, {
      ...move,
      until: { ...move.at, beat: move.at.beat + 2 },
    }),
  anchors: [anchorAt('at', 'title'), anchorAt('until', say`end of the title`)],
  withTakes: (move, choose) => ({ ...move, use: chosen(move.use, choose) }),
  sounds: (_, { text, at, by, comes, every }) => {
    if (comes !== 'at once' || by === 'whole') return [{ sound: 'whoosh', at, seconds: 0.6, gain: -8 }];
    const parts = (by === 'letter' ? [...text] : text.split(by === 'word' ? /\s+/ : '\n')).filter((part) => part.length > 0);
    // A stroke for each part that is seen to come: a space makes none.
    return parts
      .slice(0, 120)
      .flatMap((part, i) =>
        /\S/.test(part) ? [{ sound: 'typewriter' as const, at: { beat: at.beat + i * every, offset: at.offset }, gain: -4 }] : [],
      );
  },
  poster: ({ scene }, { until, fade }) => Math.max(scene.first, placeFrame(scene, until) - fade - 1),
  fields: FIELDS,
};
