import * as z from 'zod/mini';
import { anchorSchema, finite, id, type Layer, placeFrame, remapKeyAt, still } from '../layer';
import { beatsPerBarAt, fps } from '../time';
import type { Beats, Seconds } from '../units';
import { say } from '../words';
import type { Facts, Movement } from './facts';
import { type Field, listField, optionsOf } from './fields';
import {
  anchorsIn,
  chosen,
  type MoveContext,
  type MoveKind,
  type Problem,
  type Proposal,
  type ProposeContext,
  takeUseSchema,
} from './kind';
import { boxFields, boxSchema, ellipseAround, keysAt } from './parts';
import { beatsBack, beatsIn } from './spans';

const WAYS = ['as filmed', 'backwards', 'grown', 'dropped', 'jump cut'] as const;
const thing = z.extend(z.extend(takeUseSchema, anchorSchema.def.shape), {
  way: z.enum(WAYS),
  /** Where the thing is, per cent of the frame: what grows or drops. */
  box: boxSchema,
});
const arriveSchema = z.object({
  kind: z.literal('arrive'),
  /** The empty set before anything has come; null shows the first take's beginning. */
  plate: z.nullable(id),
  /** From the back of the set to the front; `sync` is the second of the take at which the thing lies. */
  things: z.array(thing).check(z.minLength(1), z.maxLength(24)),
  /** Frames from a thing being seen to its landing. */
  frames: z.int().check(z.gte(1), z.lte(120)),
  soft: finite.check(z.gte(0), z.lte(50)),
  shadow: finite.check(z.gte(0), z.lte(100)),
});
export type Arrive = z.infer<typeof arriveSchema>;
type Thing = Arrive['things'][number];

/** A thing's take from when it is seen to come, over all that has come before it. */
function layersOfThing(context: MoveContext, move: Arrive, one: Thing, i: number): Layer[] {
  const { take, scene } = context;
  const { takeId, sync, way, box } = one;
  const { frames, soft } = move;
  const at = { beat: one.beat, offset: one.offset };
  const name = say`Thing ${i + 1}`;
  const comes = { beat: one.beat, offset: one.offset - frames };
  const next = move.things[i + 1];
  // The next one's take shows all that came before it.
  const until = { to: next ? { beat: next.beat, offset: next.offset } : null };
  if (way === 'as filmed') return [take(`thing${i + 1}`, name, takeId, [remapKeyAt(at.beat, at.offset, sync)], { from: comes, ...until })];
  if (way === 'jump cut') return [take(`thing${i + 1}`, name, takeId, [remapKeyAt(at.beat, at.offset, sync)], { from: at, ...until })];
  if (way === 'backwards') {
    // Shown backwards until it lies, and still from there: what came before in the take is the hand that held it.
    const back = [
      remapKeyAt(at.beat, at.offset, sync, 0, 'freeze'),
      remapKeyAt(comes.beat, comes.offset, sync + frames / fps(scene.rate), -1),
    ].reverse();
    return [take(`thing${i + 1}`, name, takeId, back, { from: comes, ...until })];
  }
  const grown = way === 'grown';
  const pivot = { pivotX: still((box.left + box.right) / 2 - 50), pivotY: still(box.bottom - 50) };
  const moves = {
    from: comes,
    to: at,
    masks: [ellipseAround(box, 1, soft, { attachedToLayer: true })],
    numbers: grown
      ? {
          ...pivot,
          scale: keysAt(at, [
            [-frames, 1, 'overshoot'],
            [0, 100],
          ]),
        }
      : {
          y: keysAt(at, [
            [-frames, -box.bottom - 5, 'strong in'],
            [0, 0],
          ]),
        },
    ...(grown ? {} : { shutter: 180 }),
  };
  const frozen = [remapKeyAt(at.beat, at.offset, sync, 0, 'freeze')];
  const coming = take(`coming${i + 1}`, say`${name} coming`, takeId, frozen, moves);
  const shade =
    move.shadow > 0
      ? [
          {
            ...context.made(
              `shadow${i + 1}`,
              say`${name}: shadow`,
              { kind: 'echo', layerId: coming.id, late: 0, shown: 'as a shadow', soft: 2 },
              {
                from: comes,
                to: at,
                numbers: { opacity: still(move.shadow), x: still(0.6), y: still(0.8) },
              },
            ),
          },
        ]
      : [];
  return [...shade, coming, take(`thing${i + 1}`, name, takeId, [remapKeyAt(at.beat, at.offset, sync)], { from: at, ...until })];
}

