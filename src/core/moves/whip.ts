import * as z from 'zod/mini';
import { anchorSchema, finite, keyAt, type Layer, type LayerNumber, placeFrame, remapKeyAt } from '../layer';
import { beatsPerBarAt, fps } from '../time';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, optionsOf, placeField, secondField } from './fields';
import { anchorAt, chosen, type MoveContext, type MoveKind, type Problem, type Proposal, type ProposeContext, takeUseSchema } from './kind';
import { beatsBack, beatsIn, frames, middleOf, onBeat } from './spans';

const WHIP_WAYS = ['left', 'right', 'up', 'down', 'turn', 'zoom'] as const;
/** Ways a camera can be thrown by hand. */
const FILMED_WAYS = ['left', 'right', 'up', 'down'] as const;
type FilmedWay = (typeof FILMED_WAYS)[number];
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
  /** Which way the picture of each take goes at the cut by itself, for the camera was thrown as it was filmed; null where the move throws it. */
  filmed: z._default(z.object({ out: z.nullable(z.enum(FILMED_WAYS)), into: z.nullable(z.enum(FILMED_WAYS)) }), { out: null, into: null }),
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
 * picture is mirrored at its edges, and the smear comes of the travel itself. A take whose camera was thrown is shown as it is.
 */
function layersOf({ take }: MoveContext, move: Whip): Layer[] {
  const { cut, frames, way, travel, shutter, out, into, filmed } = move;
  const { number, rest, ...values } = WAYS[way];
  const half = Math.round(frames / 2);
  const [gone, come] = [values.out(travel), values.into(travel)];
  const at = (offset: number, value: number, easing?: Parameters<typeof keyAt>[3]) => keyAt(cut.beat, cut.offset + offset, value, easing);
  // A frame before the cut the second take is already under way, so that its first frame smears as it moves.
  const earlier = come - (STEEPEST * (rest - come)) / half;
  const lens = { edge: 'mirror' as const, shutter };
  return [
    take('out', say`Whip out of`, out.takeId, [remapKeyAt(cut.beat, cut.offset, out.sync)], {
      to: cut,
      ...(filmed.out ? {} : { ...lens, numbers: { [number]: [at(-half, rest, 'strong in'), at(0, gone)] } }),
    }),
    take('into', say`Whip into`, into.takeId, [remapKeyAt(cut.beat, cut.offset, into.sync)], {
      from: cut,
      ...(filmed.into
        ? {}
        : {
            ...lens,
            numbers: { [number]: [at(-1, number === 'scale' ? Math.max(1, earlier) : earlier), at(0, come, 'strong out'), at(half, rest)] },
          }),
    }),
  ];
}

/** Ways in words that say where the picture goes. */
const wayWord = (way: Whip['way']): string => (way === 'turn' ? 'round' : way === 'zoom' ? 'closer' : way);

/** The ways of a whip's two sides are one, whether filmed or made. */
function otherWays(move: Whip): Problem<Whip>[] {
  const { out, into } = move.filmed;
  const [first, second] = [out ?? move.way, into ?? move.way];
  if (first === second || (!out && !into)) return [];
  const text = say`The picture goes ${wayWord(first)} out of the first take and ${wayWord(second)} into the second, so the eye is not carried across the cut.`;
  return [
    out && into
      ? { text, nearest: { label: say`Throw the second take by the move`, move: { ...move, way: out, filmed: { out, into: null } } } }
      : {
          text,
          nearest: { label: say`Let both go ${wayWord(out ?? into ?? 'left')}`, move: { ...move, way: (out ?? into) as FilmedWay } },
        },
  ];
}

function problemsOf({ scene }: MoveContext, move: Whip): Problem<Whip>[] {
  const cut = placeFrame(scene, move.cut);
  const { filmed } = move;
  // What was filmed needs no room: it is as long as it is.
  const room = Math.min(filmed.out ? Infinity : cut - scene.first, filmed.into ? Infinity : scene.end - cut);
  const ways = otherWays(move);
  if (2 * room >= move.frames) return ways;
  if (room < 2)
    return [
      {
        text: say`The cut lies at the very end of the shot: there is no room for a whip on both its sides. Move the cut or lengthen the shot.`,
        nearest: null,
      },
    ];
  return [
    ...ways,
    {
      text: say`The cut has ${frames(room)} on its shorter side, and a whip of ${move.frames} needs ${Math.ceil(move.frames / 2)}: at most ${2 * room} frames in all.`,
      nearest: { label: say`Whip in ${2 * room} frames`, move: { ...move, frames: 2 * room } },
    },
  ];
}

type FilmedWhip = Facts['whips'][number][number];

/** The throw a take is left by and the one another is come into by: the last and the first of them, of two pairs the one that goes the same way. */
function filmedThrows(
  out: readonly FilmedWhip[],
  into: readonly FilmedWhip[],
  oneTake: boolean,
): { out: FilmedWhip | null; into: FilmedWhip | null } {
  const lasts = out.toReversed();
  for (const left of lasts) {
    const came = into.find((w) => w.way === left.way && !(oneTake && w.peak <= left.peak));
    if (came) return { out: left, into: came };
  }
  const left = lasts[0] ?? null;
  return left ? { out: left, into: null } : { out: null, into: oneTake ? null : (into[0] ?? null) };
}

/** What of a move is changed to use throws that were filmed; the move's own way follows theirs. */
const withFilmed = (move: Whip, used: ReturnType<typeof filmedThrows>): Pick<Whip, 'out' | 'into' | 'way' | 'filmed'> => ({
  out: used.out ? { ...move.out, sync: used.out.peak } : move.out,
  into: used.into ? { ...move.into, sync: used.into.peak } : move.into,
  way: used.out?.way ?? used.into?.way ?? move.way,
  filmed: { out: used.out?.way ?? null, into: used.into?.way ?? null },
});

