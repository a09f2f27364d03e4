import * as z from 'zod/mini';
import { anchorSchema, finite, type Layer, type Place, placeFrame, plainMask, remapKeyAt, still } from '../layer';
import { beatsPerBarAt, beatToSeconds, secondsToBeat } from '../time';
import type { Seconds } from '../units';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, listField, secondField } from './fields';
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
import { keysAt } from './parts';
import { posesIn } from './ramp';
import { beatsIn, lasts, onBeat } from './spans';

const splice = z.extend(anchorSchema, { source: finite });
const reflectionSchema = z.object({
  kind: z.literal('reflection'),
  /** The one take, and its second as the shot begins. */
  use: takeUseSchema,
  /** The take of the other half, the same or one filmed for it. */
  otherId: takeUseSchema.shape.takeId,
  half: z.enum(['left', 'right', 'top', 'bottom']),
  /** The mirror's edge or another upright (or level) thing along which it is cut: per cent of the frame, lean in degrees, softness. */
  line: percentSchema,
  lean: finite.check(z.gte(-60), z.lte(60)),
  feather: percentSchema,
  /** From each place on the half shows the take from another second. */
  splices: z.array(splice).check(z.minLength(1), z.maxLength(48)),
  /** Frames of each dissolve, on the movement's begin. */
  frames: z.int().check(z.gte(0), z.lte(25)),
});
export type Reflection = z.infer<typeof reflectionSchema>;

/** The way a line moves over each half from its outer side, and whether the cut is counted from there. */
const HALVES = { left: [90, true], right: [-90, false], top: [0, true], bottom: [180, false] } as const;

/** One take, and along the mirror's edge other times of it (or another take), spliced where somebody sets off from a hold. */
function layersOf({ scene, take }: MoveContext, move: Reflection): Layer[] {
  const { use, otherId, half, line, lean, feather, frames } = move;
  const splices = move.splices.toSorted((a, b) => placeFrame(scene, a) - placeFrame(scene, b));
  const [angle, outside] = HALVES[half];
  const edge = plainMask('edge', 'line', {
    at: still(outside ? line : 100 - line),
    angle: still(angle + lean),
    inside: still(feather / 2),
    outside: still(feather / 2),
  });
  const early = frames >> 1;
  const shifted = (place: Place, by: number): Place => ({ beat: place.beat, offset: place.offset + by });
  const pieces = splices.map((one, i) => {
    const next = splices[i + 1];
    const from = shifted(one, i === 0 ? 0 : -early);
    return take(`half${i + 1}`, say`Half, part ${i + 1}`, otherId, [remapKeyAt(one.beat, one.offset, one.source)], {
      ...(i === 0 ? {} : { from }),
      ...(next ? { to: shifted(next, frames - early) } : {}),
      masks: [edge],
      numbers:
        i > 0 && frames > 0
          ? {
              opacity: keysAt(one, [
                [-early - 1, 0],
                [frames - early, 100],
              ]),
            }
          : {},
    });
  });
  return [take('whole', say`The take`, use.takeId, [remapKeyAt(0, 0, use.sync)], {}), ...pieces];
}

function problemsOf({ scene }: MoveContext, move: Reflection): Problem<Reflection>[] {
  const at = move.splices.map((s) => placeFrame(scene, s)).sort((a, b) => a - b);
  const tight = at.findIndex((f, i) => i > 0 && f - at[i - 1] < move.frames + 1);
  if (tight < 0) return [];
  const fit = Math.max(0, Math.min(...at.slice(1).map((f, i) => f - at[i])) - 1);
  return [
    {
      text: say`Splices ${tight} and ${tight + 1} are ${at[tight] - at[tight - 1]} frames apart, and a dissolve takes ${move.frames}.`,
      nearest: {
        label: fit > 0 ? say`Dissolve in ${fit} frames` : say`Cut without a dissolve`,
        move: { ...move, frames: Math.min(25, fit) },
      },
    },
  ];
}

/** The first second after a hold at which the movement is back at half of what it is at its most before the next. */
export function setsOff({ times, movement }: Facts['movement'], hold: Seconds, until: Seconds): Seconds {
  const span = times.flatMap((time, i) => (time >= hold && time < until ? [{ time, m: movement[i] }] : []));
  if (span.length === 0) return hold;
  const [calm, most] = [span[0].m, Math.max(...span.map((p) => p.m))];
  return (span.find((p) => p.m > calm + 0.35 * (most - calm)) ?? span[0]).time;
}

const NO_EDGE = say`No straight edge of the room runs clear of the performer, so it is cut upright through the middle. Move the cut by hand.`;

/** The halves along the clearest edge of the room, the smaller one the reflection; null where there is none. */
function alongEdge({ upright, level }: Facts['structure']): Pick<Reflection, 'half' | 'line' | 'lean'> | null {
  if (upright) return { half: upright.line < 50 ? 'left' : 'right', line: upright.line, lean: upright.lean };
  return level && { half: level.line < 50 ? 'top' : 'bottom', line: level.line, lean: level.lean };
}

