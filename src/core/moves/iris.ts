import * as z from 'zod/mini';
import { anchorSchema, type Layer, placeFrame, plainMask, remapKeyAt, still } from '../layer';
import { beatsPerBarAt } from '../time';
import { say } from '../words';
import { type Field, placeField, secondField } from './fields';
import { courseKeys } from './follow';
import {
  anchorAt,
  chosen,
  courseSchema,
  type MoveContext,
  type MoveKind,
  type Problem,
  type Proposal,
  type ProposeContext,
  percentSchema,
  takeUseSchema,
} from './kind';
import { keysAt } from './parts';
import { frames as inFrames, onBeat, stretchAround } from './spans';

const irisSchema = z.object({
  kind: z.literal('iris'),
  /** The take, and its second as the iris is shut (or begins to open). */
  use: takeUseSchema,
  at: anchorSchema,
  way: z.enum(['closes', 'opens']),
  frames: z.int().check(z.gte(2), z.lte(250)),
  /** It rests for so many frames at a small circle before it shuts, and that circle's width, per cent of the frame. */
  rests: z.int().check(z.gte(0), z.lte(250)),
  circle: percentSchema,
  /** What it closes on, per cent of the frame, or whoever is followed. */
  x: percentSchema,
  y: percentSchema,
  track: z.nullable(courseSchema),
  soft: percentSchema,
  shade: percentSchema,
});
export type Iris = z.infer<typeof irisSchema>;

/** An ellipse that covers all of the frame wherever its middle is. */
const ALL = 290;

/** The take seen through a circle that closes on a place, or on whoever is followed, or opens from it. */
function layersOf({ scene, take, made, onFrame, frame }: MoveContext, move: Iris): Layer[] {
  const { use, at, way, frames, rests, circle, soft } = move;
  const shown = take('take', say`The take`, use.takeId, [remapKeyAt(at.beat, at.offset, use.sync)], {});
  const [first, last] = [placeFrame(scene, at) - frames, placeFrame(scene, at)];
  const middle = move.track
    ? courseKeys(scene, shown, move.track, onFrame(use.takeId), way === 'closes' ? [first, last] : [last, last + frames])
    : null;
  const size = (height: number) => {
    const tall = height === 1 ? frame.width / frame.height : 1;
    const pause = rests > 0 && rests < frames - 2;
    const steps: [number, number, 'strong in and out' | 'linear'][] = pause
      ? [
          [0, ALL * tall, 'strong in and out'],
          [Math.round((frames - rests) * 0.75), circle * tall, 'linear'],
          [Math.round((frames - rests) * 0.75) + rests, circle * tall, 'strong in and out'],
          [frames, 0, 'linear'],
        ]
      : [
          [0, ALL * tall, 'strong in and out'],
          [frames, 0, 'linear'],
        ];
    return way === 'closes'
      ? keysAt(
          at,
          steps.map(([k, v, e]) => [k - frames, v, e]),
        )
      : keysAt(
          at,
          steps.toReversed().map(([k, v], i, all) => [frames - k, v, all[i + 1]?.[2] ?? 'linear']),
        );
  };
  const mask = plainMask('iris', 'ellipse', {
    x: middle?.x ?? still(move.x),
    y: middle?.y ?? still(move.y),
    width: size(0),
    height: size(1),
    turn: still(0),
    inside: still(soft),
    outside: still(0),
  });
  const grey = move.shade / 100;
  return [
    made('ground', say`Around it`, { kind: 'colour', r: grey, g: grey, b: grey }, {}),
    { ...shown, masks: [{ ...mask, madeBy: 'move' }] },
  ];
}

