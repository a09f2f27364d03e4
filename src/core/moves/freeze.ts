import * as z from 'zod/mini';
import {
  anchorSchema,
  finite,
  id,
  type Key,
  keyAt,
  type Layer,
  type Mask,
  matteMask,
  placeFrame,
  plainMask,
  remapKeyAt,
  type Scene,
  still,
} from '../layer';
import { beatsPerBarAt, fps } from '../time';
import type { Beats, Seconds } from '../units';
import { say } from '../words';
import type { Facts } from './facts';
import { everyField, type Field, listField, optionsOf, placeField, shakeSizeField } from './fields';
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
import { effect } from './parts';
import { shakeKeys } from './shake';
import { beatsBack, beatsIn, onBeat } from './spans';

/** What a part can look like, by effects of its own. */
const LOOKS = {
  'as it is': [],
  'black and white': [['saturation', { amount: 0 }]],
  bright: [['exposure', { amount: 1 }]],
  dark: [['exposure', { amount: -1.5 }]],
  'in few tones': [['posterise', { steps: 4 }]],
  inverted: [['invert', { amount: 100 }]],
} as const satisfies Record<string, readonly (readonly [kind: string, numbers: Record<string, number>])[]>;
const LOOK_NAMES = Object.keys(LOOKS) as (keyof typeof LOOKS)[];

const SIDES = ['left', 'right', 'top', 'bottom'] as const;
const freezeSchema = z.object({
  kind: z.literal('freeze'),
  use: takeUseSchema,
  /** Where the picture freezes, and for how long. */
  at: anchorSchema,
  until: anchorSchema,
  /** Cut-out parts that arrive, one every `every` beats from the freeze on, each from a side. */
  parts: z
    .array(
      z.object({
        /** The cut-out that is this part; null where what is drawn on the picture is cut out instead. */
        matteId: z.nullable(id),
        /** The take it is a part of, frozen at the second it was cut out at; null for the take that freezes. */
        takeId: z._default(z.nullable(id), null),
        /** The band of the frame that is this part, per cent from its top; null for all of the cut-out. */
        band: z.nullable(z.object({ from: finite, to: finite })),
        side: z.enum(SIDES),
        scale: finite.check(z.gte(1), z.lte(400)),
        turn: finite,
        look: z._default(z.enum(LOOK_NAMES), 'as it is'),
        /** The second of its take it was cut out at, where that is known; null where it was cut out of another take than it is shown with. */
        cutAt: z.optional(z.nullable(finite)),
      }),
    )
    .check(z.maxLength(24)),
  every: finite.check(z.gte(0.25), z.lte(16)),
  /** Frames from setting off to landing. */
  flight: z.int().check(z.gte(2), z.lte(120)),
  /** Frames of shake as the last part lands, 0 for none; and how far, per cent of the height. */
  shake: z.int().check(z.gte(0), z.lte(60)),
  shakeSize: finite.check(z.gte(0), z.lte(20)),
  /** How dense the shadow of each part is, per cent, 0 for none. */
  shadow: z._default(percentSchema, 0),
  /** What is under the parts: the frozen picture, the take running on, or the empty set of a clean plate. */
  under: z.enum(['frozen', 'running', 'plate']),
  /** The clean plate, a picture kept with the project; null where there is none. */
  plate: z.nullable(id),
  /** Frames between repeated freezes that trail behind the figure, 0 for none; how many, and the opacity of the newest, per cent. */
  trail: z.object({ every: z.int().check(z.gte(0), z.lte(250)), count: z.int().check(z.gte(0), z.lte(40)), opacity: percentSchema }),
});
export type Freeze = z.infer<typeof freezeSchema>;
type Part = Freeze['parts'][number];

/** How far a shadow lies from its part, per cent of the frame. */
const SHADOW = { x: 0.8, y: 1.2 };

const FROM = { left: ['x', -110], right: ['x', 110], top: ['y', -120], bottom: ['y', 120] } as const;

/** What is drawn of a part before its points are pulled: a lozenge in the middle. */
const LOZENGE = [
  [50, 35],
  [62, 50],
  [50, 65],
  [38, 50],
] as const;

/**
 * A stored cut-out as a mask that moves with its picture, cut down to a band of the frame where only a part of the figure is meant; or what is
 * drawn on the picture.
 */
