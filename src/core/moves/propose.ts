import {
  beatMapOf,
  type Footage,
  footageOf,
  halfFrame,
  type Move,
  type MoveOf,
  type Place,
  type Project,
  pinAt,
  type Shot,
  type Stand,
  seamMask,
} from '../shot';
import { beatToSeconds, fps } from '../time';
import type { Beats, Seconds, Unit } from '../units';
import { rerun } from './build';
import { takeLayers } from './take-layer';

/** What was seen falling in a take: when it begins and ends, and the path of the densest part. */
export interface MeasuredFall {
  from: Seconds;
  to: Seconds;
  position: readonly Unit[];
}

/** A take chosen for a move, and what was seen falling in it. */
export interface ChosenTake {
  takeId: string;
  fall: MeasuredFall | null;
}

const onBeat = (beat: Beats): Place => ({ beat, offset: 0 });

/** The mean of the takes' paths, resampled to 100 steps. One path or more. */
export function meanPath(falls: readonly MeasuredFall[]): Unit[] {
  return Array.from({ length: 101 }, (_, i) => {
    const values = falls.map(({ position }) => position[Math.round((i / 100) * (position.length - 1))]);
    return values.reduce((a, b) => a + b, 0) / values.length;
  });
}

/** Seconds from one beat to another. */
const lasts = (project: Project, from: Beats, to: Beats): Seconds => {
  const map = beatMapOf(project);
  return beatToSeconds(map, to) - beatToSeconds(map, from);
};

/** As many whole beats, at least `least` and at most `most`, as fit into some seconds from a beat on. */
function beatsIn(project: Project, from: Beats, seconds: Seconds, least: number, most: number): Beats {
  let beats = least;
  while (beats < most && lasts(project, from, from + beats + 1) <= seconds + 1e-6) beats++;
  return beats;
}

/** As many whole beats back from a beat as some seconds allow, `most` at most and never before the song. */
function beatsBack(project: Project, to: Beats, seconds: Seconds, most: number): Beats {
  // Both ends come to lie on whole frames, so the way between them may be a frame longer; half of one too many is not seen.
  const room = seconds - halfFrame(project.frame.rate);
  let beats = 0;
  while (beats < most && lasts(project, to - beats - 1, to) <= room + 1e-6 && beatToSeconds(beatMapOf(project), to - beats - 1) >= 0)
    beats++;
  return beats;
}

/** A shot with its move run: it begins `lead` beats before `beat` and ends `tail` beats after; the move's places count from its start. */
function shotOf(project: Project, id: string, name: string, beat: Beats, lead: Beats, tail: Beats, overscan: number, move: Move): Shot {
  return rerun(project, { id, name, start: onBeat(beat - lead), end: onBeat(beat + tail), overscan, layers: [], move, hand: [] });
}

const middleOf = ({ from, to }: Footage) => (from + to) / 2;

const FEATHER = 18;

/**
 * A masked reveal on the beat: the fall's first frame meets `beat`, the line follows the densest movement and ends on the beat nearest to
 * the fall's own end; the shot opens a bar before and closes as far after as both takes have picture. Without a measured fall the reveal
 * lasts two beats from a second before the middle of the takes.
 */
export function proposeReveal(project: Project, id: string, beat: Beats, before: ChosenTake, after: ChosenTake, overscan: number): Shot {
  const map = beatMapOf(project);
  const falls = [before.fall, after.fall].filter((f) => f !== null);
  const seconds = falls.length ? falls.reduce((s, f) => s + f.to - f.from, 0) / falls.length : 0;
  let length = falls.length ? 1 : 2;
  while (lasts(project, beat, beat + length + 0.5) < seconds) length++;
  const use = ({ takeId, fall }: ChosenTake) => {
    const footage = footageOf(project, takeId);
    return { takeId, sync: fall?.from ?? Math.max(footage.from, middleOf(footage) - 1) };
  };
  const [one, two] = [use(before), use(after)];
  const lead = beatsBack(project, beat, one.sync - footageOf(project, one.takeId).from, map.beatsPerBar);
  const tail = beatsIn(project, beat, footageOf(project, two.takeId).to - two.sync, length, length + 2 * map.beatsPerBar);
  return shotOf(project, id, 'Masked reveal', beat, lead, tail, overscan, {
    kind: 'reveal',
    by: 'line',
    angle: 0,
    start: onBeat(lead),
    end: onBeat(lead + length),
    feather: FEATHER,
    fallSpeed: 1,
    before: one,
    after: two,
    path: falls.length ? { share: meanPath(falls), seconds } : null,
    outOf: 'before',
    duck: 'nobody',
    reach: 15,
    figures: [],
  });
}

