import { newPlannedShot, RECIPES } from '../plan';
import { layersFromMix } from './migrate-shots';

type Document = Record<string, unknown>;

/**
 * A project document of an older version brought up to this one, step by step; anything else is given back as it is, for
 * the validation to judge.
 */
export function migrated(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const older = value as Document;
  const steps = [
    fromVersion1,
    fromVersion2,
    fromVersion3,
    fromVersion4,
    fromVersion5,
    fromVersion6,
    fromVersion7,
    fromVersion8,
    fromVersion9,
    fromVersion10,
    fromVersion11,
    fromVersion12,
    fromVersion13,
  ];
  return typeof older.version === 'number' && older.version >= 1
    ? steps.slice(older.version - 1).reduce((document, step) => step(document), older)
    : value;
}

/** Each item of a list; what is no list as it is, for the validation to judge. */
const eachOf = (value: unknown, each: (item: Document) => Document) => (Array.isArray(value) ? (value as Document[]).map(each) : value);

/** The lists of shots of version 7 and later, with each shot brought up. */
const shotsWith = ({ shots, inner, aside }: Document, each: (shot: Document) => Document) => ({
  shots: eachOf(shots, each),
  inner: eachOf(inner, each),
  aside: eachOf(aside, each),
});

/** Version 1 knew one curtain reveal as its plan; version 2 knows many planned shots, each with its set. */
function fromVersion1({ plan, ...rest }: Document): Document {
  const old = (plan ?? {}) as Document;
  const recipe = RECIPES.find((r) => r.id === 'curtain reveal') ?? RECIPES[0];
  const shot = newPlannedShot('plan-1', recipe, '2026-01-01');
  const inputs = { falls: old.falls, fallSeconds: old.fallSeconds, pieces: old.handfuls, mark: old.mark };
  const known = Object.fromEntries(Object.entries(inputs).filter(([, v]) => v !== undefined)) as typeof shot.inputs;
  const { takes } = rest;
  return {
    ...rest,
    version: 2,
    takes: Array.isArray(takes) ? (takes as Document[]).map((t) => ({ ...t, plan: t.slot === null ? null : shot.id })) : takes,
    plans: [{ ...shot, inputs: { ...shot.inputs, ...known }, ticked: Array.isArray(old.ticked) ? old.ticked : [] }],
    units: 'metres',
  };
}

/** Version 3 notes when a take was filmed and what was called out while it was. */
function fromVersion2(older: Document): Document {
  const { takes } = older;
  return {
    ...older,
    version: 3,
    takes: Array.isArray(takes) ? (takes as Document[]).map((t) => ({ filmedAt: null, live: null, ...t })) : takes,
  };
}

/** Version 4 mixes a shot's takes by a reveal or by a seam, and corrects light over time. */
function fromVersion3(older: Document): Document {
  const { shots, takes } = older;
  const overTime = (correction: unknown) =>
    correction && { ...(correction as Document), gains: [{ time: 0, ...((correction as Document).gains as Document) }] };
  return {
    ...older,
    version: 4,
    takes: Array.isArray(takes) ? (takes as Document[]).map((t) => ({ ...t, correction: overTime(t.correction) ?? null })) : takes,
    shots: Array.isArray(shots) ? (shots as Document[]).map(({ reveal, ...rest }) => ({ ...rest, mix: reveal })) : shots,
  };
}

/** Version 5 lets a take be a part of its file. */
function fromVersion4(older: Document): Document {
  const { takes } = older;
  return { ...older, version: 5, takes: Array.isArray(takes) ? (takes as Document[]).map((t) => ({ part: null, ...t })) : takes };
}

/** Version 6 names the song's parts, lays sound on threads, and keeps what has lost its place in the song. */
function fromVersion5(older: Document): Document {
  const { song } = older;
  return {
    ...older,
    version: 6,
    song: song && { parts: [], ...(song as Document) },
    sound: {
      song: { on: true, gains: [], fadeIn: 0, fadeOut: 0 },
      takes: { on: true, gains: [] },
      effects: { on: true, gains: [] },
      clips: [],
    },
    aside: [],
  };
}

/** What version 8 can say of moves that version 7 could not. */
const NEW_IN_8: Record<string, Document> = {
  reveal: { outOf: 'before', duck: 'nobody', reach: 15, figures: [] },
  ramp: { sound: 'none', track: null, hold: 100 },
  split: { swaps: [] },
};

/** Version 8 follows figures over time, and lets a take's sound run with its picture. */
function fromVersion7(older: Document): Document {
  const moved = (move: unknown) => {
    if (!move) return move;
    const { kind, panels, ...rest } = move as Document & { kind: string };
    return {
      kind,
      ...NEW_IN_8[kind],
      ...(panels !== undefined && { panels: eachOf(panels, (p) => ({ zoom: 100, x: 0, y: 0, track: null, ...p })) }),
      ...rest,
    };
  };
  const sounding = (shot: Document) => ({ ...shot, move: moved(shot.move), layers: eachOf(shot.layers, (l) => ({ sound: 'none', ...l })) });
  return { ...older, version: 8, ...shotsWith(older, sounding) };
}