function partMasks(part: Part): Mask[] {
  if (part.matteId === null) {
    const points = LOZENGE.flatMap(([x, y], i) => [[`x${i}`, still(x)] as const, [`y${i}`, still(y)] as const]);
    return [
      plainMask('drawn', 'outline', { ...Object.fromEntries(points), inside: still(0.3), outside: still(0) }, { attachedToLayer: true }),
    ];
  }
  const matte = matteMask(part.matteId);
  if (!part.band) return [matte];
  const { from, to } = part.band;
  const band = plainMask(
    'band',
    'rectangle',
    {
      x: still(50),
      y: still((from + to) / 2),
      width: still(300),
      height: still(to - from),
      inside: still(0),
      outside: still(0),
    },
    { attachedToLayer: true, combine: 'intersect' },
  );
  return [matte, band];
}

/**
 * The picture freezes on a beat; cut-out parts fly in and land one after another; as the last lands the frame shakes. Or the take runs on
 * under the frozen cut-out; or frozen copies trail behind.
 */
function layersOf({ scene, take, picture, made }: MoveContext, move: Freeze): Layer[] {
  const { use, at, until, parts, every, flight, trail } = move;
  const frozenAt = (second: Seconds) => [remapKeyAt(at.beat, at.offset, second, 0, 'freeze')];
  const runs = [remapKeyAt(0, 0, null, 1), remapKeyAt(at.beat, at.offset, use.sync, 1)];
  const stops = [
    remapKeyAt(0, 0, null, 1),
    remapKeyAt(at.beat, at.offset, use.sync, 0, 'freeze'),
    remapKeyAt(until.beat, until.offset, null, 1),
  ];
  const base = take('base', say`The take`, use.takeId, move.under === 'running' ? runs : stops, {});
  const copies = trail.every > 0 ? trailLayers(scene, take, move) : [];
  const landing = (i: number) => at.beat + every * (i + 1);
  /** Each part above its shadow, which goes along with it. */
  const flying = parts.map((part, i): [...shadow: Layer[], part: Layer] => {
    const [number, away] = FROM[part.side];
    const [off, land] = [at.offset - flight, landing(i)];
    const fly = (from: number, to: number, easing: Parameters<typeof keyAt>[3] = 'overshoot') => [
      keyAt(land, off, from, easing),
      keyAt(land, at.offset, to),
    ];
    const lasts = { from: { beat: land, offset: off }, to: until };
    const cut = sourceOf(move, part);
    const layer = take(`part${i + 1}`, say`Part ${i + 1}`, cut.takeId, frozenAt(cut.second), {
      ...lasts,
      masks: partMasks(part),
      shutter: 180,
      numbers: { [number]: fly(away, 0), scale: fly(part.scale, 100, 'strong out'), turn: fly(part.turn, 0, 'strong out') },
      effects: LOOKS[part.look].map(([kind, numbers]) => effect(kind, numbers)),
    });
    if (move.shadow === 0) return [layer];
    const source = { kind: 'echo', layerId: layer.id, late: 0, shown: 'as a shadow', soft: 2 } as const;
    const numbers = { opacity: still(move.shadow), x: still(SHADOW.x), y: still(SHADOW.y) };
    return [made(`shadow${i + 1}`, say`Part ${i + 1}: shadow`, source, { ...lasts, numbers }), layer];
  });
  const empty =
    move.under === 'plate' && move.plate
      ? [picture('plate', say`Clean plate`, move.plate, [remapKeyAt(at.beat, at.offset, 0)], { from: at, to: until })]
      : [];
  const ground = [base, ...empty];
  if (move.shake === 0 || parts.length === 0) return [...ground, ...copies, ...flying.flat()];
  const shake = shakeKeys(landing(parts.length - 1), at.offset, move.shake, move.shakeSize);
  const shaken = (layer: Layer, edge = layer.edge): Layer => ({
    ...layer,
    edge,
    numbers: {
      ...layer.numbers,
      x: [...(layer.numbers.x ?? []).filter((k) => !shake.x.some((s) => same(s, k))), ...shake.x],
      y: [...(layer.numbers.y ?? []).filter((k) => !shake.y.some((s) => same(s, k))), ...shake.y],
    },
  });
  // What fills the frame is mirrored beyond its edges, so that none shows as it shakes.
  return [
    ...ground.map((layer) => shaken(layer, 'mirror')),
    ...copies.map((layer) => shaken(layer)),
    ...flying.flatMap((own) => [...own.slice(0, -1), shaken(own[own.length - 1])]),
  ];
}

const same = (a: Key, b: Key) => a.beat === b.beat && a.offset === b.offset;