/** A whip on the beat: about 20 frames at 25 a second (common practice), the takes' middles meeting at the cut. */
export function proposeWhip(project: Project, id: string, beat: Beats, outId: string, intoId: string, overscan: number): Shot {
  const map = beatMapOf(project);
  const [out, into] = [footageOf(project, outId), footageOf(project, intoId)];
  const bar = map.beatsPerBar;
  const sync = { out: middleOf(out), into: outId === intoId ? middleOf(into) : Math.max(into.from, middleOf(into) - 1) };
  const lead = Math.max(1, beatsBack(project, beat, sync.out - out.from, bar));
  const tail = beatsIn(project, beat, into.to - sync.into, 1, bar);
  return shotOf(project, id, 'Whip', beat, lead, tail, overscan, {
    kind: 'whip',
    out: { takeId: outId, sync: sync.out },
    into: { takeId: intoId, sync: sync.into },
    cut: onBeat(lead),
    frames: 2 * Math.round(0.4 * fps(project.frame.rate)),
    way: 'left',
    travel: 1.5,
    shutter: 180,
  });
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

/** A speed ramp: the poses of a take on every second beat from `beat` on, at 40 % on the pose and as fast as it must be between (common practice). */
export function proposeRamp(project: Project, id: string, beat: Beats, takeId: string, poses: readonly Seconds[], overscan: number): Shot {
  const { from, to } = footageOf(project, takeId);
  const seconds = poses.length >= 2 ? poses : [0.2, 0.5, 0.8].map((share) => from + share * (to - from));
  const step = 2;
  const last = (seconds.length - 1) * step;
  // It runs on from the last pose for as long as the take has picture.
  const tail = beatsIn(project, beat + last, (to - seconds[seconds.length - 1]) / ON_POSE, 1, step);
  return shotOf(project, id, 'Speed ramp', beat, 0, last + tail, overscan, {
    kind: 'ramp',
    takeId,
    poses: seconds.map((source, i) => ({ beat: i * step, offset: 0, source, speed: ON_POSE })),
    hard: false,
    fastest: 4,
    acceleration: null,
    between: 'blend',
    zoom: 8,
    sound: 'none',
    track: null,
    hold: 100,
  });
}

/** How many panels a row has by default: up to three in one, four in two rows of two, else three. */
const columnsFor = (count: number) => (count <= 3 ? count : count === 4 ? 2 : 3);

/** Panels that push in together on `beat` and go after two bars, or as long as the shortest take allows. */
export function proposeSplit(project: Project, id: string, beat: Beats, takeIds: readonly string[], overscan: number): Shot {
  const map = beatMapOf(project);
  const takes = takeIds.map((takeId) => footageOf(project, takeId));
  const bar = map.beatsPerBar;
  const room = Math.min(...takes.map((t) => t.to - t.from));
  const length = beatsIn(project, beat, room - 0.5, 2, 2 * bar);
  const panels: MoveOf<'split'>['panels'] = takes.map((take, i) => ({
    takeId: takeIds[i],
    zoom: 100,
    x: 0,
    y: 0,
    track: null,
    sync: Math.max(take.from, middleOf(take) - lasts(project, beat, beat + length) / 2),
  }));
  return shotOf(project, id, 'Split screen', beat, 0, length, overscan, {
    kind: 'split',
    panels,
    columns: columnsFor(panels.length),
    slant: 0,
    gutter: 1.5,
    feather: 0,
    open: onBeat(0),
    close: onBeat(length),
    swaps: [],
    frames: Math.round(0.32 * fps(project.frame.rate)),
    stagger: 0,
    delay: 0,
  });
}

const STACK: readonly MoveOf<'freeze'>['parts'][number]['side'][] = ['left', 'right', 'top', 'bottom'];

/** A freeze on the beat for a bar; the cut-out figure's parts, lowest first, arrive one a beat over the clean plate where there is one, and the frame shakes as the last lands. */
export function proposeFreeze(
  project: Project,
  id: string,
  beat: Beats,
  use: MoveOf<'freeze'>['use'],
  matte: { matteId: string; top: number; bottom: number } | null,
  plate: MoveOf<'freeze'>['plate'],
  overscan: number,
): Shot {
  const bar = beatMapOf(project).beatsPerBar;
  const { from, to } = footageOf(project, use.takeId);
  const lead = Math.min(bar, beatsBack(project, beat, use.sync - from, bar));
  const tail = bar + beatsIn(project, beat + bar, to - use.sync, 0, bar);
  const count = Math.max(1, Math.min(3, bar - 1));
  const parts = matte
    ? Array.from({ length: count }, (_, i) => ({
        matteId: matte.matteId,
        band: count === 1 ? null : bandOf(matte, count - 1 - i, count),
        side: STACK[i % STACK.length],
        scale: 85,
        turn: i % 2 ? 35 : -35,
      }))
    : [];
  return shotOf(project, id, 'Freeze frame', beat, lead, Math.max(tail, bar + 1), overscan, {
    kind: 'freeze',
    use,
    at: onBeat(lead),
    until: onBeat(lead + bar),
    parts,
    every: 1,
    flight: Math.round(0.32 * fps(project.frame.rate)),
    shake: parts.length ? Math.round(0.44 * fps(project.frame.rate)) : 0,
    shakeSize: 1.5,
    under: matte && plate ? 'plate' : 'frozen',
    plate,
    trail: { every: 0, count: 0, opacity: 60 },
  });
}

/** One of `count` bands of a figure from its head down; the outer ones reach past it. */
function bandOf({ top, bottom }: { top: number; bottom: number }, k: number, count: number): { from: number; to: number } {
  const at = (i: number) => top + ((bottom - top) * i) / count;
  return { from: k === 0 ? -50 : at(k), to: k === count - 1 ? 150 : at(k + 1) };
}

/** Two takes along a seam from a beat on, for as many whole beats as `seconds` hold; the second right of it. `feather` in per cent of the height. */
export function proposeSeam(
  project: Project,
  id: string,
  beat: Beats,
  seconds: Seconds,
  left: MoveOf<'whip'>['out'],
  right: MoveOf<'whip'>['out'],
  stands: Stand[],
  feather: number,
  overscan: number,
): Shot {
  const length = beatsIn(project, beat, seconds, 1, 1e4);
  const take = takeLayers(project);
  return {
    id,
    name: 'Clones',
    start: onBeat(beat),
    end: onBeat(beat + length),
    overscan,
    layers: [
      take('left', 'Left of the seam', left.takeId, [pinAt(0, 0, left.sync)], {}),
      take('right', 'Right of the seam', right.takeId, [pinAt(0, 0, right.sync)], { masks: [seamMask(stands, feather)] }),
    ],
    move: null,
    hand: [],
  };
}

/** A shot of one take from one anchor to another, from the take's first second on. */
export function proposePlain(project: Project, id: string, start: Place, end: Place, takeId: string): Shot {
  const layer = takeLayers(project)('shown', 'The take', takeId, [pinAt(0, 0, footageOf(project, takeId).from)], {});
  return { id, name: 'Shot', start, end, overscan: 100, layers: [layer], move: null, hand: [] };
}