/** What moves called their layers and masks up to version 8. */
const MADE = /^(before|after|base|plate|part\d+|trail\d+|out|into|take|panel\d+)$/;
const MADE_MASK = /^(line|ring|rectangle|figure|drawn|duck|limit|panel|matte|band)$/;

/** Version 9 says of every layer and mask whether its shot's move made it, and makes exposure and blur effects of a chain. */
function fromVersion8(older: Document): Document {
  const made = (mine: boolean) => (mine ? 'move' : 'user');
  const layer = (moved: boolean) => (value: Document) => {
    const mine = moved && MADE.test(String(value.id));
    const masks = eachOf(value.masks, (mask) => ({ ...mask, madeBy: made(mine && MADE_MASK.test(String(mask.id))) }));
    const { exposure, blur, ...numbers } = (value.numbers ?? {}) as Document;
    const effects = Object.entries({ exposure, blur }).flatMap(([kind, amount]) =>
      amount ? [{ id: kind, madeBy: 'user', on: true, kind, numbers: { amount } }] : [],
    );
    return { ...value, madeBy: made(mine), masks, numbers, effects };
  };
  return {
    ...older,
    version: 9,
    ...shotsWith(older, ({ hand, ...shot }) => ({ ...shot, overrides: hand, layers: eachOf(shot.layers, layer(Boolean(shot.move))) })),
  };
}

/** The same values, some under other names; names that are not there are let be. */
const renamed = (value: unknown, names: Record<string, string>): unknown =>
  value && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).map(([name, v]) => [names[name] ?? name, v]))
    : value;
const silhouette = (kind: unknown) => (kind === 'figure' ? 'silhouette' : kind);

/** Version 10 calls things as the field does: time remap, frame interpolation, silhouettes, nested and unplaced shots. */
function fromVersion9(older: Document): Document {
  const mask = (value: Document) => {
    const now = renamed(value, { rides: 'attachedToLayer', stands: 'keyframes', figureId: 'silhouetteId' }) as Document;
    return { ...now, kind: silhouette(now.kind) };
  };
  const layer = (value: Document) => {
    const now = renamed(value, { pins: 'timeRemap', between: 'frameInterpolation' }) as Document;
    return { ...now, masks: eachOf(now.masks, mask) };
  };
  const move = (value: unknown) => {
    if (!value) return value;
    const now = renamed(value, { between: 'frameInterpolation', figures: 'silhouettes' }) as Document;
    const named = (item: Document) => renamed(item, { figureId: 'silhouetteId' }) as Document;
    return {
      ...now,
      ...('by' in now && { by: silhouette(now.by) }),
      ...('silhouettes' in now && { silhouettes: eachOf(now.silhouettes, named) }),
    };
  };
  const overrides = (value: unknown) =>
    Array.isArray(value) ? value.map((name) => (typeof name === 'string' ? name.replace(/\.pins$/, '.timeRemap') : name)) : value;
  const shots = shotsWith(older, (shot) => ({
    ...shot,
    layers: eachOf(shot.layers, layer),
    move: move(shot.move),
    overrides: overrides(shot.overrides),
  }));
  return {
    ...(renamed({ ...older, ...shots }, { inner: 'nestedShots', aside: 'unplacedShots' }) as Document),
    version: 10,
    media: eachOf(older.media, (file) => ({ ...file, kind: silhouette(file.kind) })),
  };
}

/** Version 11 knows cut-outs over time and followed places; what was there is as it was. */
const fromVersion10 = (older: Document): Document => ({ ...older, version: 11 });

/** Version 12 knows songs whose bars change their length, takes of a camera that moves, and echoes of layers; what was there is as it was. */
const fromVersion11 = (older: Document): Document => ({ ...older, version: 12 });

/** Version 13 knows films that are clear in places, overlays, a shot over the whole film and keyed settings; the part of a shot that other shapes show is keyed. */
function fromVersion12(older: Document): Document {
  const keyed = (shot: Document): Document =>
    shot.part ? { ...shot, part: [{ beat: 0, offset: 0, ...(shot.part as Document), easing: 'ease in and out' }] } : shot;
  const lists = ['shots', 'nestedShots', 'unplacedShots'].map((name) => [name, eachOf(older[name], keyed)]);
  return { ...older, ...Object.fromEntries(lists), version: 13 };
}

/** Version 14 knows a move for every recipe, and shots that come in within a mask; what was there is as it was. */
const fromVersion13 = (older: Document): Document => ({ ...older, version: 14 });

/** Version 7 makes every shot of layers with keyed numbers and masks, and knows shots within shots. */
function fromVersion6(older: Document): Document {
  const { shots, aside, takes } = older;
  const tapes = new Map(Array.isArray(takes) ? (takes as Document[]).map((t) => [t.id as string, t.tape as number]) : []);
  const layered = (list: unknown) => (Array.isArray(list) ? (list as Document[]).map((shot) => layersFromMix(shot, tapes)) : list);
  return { ...older, version: 7, shots: layered(shots), aside: layered(aside), inner: [] };
}
