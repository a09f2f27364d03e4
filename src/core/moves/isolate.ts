import * as z from 'zod/mini';
import { anchorSchema, finite, id, type Layer, placeFrame, remapKeyAt } from '../layer';
import { beatsPerBarAt } from '../time';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, placeField, secondField } from './fields';
import {
  anchorAt,
  type MoveContext,
  type MoveKind,
  type Problem,
  type Proposal,
  type ProposeContext,
  percentSchema,
  takeUseSchema,
} from './kind';
import { cutOutField, effect, figureFrom, figureMask, figureSchema, inAndOut, tinted, withUse } from './parts';
import { endsAfter, onBeat, stretchAround } from './spans';

const isolateSchema = z.object({
  kind: z.literal('isolate'),
  /** The take, and its second as the rest begins to go. */
  use: takeUseSchema,
  at: anchorSchema,
  until: anchorSchema,
  /** Frames in which the rest goes and comes back. */
  frames: z.int().check(z.gte(0), z.lte(250)),
  /** Blur, per cent of the height; stops darker; colour taken out and tint laid on, per cent. */
  blur: finite.check(z.gte(0), z.lte(20)),
  darker: finite.check(z.gte(0), z.lte(6)),
  drained: percentSchema,
  tint: percentSchema,
  tintHue: finite.check(z.gte(0), z.lte(360)),
  /** Whether the rest runs on, stands still, or runs at a share of its speed. */
  rest: z.enum(['runs', 'stands still', 'is slowed']),
  speed: finite.check(z.gte(1), z.lte(100)),
  figure: figureSchema,
  /** The empty set, which hides the performer where the rest is not at their own time. */
  plate: z.nullable(id),
});
export type Isolate = z.infer<typeof isolateSchema>;

/** The take; over it, from one anchor to another, the take as the rest of it is to be; and on top the performer, sharp and as filmed. */
function layersOf({ take, picture }: MoveContext, move: Isolate): Layer[] {
  const { use, at, until, figure, plate, rest } = move;
  const runs = [remapKeyAt(at.beat, at.offset, use.sync)];
  const shown = { from: at, to: until };
  const opacity = inAndOut(at, until, move.frames, 100);
  const effects = [
    ...(move.blur > 0 ? [effect('blur', { amount: move.blur })] : []),
    ...(move.drained > 0 ? [effect('saturation', { amount: 100 - move.drained })] : []),
    ...tinted(move),
    ...(move.darker > 0 ? [effect('exposure', { amount: -move.darker })] : []),
  ];
  const own =
    rest === 'runs'
      ? runs
      : [remapKeyAt(at.beat, at.offset, use.sync, rest === 'is slowed' ? move.speed / 100 : 0, rest === 'is slowed' ? 'even' : 'freeze')];
  // Away from its own time the rest would show the performer a second time: the empty set hides them there.
  const hidden =
    rest !== 'runs' && plate && figure
      ? [
          picture('hidden', say`Empty set`, plate, [remapKeyAt(0, 0, 0)], {
            ...shown,
            numbers: { opacity },
            effects,
            masks: [figureMask(figure, 'rest', { attachedToLayer: false })],
          }),
        ]
      : [];
  return [
    take('base', say`The take`, use.takeId, runs, {}),
    take('rest', say`The rest`, use.takeId, own, { ...shown, numbers: { opacity }, effects }),
    ...hidden,
    ...(figure ? [take('figure', say`The performer`, use.takeId, runs, { ...shown, masks: [figureMask(figure, null)] })] : []),
  ];
}

function problemsOf({ scene, footage }: MoveContext, move: Isolate): Problem<Isolate>[] {
  const late = endsAfter(placeFrame(scene, move.at), placeFrame(scene, move.until), say`What is done to the rest`, {
    ...move,
    until: { ...move.at, beat: move.at.beat + 2 },
  });
  const nobody = move.figure
    ? []
    : [
        {
          text: say`The performer is not cut out of “${footage(move.use.takeId).name}” yet, so they are changed with the rest. Cut them out.`,
          nearest: null,
        },
      ];
  const twice =
    move.rest !== 'runs' && !move.plate
      ? [
          {
            text: say`Without the empty set the performer is seen twice while the rest stands still or is slowed. Film a plate, or let the rest run.`,
            nearest: { label: say`Let the rest run`, move: { ...move, rest: 'runs' as const } },
          },
        ]
      : [];
  return [...late, ...nobody, ...twice];
}

