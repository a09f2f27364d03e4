import * as z from 'zod/mini';
import { anchorSchema, finite, type Key, keyAt, type Layer, placeFrame, plainMask, remapKeyAt, still } from '../layer';
import { ease } from '../motion';
import { beatsPerBarAt } from '../time';
import { around, type Beats, type Percent } from '../units';
import { say } from '../words';
import { everyField, type Field, listField, placeField } from './fields';
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

/** A piece: a take at a second, and what is cut of it: middle and width, per cent of the frame. */
const piece = z.extend(takeUseSchema, {
  x: percentSchema,
  y: percentSchema,
  size: finite.check(z.gte(1), z.lte(100)),
  name: z.string().check(z.maxLength(60)),
});
const orbitSchema = z.object({
  kind: z.literal('orbit'),
  /** What they move over. */
  ground: takeUseSchema,
  pieces: z.array(piece).check(z.minLength(2), z.maxLength(24)),
  at: anchorSchema,
  until: anchorSchema,
  way: z.enum(['ring', 'grid']),
  shape: z.enum(['round', 'square']),
  /** Of the ring: its middle and half its width, per cent of the frame; of the grid: its columns. */
  x: percentSchema,
  y: percentSchema,
  radius: finite.check(z.gte(1), z.lte(100)),
  columns: z.int().check(z.gte(1), z.lte(8)),
  /** Width of a piece, per cent of the frame's height; beats from step to step, frames a step takes. */
  wide: finite.check(z.gte(1), z.lte(100)),
  every: finite.check(z.gte(0.25), z.lte(16)),
  frames: z.int().check(z.gte(1), z.lte(120)),
  turns: z.enum(['onwards', 'backwards']),
  shutter: finite.check(z.gte(0), z.lte(720)),
});
export type Orbit = z.infer<typeof orbitSchema>;
type Piece = Orbit['pieces'][number];

/** Where place number `at` is, in per cent of the frame; fractions lie on the way between two. */
function placeAt(move: Orbit, at: number, { width, height }: { width: number; height: number }): { x: Percent; y: Percent } {
  const count = move.pieces.length;
  if (move.way === 'ring') {
    const angle = (2 * Math.PI * at) / count - Math.PI / 2;
    return { x: move.x + move.radius * Math.cos(angle), y: move.y + ((move.radius * width) / height) * Math.sin(angle) };
  }
  const rows = Math.ceil(count / move.columns);
  const spot = (k: number) => {
    const i = around(k, count);
    const [row, column] = [Math.floor(i / move.columns), i % move.columns];
    const step = 1.15 * move.wide;
    const inRow = Math.min(move.columns, count - row * move.columns);
    return { x: move.x + ((column - (inRow - 1) / 2) * step * height) / width, y: move.y + (row - (rows - 1) / 2) * step };
  };
  const [low, share] = [Math.floor(at), at - Math.floor(at)];
  const [a, b] = [spot(low), spot(low + 1)];
  return { x: a.x + share * (b.x - a.x), y: a.y + share * (b.y - a.y) };
}

/** Keys on the way from one place to the next: on a ring it is an arc, so some lie between. */
const BETWEEN = [0, 0.25, 0.5, 0.75, 1];

