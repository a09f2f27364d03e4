import * as z from 'zod/mini';
import { anchorSchema, finite, type Layer, placeFrame, remapKeyAt, still } from '../layer';
import { BLEND_MODES } from '../picture';
import { beatsPerBarAt, fps } from '../time';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, optionsOf, placeField, secondField } from './fields';
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
import { cutOutField, figureFrom, figureMask, figureSchema, keysAt, tinted, withUse } from './parts';
import { endsAfter, onBeat, stretchAround } from './spans';

const trailSchema = z.object({
  kind: z.literal('trail'),
  /** The take, and its second as the trail begins. */
  use: takeUseSchema,
  at: anchorSchema,
  until: anchorSchema,
  copies: z.int().check(z.gte(1), z.lte(30)),
  /** Frames from one copy to the next. */
  every: z.int().check(z.gte(1), z.lte(250)),
  /** Opacity of the newest and of the oldest copy. */
  newest: percentSchema,
  oldest: percentSchema,
  tint: percentSchema,
  tintHue: finite.check(z.gte(0), z.lte(360)),
  side: z.enum(['behind', 'in front']),
  blend: z.enum(BLEND_MODES),
  /** Copies run after the figure, or each stands where the figure was. */
  copy: z.enum(['runs', 'stands']),
  figure: figureSchema,
});
export type Trail = z.infer<typeof trailSchema>;

/** The take, cut-out copies of the performer later by so many frames each, and the performer on top where they lie behind. */
function layersOf({ scene, take }: MoveContext, move: Trail): Layer[] {
  const { use, at, until, copies, every, newest, oldest, figure, side, blend } = move;
  const runs = [remapKeyAt(at.beat, at.offset, use.sync)];
  const base = take('base', say`The take`, use.takeId, runs, {});
  if (!figure) return [base];
  const effects = tinted(move);
  const trailing = Array.from({ length: copies }, (_, i) => {
    const k = copies - i;
    const late = k * every;
    const opacity = copies === 1 ? newest : newest + ((oldest - newest) * (k - 1)) / (copies - 1);
    // One that stands is what the figure was as it was left there, and goes as its place in the row does.
    const stands = remapKeyAt(at.beat, at.offset + late, use.sync + ((k - 1) * every) / fps(scene.rate), 0, 'freeze');
    return take(
      `copy${k}`,
      say`Copy ${k}`,
      use.takeId,
      [move.copy === 'stands' ? stands : remapKeyAt(at.beat, at.offset + late, use.sync)],
      {
        from: { beat: at.beat, offset: at.offset + late },
        to: until,
        blend,
        effects,
        masks: [figureMask(figure, null)],
        numbers: {
          opacity:
            move.copy === 'stands'
              ? keysAt(at, [
                  [late, newest],
                  [late + copies * every, oldest],
                ])
              : still(opacity),
        },
      },
    );
  });
  const top =
    side === 'behind'
      ? [take('figure', say`The performer`, use.takeId, runs, { from: at, to: until, masks: [figureMask(figure, null)] })]
      : [];
  return [base, ...trailing, ...top];
}

function problemsOf({ scene, footage }: MoveContext, move: Trail): Problem<Trail>[] {
  const late = endsAfter(placeFrame(scene, move.at), placeFrame(scene, move.until), say`The trail`, {
    ...move,
    until: { ...move.at, beat: move.at.beat + 2 },
  });
  if (late.length > 0) return late;
  if (!move.figure)
    return [
      {
        text: say`The performer is not cut out of “${footage(move.use.takeId).name}” yet: there is nothing to leave behind. Cut them out.`,
        nearest: null,
      },
    ];
  const room = placeFrame(scene, move.until) - placeFrame(scene, move.at) - 1;
  if (move.copies * move.every <= room) return [];
  const fit = Math.max(1, Math.floor(room / move.copies));
  const fewer = Math.max(1, Math.floor(room / fit));
  return [
    {
      text: say`The last of ${move.copies} copies is ${move.copies * move.every} frames late, and the trail has ${room}: at most one every ${fit}.`,
      nearest: { label: say`One every ${fit} frames`, move: { ...move, every: fit, copies: Math.min(move.copies, fewer) } },
    },
  ];
}

/** Eight copies, one every fifth of a second, behind the performer. */
function propose(context: ProposeContext, { knownAlong, figures }: Pick<Facts, 'knownAlong' | 'figures'>): Proposal<Trail> {
  const { map, rate, beat, takes } = context;
  const [{ takeId, footage }] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = footage.from + (footage.to - footage.from) / 4;
  const { lead, length, tail } = stretchAround(context, footage, sync, 2 * bar, 0);
  const { figure, said } = figureFrom(knownAlong, figures);
  return {
    lead,
    tail,
    move: {
      kind: 'trail',
      use: { takeId, sync },
      at: onBeat(lead),
      until: onBeat(lead + length),
      copies: 6,
      every: Math.round(0.16 * fps(rate)),
      newest: 60,
      oldest: 10,
      tint: 0,
      tintHue: 210,
      side: 'behind',
      blend: 'normal',
      copy: 'runs',
      figure,
    },
    said,
  };
}

const FIELDS: readonly Field<Trail>[] = [
  placeField('at', 'Begins', say`Move the trail`),
  placeField('until', 'Ends', say`Lengthen the trail`),
  cutOutField<Trail>(),
  { is: 'number', label: say`Copies`, unit: '', of: 'copies', min: 1, max: 30, said: say`Change the trail` },
  { is: 'number', label: say`One every`, unit: 'f', of: 'every', min: 1, max: 250, said: say`Change the trail` },
  { is: 'number', label: say`Newest copy`, unit: '%', of: 'newest', min: 0, max: 100, step: 5, said: say`Change the trail` },
  { is: 'number', label: say`Oldest copy`, unit: '%', of: 'oldest', min: 0, max: 100, step: 5, said: say`Change the trail` },
  { is: 'number', label: say`Tint`, unit: '%', of: 'tint', min: 0, max: 100, step: 5, said: say`Tint the trail` },
  {
    is: 'number',
    label: say`Hue of the tint`,
    unit: '°',
    of: 'tintHue',
    min: 0,
    max: 360,
    step: 5,
    said: say`Tint the trail`,
    when: ({ tint }) => tint > 0,
  },
  {
    is: 'choice',
    label: say`Copies lie`,
    of: 'side',
    said: say`Lay the trail otherwise`,
    options: [
      ['behind', say`behind the performer`],
      ['in front', say`in front`],
    ],
  },
  {
    is: 'choice',
    label: say`A copy`,
    of: 'copy',
    said: say`Let the copies move otherwise`,
    options: [
      ['runs', say`runs after the performer`],
      ['stands', say`stands where they were`],
    ],
  },
  { is: 'choice', label: say`Laid on by`, of: 'blend', said: say`Blend the trail`, options: optionsOf(BLEND_MODES) },
  secondField('use', say`Take as it begins`),
];

/** A trail of fading copies of the performer. */
export const trail: MoveKind<Trail, 'knownAlong' | 'figures'> = {
  kind: 'trail',
  schema: trailSchema,
  words: {
    name: say`Trail`,
    working: say`Looking for the performer`,
    about: say`The performer leaves fading copies behind, tinted, behind or in front.`,
  },
  takes: { min: 1, max: 1 },
  needs: ['knownAlong', 'figures'],
  mixes: false,
  planned: { recipe: 'trail', slots: ['move'] },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', 'trail'), anchorAt('until', say`end of the trail`)],
  withTakes: withUse,
  poster: ({ scene }, { until }) => placeFrame(scene, until) - 2,
  fields: FIELDS,
};