/** Copies frozen every few frames from the freeze on, each fading as the figure moves away from it. */
function trailLayers(scene: Scene, take: MoveContext['take'], { use, at, trail, until }: Freeze): Layer[] {
  const { every, count, opacity } = trail;
  return Array.from({ length: count }, (_, k) => {
    const offset = at.offset + k * every;
    const timeRemap = [remapKeyAt(at.beat, offset, use.sync + (k * every) / fps(scene.rate), 0, 'freeze')];
    return take(`trail${k + 1}`, say`Trail ${k + 1}`, use.takeId, timeRemap, {
      from: { beat: at.beat, offset },
      to: until,
      blend: 'lighten',
      numbers: { opacity: [keyAt(at.beat, offset, opacity), keyAt(at.beat, offset + count * every, 0)] },
    });
  });
}

/** The take and the second of it that a part shows. */
function sourceOf({ use }: Freeze, { takeId, cutAt }: Part): { takeId: string; second: Seconds } {
  return takeId === null ? { takeId: use.takeId, second: use.sync } : { takeId, second: cutAt ?? use.sync };
}

/** The frames that figures are cut out of: the one that freezes, then those of other takes. */
function cutsOf(move: Freeze): { takeId: string; second: Seconds }[] {
  const all = [{ takeId: move.use.takeId, second: move.use.sync }, ...move.parts.map((part) => sourceOf(move, part))];
  return all.filter((one, i) => all.findIndex((o) => o.takeId === one.takeId && o.second === one.second) === i);
}

/** Parts that were cut out of another frame than the one that freezes. */
function cutElsewhere({ footage }: MoveContext, { use, parts }: Freeze): number | null {
  const frame = 1 / (footage(use.takeId).fps || 25);
  const own = parts.filter(({ takeId, matteId }) => takeId === null && matteId !== null);
  return own.find(({ cutAt }) => typeof cutAt === 'number' && Math.abs(cutAt - use.sync) > frame)?.cutAt ?? null;
}

function problemsOf(context: MoveContext, move: Freeze): Problem<Freeze>[] {
  const { scene } = context;
  const [at, until] = [placeFrame(scene, move.at), placeFrame(scene, move.until)];
  if (until <= at) return [{ text: say`The freeze ends before it begins. Move its end to a later beat.`, nearest: null }];
  const cutAt = cutElsewhere(context, move);
  if (cutAt !== null)
    return [
      {
        text: say`The parts were cut out at ${cutAt.toFixed(2)} s of the take, and the picture freezes at ${move.use.sync.toFixed(2)} s: their outline does not fit. Cut the figure out at that second, or freeze where it was cut.`,
        nearest: { label: say`Freeze at ${cutAt.toFixed(2)} s`, move: { ...move, use: { ...move.use, sync: cutAt } } },
      },
    ];
  if (move.parts.some(({ matteId, cutAt }) => matteId !== null && cutAt === null))
    return [
      {
        text: say`Some of the parts were cut out of another take than they are shown with: their outline does not fit. Cut the figures out again.`,
        nearest: null,
      },
    ];
  const lands = move.at.beat + move.every * move.parts.length;
  if (move.parts.length === 0 || lands < move.until.beat) return [];
  const most = Math.max(0, Math.ceil((move.until.beat - move.at.beat) / move.every) - 1);
  return [
    {
      text: say`${move.parts.length} parts, one every ${move.every === 1 ? 'beat' : say`${move.every} beats`}, land up to ${move.every * move.parts.length} beats after the freeze, which ends ${move.until.beat - move.at.beat} beats after it began: at most ${most}.`,
      nearest: {
        label: say`Land them faster`,
        move: { ...move, every: Math.max(0.25, Math.floor((4 * (move.until.beat - move.at.beat)) / (move.parts.length + 1)) / 4) },
      },
    },
  ];
}

const STACK: readonly Part['side'][] = ['left', 'right', 'top', 'bottom'];

/** The i-th part as it flies in: from one side after another, turning one way and the other. */
const flown = (i: number, part: Pick<Part, 'matteId' | 'band'> & Partial<Part>): Part => ({
  takeId: null,
  side: STACK[i % STACK.length],
  scale: 85,
  turn: i % 2 ? 35 : -35,
  look: 'as it is',
  ...part,
});

/** Whether the whole freeze has room for its parts, one a beat; else two a beat; and bars enough for those. */
const pace = (parts: number, bar: Beats): { every: Beats; length: Beats } => {
  const every = parts <= bar - 1 ? 1 : 0.5;
  return { every, length: bar * Math.max(1, Math.ceil((parts * every + 0.5) / bar)) };
};

/**
 * A bar or more long; the cut-out figure's parts, lowest first, then the figures of the other takes arrive one a beat or two a beat over the
 * clean plate where there is one, and the frame shakes as the last lands.
 */