/** The empty set, and every thing's take on its beat over what came before it. */
function layersOf(context: MoveContext, move: Arrive): Layer[] {
  const { take, picture } = context;
  const [first] = move.things;
  const ground = move.plate
    ? picture('empty', say`Empty set`, move.plate, [remapKeyAt(0, 0, 0)], {})
    : take(
        'empty',
        say`Before anything came`,
        first.takeId,
        [remapKeyAt(first.beat, first.offset, context.footage(first.takeId).from, 0, 'freeze')],
        {},
      );
  return [ground, ...move.things.flatMap((one, i) => layersOfThing(context, move, one, i))];
}

function problemsOf({ scene }: MoveContext, move: Arrive): Problem<Arrive>[] {
  const at = move.things.map((t) => placeFrame(scene, t));
  const wrong = at.findIndex((f, i) => i > 0 && f < at[i - 1]);
  const early = at.findIndex((f) => f - move.frames < scene.first);
  const made: Problem<Arrive>[] = [];
  if (wrong > 0)
    made.push({
      text: say`Thing ${wrong + 1} comes before thing ${wrong}, whose take was filmed without it: it would go again. Things come in the order they were put there.`,
      nearest: { label: say`Let them come in order`, move: { ...move, things: inOrder(move.things) } },
    });
  if (early >= 0 && at[early] > scene.first)
    made.push({
      text: say`Thing ${early + 1} is seen to come for ${move.frames} frames, and the shot begins ${Math.max(0, at[early] - scene.first)} before it lies.`,
      nearest: {
        label: say`Let it come in ${Math.max(1, at[early] - scene.first)} frames`,
        move: { ...move, frames: Math.max(1, at[early] - scene.first) },
      },
    });
  return made;
}

/** The same places, one after another. */
function inOrder(things: readonly Thing[]): Thing[] {
  const places = things.map(({ beat, offset }) => ({ beat, offset })).sort((a, b) => a.beat - b.beat || a.offset - b.offset);
  return things.map((t, i) => ({ ...t, ...places[i] }));
}

/**
 * The second from which a take stays as it is: after the last of what moves by more than a quarter of its most; a fifth from the end where
 * it never rests.
 */
export function liesFrom({ times, movement }: Movement, from: Seconds, to: Seconds): Seconds {
  const inside = times.flatMap((time, i) => (time >= from && time <= to ? [{ time, m: movement[i] }] : []));
  const most = Math.max(0, ...inside.map((p) => p.m));
  const calm = [...inside.map((p) => p.m)].sort((a, b) => a - b)[inside.length >> 2] ?? 0;
  const last = inside.findLastIndex((p) => p.m > calm + 0.25 * (most - calm));
  const at = last < 0 ? undefined : inside[last + 1]?.time;
  return at === undefined || at > to - 0.1 ? from + 0.8 * (to - from) : at;
}

const WHOLE = { left: 35, top: 40, right: 65, bottom: 75 };

