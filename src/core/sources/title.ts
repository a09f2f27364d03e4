import * as z from 'zod/mini';
import type { Pixels } from '../units';
import { say } from '../words';
import { idSchema } from './id';
import type { SourceKind } from './kind';
import { overFrame, share, within } from './made';
import { COMES, PARTS_BY } from './title-parts';

/** Fonts that ship with the application. */
const TITLE_FONTS = ['Fraunces', 'Recursive'] as const;

/** By which parts a title comes, and how each does, in words. */
export const TITLE_BY = [
  ['whole', say`all at once`],
  ['line', say`line`],
  ['word', say`word`],
  ['letter', say`letter`],
] as const;
export const TITLE_COMES = [
  ['at once', say`at once, as typed`],
  ['faded', say`faded in`],
  ['risen', say`rising`],
  ['scattered', say`from all sides`],
] as const;

const schema = z.object({
  kind: z.literal('title'),
  text: z.string().check(z.maxLength(2000)),
  font: z.enum(TITLE_FONTS),
  /** A font of the user's own that takes its place: a file of the project. */
  fontId: z.nullable(idSchema),
  /** Height of a line's letters, per cent of the frame's height. */
  size: within(0.5, 100),
  weight: within(100, 900),
  /** From line to line and between letters, per cent of the size. */
  line: within(50, 400),
  tracking: within(-50, 200),
  align: z.enum(['left', 'middle', 'right']),
  r: share,
  g: share,
  b: share,
  /** Width of an outline, per cent of the size. */
  outline: within(0, 50),
  outlineR: share,
  outlineG: share,
  outlineB: share,
  /** How dense a soft dark bar behind it is, per cent. */
  bar: within(0, 100),
  by: z.enum(PARTS_BY),
  comes: z.enum(COMES),
  /** The next part comes after so many of these, and takes so many. */
  every: within(0, 1000),
  lasts: within(0, 1000),
  unit: z.enum(['frames', 'beats']),
  seed: within(0, 9999),
});
export type TitleSource = z.infer<typeof schema>;

export interface TitleDescription {
  kind: 'title';
  title: TitleSource;
  /** Frames or beats since it began, as its unit says. */
  run: number;
  width: Pixels;
  height: Pixels;
}

/** Words on the picture, in one piece or coming one after another. */
export const title: SourceKind<TitleSource, TitleDescription> = {
  kind: 'title',
  schema,
  name: say`Title`,
  fresh: {
    kind: 'title',
    text: say`Title`,
    font: 'Fraunces',
    fontId: null,
    size: 12,
    weight: 600,
    line: 120,
    tracking: 0,
    align: 'middle',
    r: 1,
    g: 1,
    b: 1,
    outline: 0,
    outlineR: 0,
    outlineG: 0,
    outlineB: 0,
    bar: 0,
    by: 'whole',
    comes: 'at once',
    every: 1,
    lasts: 0,
    unit: 'frames',
    seed: 1,
  },
  settings: [
    { is: 'text', label: say`Text`, of: 'text' },
    { is: 'font', label: say`Font`, of: 'font', file: 'fontId', options: TITLE_FONTS.map((name) => [name, name] as const) },
    { is: 'number', label: say`Size, of the height`, unit: '%', of: 'size', min: 0.5, max: 100, step: 0.5, digits: 1 },
    { is: 'number', label: say`Weight`, unit: '', of: 'weight', min: 100, max: 900, step: 50, digits: 0 },
    { is: 'number', label: say`Line, of the size`, unit: '%', of: 'line', min: 50, max: 400, step: 5, digits: 0 },
    { is: 'number', label: say`Tracking, of the size`, unit: '%', of: 'tracking', min: -50, max: 200, step: 1, digits: 0 },
    {
      is: 'choice',
      label: say`Aligned`,
      of: 'align',
      options: [
        ['left', say`left`],
        ['middle', say`middle`],
        ['right', say`right`],
      ],
    },
    { is: 'colour', label: say`Colour` },
    { is: 'number', label: say`Outline, of the size`, unit: '%', of: 'outline', min: 0, max: 50, step: 0.5, digits: 1 },
    { is: 'colour', label: say`Colour of the outline`, of: ['outlineR', 'outlineG', 'outlineB'] },
    { is: 'number', label: say`Dark bar behind`, unit: '%', of: 'bar', min: 0, max: 100, step: 5, digits: 0 },
    {
      is: 'choice',
      label: say`Comes by`,
      of: 'by',
      options: TITLE_BY,
    },
    {
      is: 'choice',
      label: say`Each comes`,
      of: 'comes',
      options: TITLE_COMES,
    },
    { is: 'number', label: say`The next after`, unit: '', of: 'every', min: 0, max: 1000, step: 1, digits: 2 },
    { is: 'number', label: say`Each takes`, unit: '', of: 'lasts', min: 0, max: 1000, step: 1, digits: 2 },
    {
      is: 'choice',
      label: say`Counted in`,
      of: 'unit',
      options: [
        ['frames', say`frames`],
        ['beats', say`beats`],
      ],
    },
    { is: 'number', label: say`Seed`, unit: '', of: 'seed', min: 0, max: 9999, step: 1, digits: 0 },
  ],
  endless: false,
  shows: 'in part',
  describe: (context, source) => {
    const { width, height } = context.frame;
    return overFrame(context, { kind: 'title', title: source, run: context.run[source.unit], width, height });
  },
  requests: () => [],
  stills: ({ title: { fontId } }) => (fontId ? [fontId] : []),
};