function propose(context: ProposeContext, { cutOut, cutOthers }: Pick<Facts, 'cutOut' | 'cutOthers'>): Proposal<Freeze> {
  const { second, matte, plate, why } = cutOut;
  const { map, rate, beat, takes } = context;
  const [{ takeId, footage }] = takes;
  const bar = beatsPerBarAt(map, beat);
  const lead = Math.min(bar, beatsBack(context, second - footage.from, bar));
  const count = Math.max(1, Math.min(3, bar - 1));
  const own = matte
    ? Array.from({ length: count }, (_, i) =>
        flown(i, { matteId: matte.matteId, band: count === 1 ? null : bandOf(matte, count - 1 - i, count), cutAt: second }),
      )
    : [];
  const others = cutOthers.cut.map((cut, i) =>
    flown(own.length + i, { matteId: cut.matteId, takeId: cut.takeId, band: null, cutAt: cut.second }),
  );
  const parts = [...own, ...others];
  const { every, length } = pace(parts.length, bar);
  const tail = length + beatsIn(map, beat + length, footage.to - second, 0, bar);
  return {
    lead,
    tail: Math.max(tail, length + 1),
    move: {
      kind: 'freeze',
      use: { takeId, sync: second },
      at: onBeat(lead),
      until: onBeat(lead + length),
      parts,
      every,
      flight: Math.round(0.32 * fps(rate)),
      shake: parts.length ? Math.round(0.44 * fps(rate)) : 0,
      shakeSize: 1.5,
      shadow: 0,
      under: matte && plate ? 'plate' : 'frozen',
      plate,
      trail: { every: 0, count: 0, opacity: 60 },
    },
    said: [why && say`The picture freezes, but no parts fly in: ${why}`, cutOthers.why].filter(Boolean).join(' '),
  };
}

/** One of `count` bands of a figure from its head down; the outer ones reach past it. */
function bandOf({ top, bottom }: { top: number; bottom: number }, k: number, count: number): { from: number; to: number } {
  const at = (i: number) => top + ((bottom - top) * i) / count;
  return { from: k === 0 ? -50 : at(k), to: k === count - 1 ? 150 : at(k + 1) };
}

/** One number of the trail. */
const trailField = (
  label: string,
  unit: string,
  key: keyof Freeze['trail'],
  max: number,
  change = (trail: Freeze['trail']): Partial<Freeze['trail']> => trail,
): Field<Freeze> => ({
  is: 'reading',
  label,
  unit,
  min: 0,
  max,
  said: say`Change the trail`,
  get: ({ trail }) => trail[key],
  set: ({ trail }, v) => ({ trail: { ...trail, ...change(trail), [key]: Math.round(v) } }),
});

/** An edge of the band of the figure that is a part. */
const bandField = (label: string, key: 'from' | 'to'): Field<Part> => ({
  is: 'reading',
  label,
  unit: '%',
  min: -50,
  max: 150,
  said: say`Change a part`,
  when: ({ band }) => band !== null,
  get: ({ band }) => band?.[key] ?? 0,
  set: ({ band }, v) => ({ band: band && { ...band, [key]: v } }),
});

const PART_FIELDS: readonly Field<Part>[] = [
  { is: 'choice', label: say`From the`, of: 'side', options: optionsOf(SIDES), said: say`Change a part` },
  { is: 'number', label: say`Scale from`, unit: '%', of: 'scale', min: 1, max: 400, step: 5, said: say`Change a part` },
  { is: 'number', label: say`Turn from`, unit: '°', of: 'turn', min: -720, max: 720, step: 5, said: say`Change a part` },
  { is: 'choice', label: say`Looks`, of: 'look', options: optionsOf(LOOK_NAMES), said: say`Change how a part looks` },
  bandField(say`Upper edge`, 'from'),
  bandField(say`Lower edge`, 'to'),
];

const hasParts = ({ parts }: Freeze) => parts.length > 0;
const hasCut = ({ parts }: Freeze) => parts.some(({ matteId }) => matteId !== null);

/** The parts with the figures cut out anew, in the order of `cutsOf`; without any the first of them as one part. */
function cutAgain(move: Freeze, mattes: readonly (string | null)[]): Part[] | null {
  if (mattes.every((m) => m === null)) return null;
  const cuts = cutsOf(move);
  if (!hasCut(move)) return mattes[0] ? [...move.parts, flown(0, { matteId: mattes[0], band: null, cutAt: move.use.sync })] : null;
  return move.parts.map((part) => {
    const { takeId, second } = sourceOf(move, part);
    const matteId = mattes[cuts.findIndex((c) => c.takeId === takeId && c.second === second)];
    return part.matteId === null || !matteId ? part : { ...part, matteId, cutAt: second };
  });
}