function problemsOf({ scene }: MoveContext, move: Iris): Problem<Iris>[] {
  const at = placeFrame(scene, move.at);
  const room = move.way === 'closes' ? at - scene.first : scene.end - at;
  if (room >= move.frames) return [];
  return [
    {
      text: say`The iris needs ${inFrames(move.frames)} ${move.way === 'closes' ? say`before it is shut` : say`to open`}, and the shot has ${Math.max(0, room)}.`,
      nearest:
        room >= 2
          ? { label: say`In ${room} frames`, move: { ...move, frames: room, rests: Math.min(move.rests, Math.max(0, room - 8)) } }
          : null,
    },
  ];
}

/** Shut on the beat after a second's way, with a short rest on a small circle. */
function propose(context: ProposeContext): Proposal<Iris> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = footage.to - Math.min(0.5, (footage.to - footage.from) / 4);
  const { lead } = stretchAround(context, footage, sync, 1, bar);
  return {
    lead: Math.max(1, lead),
    tail: 1,
    move: {
      kind: 'iris',
      use: { takeId, sync },
      at: onBeat(Math.max(1, lead)),
      way: 'closes',
      frames: lead > 1 ? 30 : 12,
      rests: lead > 1 ? 8 : 0,
      circle: 24,
      x: 50,
      y: 45,
      track: null,
      soft: 1,
      shade: 0,
    },
    said: '',
  };
}

const FIELDS: readonly Field<Iris>[] = [
  placeField('at', 'On', say`Move the iris`),
  {
    is: 'choice',
    label: say`It`,
    of: 'way',
    said: say`Turn the iris round`,
    options: [
      ['closes', say`closes, shut on the beat`],
      ['opens', say`opens from the beat on`],
    ],
  },
  { is: 'number', label: say`In all`, unit: 'f', of: 'frames', min: 2, max: 250, said: say`Change the iris` },
  { is: 'number', label: say`Rests for`, unit: 'f', of: 'rests', min: 0, max: 250, said: say`Let the iris rest` },
  {
    is: 'number',
    label: say`Resting circle`,
    unit: '%',
    of: 'circle',
    min: 0,
    max: 100,
    said: say`Let the iris rest`,
    when: ({ rests }) => rests > 0,
  },
  { is: 'number', label: say`Soft`, unit: '%', of: 'soft', min: 0, max: 100, said: say`Soften the iris` },
  {
    is: 'number',
    label: say`Middle across`,
    unit: '%',
    of: 'x',
    min: 0,
    max: 100,
    said: say`Move the iris`,
    when: ({ track }) => track === null,
  },
  {
    is: 'number',
    label: say`Middle down`,
    unit: '%',
    of: 'y',
    min: 0,
    max: 100,
    said: say`Move the iris`,
    when: ({ track }) => track === null,
  },
  {
    is: 'track',
    label: say`Follow the performer`,
    said: say`Follow the performer`,
    take: ({ use }) => use.takeId,
    get: ({ track }) => track,
    set: (_, track) => ({ track }),
  },
  { is: 'number', label: say`Brightness around it`, unit: '%', of: 'shade', min: 0, max: 100, step: 5, said: say`Change the ground` },
  secondField('use', say`Take on the beat`),
];

/** An iris that closes on somebody, or opens. */
export const iris: MoveKind<Iris, never> = {
  kind: 'iris',
  schema: irisSchema,
  words: {
    name: say`Iris`,
    working: say`Laying the iris`,
    about: say`A circle closes on the performer and is shut on the beat, or opens from it.`,
  },
  takes: { min: 1, max: 1 },
  needs: [],
  mixes: false,
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', 'iris')],
  withTakes: (move, choose) => {
    const use = chosen(move.use, choose);
    return { ...move, use, track: use.takeId === move.use.takeId ? move.track : null };
  },
  sounds: (_, { at, way }) => (way === 'closes' ? [{ sound: 'tape stop', at: { ...at, offset: at.offset - 12 }, gain: -3 }] : []),
  poster: ({ scene }, { at, way, frames }) => placeFrame(scene, at) + (way === 'closes' ? -Math.round(frames / 2) : Math.round(frames / 2)),
  fields: FIELDS,
};