/** The halves part at the first hold and meet other holds of the take at each that follows, spliced as the movement begins, in 4 frames (common practice: 2 to 6). */
function propose(context: ProposeContext, { movement, structure }: Pick<Facts, 'movement' | 'structure'>): Proposal<Reflection> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }, other] = takes;
  const { from, to } = footage;
  const bar = beatsPerBarAt(map, beat);
  const rests = posesIn(movement.times, movement.movement, from + 0.3, to - 0.8, 1, 8);
  const holds = rests.length >= 2 ? rests : [0.2, 0.5, 0.75].map((s) => from + s * (to - from));
  const begins = holds.map((h, i) => setsOff(movement, h, holds[i + 1] ?? to));
  const length = beatsIn(map, beat, to - from, 1, 16 * bar);
  const start = beatToSeconds(map, beat);
  const placeOf = (second: Seconds) => secondsToBeat(map, start + second - from) - beat;
  const apart = other && other.takeId !== takeId;
  const end = from + lasts(map, beat, beat + length);
  // At each set-off the half goes on from another one, the next if it lasts: there it looks as it looked here, for both are held.
  const goesOn = (second: Seconds, i: number): Seconds => {
    const needs = (begins[i + 1] ?? end) - second;
    const others = begins.map((_, k) => begins[(i + 1 + k) % begins.length]);
    return others.find((other) => other !== second && other + needs <= to) ?? second;
  };
  const spliced = begins
    .map((second, i) => ({ ...onBeat(placeOf(second)), source: apart ? second : goesOn(second, i) }))
    .filter((s) => s.beat > 0 && s.beat < length - 0.25);
  const edge = alongEdge(structure);
  const first = { ...onBeat(0), source: apart ? other.footage.from : from };
  return {
    lead: 0,
    tail: length,
    move: {
      kind: 'reflection',
      use: { takeId, sync: from },
      otherId: apart ? other.takeId : takeId,
      ...(edge ?? { half: 'right', line: 50, lean: 0 }),
      feather: 1.5,
      splices: [first, ...spliced],
      frames: 4,
    },
    said: [
      rests.length < 2
        ? say`No holds were found in the take, so the splices are spread over it. Slide them to where the performer holds still.`
        : '',
      edge ? '' : NO_EDGE,
    ]
      .filter(Boolean)
      .join(' '),
  };
}

const FIELDS: readonly Field<Reflection>[] = [
  {
    is: 'choice',
    label: say`The reflection is`,
    of: 'half',
    said: say`Change the half`,
    options: [
      ['left', say`on the left`],
      ['right', say`on the right`],
      ['top', say`above`],
      ['bottom', say`below`],
    ],
  },
  { is: 'number', label: say`Cut at`, unit: '%', of: 'line', min: 0, max: 100, step: 0.5, digits: 1, said: say`Move the cut` },
  { is: 'number', label: say`Lean`, unit: '°', of: 'lean', min: -60, max: 60, step: 0.5, digits: 1, said: say`Lean the cut` },
  { is: 'number', label: say`Feather`, unit: '%', of: 'feather', min: 0, max: 100, step: 0.5, digits: 1, said: say`Feather the cut` },
  { is: 'number', label: say`Dissolves`, unit: 'f', of: 'frames', min: 0, max: 25, said: say`Change the dissolves` },
  {
    is: 'measure',
    label: say`Cut along an edge of the room`,
    said: say`Cut along an edge`,
    needs: 'structure',
    takes: ({ use }) => [use.takeId],
    apply: (_, { structure }) => {
      const edge = alongEdge(structure);
      return { change: edge, said: edge ? '' : say`No straight edge of the room runs across the picture clear of the performer.` };
    },
  },
  secondField('use', say`Take as the shot begins`),
  listField<Reflection, Reflection['splices'][number]>({
    label: say`Splice`,
    said: say`Change the splices`,
    get: ({ splices }) => splices,
    set: (_, splices) => ({ splices: [...splices] }),
    fields: [
      { is: 'place', label: say`On`, said: say`Move a splice`, get: (s) => s, set: (_, { beat, offset }) => ({ beat, offset }) },
      {
        is: 'second',
        label: say`Goes on from`,
        said: say`Splice otherwise`,
        get: ({ source }) => source,
        set: (_, source) => ({ source }),
      },
    ],
    min: 1,
    max: 48,
    fewer: 'any',
    more: {
      label: say`One splice more`,
      make: ({ splices }) => ({ ...splices[splices.length - 1], beat: splices[splices.length - 1].beat + 2 }),
    },
  }),
];

/** A talking reflection: half of the frame lives at another time. */
export const reflection: MoveKind<Reflection, 'movement' | 'structure'> = {
  kind: 'reflection',
  schema: reflectionSchema,
  words: {
    name: say`Talking reflection`,
    working: say`Looking for holds and the mirror’s edge`,
    about: say`Half of the frame, along a mirror’s edge, goes its own way, spliced where somebody sets off from a hold.`,
  },
  takes: { min: 1, max: 2 },
  needs: ['movement', 'structure'],
  mixes: true,
  planned: { recipe: 'talking reflection', slots: ['long', 'mirror'] },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorsIn('splices', null)],
  withTakes: (move, choose) => ({ ...move, use: chosen(move.use, choose), otherId: choose(move.otherId, move.splices[0].source) }),
  poster: ({ scene }, { splices }) => Math.min(scene.end - 1, placeFrame(scene, splices[splices.length > 1 ? 1 : 0]) + 6),
  fields: FIELDS,
};
