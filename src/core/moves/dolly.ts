import * as z from 'zod/mini';
import { anchorSchema, finite, type Layer, layerTime, placeFrame, remapKeyAt, type Scene } from '../layer';
import { beatsPerBarAt, frameToSeconds } from '../time';
import type { Frames, Percent, Seconds } from '../units';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, placeField, secondField } from './fields';
import { readingAt, thinned } from './follow';
import {
  anchorAt,
  chosen,
  type MoveContext,
  type MoveKind,
  type OnFrame,
  type Problem,
  type Proposal,
  type ProposeContext,
  percentSchema,
  takeUseSchema,
} from './kind';
import { endsAfter, onBeat, stretchAround } from './spans';

const sized = z.object({ source: finite, x: finite, y: finite, size: finite.check(z.gte(0.01)) });
const dollySchema = z.object({
  kind: z.literal('dolly'),
  use: takeUseSchema,
  at: anchorSchema,
  until: anchorSchema,
  /** Where the subject is and how large, at seconds of the take, per cent of its picture; none before they are found. */
  course: z.array(sized).check(z.maxLength(20000)),
  /** How much of their change of size is undone, per cent. */
  strength: percentSchema,
  /** Once there and back: the second half runs backwards. */
  back: z.boolean(),
  /** How far the picture may be enlarged at most, per cent. */
  most: finite.check(z.gte(100), z.lte(800)),
});
export type Dolly = z.infer<typeof dollySchema>;

/** The size a frame must have for the subject to keep theirs: least 100 per cent, so that the picture always fills the frame. */
function scales({ course, strength }: Pick<Dolly, 'course' | 'strength'>, seconds: readonly Seconds[]): Percent[] {
  const power = strength / 100;
  const sizes = seconds.map((s) => readingAt(course, s).size ** power);
  const largest = Math.max(...sizes);
  return sizes.map((size) => (100 * largest) / size);
}

/** The seconds of the take on the frames of the move. */
function secondsOf(scene: Scene, layer: Layer, from: Frames, end: Frames): Seconds[] {
  const time = layerTime(scene, layer);
  return Array.from({ length: Math.max(1, end - from + 1) }, (_, k) => time.sourceAt(frameToSeconds(from + k, scene.rate)));
}

/** How much a size or a place may stray from what is keyed, per cent. */
const STRAY = 0.05;

/** The take scaled against the camera's way, the subject kept where they are as far as the picture reaches. */
function layersOf(context: MoveContext, move: Dolly): Layer[] {
  const { scene, take, onFrame } = context;
  const plain = layerOf(move, take, scene);
  if (move.course.length === 0) return [plain];
  const [from, end] = [placeFrame(scene, move.at), placeFrame(scene, move.until)];
  const seconds = secondsOf(scene, plain, from, end);
  const sizes = scales(move, seconds).map((s) => Math.min(s, move.most));
  const places = placesOf(move, seconds, sizes, onFrame(move.use.takeId));
  const keyed = (values: number[]) => thinned(scene, from, values, STRAY);
  return [{ ...plain, numbers: { scale: keyed(sizes), x: keyed(places.map((p) => p.x)), y: keyed(places.map((p) => p.y)) } }];
}

function layerOf(move: Dolly, take: MoveContext['take'], scene: Scene): Layer {
  const { use, at, until, back } = move;
  const half = (at.beat + until.beat) / 2;
  const there = frameToSeconds(placeFrame(scene, { beat: half, offset: at.offset }) - placeFrame(scene, at), scene.rate);
  const remap = back
    ? [
        remapKeyAt(at.beat, at.offset, use.sync, 1),
        remapKeyAt(half, at.offset, use.sync + there, -1),
        remapKeyAt(until.beat, until.offset, null, 1),
      ]
    : [remapKeyAt(at.beat, at.offset, use.sync)];
  return take('take', say`The take`, use.takeId, remap, {});
}

/** How far the picture is pushed so that the subject stays where they are largest, as far as it reaches. */
function placesOf(move: Dolly, seconds: readonly Seconds[], sizes: readonly Percent[], onFrame: OnFrame) {
  const least = sizes.indexOf(Math.min(...sizes));
  const stays = onFrame(readingAt(move.course, seconds[least]));
  return seconds.map((second, k) => {
    const seen = onFrame(readingAt(move.course, second));
    const room = (sizes[k] - 100) / 2;
    const push = (place: Percent, at: Percent) => Math.min(room, Math.max(-room, at - 50 - ((place - 50) * sizes[k]) / 100));
    return { x: push(seen.x, stays.x), y: push(seen.y, stays.y) };
  });
}

