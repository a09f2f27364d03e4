import * as z from 'zod/mini';
import {
  anchorSchema,
  BETWEEN_FRAMES,
  FRAME_INTERPOLATIONS,
  finite,
  id,
  keyAt,
  type Layer,
  type Place,
  placeFrame,
  remapKeyAt,
  SOUNDS,
  TAKE_SOUNDS,
  trackOf,
} from '../layer';
import { solveSpeed, valueAt } from '../motion';
import { fps, frameToSeconds } from '../time';
import type { Seconds } from '../units';
import { say } from '../words';
import type { Facts } from './facts';
import { type Field, listField } from './fields';
import { followed } from './follow';
import { anchorsIn, courseSchema, type MoveContext, type MoveKind, type Problem, type Proposal, type ProposeContext } from './kind';
import { beatsIn, frames } from './spans';

const rampSchema = z.object({
  kind: z.literal('ramp'),
  takeId: id,
  /** Poses of the take and the beats they must hit; speed at the pose as a share of as filmed. */
  poses: z
    .array(z.extend(anchorSchema, { source: finite, speed: finite.check(z.gte(0), z.lte(16)) }))
    .check(z.minLength(2), z.maxLength(200)),
  hard: z.boolean(),
  fastest: finite.check(z.gte(0.1), z.lte(64)),
  acceleration: z.nullable(finite.check(z.positive())),
  frameInterpolation: z.enum(FRAME_INTERPOLATIONS),
  sound: z.enum(SOUNDS),
  /** Whoever is held in the middle of the frame; null where the picture stays put. */
  track: z.nullable(courseSchema),
  /** Enlargement that leaves room to hold them, per cent. */
  hold: finite.check(z.gte(100), z.lte(400)),
  /** Enlargement on the poses by turns, per cent over 100; 0 for none. */
  zoom: finite.check(z.gte(0), z.lte(200)),
});
export type Ramp = z.infer<typeof rampSchema>;
type Pose = Ramp['poses'][number];

/**
 * One take that meets its poses on their beats, smoothly or in hard steps, in and out of an enlargement by turns; whoever is followed
 * is held in the middle of the frame as far as the enlargement leaves room.
 */
function layersOf({ scene, take, onFrame }: MoveContext, move: Ramp): Layer[] {
  const poses = move.poses.toSorted((a, b) => a.beat - b.beat || a.offset - b.offset);
  const timeRemap = poses.map((p) => remapKeyAt(p.beat, p.offset, p.source, p.speed, move.hard ? 'even' : 'smooth'));
  const least = move.track ? move.hold : 100;
  const zoomed = poses.map((p, i) => keyAt(p.beat, p.offset, (least * (i % 2 ? 100 + move.zoom : 100)) / 100, 'ease in and out'));
  const layer = take('take', say`The take`, move.takeId, timeRemap, {
    limits: { fastest: move.fastest, acceleration: move.acceleration },
    frameInterpolation: move.frameInterpolation,
    sound: move.sound,
    numbers: move.zoom > 0 || least > 100 ? { scale: zoomed } : {},
  });
  if (!move.track) return [layer];
  const scale = trackOf(scene, zoomed);
  const held = followed(
    scene,
    layer,
    move.track,
    onFrame(move.takeId),
    [scene.first, scene.end],
    { x: 50, y: 50 },
    { width: 100, height: 100 },
    (frame) => valueAt(scale, frame),
  );
  return [{ ...layer, numbers: { ...layer.numbers, ...held } }];
}

const percent = (v: number) => `${Math.ceil(100 * v - 1e-6)} %`;

