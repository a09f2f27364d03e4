import * as z from 'zod/mini';
import {
  anchorSchema,
  finite,
  id,
  type Key,
  keyAt,
  type Layer,
  type Place,
  placeFrame,
  plainMask,
  remapKeyAt,
  type Scene,
  still,
} from '../layer';
import { beatsPerBarAt, fps } from '../time';
import type { Frames } from '../units';
import { say } from '../words';
import { type Course, type Field, listField, placeField } from './fields';
import { followed } from './follow';
import {
  anchorAt,
  anchorsIn,
  chosen,
  courseSchema,
  type MoveContext,
  type MoveKind,
  type OnFrame,
  type Problem,
  type Proposal,
  type ProposeContext,
  takeUseSchema,
} from './kind';
import { figureMask } from './parts';
import { beatsIn, frames, lasts, middleOf, onBeat } from './spans';

/** A panel's take, how its picture is enlarged and pushed within it (per cent of the frame), and whoever it follows. */
const panelSchema = z.extend(takeUseSchema, {
  zoom: finite.check(z.gte(100), z.lte(600)),
  x: finite.check(z.gte(-200), z.lte(200)),
  y: finite.check(z.gte(-200), z.lte(200)),
  track: z.nullable(courseSchema),
  /** Another shot of the film that it shows instead, from a second of it on; null for its take. */
  shot: z._default(z.nullable(z.object({ shotId: id, from: finite.check(z.gte(0)) })), null),
});

/** From a place until another whoever is in a panel is seen beyond its edges, over gutters and other panels; within their outline. */
const reachSchema = z.object({
  panel: z.int().check(z.gte(1), z.lte(9)),
  from: anchorSchema,
  until: anchorSchema,
  silhouetteId: z.nullable(id),
});

const splitSchema = z.object({
  kind: z.literal('split'),
  panels: z.array(panelSchema).check(z.minLength(2), z.maxLength(9)),
  columns: z.int().check(z.gte(1), z.lte(9)),
  /** Lean of upright gutters, degrees. */
  slant: finite.check(z.gte(-45), z.lte(45)),
  /** Width of the gutters and softness of the edges, per cent of the height. */
  gutter: finite.check(z.gte(0), z.lte(20)),
  feather: finite.check(z.gte(0), z.lte(30)),
  open: anchorSchema,
  close: anchorSchema,
  /** Beats on which every panel lands one place on. */
  swaps: z.array(anchorSchema).check(z.maxLength(64)),
  /** Frames a panel takes to open, swap or close; beats from one panel to the next. */
  frames: z.int().check(z.gte(0), z.lte(120)),
  stagger: finite.check(z.gte(0), z.lte(8)),
  /** Seconds by which each panel lags behind the one before. */
  delay: finite.check(z.gte(0), z.lte(10)),
  reaches: z._default(z.array(reachSchema).check(z.maxLength(12)), []),
});
export type Split = z.infer<typeof splitSchema>;
type PanelUse = Split['panels'][number];
type Reach = Split['reaches'][number];

interface Corner {
  x: number;
  y: number;
}

/** A panel's place in the frame, per cent, its corners clockwise from the upper left. */
interface Panel {
  corners: [Corner, Corner, Corner, Corner];
}

/** Where the panels lie: rows of `columns`, the last row shared by what is left; upright edges lean by `slant` degrees. */
function panelsOf({ panels, columns, slant, gutter }: Split, { width, height }: { width: number; height: number }): Panel[] {
  const rows = Math.ceil(panels.length / columns);
  const across = (gutter * height) / width;
  // How far an upright edge leans from top to bottom, per cent of the width.
  const lean = Math.tan((slant * Math.PI) / 180) * (height / width) * 100;
  return panels.map((_, i) => {
    const row = Math.floor(i / columns);
    const inRow = Math.min(columns, panels.length - row * columns);
    const column = i - row * columns;
    const [top, bottom] = [edge(row, rows, gutter, 'low'), edge(row + 1, rows, gutter, 'high')];
    const [left, right] = [edge(column, inRow, across, 'low'), edge(column + 1, inRow, across, 'high')];
    // The frame's own sides stay upright.
    const x = (at: number, y: number, outer: boolean) => (outer ? at : at + lean * (0.5 - y / 100));
    const [first, last] = [column === 0, column === inRow - 1];
    return {
      corners: [
        { x: x(left, top, first), y: top },
        { x: x(right, top, last), y: top },
        { x: x(right, bottom, last), y: bottom },
        { x: x(left, bottom, first), y: bottom },
      ],
    };
  });
}

