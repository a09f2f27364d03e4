import * as z from 'zod/mini';
import { anchorSchema, id, type Layer, placeFrame, remapKeyAt } from '../layer';
import { beatsPerBarAt } from '../time';
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
import { boxFields, boxSchema, duckUnder, ellipseAround, keysAt } from './parts';
import { middleOf, onBeat, stretchAround } from './spans';

const fillSchema = z.object({
  kind: z.literal('fill'),
  use: takeUseSchema,
  /** The set with the thing in its place and nobody there; null where it was not filmed. */
  withTakeId: z.nullable(id),
  /** Until here the thing is hidden. */
  at: anchorSchema,
  /** The empty set without the thing, and where the thing is, per cent of the frame. */
  plate: z.nullable(id),
  box: boxSchema,
  soft: percentSchema,
  /** The patch is gone within so many frames, at once with 0. */
  frames: z.int().check(z.gte(0), z.lte(120)),
  /** The performer's outline, under which the patch ducks; null where it does not. */
  silhouetteId: z.nullable(id),
  way: z.enum(['appears', 'goes']),
});
export type Fill = z.infer<typeof fillSchema>;

/** The take, and a soft patch of the empty set over the thing that ducks under the performer, until the thing may be seen (or from when it may not). */
function layersOf({ take, picture }: MoveContext, move: Fill): Layer[] {
  const { use, at, plate, box, soft, frames, silhouetteId, way } = move;
  const base = take('base', say`The take`, use.takeId, [remapKeyAt(at.beat, at.offset, use.sync)], {});
  if (!plate) return [base];
  const [first, last] = way === 'appears' ? [100, 0] : [0, 100];
  return [
    base,
    picture('patch', say`Empty set`, plate, [remapKeyAt(0, 0, 0)], {
      ...(way === 'appears' ? { to: { beat: at.beat, offset: at.offset + frames } } : { from: at }),
      ...(frames > 0
        ? {
            numbers: {
              opacity: keysAt(at, [
                [0, first, 'ease in and out'],
                [frames, last],
              ]),
            },
          }
        : {}),
      masks: [ellipseAround(box, 1, soft), ...duckUnder(silhouetteId, 'base')],
    }),
  ];
}

function problemsOf({ scene, footage }: MoveContext, move: Fill): Problem<Fill>[] {
  const { name } = footage(move.use.takeId);
  const at = placeFrame(scene, move.at);
  return [
    ...(move.plate
      ? []
      : [
          {
            text: say`There is no empty set of “${name}” to hide the thing with. Film a plate without it in the same set-up.`,
            nearest: null,
          },
        ]),
    ...(at > scene.first && at < scene.end
      ? []
      : [{ text: say`The thing appears outside the shot. Move its beat, or lengthen the shot.`, nearest: null }]),
    ...(move.silhouetteId
      ? []
      : [{ text: say`Where the performer is in “${name}” is not known, so the patch lies over their hands. Find them.`, nearest: null }]),
  ];
}

/** Where nothing was seen to differ: the middle of the table, a sixth of the frame. */
const MIDDLE = { left: 42, top: 50, right: 58, bottom: 70 };

/** Hidden for as long as the take runs before its middle, gone in two frames behind a hand (common practice). */
function propose(context: ProposeContext, { plate, hands, hidden }: Pick<Facts, 'plate' | 'hands' | 'hidden'>): Proposal<Fill> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }, other] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = middleOf(footage);
  const { lead, tail } = stretchAround(context, footage, sync, 1, bar);
  const why = [plate.plate ? '' : plate.why, hidden ? '' : say`What is hidden was not found by itself: move the patch onto it.`, hands.why];
  return {
    lead: Math.max(1, lead),
    tail,
    move: {
      kind: 'fill',
      use: { takeId, sync },
      withTakeId: other && other.takeId !== takeId ? other.takeId : null,
      at: onBeat(Math.max(1, lead)),
      plate: plate.plate,
      box: hidden ?? MIDDLE,
      soft: 3,
      frames: 2,
      silhouetteId: hands.silhouetteId,
      way: 'appears',
    },
    said: why.filter(Boolean).join(' '),
  };
}

const FIELDS: readonly Field<Fill>[] = [
  placeField('at', 'On', say`Move the moment`),
  {
    is: 'choice',
    label: say`The thing`,
    of: 'way',
    said: say`Turn it round`,
    options: [
      ['appears', say`appears`],
      ['goes', say`goes`],
    ],
  },
  ...boxFields<Fill>('Patch', say`Move the patch`),
  { is: 'number', label: say`Soft edge`, unit: '%', of: 'soft', min: 0, max: 100, step: 0.5, digits: 1, said: say`Soften the patch` },
  { is: 'number', label: say`Gone within`, unit: 'f', of: 'frames', min: 0, max: 120, said: say`Change how fast the patch goes` },
  {
    is: 'measure',
    label: say`Let it duck under the performer`,
    said: say`Let the patch duck`,
    needs: 'hands',
    when: ({ silhouetteId }) => silhouetteId === null,
    takes: ({ use, withTakeId }) => (withTakeId ? [use.takeId, withTakeId] : [use.takeId]),
    apply: (_, { hands }) => ({ change: hands.silhouetteId ? { silhouetteId: hands.silhouetteId } : null, said: hands.why }),
  },
  {
    is: 'action',
    label: say`Let it lie over the performer`,
    said: say`Let the patch lie over all`,
    when: ({ silhouetteId }) => silhouetteId !== null,
    apply: () => ({ silhouetteId: null }),
  },
  secondField('use', say`Take on the beat`),
];

/** A hidden fill: the empty set over a thing until it may be seen. */
export const fill: MoveKind<Fill, 'plate' | 'hands' | 'hidden'> = {
  kind: 'fill',
  schema: fillSchema,
  words: {
    name: say`Hidden fill`,
    working: say`Making the empty set`,
    about: say`A patch of the empty set hides a thing until a hand has passed, and ducks under whoever crosses it.`,
  },
  takes: { min: 1, max: 2 },
  needs: ['plate', 'hands', 'hidden'],
  mixes: false,
  planned: { recipe: 'hidden fill', slots: ['action', 'object-plate'], beat: 'appearBeat' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', 'thing')],
  withTakes: (move, choose) => {
    const use = chosen(move.use, choose);
    const withTakeId = move.withTakeId && choose(move.withTakeId, 0);
    return { ...move, use, withTakeId, silhouetteId: use.takeId === move.use.takeId ? move.silhouetteId : null };
  },
  poster: ({ scene }, { at }) => placeFrame(scene, at) - 1,
  fields: FIELDS,
};