const FIELDS: readonly Field<Freeze>[] = [
  placeField('at', 'Freezes', say`Move the freeze`),
  placeField('until', say`Runs on`, say`Lengthen the freeze`),
  {
    is: 'choice',
    label: say`Under the parts`,
    of: 'under',
    said: say`Change what is under the parts`,
    options: ({ plate }) => [
      ['frozen', say`the frozen picture`],
      ['running', say`the take running on`],
      ...(plate ? ([['plate', say`the clean plate`]] as const) : []),
    ],
  },
  {
    is: 'second',
    label: say`Frozen second`,
    said: say`Freeze another frame`,
    get: ({ use }) => use.sync,
    set: ({ use }, sync) => ({ use: { ...use, sync } }),
  },
  {
    is: 'measure',
    label: say`Cut the figures out`,
    said: say`Cut the figures out`,
    needs: 'cutOuts',
    takes: (move) => cutsOf(move).map((c) => c.takeId),
    seconds: (move) => cutsOf(move).map((c) => c.second),
    apply: (move, { cutOuts: { mattes, why } }) => {
      const parts = cutAgain(move, mattes);
      return { change: parts && { parts }, said: why };
    },
  },
  everyField(say`A part every`, say`Space the parts`),
  { is: 'number', label: say`Flight`, unit: 'f', of: 'flight', min: 2, max: 120, said: say`Change the flight` },
  { is: 'number', label: say`Shake at the last`, unit: 'f', of: 'shake', min: 0, max: 60, said: say`Change the shake` },
  shakeSizeField(0.25),
  {
    is: 'number',
    label: say`Shadow of the parts`,
    unit: '%',
    of: 'shadow',
    min: 0,
    max: 100,
    step: 5,
    said: say`Change the shadow`,
    when: hasParts,
  },
  trailField(say`Trail every`, 'f', 'every', 250, ({ count }) => ({ count: count || 5 })),
  trailField(say`Copies in the trail`, '', 'count', 40),
  trailField(say`Newest copy`, '%', 'opacity', 100),
  listField<Freeze, Part>({
    label: say`Part`,
    said: say`Change the parts`,
    get: ({ parts }) => parts,
    set: (_, parts) => ({ parts: [...parts] }),
    fields: PART_FIELDS,
    min: 1,
    max: 24,
    when: hasParts,
    fewer: 'last',
    more: { label: say`One part more`, make: ({ parts }) => parts[parts.length - 1] },
  }),
  {
    is: 'action',
    label: say`One drawn part more`,
    said: say`Add a drawn part`,
    when: ({ parts }) => parts.length < 24,
    apply: ({ parts }) => ({ parts: [...parts, flown(parts.length, { matteId: null, band: null })] }),
  },
  {
    is: 'action',
    label: say`Every figure whole`,
    said: say`Let the figures arrive whole`,
    when: hasCut,
    apply: ({ parts }) => ({
      parts: parts
        .filter((part, i) => part.matteId === null || parts.findIndex((p) => p.matteId === part.matteId) === i)
        .map((part) => ({ ...part, band: null })),
    }),
  },
];

/** A freeze frame: the picture stands still on a beat, and parts of it fly in. */
export const freeze: MoveKind<Freeze, 'cutOut' | 'cutOthers'> = {
  kind: 'freeze',
  schema: freezeSchema,
  words: {
    name: say`Freeze frame`,
    working: say`Cutting the figure out of its frame`,
    about: say`The picture freezes on a beat; parts of cut-out figures or drawn ones fly in one after another, or frozen copies trail behind.`,
  },
  takes: { min: 1, max: 5, usual: 1 },
  needs: ['cutOut', 'cutOthers'],
  mixes: false,
  planned: { recipe: 'freeze stack', slots: ['run'], beat: 'freezeBeat' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', 'freeze'), anchorAt('until', say`end of the freeze`)],
  withTakes: (move, choose) => {
    const use = chosen(move.use, choose);
    const parts = move.parts.map((part) => {
      const { takeId, second } = sourceOf(move, part);
      const next = choose(takeId, second);
      return next === takeId ? part : { ...part, takeId: part.takeId && next, cutAt: null };
    });
    return { ...move, use, parts };
  },
  sounds: (_, { at, parts, every }) => [
    { sound: 'shutter', at },
    ...parts.map((_part, i) => ({
      sound: 'impact' as const,
      at: { beat: at.beat + every * (i + 1), offset: at.offset },
      // The last is the one the frame shakes with.
      gain: i === parts.length - 1 ? 0 : -6,
    })),
  ],
  poster: ({ scene }, { until }) => placeFrame(scene, until) - 2,
  fields: FIELDS,
};