/** An edge between panels, half a gutter to its side; edges of the frame lie a little outside it, so that no softness shows there. */
function edge(k: number, count: number, gutter: number, side: 'low' | 'high'): number {
  if (k === 0) return -5;
  if (k === count) return 105;
  return (100 * k) / count + (side === 'low' ? gutter / 2 : -gutter / 2);
}

const middle = (a: number, b: number) => (a + b) / 2;
const inFrame = (v: number) => Math.min(100, Math.max(0, v));

/**
 * Where a panel's corner is before it opens: the first panel fills the frame, and the others wait beyond its right and lower sides, so that
 * each pushes the ones before it and nothing but a gutter is ever between two.
 */
const closed = ({ x, y }: Corner): Corner => ({ x: x <= 0 ? x : 105, y: y <= 0 ? y : 105 });

/** What a number of one panel is with the panel shut and open, by the slot the panel is in. */
interface Slots {
  shut: (slot: number) => number;
  wide: (slot: number) => number;
}

/** The slot a panel is in after so many swaps: each lands one place on. */
const slotAfter = (move: Split, panel: number, swaps: number) => (panel + swaps) % move.panels.length;

/** A number that goes from closed to open as a panel opens, from slot to slot as it swaps, and back as it closes. */
function run(move: Split, index: number, { shut, wide }: Slots): Key[] {
  const { open, close, frames, stagger, swaps } = move;
  const at = (place: Place, offset: number, value: number, easing?: Key['easing']) =>
    keyAt(place.beat + index * stagger, place.offset + offset, value, easing);
  const [first, last] = [slotAfter(move, index, 0), slotAfter(move, index, swaps.length)];
  const swapped = swaps.flatMap((place, k) => [
    keyAt(place.beat, place.offset - Math.max(1, frames), wide(slotAfter(move, index, k)), 'ease in and out'),
    keyAt(place.beat, place.offset, wide(slotAfter(move, index, k + 1))),
  ]);
  const opens = frames > 0 ? [at(open, 0, shut(first), 'strong out'), at(open, frames, wide(first))] : [];
  const closes = frames > 0 ? [at(close, -frames, wide(last), 'strong in'), at(close, 0, shut(last))] : [];
  const keys = [...opens, ...swapped, ...closes];
  return keys.length === 0 || keys.every((k) => Math.abs(k.value - keys[0].value) < 1e-9) ? still(wide(first)) : keys;
}

/** The box of the frame a panel shows, per cent. */
interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