/** What was used of what was filmed, in a sentence. */
const usedWords = ({ out, into }: ReturnType<typeof filmedThrows>): string => {
  if (out && into) return say`Both cameras were thrown as they filmed: the cut lies where each is fastest, and nothing is added.`;
  if (out) return say`The first take’s camera was thrown as it filmed, and is used; the second is thrown by the move, the same way.`;
  if (into) return say`The second take’s camera was thrown as it filmed, and is used; the first is thrown by the move, the same way.`;
  return '';
};

/** About 20 frames at 25 a second (common practice), the takes' middles meeting at the cut; where a camera was thrown, at its fastest. */
function propose(context: ProposeContext, { whips: [thrownOut = [], thrownInto = thrownOut] }: Pick<Facts, 'whips'>): Proposal<Whip> {
  const { map, rate, beat, takes } = context;
  const [out, into] = takes;
  const oneTake = out.takeId === into.takeId;
  const used = filmedThrows(thrownOut, thrownInto, oneTake);
  const left = used.out?.peak ?? middleOf(out.footage);
  const usual = oneTake ? left : Math.max(into.footage.from, middleOf(into.footage) - 1);
  const came = used.into?.peak ?? usual;
  const lead = Math.max(1, beatsBack(context, left - out.footage.from, beatsPerBarAt(map, beat)));
  const move: Whip = {
    kind: 'whip',
    out: { takeId: out.takeId, sync: left },
    into: { takeId: into.takeId, sync: came },
    cut: onBeat(lead),
    frames: 2 * Math.round(0.4 * fps(rate)),
    way: 'left',
    travel: 1.5,
    shutter: 180,
    filmed: { out: null, into: null },
  };
  return {
    lead,
    tail: beatsIn(map, beat, into.footage.to - came, 1, beatsPerBarAt(map, beat)),
    move: { ...move, ...withFilmed(move, used) },
    said: usedWords(used),
  };
}

const bothFilmed = ({ filmed }: Whip) => filmed.out !== null && filmed.into !== null;

/** How the move throws a take; of two that were filmed it throws none. */
const THROWN = (
  [
    { is: 'choice', label: say`The view goes`, of: 'way', options: optionsOf(WHIP_WAYS), said: say`Whip another way` },
    {
      is: 'number',
      label: say`Frames in all`,
      unit: 'f',
      of: 'frames',
      min: 4,
      max: 120,
      step: 2,
      even: true,
      said: say`Lengthen the whip`,
    },
    {
      is: 'number',
      label: say`Travel each side`,
      unit: '×',
      of: 'travel',
      min: 0.1,
      max: 8,
      step: 0.1,
      digits: 1,
      said: say`Whip further`,
    },
    { is: 'number', label: say`Shutter angle`, unit: '°', of: 'shutter', min: 0, max: 720, step: 45, said: say`Change the smear` },
  ] satisfies Field<Whip>[]
).map((field): Field<Whip> => ({ ...field, when: (move) => !bothFilmed(move) }));

/** A whip: out of one take and into another as the view is thrown. */
export const whip: MoveKind<Whip, 'whips'> = {
  kind: 'whip',
  schema: whipSchema,
  words: {
    name: say`Whip`,
    working: say`Looking for throws of the camera`,
    about: say`The view is thrown out of one take and lands in another, fastest at the cut.`,
  },
  takes: { min: 2, max: 2 },
  needs: ['whips'],
  mixes: false,
  planned: { recipe: 'whip', slots: 'all', beat: 'cutBeat' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('cut', say`cut of the whip`)],
  withTakes: (move, choose) => {
    const [out, into] = [chosen(move.out, choose), chosen(move.into, choose)];
    const { filmed } = move;
    const same = (a: { takeId: string }, b: { takeId: string }) => a.takeId === b.takeId;
    return {
      ...move,
      out,
      into,
      filmed: { out: same(out, move.out) ? filmed.out : null, into: same(into, move.into) ? filmed.into : null },
    };
  },
  // Air is loudest a frame before the cut, so that it seems to throw the view. Common practice.
  sounds: (_, { cut, frames }) => [{ sound: 'whoosh', at: { ...cut, offset: cut.offset - 1 }, seconds: Math.max(0.3, frames / 25) }],
  poster: ({ scene }, { cut }) => placeFrame(scene, cut) - 2,
  fields: [
    placeField('cut', 'Cut', say`Move the cut`),
    {
      is: 'measure',
      label: say`Use throws filmed in the takes`,
      said: say`Use filmed throws`,
      needs: 'whips',
      when: (move) => !bothFilmed(move),
      takes: ({ out, into }) => [out.takeId, into.takeId],
      apply: (move, { whips: [thrownOut, thrownInto] }) => {
        const used = filmedThrows(thrownOut, thrownInto, move.out.takeId === move.into.takeId);
        return used.out || used.into
          ? { change: withFilmed(move, used), said: usedWords(used) }
          : { change: null, said: say`In neither of the takes the camera is thrown round.` };
      },
    },
    {
      is: 'action',
      label: say`Throw the first take by the move`,
      said: say`Throw the first take by the move`,
      when: ({ filmed }) => filmed.out !== null,
      apply: ({ filmed }) => ({ filmed: { ...filmed, out: null } }),
    },
    {
      is: 'action',
      label: say`Throw the second take by the move`,
      said: say`Throw the second take by the move`,
      when: ({ filmed }) => filmed.into !== null,
      apply: ({ filmed }) => ({ filmed: { ...filmed, into: null } }),
    },
    ...THROWN,
    secondField('out', say`First take at the cut`),
    secondField('into', say`Second take at the cut`),
  ],
};
