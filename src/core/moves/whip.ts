import * as z from 'zod/mini';
import { anchorSchema, finite, keyAt, type Layer, type LayerNumber, placeFrame, remapKeyAt } from '../layer';
import { beatsPerBarAt, fps } from '../time';
import { optionsOf, placeField, secondField } from './fields';
import { anchorAt, chosen, type MoveContext, type MoveKind, type Problem, type Proposal, type ProposeContext, takeUseSchema } from './kind';
import { beatsBack, beatsIn, frames, middleOf, onBeat } from './spans';

const WHIP_WAYS = ['left', 'right', 'up', 'down', 'turn', 'zoom'] as const;
const whipSchema = z.object({
  kind: z.literal('whip'),
  out: takeUseSchema,
  into: takeUseSchema,
  cut: anchorSchema,
  /** Frames in all, the cut in their middle. */
  frames: z.int().check(z.gte(4), z.lte(120)),
  way: z.enum(WHIP_WAYS),
  /** Frame widths (heights, turns of 90°, doublings of size) travelled on each side of the cut. */
  travel: finite.check(z.gte(0.1), z.lte(8)),
  shutter: finite.check(z.gte(0), z.lte(720)),
});
export type Whip = z.infer<typeof whipSchema>;

/** What a whip's ways key: the number, and its value for one width, height, quarter turn or doubling of travel out of the first take. */
const WAYS: Record<Whip['way'], { number: LayerNumber; rest: number; out(travel: number): number; into(travel: number): number }> = {
  left: { number: 'x', rest: 0, out: (t) => -100 * t, into: (t) => 100 * t },
  right: { number: 'x', rest: 0, out: (t) => 100 * t, into: (t) => -100 * t },
  up: { number: 'y', rest: 0, out: (t) => -100 * t, into: (t) => 100 * t },
  down: { number: 'y', rest: 0, out: (t) => 100 * t, into: (t) => -100 * t },
  turn: { number: 'turn', rest: 0, out: (t) => 90 * t, into: (t) => -90 * t },
  zoom: { number: 'scale', rest: 100, out: (t) => 100 * 2 ** t, into: (t) => 100 * 2 ** -t },
};

/** How steep the second half is at the cut: the slope of `strong out` at its beginning. */
const STEEPEST = 0.85 / 0.15;

/**
 * Out of one take and into another with the fastest travel at the cut, in output frames, so that it holds at any speed of the clips. The
 * picture is mirrored at its edges, and the smear comes of the travel itself.
 */
function layersOf({ take }: MoveContext, move: Whip): Layer[] {
  const { cut, frames, way, travel, shutter, out, into } = move;
  const { number, rest, ...values } = WAYS[way];
  const half = Math.round(frames / 2);
  const [gone, come] = [values.out(travel), values.into(travel)];
  const at = (offset: number, value: number, easing?: Parameters<typeof keyAt>[3]) => keyAt(cut.beat, cut.offset + offset, value, easing);
  // A frame before the cut the second take is already under way, so that its first frame smears as it moves.
  const earlier = come - (STEEPEST * (rest - come)) / half;
  const lens = { edge: 'mirror' as const, shutter };
  return [
    take('out', 'Whip out of', out.takeId, [remapKeyAt(cut.beat, cut.offset, out.sync)], {
      ...lens,
      to: cut,
      numbers: { [number]: [at(-half, rest, 'strong in'), at(0, gone)] },
    }),
    take('into', 'Whip into', into.takeId, [remapKeyAt(cut.beat, cut.offset, into.sync)], {
      ...lens,
      from: cut,
      numbers: { [number]: [at(-1, number === 'scale' ? Math.max(1, earlier) : earlier), at(0, come, 'strong out'), at(half, rest)] },
    }),
  ];
}

function problemsOf({ scene }: MoveContext, move: Whip): Problem<Whip>[] {
  const cut = placeFrame(scene, move.cut);
  const room = Math.min(cut - scene.first, scene.end - cut);
  if (2 * room >= move.frames) return [];
  if (room < 2)
    return [
      {
        text: 'The cut lies at the very end of the shot: there is no room for a whip on both its sides. Move the cut or lengthen the shot.',
        nearest: null,
      },
    ];
  return [
    {
      text: `The cut has ${frames(room)} on its shorter side, and a whip of ${move.frames} needs ${Math.ceil(move.frames / 2)}: at most ${2 * room} frames in all.`,
      nearest: { label: `Whip in ${2 * room} frames`, move: { ...move, frames: 2 * room } },
    },
  ];
}

/** About 20 frames at 25 a second (common practice), the takes' middles meeting at the cut. */
function propose(context: ProposeContext): Proposal<Whip> {
  const { map, rate, beat, takes } = context;
  const [out, into] = takes;
  const sync = middleOf(into.footage);
  const came = out.takeId === into.takeId ? sync : Math.max(into.footage.from, sync - 1);
  const left = middleOf(out.footage);
  const lead = Math.max(1, beatsBack(context, left - out.footage.from, beatsPerBarAt(map, beat)));
  return {
    lead,
    tail: beatsIn(map, beat, into.footage.to - came, 1, beatsPerBarAt(map, beat)),
    move: {
      kind: 'whip',
      out: { takeId: out.takeId, sync: left },
      into: { takeId: into.takeId, sync: came },
      cut: onBeat(lead),
      frames: 2 * Math.round(0.4 * fps(rate)),
      way: 'left',
      travel: 1.5,
      shutter: 180,
    },
    said: '',
  };
}

/** A whip: out of one take and into another as the view is thrown. */
export const whip: MoveKind<Whip, never> = {
  kind: 'whip',
  schema: whipSchema,
  words: {
    name: 'Whip',
    working: 'Laying the whip',
    about: 'The view is thrown out of one take and lands in another, fastest at the cut.',
  },
  takes: { min: 2, max: 2 },
  needs: [],
  mixes: false,
  planned: { recipe: 'whip', slots: 'all', beat: 'cutBeat' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('cut', 'cut of the whip')],
  withTakes: (move, choose) => ({ ...move, out: chosen(move.out, choose), into: chosen(move.into, choose) }),
  // Air is loudest a frame before the cut, so that it seems to throw the view. Common practice.
  sounds: (_, { cut, frames }) => [{ sound: 'whoosh', at: { ...cut, offset: cut.offset - 1 }, seconds: Math.max(0.3, frames / 25) }],
  poster: ({ scene }, { cut }) => placeFrame(scene, cut) - 2,
  fields: [
    placeField('cut', 'Cut', 'Move the cut'),
    { is: 'choice', label: 'The view goes', of: 'way', options: optionsOf(WHIP_WAYS), said: 'Whip another way' },
    { is: 'number', label: 'Frames in all', unit: 'f', of: 'frames', min: 4, max: 120, step: 2, even: true, said: 'Lengthen the whip' },
    { is: 'number', label: 'Travel each side', unit: '×', of: 'travel', min: 0.1, max: 8, step: 0.1, digits: 1, said: 'Whip further' },
    { is: 'number', label: 'Shutter angle', unit: '°', of: 'shutter', min: 0, max: 720, step: 45, said: 'Change the smear' },
    secondField('out', 'First take at the cut'),
    secondField('into', 'Second take at the cut'),
  ],
};