function boxOf({ corners }: Panel): Box {
  const [xs, ys] = [corners.map((p) => inFrame(p.x)), corners.map((p) => inFrame(p.y))];
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

/** Where one more swap would land: two beats after the last one, or after the opening. */
export function nextSwap({ open, swaps }: Split): Place {
  const last = swaps.reduce((a, b) => (b.beat > a.beat ? b : a), open);
  return { beat: last.beat + 2, offset: 0 };
}

/** Panels side by side, each with a take of its own that fills it or follows somebody, opening, swapping and closing one after another. */
function layersOf(context: MoveContext, move: Split): Layer[] {
  const layers = panelLayers(context, move);
  return [...layers, ...move.reaches.flatMap((reach, k) => reachLayer(reach, k, layers[reach.panel - 1]) ?? [])];
}

/** Whoever is in a panel above all panels, cut off by none. */
function reachLayer({ from, until, silhouetteId }: Reach, k: number, panel: Layer | undefined): Layer | null {
  if (!panel || !silhouetteId || panel.source.kind !== 'take') return null;
  const masks = [figureMask({ by: 'outline', silhouetteId }, null)];
  return { ...panel, id: `reach${k + 1}`, name: say`${panel.name}: over the gutter`, from, to: until, masks: masks.map(madeByMove) };
}

const madeByMove = (mask: Layer['masks'][number]): Layer['masks'][number] => ({ ...mask, madeBy: 'move' });

function panelLayers({ scene, frame, take, made, onFrame }: MoveContext, move: Split): Layer[] {
  const panels = panelsOf(move, frame);
  const boxes = panels.map(boxOf);
  const { open, close, stagger, feather } = move;
  return move.panels.map((use, i) => {
    const points: Record<string, Key[]> = {};
    for (let k = 0; k < 4; k++) {
      const corner = (slot: number) => panels[slot].corners[k];
      points[`x${k}`] = run(move, i, { shut: (slot) => closed(corner(slot)).x, wide: (slot) => corner(slot).x });
      points[`y${k}`] = run(move, i, { shut: (slot) => closed(corner(slot)).y, wide: (slot) => corner(slot).y });
    }
    // The picture of the first place goes from the whole frame into its panel; the others stand in theirs from the start.
    const placed = (whole: number, own: (box: Box) => number) =>
      run(move, i, { shut: (slot) => (slot === 0 ? whole : own(boxes[slot])), wide: (slot) => own(boxes[slot]) });
    const numbers = {
      x: placed(0, (b) => middle(b.left, b.right) - 50 + use.x),
      y: placed(0, (b) => middle(b.top, b.bottom) - 50 + use.y),
      scale: placed(100, (b) => (Math.max(b.right - b.left, b.bottom - b.top) * use.zoom) / 100),
    };
    const [id, name] = [`panel${i + 1}`, say`Panel ${i + 1}`];
    const more: Partial<Layer> = {
      from: { beat: open.beat + i * stagger, offset: open.offset },
      to: { beat: close.beat + i * stagger, offset: close.offset },
      masks: [plainMask('panel', 'polygon', { ...points, inside: still(feather / 2), outside: still(feather / 2) })],
      numbers,
    };
    if (use.shot) {
      const timeRemap = [remapKeyAt(open.beat + i * stagger, open.offset, use.shot.from)];
      return made(id, name, { kind: 'shot', shotId: use.shot.shotId }, { ...more, timeRemap });
    }
    const layer = take(id, name, use.takeId, [remapKeyAt(open.beat, open.offset, use.sync - i * move.delay)], more);
    return use.track ? following(scene, move, i, use.track, layer, boxes, onFrame(use.takeId)) : layer;
  });
}

/** A panel whose picture follows somebody while the panel stands; while it moves, its picture moves with it. */
function following(scene: Scene, move: Split, index: number, track: Course, layer: Layer, boxes: readonly Box[], onFrame: OnFrame): Layer {
  const stands = standing(move, index).map(({ from, to, slot }) => {
    const box = boxes[slot];
    const window = { width: box.right - box.left, height: box.bottom - box.top };
    const size = (Math.max(window.width, window.height) * move.panels[index].zoom) / 100;
    const at = { x: middle(box.left, box.right), y: middle(box.top, box.bottom) };
    return followed(scene, layer, track, onFrame, [placeFrame(scene, from), placeFrame(scene, to)], at, window, () => size);
  });
  const joined = (name: 'x' | 'y') => {
    const keys = layer.numbers[name] ?? [];
    const ends = keys.length > 1 && move.frames > 0;
    return [...(ends ? keys.slice(0, 1) : []), ...stands.flatMap((s) => leading(s[name])), ...(ends ? keys.slice(-1) : [])];
  };
  return { ...layer, numbers: { ...layer.numbers, x: joined('x'), y: joined('y') } };
}

/** The keys of a stand, the last of which leads over into the next as panels move. */
const leading = (keys: Key[]): Key[] => keys.map((k, i) => (i === keys.length - 1 ? { ...k, easing: 'ease in and out' } : k));

/** When a panel stands in a slot: from where it has opened or landed to where it next moves. */
function standing(move: Split, index: number): { from: Place; to: Place; slot: number }[] {
  const { open, close, frames, stagger, swaps } = move;
  const on = (place: Place, frames: number, late = 0): Place => ({ beat: place.beat + late, offset: place.offset + frames });
  const starts = [on(open, frames, index * stagger), ...swaps];
  const ends = [...swaps.map((p) => on(p, -Math.max(1, frames))), on(close, -frames, index * stagger)];
  return starts.map((from, k) => ({ from, to: ends[k], slot: slotAfter(move, index, k) }));
}

/** Panels swap between opening and closing, each swap in its own time. */
function swapProblems(scene: Scene, move: Split, open: Frames, close: Frames): Problem<Split>[] {
  const at = move.swaps.map((p) => placeFrame(scene, p));
  const wide = Math.max(1, move.frames);
  const fits = at.map((frame, i) => frame - wide >= (i === 0 ? open + move.frames : at[i - 1]) && frame <= close - move.frames);
  const wrong = fits.indexOf(false);
  if (wrong < 0) return [];
  return [
    {
      text: say`Swap ${wrong + 1} lands on frame ${at[wrong] - scene.first} of the shot and takes ${frames(wide)}: that is while the panels still open, swap or close. Give each swap ${frames(wide)} of its own.`,
      nearest: { label: say`Leave that swap out`, move: { ...move, swaps: move.swaps.filter((_, i) => fits[i]) } },
    },
  ];
}

/** A reach ends after it begins, out of a panel that is there and shows a take. */
function reachProblems(scene: Scene, move: Split): Problem<Split>[] {
  return move.reaches.flatMap(({ panel, from, until }, k): Problem<Split>[] => {
    const without = { label: say`Leave it out`, move: { ...move, reaches: move.reaches.toSpliced(k, 1) } };
    const use = move.panels[panel - 1];
    if (!use) return [{ text: say`There is no panel ${panel} for anybody to reach out of.`, nearest: without }];
    if (use.shot) return [{ text: say`Panel ${panel} shows a shot: who is in it cannot reach over its gutter.`, nearest: without }];
    if (placeFrame(scene, until) <= placeFrame(scene, from))
      return [{ text: say`Who reaches out of panel ${panel} is back before they begin.`, nearest: without }];
    return [];
  });
}

function problemsOf({ scene }: MoveContext, move: Split): Problem<Split>[] {
  return [...reachProblems(scene, move), ...timeProblems(scene, move)];
}

function timeProblems(scene: Scene, move: Split): Problem<Split>[] {
  const open = placeFrame(scene, move.open);
  const close = placeFrame(scene, move.close);
  const room = close - open;
  if (room >= 2 * move.frames && room > 0) return swapProblems(scene, move, open, close);
  if (room < 2) return [{ text: say`The panels close before they are open. Move the closing beat after the opening one.`, nearest: null }];
  const most = Math.floor(room / 2);
  return [
    {
      text: say`A panel is there for ${frames(room)}, and opening and closing take ${frames(2 * move.frames)}: at most ${most} each.`,
      nearest: { label: say`Open in ${frames(most)}`, move: { ...move, frames: most } },
    },
  ];
}

/** How many panels a row has by default: up to three in one, four in two rows of two, else three. */
const columnsFor = (count: number) => (count <= 3 ? count : count === 4 ? 2 : 3);

/** Panels that push in together on the beat and go after two bars, or as long as the shortest take allows. */
function propose({ map, rate, beat, takes }: ProposeContext): Proposal<Split> {
  const room = Math.min(...takes.map(({ footage }) => footage.to - footage.from));
  const length = beatsIn(map, beat, room - 0.5, 2, 2 * beatsPerBarAt(map, beat));
  const panels = takes.map(({ takeId, footage }) => ({
    takeId,
    zoom: 100,
    x: 0,
    y: 0,
    track: null,
    shot: null,
    sync: Math.max(footage.from, middleOf(footage) - lasts(map, beat, beat + length) / 2),
  }));
  return {
    lead: 0,
    tail: length,
    move: {
      kind: 'split',
      panels,
      columns: columnsFor(panels.length),
      slant: 0,
      gutter: 1.5,
      feather: 0,
      open: onBeat(0),
      close: onBeat(length),
      swaps: [],
      frames: Math.round(0.32 * fps(rate)),
      stagger: 0,
      delay: 0,
      reaches: [],
    },
    said: '',
  };
}

const showsTake = ({ shot }: PanelUse) => shot === null;

const PANEL_FIELDS: readonly Field<PanelUse>[] = [
  {
    is: 'shot',
    label: say`Shows`,
    said: say`Show a shot in a panel`,
    get: ({ shot }) => shot?.shotId ?? null,
    set: (_, shotId) => ({ shot: shotId === null ? null : { shotId, from: 0 } }),
  },
  {
    is: 'second',
    label: say`Second of the shot as it opens`,
    said: say`Slide the shot`,
    when: ({ shot }) => shot !== null,
    get: ({ shot }) => shot?.from ?? 0,
    set: ({ shot }, from) => ({ shot: shot && { ...shot, from } }),
  },
  {
    is: 'second',
    label: say`Second as it opens`,
    said: say`Slide the take`,
    when: showsTake,
    get: ({ sync }) => sync,
    set: (_, sync) => ({ sync }),
  },
  { is: 'number', label: say`Enlarged`, unit: '%', of: 'zoom', min: 100, max: 600, step: 5, said: say`Enlarge a panel’s picture` },
  { is: 'number', label: say`Across`, unit: '%', of: 'x', min: -200, max: 200, said: say`Push a panel’s picture` },
  { is: 'number', label: say`Down`, unit: '%', of: 'y', min: -200, max: 200, said: say`Push a panel’s picture` },
  {
    is: 'track',
    label: say`Follow the performer`,
    said: say`Follow the performer in a panel`,
    when: showsTake,
    take: ({ takeId }) => takeId,
    get: ({ track }) => track,
    set: (_, track) => ({ track }),
  },
];

const FIELDS: readonly Field<Split>[] = [
  placeField('open', 'Opens', say`Move the opening`),
  placeField('close', 'Closes', say`Move the closing`),
  { is: 'number', label: say`Panels in a row`, unit: '', of: 'columns', min: 1, max: 9, said: say`Lay the panels otherwise` },
  { is: 'number', label: say`Slant`, unit: '°', of: 'slant', min: -45, max: 45, step: 5, said: say`Slant the panels` },
  { is: 'number', label: say`Gutter`, unit: '%', of: 'gutter', min: 0, max: 20, step: 0.5, digits: 1, said: say`Change the gutter` },
  { is: 'number', label: say`Feather`, unit: '%', of: 'feather', min: 0, max: 30, step: 0.5, digits: 1, said: say`Feather the panels` },
  { is: 'number', label: say`Opening takes`, unit: 'f', of: 'frames', min: 0, max: 120, said: say`Open in other frames` },
  {
    is: 'number',
    label: say`One after another by`,
    unit: say`beats`,
    of: 'stagger',
    min: 0,
    max: 8,
    step: 0.25,
    digits: 2,
    said: say`Stagger the panels`,
  },
  { is: 'number', label: say`Each lags by`, unit: 's', of: 'delay', min: 0, max: 10, step: 0.04, digits: 2, said: say`Let the panels lag` },
  {
    is: 'action',
    label: say`Each panel one place on`,
    said: say`Swap the panels`,
    apply: ({ panels }) => ({ panels: [...panels.slice(1), panels[0]] }),
  },
  listField<Split, Place>({
    label: say`Swap`,
    said: say`Swap the panels`,
    get: ({ swaps }) => swaps,
    set: (_, swaps) => ({ swaps: [...swaps] }),
    fields: [
      { is: 'place', label: say`Lands on`, said: say`Swap the panels`, get: (p) => p, set: (_, { beat, offset }) => ({ beat, offset }) },
    ],
    min: 0,
    max: 64,
    fewer: 'any',
    more: { label: say`Swap them on a beat`, make: nextSwap },
  }),
  listField<Split, Reach>({
    label: say`Reach`,
    said: say`Let somebody reach over the gutter`,
    get: ({ reaches }) => reaches,
    set: (_, reaches) => ({ reaches: [...reaches] }),
    fields: [
      {
        is: 'reading',
        label: say`Out of panel`,
        unit: '',
        min: 1,
        max: 9,
        said: say`Reach out of another panel`,
        get: ({ panel }) => panel,
        // Who is in one panel says nothing of who is in another.
        set: (reach, panel) => (panel === reach.panel ? {} : { panel, silhouetteId: null }),
      },
      { is: 'place', label: say`From`, said: say`Reach from another place`, get: (r) => r.from, set: (_, from) => ({ from }) },
      { is: 'place', label: say`Until`, said: say`Reach until another place`, get: (r) => r.until, set: (_, until) => ({ until }) },
    ],
    min: 0,
    max: 12,
    fewer: 'any',
    more: {
      label: say`Let somebody reach over the gutter`,
      make: ({ open, close, frames }) => ({
        panel: 1,
        from: { ...open, offset: open.offset + frames },
        until: { ...close, offset: close.offset - frames },
        silhouetteId: null,
      }),
    },
  }),
  listField<Split, PanelUse>({
    label: say`Panel`,
    said: say`Change a panel`,
    get: ({ panels }) => panels,
    set: (_, panels) => ({ panels: [...panels] }),
    fields: PANEL_FIELDS,
    min: 2,
    max: 9,
    fewer: 'none',
  }),
];

/** A split screen: panels side by side, each with a take. */
export const split: MoveKind<Split, never> = {
  kind: 'split',
  schema: splitSchema,
  words: {
    name: say`Split screen`,
    working: say`Laying the panels`,
    about: say`Panels open side by side, each with a take or a shot of its own, swap on beats and close; who is in one may reach over the gutter.`,
  },
  takes: { min: 2, max: 9 },
  needs: [],
  mixes: false,
  planned: { recipe: 'split screens', slots: 'all' },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [
    anchorAt('open', 'opening'),
    anchorsIn('swaps', 'swap'),
    anchorAt('close', 'closing'),
    {
      event: null,
      map: (move, change) => ({ ...move, reaches: move.reaches.map((r) => ({ ...r, from: change(r.from), until: change(r.until) })) }),
    },
  ],
  withTakes: (move, choose) => {
    const panels = move.panels.map((panel) => {
      const next = chosen(panel, choose);
      // Where somebody is in one take says nothing of another.
      return next.takeId === panel.takeId ? next : { ...next, track: null };
    });
    const same = ({ panel }: Reach) => panels[panel - 1]?.takeId === move.panels[panel - 1]?.takeId;
    return { ...move, panels, reaches: move.reaches.map((reach) => (same(reach) ? reach : { ...reach, silhouetteId: null })) };
  },
  outlines: {
    missing: ({ reaches, panels }) => [
      ...new Set(reaches.flatMap((r) => (r.silhouetteId === null && panels[r.panel - 1] ? [panels[r.panel - 1].takeId] : []))),
    ],
    add: (move, found) => ({
      ...move,
      reaches: move.reaches.map((reach) => {
        const silhouetteId = found.find((f) => f.takeId === move.panels[reach.panel - 1]?.takeId)?.silhouetteId;
        return reach.silhouetteId === null && silhouetteId ? { ...reach, silhouetteId } : reach;
      }),
    }),
  },
  sounds: (_, { panels, open, stagger }) =>
    panels
      .slice(1)
      .map((_panel, i) => ({ sound: 'whoosh' as const, at: { ...open, beat: open.beat + (i + 1) * stagger }, seconds: 0.4, gain: -8 })),
  poster: ({ scene }, { open, close }) => Math.round((placeFrame(scene, open) + placeFrame(scene, close)) / 2),
  fields: FIELDS,
};