/** One a beat, in the order of the takes, each lying as its beat comes. */
function propose(
  context: ProposeContext,
  { plate, movements, arrivals }: Pick<Facts, 'plate' | 'movements' | 'arrivals'>,
): Proposal<Arrive> {
  const { map, beat, takes, rate } = context;
  const bar = beatsPerBarAt(map, beat);
  const lead: Beats = Math.max(1, Math.min(2, beatsBack(context, 8, 2)));
  const frames = Math.round(0.24 * fps(rate));
  const things = takes.map(({ takeId, footage: { from, to } }, i): Thing => {
    const moved = movements[i] ?? { times: [], movement: [] };
    return {
      takeId,
      sync: Math.max(from + frames / fps(rate), moved.times.length > 0 ? liesFrom(moved, from, to) : from + 0.5 * (to - from)),
      beat: lead + i,
      offset: 0,
      way: 'as filmed',
      box: arrivals[i] ?? WHOLE,
    };
  });
  const last = takes[takes.length - 1].footage;
  const after = last.to - things[things.length - 1].sync;
  const tail = takes.length - 1 + beatsIn(map, beat + takes.length - 1, after, 1, bar);
  return {
    lead,
    tail,
    move: { kind: 'arrive', plate: plate.plate, things, frames, soft: 2, shadow: 0 },
    said: plate.plate ? '' : say`There is no empty set, so the shot opens on the first frame of the first take.`,
  };
}

const FIELDS: readonly Field<Arrive>[] = [
  { is: 'number', label: say`Seen to come for`, unit: 'f', of: 'frames', min: 1, max: 120, said: say`Change how fast things come` },
  { is: 'number', label: say`Soft edge`, unit: '%', of: 'soft', min: 0, max: 50, step: 0.5, digits: 1, said: say`Soften the edge` },
  {
    is: 'number',
    label: say`Shadow of what grows or drops`,
    unit: '%',
    of: 'shadow',
    min: 0,
    max: 100,
    step: 5,
    said: say`Change the shadow`,
  },
  ...([0.5, 1, 2] as const).map(
    (every): Field<Arrive> => ({
      is: 'action',
      label: every === 1 ? say`One a beat` : every < 1 ? say`Two a beat` : say`One every 2 beats`,
      said: say`Space the arrivals`,
      apply: ({ things }) => ({ things: things.map((t, i) => ({ ...t, beat: things[0].beat + i * every, offset: things[0].offset })) }),
    }),
  ),
  listField<Arrive, Thing>({
    label: say`Thing`,
    said: say`Change a thing`,
    get: ({ things }) => things,
    set: (_, things) => ({ things: [...things] }),
    fields: [
      { is: 'place', label: say`Lies on`, said: say`Move a thing`, get: (t) => t, set: (_, { beat, offset }) => ({ beat, offset }) },
      { is: 'choice', label: say`Comes`, of: 'way', said: say`Let a thing come otherwise`, options: optionsOf(WAYS) },
      {
        is: 'second',
        label: say`Second at which it lies`,
        said: say`Slide the take`,
        get: ({ sync }) => sync,
        set: (_, sync) => ({ sync }),
      },
      ...boxFields<Thing>('It', say`Move the thing`).map(
        (f): Field<Thing> => ({ ...f, when: ({ way }) => way === 'grown' || way === 'dropped' }),
      ),
    ],
    min: 1,
    max: 24,
    fewer: 'any',
  }),
];

/** Things arrive: an empty room furnishes itself on the beat. */
export const arrive: MoveKind<Arrive, 'plate' | 'movements' | 'arrivals'> = {
  kind: 'arrive',
  schema: arriveSchema,
  words: {
    name: say`Things arrive`,
    working: say`Looking when each thing lies`,
    about: say`An empty set furnishes itself, one thing a beat: as filmed, backwards, grown, dropped or by a jump cut.`,
  },
  takes: { min: 1, max: 24 },
  needs: ['plate', 'movements', 'arrivals'],
  mixes: true,
  planned: { recipe: 'things arrive', slots: 'all' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorsIn('things', 'thing')],
  withTakes: (move, choose) => ({ ...move, things: move.things.map((t) => chosen(t, choose)) }),
  sounds: (_, { things }) =>
    things.map(({ beat, offset, way }) => ({
      sound: way === 'grown' ? ('whoosh' as const) : ('impact' as const),
      at: { beat, offset },
      seconds: 0.5,
      gain: -8,
    })),
  poster: ({ scene }, { things }) => placeFrame(scene, things[things.length - 1]) + 1,
  fields: FIELDS,
};