/** Seconds of the take that may be shown after the subject was last seen, and the enlargement under which the room is not seen to swell. */
const LOST = 0.5;
const LEAST_CHANGE = 108;

function problemsOf({ scene, take, footage, frame }: MoveContext, move: Dolly): Problem<Dolly>[] {
  const [from, end] = [placeFrame(scene, move.at), placeFrame(scene, move.until)];
  const late = endsAfter(from, end, say`The dolly zoom`, { ...move, until: { ...move.at, beat: move.at.beat + 4 } });
  if (late.length > 0) return late;
  const { name } = footage(move.use.takeId);
  if (move.course.length === 0)
    return [{ text: say`Nobody has been found in “${name}” yet whose size could be kept. Find the subject.`, nearest: null }];
  const seconds = secondsOf(scene, layerOf(move, take, scene), from, end);
  const made: Problem<Dolly>[] = [];
  const { source: followed } = move.course[move.course.length - 1];
  const lost = Math.max(...seconds) - followed;
  if (lost > LOST)
    made.push({
      text: say`The subject is followed until second ${followed.toFixed(1)} of “${name}” only, and ${lost.toFixed(1)} s more are shown. Put its points right under Takes, Points, and find it again.`,
      nearest: null,
    });
  const most = Math.max(...scales(move, seconds));
  if (most < LEAST_CHANGE)
    made.push({
      text: say`The subject’s size changes by ${(most - 100).toFixed(0)} % only: the room hardly swells. Walk further, or nearer to them.`,
      nearest: null,
    });
  if (most > move.most) {
    const strength = Math.floor((move.strength * Math.log(move.most / 100)) / Math.log(most / 100));
    made.push({
      text: say`To keep the subject’s size the picture is enlarged to ${Math.ceil(most)} %, ${Math.ceil((frame.width * most) / 100)} pixels across, and ${Math.round(move.most)} % is the limit.`,
      nearest: { label: say`Undo ${strength} % of it`, move: { ...move, strength } },
    });
  }
  return made;
}

/** Over as much of the take as two bars hold, all of the change of size undone. */
function propose(context: ProposeContext, { subject }: Pick<Facts, 'subject'>): Proposal<Dolly> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = footage.from + Math.min(0.2, (footage.to - footage.from) / 10);
  const { length } = stretchAround(context, footage, sync, 3 * bar, 0);
  return {
    lead: 0,
    tail: length,
    move: {
      kind: 'dolly',
      use: { takeId, sync },
      at: onBeat(0),
      until: onBeat(length),
      course: [...subject.course],
      strength: 100,
      back: false,
      most: 220,
    },
    said: subject.why,
  };
}

const FIELDS: readonly Field<Dolly>[] = [
  placeField('at', 'Begins', say`Move the dolly zoom`),
  placeField('until', 'Ends', say`Lengthen the dolly zoom`),
  {
    is: 'measure',
    label: say`Find the subject`,
    said: say`Find the subject`,
    needs: 'subject',
    takes: ({ use }) => [use.takeId],
    apply: (_, { subject }) => ({ change: subject.course.length > 0 ? { course: [...subject.course] } : null, said: subject.why }),
  },
  { is: 'number', label: say`Strength`, unit: '%', of: 'strength', min: 0, max: 100, step: 5, said: say`Change its strength` },
  { is: 'number', label: say`Enlarged at most`, unit: '%', of: 'most', min: 100, max: 800, step: 10, said: say`Limit the enlargement` },
  { is: 'tick', label: say`There and back`, of: 'back', said: say`Run it there and back` },
  secondField('use', say`Take as it begins`),
];

/** A dolly zoom: the subject keeps their size while the camera walks. */
export const dolly: MoveKind<Dolly, 'subject'> = {
  kind: 'dolly',
  schema: dollySchema,
  words: {
    name: say`Dolly zoom`,
    working: say`Finding the subject`,
    about: say`The picture is scaled against the camera’s way: the subject keeps their size and the room swells.`,
  },
  takes: { min: 1, max: 1 },
  needs: ['subject'],
  mixes: false,
  planned: { recipe: 'dolly zoom', slots: ['walk'] },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', say`dolly zoom`), anchorAt('until', say`end of the dolly zoom`)],
  withTakes: (move, choose) => {
    const use = chosen(move.use, choose);
    return { ...move, use, course: use.takeId === move.use.takeId ? move.course : [] };
  },
  sounds: (_, { until }) => [{ sound: 'riser', at: until, seconds: 2 }],
  poster: ({ scene }, { until }) => placeFrame(scene, until) - 1,
  fields: FIELDS,
};