/** Darker, blurred and half drained of colour for two bars, in and out within half a second. */
function propose(
  context: ProposeContext,
  { knownAlong, figures, plate }: Pick<Facts, 'knownAlong' | 'figures' | 'plate'>,
): Proposal<Isolate> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = footage.from + (footage.to - footage.from) / 4;
  const { lead, length, tail } = stretchAround(context, footage, sync, 2 * bar, bar);
  const { figure, said } = figureFrom(knownAlong, figures);
  return {
    lead,
    tail,
    move: {
      kind: 'isolate',
      use: { takeId, sync },
      at: onBeat(lead),
      until: onBeat(lead + length),
      frames: 12,
      blur: 1.5,
      darker: 1,
      drained: 50,
      tint: 0,
      tintHue: 210,
      rest: 'runs',
      speed: 40,
      figure,
      plate: plate.plate,
    },
    said,
  };
}

const FIELDS: readonly Field<Isolate>[] = [
  placeField('at', say`The rest goes`, say`Move the isolation`),
  placeField('until', say`Is back`, say`Lengthen the isolation`),
  cutOutField<Isolate>(),
  { is: 'number', label: say`Blur`, unit: '%', of: 'blur', min: 0, max: 20, step: 0.1, digits: 1, said: say`Blur the rest` },
  { is: 'number', label: say`Darker by`, unit: say`EV`, of: 'darker', min: 0, max: 6, step: 0.1, digits: 1, said: say`Darken the rest` },
  { is: 'number', label: say`Colour taken out`, unit: '%', of: 'drained', min: 0, max: 100, step: 5, said: say`Drain the rest` },
  { is: 'number', label: say`Tint`, unit: '%', of: 'tint', min: 0, max: 100, step: 5, said: say`Tint the rest` },
  {
    is: 'number',
    label: say`Hue of the tint`,
    unit: '°',
    of: 'tintHue',
    min: 0,
    max: 360,
    step: 5,
    said: say`Tint the rest`,
    when: ({ tint }) => tint > 0,
  },
  { is: 'number', label: say`In and out`, unit: 'f', of: 'frames', min: 0, max: 250, said: say`Change how fast the rest goes` },
  {
    is: 'choice',
    label: say`The rest`,
    of: 'rest',
    said: say`Let the rest run otherwise`,
    options: [
      ['runs', say`runs on`],
      ['stands still', say`stands still`],
      ['is slowed', say`is slowed`],
    ],
  },
  {
    is: 'number',
    label: say`Speed of the rest`,
    unit: '%',
    of: 'speed',
    min: 1,
    max: 100,
    said: say`Slow the rest`,
    when: ({ rest }) => rest === 'is slowed',
  },
  secondField('use', say`Take as it begins`),
];

/** Isolate: everything but the performer is changed. */
export const isolate: MoveKind<Isolate, 'knownAlong' | 'figures' | 'plate'> = {
  kind: 'isolate',
  schema: isolateSchema,
  words: {
    name: say`Isolate`,
    working: say`Looking for the performer`,
    about: say`Everything but the performer is blurred, darkened, tinted, stopped or slowed for a while.`,
  },
  takes: { min: 1, max: 1 },
  needs: ['plate', 'knownAlong', 'figures'],
  mixes: false,
  planned: { recipe: 'isolate', slots: ['shot'], beat: 'inBeat' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', 'isolation'), anchorAt('until', say`end of the isolation`)],
  withTakes: withUse,
  sounds: (_, { at }) => [{ sound: 'sub drop', at, gain: -3 }],
  poster: ({ scene }, { at, frames }) => placeFrame(scene, at) + frames + 1,
  fields: FIELDS,
};
