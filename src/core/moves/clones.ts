import * as z from 'zod/mini';
import {
  anchorSchema,
  finite,
  id,
  type Layer,
  placeFrame,
  remapKeyAt,
  type SeamKeyframe,
  seamKeyframeSchema,
  seamMask,
  silhouetteMask,
  still,
} from '../layer';
import { beatsPerBarAt } from '../time';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, listField, placeField } from './fields';
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
import { beatsIn, onBeat } from './spans';

const crossing = z.object({
  /** Whose hand or prop crosses: the place it comes from, the first being 0. */
  place: z.int().check(z.gte(0), z.lte(4)),
  from: anchorSchema,
  until: anchorSchema,
});
/** A place's take, and how far the seam to the place before it is pushed, per cent of the width. */
const placeSchema = z.extend(takeUseSchema, { push: finite.check(z.gte(-100), z.lte(100)) });
const clonesSchema = z.object({
  kind: z.literal('clones'),
  /** The places from left to right (or from the top down), each with the second of its take at the meeting beat. */
  uses: z.array(placeSchema).check(z.minLength(2), z.maxLength(5)),
  /** The beat on which the takes meet. */
  at: anchorSchema,
  /** The measured seam between each place and the next; empty for an upright line in the middle of both. */
  seams: z.array(z.array(seamKeyframeSchema).check(z.maxLength(500))).check(z.maxLength(4)),
  feather: percentSchema,
  /** What crosses a seam: laid over it within the performer's outline on those frames. */
  crossings: z.array(crossing).check(z.maxLength(24)),
  silhouettes: z.array(z.object({ takeId: id, silhouetteId: id })).check(z.maxLength(8)),
});
export type Clones = z.infer<typeof clonesSchema>;

/** An upright seam between two of `count` places. */
const upright = (i: number, count: number): SeamKeyframe[] => [
  {
    from: 0,
    points: [
      { x: (100 * (i + 1)) / count, y: 0 },
      { x: (100 * (i + 1)) / count, y: 100 },
    ],
  },
];

/** The takes of all places, each from its seam on over the ones before; what crosses a seam is laid on top. */
function layersOf({ take }: MoveContext, move: Clones): Layer[] {
  const { uses, at, seams, feather, crossings, silhouettes } = move;
  const runs = (i: number) => [remapKeyAt(at.beat, at.offset, uses[i].sync)];
  const places = uses.map((use, i) => {
    if (i === 0) return take('place1', say`Place 1`, use.takeId, runs(0), {});
    const measured = seams[i - 1] ?? [];
    const mask = seamMask(measured.length > 0 ? measured : upright(i - 1, uses.length), feather);
    return take(`place${i + 1}`, say`Place ${i + 1}`, use.takeId, runs(i), {
      masks: [{ ...mask, numbers: { ...mask.numbers, shift: still(use.push) } }],
    });
  });
  const over = crossings.flatMap(({ place, from, until }, k) => {
    const use = uses[place];
    const silhouetteId = use && silhouettes.find((s) => s.takeId === use.takeId)?.silhouetteId;
    if (!use || !silhouetteId) return [];
    const outline = silhouetteMask('crossing', silhouetteId, null, { grow: still(0.4), outside: still(0.8) }, { attachedToLayer: true });
    return [take(`over${k + 1}`, say`Place ${place + 1} crosses`, use.takeId, runs(place), { from, to: until, masks: [outline] })];
  });
  return [...places, ...over];
}

/** The takes whose performer has to be found. */
const missing = ({ uses, crossings, silhouettes }: Clones): string[] => [
  ...new Set(crossings.flatMap(({ place }) => uses[place]?.takeId ?? []).filter((takeId) => !silhouettes.some((s) => s.takeId === takeId))),
];

function problemsOf({ scene, footage }: MoveContext, move: Clones): Problem<Clones>[] {
  const made: Problem<Clones>[] = missing(move).map((takeId) => ({
    text: say`Where the performer is in “${footage(takeId).name}” is not known yet, so nothing of them can cross the seam. Find them in it first.`,
    nearest: null,
  }));
  move.crossings.forEach(({ from, until, place }, i) => {
    if (placeFrame(scene, until) <= placeFrame(scene, from))
      made.push({
        text: say`Crossing ${i + 1} ends before it begins. Move its end to a later beat.`,
        nearest: {
          label: say`End it a beat later`,
          move: { ...move, crossings: move.crossings.map((c, k) => (k === i ? { ...c, until: { ...c.from, beat: c.from.beat + 1 } } : c)) },
        },
      });
    if (place >= move.uses.length)
      made.push({
        text: say`Crossing ${i + 1} comes from place ${place + 1}, and there are ${move.uses.length}.`,
        nearest: {
          label: say`Let it come from the last`,
          move: { ...move, crossings: move.crossings.map((c, k) => (k === i ? { ...c, place: move.uses.length - 1 } : c)) },
        },
      });
  });
  return made;
}