/** Pieces of takes that go round a ring, or over a grid, one place a step, each step landing on its beat. */
function layersOf({ take, frame }: MoveContext, move: Orbit): Layer[] {
  const { ground, pieces, at, until, every, frames, wide, shape, turns, shutter } = move;
  const steps = Math.max(0, Math.ceil((until.beat - at.beat) / every - 1e-6));
  const onward = turns === 'onwards' ? 1 : -1;
  const layer = (one: Piece, i: number): Layer => {
    // As large as its cut must be to come out as wide as asked.
    const grown = (wide * frame.height) / frame.width / one.size;
    const off = (place: { x: Percent; y: Percent }) => ({ x: place.x - 50 - grown * (one.x - 50), y: place.y - 50 - grown * (one.y - 50) });
    // A minus zero would not come back from a file as what it was.
    const key = (beat: Beats, k: number, v: number): Key => keyAt(beat, at.offset + k, Math.round(v * 1000) / 1000 + 0);
    const [xs, ys]: [Key[], Key[]] = [[], []];
    for (let n = 1; n <= steps; n++) {
      const beat = at.beat + n * every;
      for (const share of BETWEEN) {
        const place = off(placeAt(move, i + onward * (n - 1 + ease('ease in and out', share)), frame));
        const k = Math.round((share - 1) * frames);
        xs.push(key(beat, k, place.x));
        ys.push(key(beat, k, place.y));
      }
    }
    const first = off(placeAt(move, i, frame));
    return take(`piece${i + 1}`, one.name || say`Piece ${i + 1}`, one.takeId, [remapKeyAt(at.beat, at.offset, one.sync, 0, 'freeze')], {
      from: at,
      to: until,
      shutter,
      masks: [
        plainMask(
          'cut',
          shape === 'round' ? 'ellipse' : 'rectangle',
          {
            x: still(one.x),
            y: still(one.y),
            width: still(one.size),
            height: still((one.size * frame.width) / frame.height),
            turn: still(0),
            inside: still(0.4),
            outside: still(0),
          },
          { attachedToLayer: true },
        ),
      ],
      numbers: {
        scale: still(100 * grown),
        x: steps > 0 ? unique(xs) : still(first.x),
        y: steps > 0 ? unique(ys) : still(first.y),
      },
    });
  };
  return [take('ground', 'Ground', ground.takeId, [remapKeyAt(at.beat, at.offset, ground.sync)], {}), ...pieces.map(layer)];
}

/** Of keys on the same frame the first. */
const unique = (keys: Key[]): Key[] => keys.filter((k, i) => !keys.slice(0, i).some((o) => o.beat === k.beat && o.offset === k.offset));

function problemsOf({ scene, frame }: MoveContext, move: Orbit): Problem<Orbit>[] {
  const made: Problem<Orbit>[] = [];
  const room = placeFrame(scene, { beat: move.at.beat + move.every, offset: move.at.offset }) - placeFrame(scene, move.at);
  if (move.frames > room)
    made.push({
      text: say`A step takes ${move.frames} frames, and the next comes after ${room}.`,
      nearest: room >= 1 ? { label: say`Step in ${room} frames`, move: { ...move, frames: room } } : null,
    });
  if (move.way === 'ring') {
    // Two neighbours on the ring, in heights of the frame.
    const shape = frame.width / frame.height;
    const apart = 2 * move.radius * shape * Math.sin(Math.PI / move.pieces.length);
    if (apart < move.wide)
      made.push({
        text: say`${move.pieces.length} pieces of ${move.wide.toFixed(0)} % lie ${apart.toFixed(0)} % apart on the ring: they overlap.`,
        nearest: { label: say`Make them ${Math.floor(apart)} %`, move: { ...move, wide: Math.max(1, Math.floor(apart)) } },
      });
  }
  return made;
}

/** Six pieces of what was chosen on a ring, one place a beat in eight frames. */
function propose(context: ProposeContext): Proposal<Orbit> {
  const { map, beat, takes } = context;
  const bar = beatsPerBarAt(map, beat);
  const [first, ...others] = takes;
  const sources = others.length > 0 ? others : [first];
  const count = Math.max(6, sources.length);
  const pieces = Array.from({ length: count }, (_, i): Piece => {
    const { takeId, footage } = sources[i % sources.length];
    const turn = Math.floor(i / sources.length);
    const turns = Math.ceil(count / sources.length);
    return { takeId, sync: footage.from + ((footage.to - footage.from) * (turn + 1)) / (turns + 1), x: 50, y: 50, size: 30, name: '' };
  });
  const length = beatsIn(map, beat, first.footage.to - first.footage.from, 1, 2 * bar);
  return {
    lead: 0,
    tail: length,
    move: {
      kind: 'orbit',
      ground: { takeId: first.takeId, sync: first.footage.from },
      pieces,
      at: onBeat(0),
      until: onBeat(length),
      way: 'ring',
      shape: 'round',
      x: 50,
      y: 50,
      radius: 20,
      columns: 3,
      wide: 24,
      every: 1,
      frames: 8,
      turns: 'onwards',
      shutter: 180,
    },
    said: say`The pieces are cut from the middle of the takes: move each cut onto its thing.`,
  };
}

const ring = ({ way }: Orbit) => way === 'ring';

