import * as z from 'zod/mini';
import { anchorSchema, finite, id, type Layer, placeFrame, plainMask, remapKeyAt, still } from '../layer';
import { beatsPerBarAt, beatToSeconds, secondsToBeat } from '../time';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, listField } from './fields';
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
import { boxFields, boxSchema, duckUnder, ellipseAround, keysAt } from './parts';
import { followLine, plainLine } from './reveal-line';
import { beatsBack, beatsIn, lasts, onBeat } from './spans';

const crossing = z.extend(anchorSchema, {
  /** Frames it takes to cross, 90 to the right, -90 to the left, 0 down; the measured way across, or a straight run. */
  frames: z.int().check(z.gte(2), z.lte(250)),
  angle: finite.check(z.gte(-180), z.lte(180)),
  path: z.nullable(z.array(finite).check(z.minLength(2), z.maxLength(400))),
});
const passingSchema = z.object({
  kind: z.literal('passing'),
  /** The takes one after another, each with its second at the crossing before it (the first: at the first crossing), and at the next. */
  uses: z.array(z.extend(takeUseSchema, { out: z.nullable(finite) })).check(z.minLength(2), z.maxLength(3)),
  /** What crosses, between each take and the next: from when it enters. */
  crossings: z.array(crossing).check(z.minLength(1), z.maxLength(2)),
  /** Supports that are painted out of a scene: the first is 1. Each a soft patch of the empty set, under whatever moves before it. */
  patches: z._default(
    z
      .array(
        z.object({
          scene: z.int().check(z.gte(1), z.lte(3)),
          plate: id,
          box: boxSchema,
          soft: percentSchema,
          silhouetteId: z.nullable(id),
        }),
      )
      .check(z.maxLength(12)),
    [],
  ),
  feather: percentSchema,
  /** Frames by which the line runs behind the measured trailing edge of what crosses. */
  behind: z.int().check(z.gte(-60), z.lte(60)),
});
export type Passing = z.infer<typeof passingSchema>;
type Crossing = Passing['crossings'][number];

/** The line's keys from the place at which what crosses enters. */
function lineKeys({ frames, path, ...at }: Crossing, feather: number, behind: number) {
  const track = path ? followLine(path, frames, feather) : plainLine(frames, feather, 'linear');
  return keysAt(
    at,
    track.map((k) => [k.frame + behind, k.value, k.easing] as const),
  );
}

/** Patches over what is to be painted out of a scene, seen where and when the scene is. */
function patchLayers({ picture }: MoveContext, { patches }: Passing, i: number, scene: Layer): Layer[] {
  const own = patches.filter((p) => p.scene === i + 1);
  return own.map(({ plate, box, soft, silhouetteId }, k) => {
    const name = own.length > 1 ? say`Scene ${i + 1}: patch ${k + 1}` : say`Scene ${i + 1}: patch`;
    const line = scene.masks.map((mask): Layer['masks'][number] => ({ ...mask, combine: 'intersect' }));
    return picture(`patch${i + 1}-${k + 1}`, name, plate, [remapKeyAt(0, 0, 0)], {
      from: scene.from,
      to: scene.to,
      masks: [ellipseAround(box, 1, soft), ...duckUnder(silhouetteId, scene.id), ...line],
    });
  });
}

/** Takes that follow one another behind what crosses the lens. */
function layersOf(context: MoveContext, move: Passing): Layer[] {
  const { uses, crossings, feather, behind } = move;
  return uses.flatMap((use, i) => {
    const [before, next] = [crossings[i - 1], crossings[i]];
    const here = before ?? next;
    const remap = [
      remapKeyAt(here.beat, here.offset, use.sync),
      // Filmed to be crossed twice, it is stretched so that both crossings meet their beats.
      ...(before && next && use.out !== null ? [remapKeyAt(next.beat, next.offset, use.out)] : []),
    ];
    const scene = context.take(`scene${i + 1}`, say`Scene ${i + 1}`, use.takeId, remap, {
      ...(before ? { from: { beat: before.beat, offset: before.offset + Math.min(0, behind) } } : {}),
      ...(next ? { to: { beat: next.beat, offset: next.offset + next.frames + Math.max(0, behind) } } : {}),
      masks: before
        ? [
            plainMask('line', 'line', {
              at: lineKeys(before, feather, behind),
              angle: still(before.angle),
              inside: still(feather / 2),
              outside: still(feather / 2),
            }),
          ]
        : [],
    });
    return [scene, ...patchLayers(context, move, i, scene)];
  });
}