function problemsOf({ scene, footage }: MoveContext, move: Ramp): Problem<Ramp>[] {
  const at = (pose: Place) => placeFrame(scene, pose);
  const poses = move.poses.toSorted((a, b) => at(a) - at(b));
  const wrong = poses.findIndex((p, i) => i > 0 && (p.source < poses[i - 1].source || at(p) === at(poses[i - 1])));
  if (wrong > 0)
    return [
      {
        text: say`Pose ${wrong + 1} comes before pose ${wrong} in the take, or on the same frame of the film: time would have to run back. Put the poses in the order they were acted.`,
        nearest: { label: say`Put the poses in order`, move: inOrder(move, poses) },
      },
    ];
  if (move.hard) return [];
  const timed = poses.map((p) => ({ at: frameToSeconds(at(p), scene.rate), source: p.source, speed: p.speed }));
  const rate = footage(move.takeId).fps || 25;
  return solveSpeed(timed, { fastest: move.fastest, acceleration: move.acceleration ?? Number.POSITIVE_INFINITY }).impossible.map(
    ({ span, needs, earliest }) => {
      const [a, b] = [timed[span], timed[span + 1]];
      const way = Math.round((b.source - a.source) * rate);
      const room = at(poses[span + 1]) - at(poses[span]);
      const reach = Math.max(0, Math.ceil((earliest - a.at) * fps(scene.rate) - 1e-6));
      return {
        text: say`Poses ${span + 1} and ${span + 2} are ${frames(way)} apart in the take and ${frames(room)} in the film: that needs ${percent(needs)}, and ${percent(move.fastest)} is the limit. Within it the second pose is met ${frames(reach)} after the first.`,
        nearest: {
          label: say`Allow ${percent(needs)}`,
          move: { ...move, fastest: Math.ceil(100 * needs - 1e-6) / 100, acceleration: null },
        },
      };
    },
  );
}

/** The same seconds of the take met by the same beats, each in order. */
function inOrder(move: Ramp, poses: Ramp['poses']): Ramp {
  const sources = poses.map((p) => p.source).sort((a, b) => a - b);
  const places = poses.filter((p, i) => i === 0 || p.beat !== poses[i - 1].beat || p.offset !== poses[i - 1].offset);
  return { ...move, poses: places.map((p, i) => ({ ...p, source: sources[i] })) };
}

/** Where poses may be: local rests of movement at least `apart` seconds from one another, the calmest first, as many as asked for; ascending. */
export function posesIn(
  times: readonly Seconds[],
  movement: readonly number[],
  from: Seconds,
  to: Seconds,
  apart: Seconds,
  count: number,
): Seconds[] {
  // Movement is averaged over a quarter of a second, so that a single still frame is no pose.
  const step = times.length > 1 ? (times[times.length - 1] - times[0]) / (times.length - 1) : 1;
  const reach = Math.max(1, Math.round(0.125 / step));
  const calm = times.map((_, i) => {
    let [sum, n] = [0, 0];
    for (let k = Math.max(0, i - reach); k <= Math.min(times.length - 1, i + reach); k++, n++) sum += movement[k];
    return sum / n;
  });
  const rests = times
    .map((time, i) => ({ time, i }))
    .filter(
      ({ time, i }) =>
        time >= from &&
        time <= to &&
        calm[i] <= (calm[i - 1] ?? Number.POSITIVE_INFINITY) &&
        calm[i] <= (calm[i + 1] ?? Number.POSITIVE_INFINITY),
    )
    .sort((a, b) => calm[a.i] - calm[b.i]);
  const chosen: Seconds[] = [];
  for (const { time } of rests) {
    if (chosen.length === count) break;
    if (chosen.every((t) => Math.abs(t - time) >= apart)) chosen.push(time);
  }
  return chosen.sort((a, b) => a - b);
}

/** Speed on a pose, as a share of as filmed. Common practice. */
const ON_POSE = 0.4;

/**
 * The poses of a take, its rests, on every second beat, at 40 % on the pose and as fast as it must be between (common practice); spread
 * over the take where it has fewer than two.
 */
function propose({ map, beat, takes: [{ takeId, footage }] }: ProposeContext, { movement }: Pick<Facts, 'movement'>): Proposal<Ramp> {
  const { from, to } = footage;
  const rests = posesIn(movement.times, movement.movement, from + 0.2, to - 0.3, 0.8, 4);
  const seconds = rests.length >= 2 ? rests : [0.2, 0.5, 0.8].map((share) => from + share * (to - from));
  const step = 2;
  const last = (seconds.length - 1) * step;
  return {
    lead: 0,
    // It runs on from the last pose for as long as the take has picture.
    tail: last + beatsIn(map, beat + last, (to - seconds[seconds.length - 1]) / ON_POSE, 1, step),
    move: {
      kind: 'ramp',
      takeId,
      poses: seconds.map((source, i) => ({ beat: i * step, offset: 0, source, speed: ON_POSE })),
      hard: false,
      fastest: 4,
      acceleration: null,
      frameInterpolation: 'blend',
      zoom: 8,
      sound: 'none',
      track: null,
      hold: 100,
    },
    said:
      rests.length < 2
        ? say`No rests were found in the movement, so the poses are spread over the take. Slide them to where they are.`
        : '',
  };
}