const FIELDS: readonly Field<Orbit>[] = [
  placeField('at', 'Begins', say`Move the pieces`),
  placeField('until', 'Ends', say`Let the pieces move longer`),
  {
    is: 'choice',
    label: say`They move`,
    of: 'way',
    said: say`Move the pieces otherwise`,
    options: [
      ['ring', say`round a ring`],
      ['grid', say`over a grid`],
    ],
  },
  {
    is: 'choice',
    label: say`Cut`,
    of: 'shape',
    said: say`Cut them otherwise`,
    options: [
      ['round', say`round`],
      ['square', say`square`],
    ],
  },
  {
    is: 'choice',
    label: say`Step`,
    of: 'turns',
    said: say`Turn the pieces round`,
    options: [
      ['onwards', say`onwards`],
      ['backwards', say`backwards`],
    ],
  },
  everyField(say`A step every`, say`Step faster`),
  { is: 'number', label: say`A step takes`, unit: 'f', of: 'frames', min: 1, max: 120, said: say`Step faster` },
  { is: 'number', label: say`Size of a piece`, unit: '%', of: 'wide', min: 1, max: 100, said: say`Change the size of the pieces` },
  { is: 'number', label: say`Ring, half its width`, unit: '%', of: 'radius', min: 1, max: 100, said: say`Widen the ring`, when: ring },
  {
    is: 'number',
    label: say`Columns`,
    unit: '',
    of: 'columns',
    min: 1,
    max: 8,
    said: say`Arrange the pieces`,
    when: (move) => !ring(move),
  },
  { is: 'number', label: say`Middle across`, unit: '%', of: 'x', min: 0, max: 100, said: say`Move the pieces` },
  { is: 'number', label: say`Middle down`, unit: '%', of: 'y', min: 0, max: 100, said: say`Move the pieces` },
  { is: 'number', label: say`Shutter angle`, unit: '°', of: 'shutter', min: 0, max: 720, step: 45, said: say`Change the smear` },
  {
    is: 'second',
    label: say`Ground as it begins`,
    said: say`Slide the take`,
    get: ({ ground }) => ground.sync,
    set: ({ ground }, sync) => ({ ground: { ...ground, sync } }),
  },
  listField<Orbit, Piece>({
    label: say`Piece`,
    said: say`Change the pieces`,
    get: ({ pieces }) => pieces,
    set: (_, pieces) => ({ pieces: [...pieces] }),
    fields: [
      { is: 'text', label: say`Name`, of: 'name', max: 60, said: say`Name a piece` },
      {
        is: 'second',
        label: say`Second of the take`,
        said: say`Choose another moment`,
        get: ({ sync }) => sync,
        set: (_, sync) => ({ sync }),
      },
      { is: 'number', label: say`Cut across`, unit: '%', of: 'x', min: 0, max: 100, step: 0.5, digits: 1, said: say`Move a cut` },
      { is: 'number', label: say`Cut down`, unit: '%', of: 'y', min: 0, max: 100, step: 0.5, digits: 1, said: say`Move a cut` },
      { is: 'number', label: say`Cut as wide as`, unit: '%', of: 'size', min: 1, max: 100, step: 0.5, digits: 1, said: say`Change a cut` },
    ],
    min: 2,
    max: 24,
    fewer: 'any',
    more: { label: say`One piece more`, make: ({ pieces }) => pieces[pieces.length - 1] },
  }),
];

/** Orbit and grid: cut pieces move one place a beat. */
export const orbit: MoveKind<Orbit, never> = {
  kind: 'orbit',
  schema: orbitSchema,
  words: {
    name: say`Orbit`,
    working: say`Cutting the pieces`,
    about: say`Pieces cut from takes go round a ring or over a grid, one step a beat.`,
  },
  takes: { min: 1, max: 24 },
  needs: [],
  mixes: false,
  planned: { recipe: 'orbit and stack', slots: ['centre', 'pieces'] },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', say`first piece`), anchorAt('until', say`last piece`)],
  withTakes: (move, choose) => ({ ...move, ground: chosen(move.ground, choose), pieces: move.pieces.map((one) => chosen(one, choose)) }),
  sounds: (_, { at, until, every }) =>
    Array.from({ length: Math.max(0, Math.min(64, Math.ceil((until.beat - at.beat) / every - 1e-6) - 1)) }, (_step, n) => ({
      sound: 'whoosh' as const,
      at: { beat: at.beat + (n + 1) * every, offset: at.offset - 3 },
      seconds: 0.35,
      gain: -10,
    })),
  poster: ({ scene }, { at }) => placeFrame(scene, at) + 1,
  fields: FIELDS,
};