function problemsOf({ scene }: MoveContext, move: Passing): Problem<Passing>[] {
  const made: Problem<Passing>[] = [];
  move.crossings.forEach((c, i) => {
    const at = placeFrame(scene, c);
    const end = at + c.frames + Math.max(0, move.behind);
    const next = move.crossings[i + 1];
    const limit = next ? placeFrame(scene, next) : scene.end;
    if (end > limit)
      made.push({
        text: say`Crossing ${i + 1} takes ${c.frames} frames, and there are ${Math.max(0, limit - at)} before ${next ? say`the next begins` : say`the shot ends`}.`,
        nearest:
          limit - at >= 2
            ? {
                label: say`Cross in ${limit - at} frames`,
                move: { ...move, behind: 0, crossings: move.crossings.map((one, k) => (k === i ? { ...one, frames: limit - at } : one)) },
              }
            : null,
      });
  });
  return made;
}

/** Frames of a crossing that was not measured. Common practice. */
const CROSS = 14;

/** What sweeps across each take is followed; where nothing does, the takes meet at their ends and beginnings along a straight line. */
function propose(context: ProposeContext, { sweep }: Pick<Facts, 'sweep'>): Proposal<Passing> {
  const { map, rate, beat, takes } = context;
  const fps = rate.num / rate.den;
  const bar = beatsPerBarAt(map, beat);
  const outOf = (i: number) => sweep[i]?.from ?? Math.max(takes[i].footage.from, takes[i].footage.to - CROSS / fps - 0.2);
  const into = (i: number) => {
    const { from } = takes[i].footage;
    const [own, before] = [sweep[i], sweep[i - 1]];
    // What covers the lens as it begins leaves the frame at the same instant as in the take before.
    const covered = own && own.from - from < 1.5 && takes.length - 1 === i;
    return covered && before ? Math.max(from, own.to - (before.to - before.from)) : from;
  };
  const lead = beatsBack(context, outOf(0) - takes[0].footage.from, bar);
  const crossings: Crossing[] = [];
  let at = lead;
  for (let i = 0; i + 1 < takes.length; i++) {
    const seen = sweep[i];
    const frames = seen ? Math.max(2, Math.min(250, Math.round((seen.to - seen.from) * fps))) : CROSS;
    crossings.push({ ...onBeat(at), frames, angle: seen?.angle ?? 90, path: seen ? [...seen.position] : null });
    if (i + 2 < takes.length) {
      const gap = Math.max(frames / fps + 0.1, outOf(i + 1) - into(i + 1));
      at = Math.max(at + 1, Math.round(secondsToBeat(map, beatToSeconds(map, beat - lead + at) + gap)) - (beat - lead));
      while (lasts(map, beat - lead + crossings[i].beat, beat - lead + at) < frames / fps + 0.1) at++;
    }
  }
  const last = takes.length - 1;
  return {
    lead,
    tail: at - lead + beatsIn(map, beat - lead + at, takes[last].footage.to - into(last), 2, 2 * bar),
    move: {
      kind: 'passing',
      uses: takes.map(({ takeId }, i) => ({ takeId, sync: i === 0 ? outOf(0) : into(i), out: i > 0 && i < last ? outOf(i) : null })),
      crossings,
      patches: [],
      feather: 6,
      behind: 0,
    },
    said: sweep.slice(0, last).every(Boolean)
      ? ''
      : say`Nothing clearly crosses the lens in one of the takes, so the line runs straight across in 14 frames. Set its beat and length by hand.`,
  };
}

/** Where nothing was seen to stand: the lower middle. */
const FOOT = { left: 46, top: 60, right: 54, bottom: 100 };

/** The press that paints a support out of one of the scenes. */
const paintOut = (i: number): Field<Passing> => ({
  is: 'measure',
  label: say`Paint a support out of scene ${i + 1}`,
  said: say`Paint a support out`,
  needs: 'support',
  when: ({ uses, patches }) => uses.length > i && patches.length < 12,
  takes: ({ uses }) => [uses[i].takeId],
  apply: ({ patches }, { support: { plate, box, silhouetteId, why } }) => ({
    change: plate ? { patches: [...patches, { scene: i + 1, plate, box: box ?? FOOT, soft: 2, silhouetteId }] } : null,
    said: why,
  }),
});