const POSE_FIELDS: readonly Field<Pose>[] = [
  { is: 'place', label: say`On`, said: say`Move a pose`, get: (p) => p, set: (_, { beat, offset }) => ({ beat, offset }) },
  {
    is: 'reading',
    label: say`Second of the take`,
    unit: 's',
    min: 0,
    max: 36_000,
    step: 0.04,
    digits: 2,
    said: say`Move a pose`,
    get: (p) => p.source,
    set: (_, source) => ({ source }),
  },
  { is: 'number', label: say`Speed on it`, unit: '%', of: 'speed', factor: 100, min: 0, max: 1600, step: 5, said: say`Move a pose` },
];

const FIELDS: readonly Field<Ramp>[] = [
  { is: 'number', label: say`Fastest`, unit: '%', of: 'fastest', factor: 100, min: 10, max: 6400, step: 10, said: say`Limit the speed` },
  {
    is: 'reading',
    label: say`Change (0: any)`,
    unit: '%/s',
    min: 0,
    max: 100_000,
    step: 100,
    said: say`Limit the change of speed`,
    preset: 'acceleration',
    get: (move) => 100 * (move.acceleration ?? 0),
    set: (_, v) => ({ acceleration: v > 0 ? v / 100 : null }),
  },
  { is: 'number', label: say`Zoom by turns`, unit: '%', of: 'zoom', min: 0, max: 200, said: say`Zoom by turns` },
  {
    is: 'choice',
    label: say`Between its frames`,
    of: 'frameInterpolation',
    said: say`Fill in between frames`,
    options: BETWEEN_FRAMES,
  },
  {
    is: 'choice',
    label: say`Sound of the take`,
    of: 'sound',
    said: say`Let the take sound otherwise`,
    options: TAKE_SOUNDS,
  },
  {
    is: 'track',
    label: say`Hold the performer in the middle of the frame`,
    said: say`Hold the performer in the middle`,
    take: ({ takeId }) => takeId,
    get: ({ track }) => track,
    set: ({ hold }, track) => ({ track, hold: Math.max(hold, track ? 140 : 100) }),
  },
  {
    is: 'number',
    label: say`Enlarged to hold the performer`,
    unit: '%',
    of: 'hold',
    min: 100,
    max: 400,
    step: 5,
    said: say`Leave other room to hold the performer`,
    when: ({ track }) => track !== null,
  },
  { is: 'tick', label: say`Hard steps of speed`, of: 'hard', said: say`Step the speed` },
  listField<Ramp, Pose>({
    label: say`Pose`,
    said: say`Leave a pose out`,
    get: ({ poses }) => poses,
    set: (_, items) => ({ poses: [...items] }),
    fields: POSE_FIELDS,
    min: 2,
    max: 200,
    fewer: 'last',
    more: {
      label: say`One more pose`,
      make: ({ poses }) => {
        const last = poses[poses.length - 1];
        return { ...last, beat: last.beat + 2, source: last.source + 1 };
      },
    },
  }),
];

/** A speed ramp: one take that meets its poses on beats. */
export const ramp: MoveKind<Ramp, 'movement'> = {
  kind: 'ramp',
  schema: rampSchema,
  words: {
    name: say`Speed ramp`,
    working: say`Looking for the poses`,
    about: say`A take slows down on its poses, each on a beat, and runs between them.`,
  },
  takes: { min: 1, max: 1 },
  needs: ['movement'],
  mixes: false,
  planned: { recipe: 'pose ramp', slots: ['poses'] },
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorsIn('poses', null)],
  withTakes: (move, choose) => {
    const takeId = choose(move.takeId, move.poses[0].source);
    // Where somebody is in one take says nothing of another.
    return { ...move, takeId, track: takeId === move.takeId ? move.track : null };
  },
  poster: ({ scene }, { poses }) => placeFrame(scene, poses[1]),
  fields: FIELDS,
};