/** From the beat on for as long as all takes have picture, along the measured seams. */
function propose(context: ProposeContext, { seams }: Pick<Facts, 'seams'>): Proposal<Clones> {
  const { map, beat, takes } = context;
  const from = takes.map(({ footage }, i) => seams.from[i] ?? footage.from);
  const room = Math.min(...takes.map(({ footage }, i) => footage.to - from[i]));
  return {
    lead: 0,
    tail: beatsIn(map, beat, room, 1, 16 * beatsPerBarAt(map, beat)),
    move: {
      kind: 'clones',
      uses: takes.map(({ takeId }, i) => ({ takeId, sync: from[i], push: 0 })),
      at: onBeat(0),
      seams: takes.slice(1).map((_, i) => [...(seams.keyframes[i] ?? [])]),
      feather: seams.feather,
      crossings: [],
      silhouettes: [],
    },
    said: seams.why,
  };
}

type Use = Clones['uses'][number];
const FIELDS: readonly Field<Clones>[] = [
  placeField('at', say`All meet on`, say`Move the meeting`),
  { is: 'number', label: say`Feather`, unit: '%', of: 'feather', min: 0, max: 100, step: 0.5, digits: 1, said: say`Feather the seams` },
  {
    is: 'measure',
    label: say`Find the seams again`,
    said: say`Find the seams`,
    needs: 'seams',
    takes: ({ uses }) => uses.map((u) => u.takeId),
    apply: (move, { seams }) => {
      if (seams.keyframes.every((k) => k.length === 0)) return { change: null, said: seams.why };
      return {
        change: {
          seams: seams.keyframes.map((k) => [...k]),
          feather: seams.feather,
          uses: move.uses.map((use, i) => ({ ...use, sync: seams.from[i] ?? use.sync })),
        },
        said: seams.why,
      };
    },
  },
  listField<Clones, Use>({
    label: say`Place`,
    said: say`Slide a take`,
    get: ({ uses }) => uses,
    set: (_, uses) => ({ uses: [...uses] }),
    fields: [
      { is: 'second', label: say`Second on the beat`, said: say`Slide the take`, get: ({ sync }) => sync, set: (_, sync) => ({ sync }) },
      { is: 'number', label: say`Push its seam`, unit: '%', of: 'push', min: -100, max: 100, step: 0.5, digits: 1, said: say`Push a seam` },
    ],
    min: 2,
    max: 5,
    fewer: 'none',
  }),
  listField<Clones, Clones['crossings'][number]>({
    label: say`Crossing`,
    said: say`Change what crosses`,
    get: ({ crossings }) => crossings,
    set: (_, crossings) => ({ crossings: [...crossings] }),
    fields: [
      {
        is: 'reading',
        label: say`From place`,
        unit: '',
        min: 1,
        max: 5,
        said: say`Change what crosses`,
        get: ({ place }) => place + 1,
        set: (_, v) => ({ place: Math.round(v) - 1 }),
      },
      { is: 'place', label: say`Crosses from`, said: say`Move what crosses`, get: ({ from }) => from, set: (_, from) => ({ from }) },
      { is: 'place', label: say`Until`, said: say`Move what crosses`, get: ({ until }) => until, set: (_, until) => ({ until }) },
    ],
    min: 0,
    max: 24,
    fewer: 'any',
    more: { label: say`Something crosses a seam`, make: ({ at }) => ({ place: 0, from: at, until: { ...at, beat: at.beat + 1 } }) },
  }),
];

/** Clones: two to five takes of one set-up side by side along measured seams. */
export const clones: MoveKind<Clones, 'seams'> = {
  kind: 'clones',
  schema: clonesSchema,
  words: {
    name: say`Clones`,
    working: say`Looking for the seams`,
    about: say`Two to five takes of one set-up side by side along seams that keep clear of everybody.`,
  },
  takes: { min: 2, max: 5 },
  needs: ['seams'],
  mixes: true,
  planned: { recipe: 'clones', slots: 'all' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [
    anchorAt('at', 'meeting'),
    {
      event: 'crossing',
      map: (move, change) => ({ ...move, crossings: move.crossings.map((c) => ({ ...c, from: change(c.from) })) }),
    },
    {
      event: say`end of the crossing`,
      map: (move, change) => ({ ...move, crossings: move.crossings.map((c) => ({ ...c, until: change(c.until) })) }),
    },
  ],
  withTakes: (move, choose) => ({ ...move, uses: move.uses.map((use) => chosen(use, choose)) }),
  outlines: {
    missing,
    add: (move, found) => ({
      ...move,
      silhouettes: [
        ...move.silhouettes.filter((s) => !found.some((f) => f.takeId === s.takeId)),
        ...found.map(({ takeId, silhouetteId }) => ({ takeId, silhouetteId })),
      ],
    }),
  },
  poster: ({ scene }) => Math.round((scene.first + scene.end) / 2),
  fields: FIELDS,
};