const FIELDS: readonly Field<Passing>[] = [
  ...[0, 1, 2].map(paintOut),
  listField<Passing, Passing['patches'][number]>({
    label: say`Patch`,
    said: say`Change a patch`,
    when: ({ patches }) => patches.length > 0,
    get: ({ patches }) => patches,
    set: (_, patches) => ({ patches: [...patches] }),
    fields: [
      ...boxFields<Passing['patches'][number]>('Patch', say`Move a patch`),
      { is: 'number', label: say`Soft edge`, unit: '%', of: 'soft', min: 0, max: 100, step: 0.5, digits: 1, said: say`Soften a patch` },
      {
        is: 'action',
        label: say`Let it lie over all that moves`,
        said: say`Let a patch lie over all`,
        when: ({ silhouetteId }) => silhouetteId !== null,
        apply: () => ({ silhouetteId: null }),
      },
    ],
    min: 0,
    max: 12,
    fewer: 'any',
  }),
  { is: 'number', label: say`Feather`, unit: '%', of: 'feather', min: 0, max: 100, said: say`Feather the edge` },
  { is: 'number', label: say`Line behind the middle`, unit: 'f', of: 'behind', min: -60, max: 60, said: say`Move the line behind` },
  listField<Passing, Crossing>({
    label: say`Crossing`,
    said: say`Change a crossing`,
    get: ({ crossings }) => crossings,
    set: (_, crossings) => ({ crossings: [...crossings] }),
    fields: [
      { is: 'place', label: say`Enters on`, said: say`Move a crossing`, get: (c) => c, set: (_, { beat, offset }) => ({ beat, offset }) },
      { is: 'number', label: say`Crosses in`, unit: 'f', of: 'frames', min: 2, max: 250, said: say`Change how fast it crosses` },
      { is: 'number', label: say`Angle (90 to the right)`, unit: '°', of: 'angle', min: -180, max: 180, step: 5, said: say`Turn the line` },
      {
        is: 'action',
        label: say`Run straight across`,
        said: say`Run the line straight`,
        when: ({ path }) => path !== null,
        apply: () => ({ path: null }),
      },
    ],
    min: 1,
    max: 2,
    fewer: 'none',
  }),
  listField<Passing, Passing['uses'][number]>({
    label: say`Scene`,
    said: say`Slide a take`,
    get: ({ uses }) => uses,
    set: (_, uses) => ({ uses: [...uses] }),
    fields: [
      {
        is: 'second',
        label: say`Second at its crossing`,
        said: say`Slide the take`,
        get: ({ sync }) => sync,
        set: (_, sync) => ({ sync }),
      },
      {
        is: 'second',
        label: say`Second at the next`,
        said: say`Slide the take`,
        when: ({ out }) => out !== null,
        get: ({ out }) => out ?? 0,
        set: (_, out) => ({ out }),
      },
    ],
    min: 2,
    max: 3,
    fewer: 'none',
  }),
];

/** A passing wipe: two or three takes become one behind what crosses the lens. */
export const passing: MoveKind<Passing, 'sweep'> = {
  kind: 'passing',
  schema: passingSchema,
  words: {
    name: say`Passing wipe`,
    working: say`Looking for what crosses the lens`,
    about: say`Something crosses close to the lens, and behind it the next take is there.`,
  },
  takes: { min: 2, max: 3 },
  needs: ['sweep'],
  mixes: false,
  planned: { recipe: 'passing wipe', slots: 'all' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorsIn('crossings', 'crossing')],
  withTakes: (move, choose) => {
    const uses = move.uses.map((use) => chosen(use, choose));
    // The empty set of one take says nothing of another's.
    return { ...move, uses, patches: move.patches.filter(({ scene }) => uses[scene - 1]?.takeId === move.uses[scene - 1]?.takeId) };
  },
  sounds: (_, { crossings }) =>
    crossings.map(({ frames, beat, offset }) => ({
      sound: 'whoosh' as const,
      at: { beat, offset: offset + Math.round(frames / 2) },
      seconds: Math.max(0.4, frames / 20),
    })),
  poster: ({ scene }, { crossings: [{ frames, ...at }] }) => placeFrame(scene, at) + Math.round(frames / 2),
  fields: FIELDS,
};
