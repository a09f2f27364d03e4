import { solveSpeed } from '../motion';
import {
  footageOf,
  type Layer,
  layerFrames,
  layerTime,
  type Move,
  type MoveOf,
  type Place,
  type Project,
  placeFrame,
  type Scene,
  type Shot,
  sceneOf,
} from '../shot';
import { fps, frameToSeconds } from '../time';
import type { Frames } from '../units';

/** Why a move cannot be as asked, in a sentence, and the nearest that can; null where only the user can choose. */
export interface MoveProblem {
  text: string;
  nearest: { label: string; move: Move } | null;
}

const frames = (n: number) => `${n} ${n === 1 ? 'frame' : 'frames'}`;

function whipProblems(scene: Scene, move: MoveOf<'whip'>): MoveProblem[] {
  const cut = placeFrame(scene, move.cut);
  const room = Math.min(cut - scene.first, scene.end - cut);
  if (2 * room >= move.frames) return [];
  if (room < 2)
    return [
      {
        text: 'The cut lies at the very end of the shot: there is no room for a whip on both its sides. Move the cut or lengthen the shot.',
        nearest: null,
      },
    ];
  return [
    {
      text: `The cut has ${frames(room)} on its shorter side, and a whip of ${move.frames} needs ${Math.ceil(move.frames / 2)}: at most ${2 * room} frames in all.`,
      nearest: { label: `Whip in ${2 * room} frames`, move: { ...move, frames: 2 * room } },
    },
  ];
}

const percent = (v: number) => `${Math.ceil(100 * v - 1e-6)} %`;

function rampProblems(project: Project, scene: Scene, move: MoveOf<'ramp'>): MoveProblem[] {
  const at = (pose: Place) => placeFrame(scene, pose);
  const poses = move.poses.toSorted((a, b) => at(a) - at(b));
  const wrong = poses.findIndex((p, i) => i > 0 && (p.source < poses[i - 1].source || at(p) === at(poses[i - 1])));
  if (wrong > 0)
    return [
      {
        text: `Pose ${wrong + 1} comes before pose ${wrong} in the take, or on the same frame of the film: time would have to run back. Put the poses in the order they were acted.`,
        nearest: { label: 'Put the poses in order', move: inOrder(move, poses) },
      },
    ];
  if (move.hard) return [];
  const timed = poses.map((p) => ({ at: frameToSeconds(at(p), scene.rate), source: p.source, speed: p.speed }));
  const rate = footageOf(project, move.takeId).fps || 25;
  return solveSpeed(timed, { fastest: move.fastest, acceleration: move.acceleration ?? Number.POSITIVE_INFINITY }).impossible.map(
    ({ span, needs, earliest }) => {
      const [a, b] = [timed[span], timed[span + 1]];
      const way = Math.round((b.source - a.source) * rate);
      const room = at(poses[span + 1]) - at(poses[span]);
      const reach = Math.max(0, Math.ceil((earliest - a.at) * fps(scene.rate) - 1e-6));
      return {
        text: `Poses ${span + 1} and ${span + 2} are ${frames(way)} apart in the take and ${frames(room)} in the film: that needs ${percent(needs)}, and ${percent(move.fastest)} is the limit. Within it the second pose is met ${frames(reach)} after the first.`,
        nearest: { label: `Allow ${percent(needs)}`, move: { ...move, fastest: Math.ceil(100 * needs - 1e-6) / 100, acceleration: null } },
      };
    },
  );
}

/** The same seconds of the take met by the same beats, each in order. */
function inOrder(move: MoveOf<'ramp'>, poses: MoveOf<'ramp'>['poses']): MoveOf<'ramp'> {
  const sources = poses.map((p) => p.source).sort((a, b) => a - b);
  const places = poses.filter((p, i) => i === 0 || p.beat !== poses[i - 1].beat || p.offset !== poses[i - 1].offset);
  return { ...move, poses: places.map((p, i) => ({ ...p, source: sources[i] })) };
}

/** Panels swap between opening and closing, each swap in its own time. */
function swapProblems(scene: Scene, move: MoveOf<'split'>, open: Frames, close: Frames): MoveProblem[] {
  const at = move.swaps.map((p) => placeFrame(scene, p));
  const wide = Math.max(1, move.frames);
  const fits = at.map((frame, i) => frame - wide >= (i === 0 ? open + move.frames : at[i - 1]) && frame <= close - move.frames);
  const wrong = fits.indexOf(false);
  if (wrong < 0) return [];
  return [
    {
      text: `Swap ${wrong + 1} lands on frame ${at[wrong] - scene.first} of the shot and takes ${frames(wide)}: that is while the panels still open, swap or close. Give each swap ${frames(wide)} of its own.`,
      nearest: { label: 'Leave that swap out', move: { ...move, swaps: move.swaps.filter((_, i) => fits[i]) } },
    },
  ];
}

function splitProblems(scene: Scene, move: MoveOf<'split'>): MoveProblem[] {
  const open = placeFrame(scene, move.open);
  const close = placeFrame(scene, move.close);
  const room = close - open;
  if (room >= 2 * move.frames && room > 0) return swapProblems(scene, move, open, close);
  if (room < 2) return [{ text: 'The panels close before they are open. Move the closing beat after the opening one.', nearest: null }];
  const most = Math.floor(room / 2);
  return [
    {
      text: `A panel is there for ${frames(room)}, and opening and closing take ${frames(2 * move.frames)}: at most ${most} each.`,
      nearest: { label: `Open in ${frames(most)}`, move: { ...move, frames: most } },
    },
  ];
}

function freezeProblems(scene: Scene, move: MoveOf<'freeze'>): MoveProblem[] {
  const [at, until] = [placeFrame(scene, move.at), placeFrame(scene, move.until)];
  if (until <= at) return [{ text: 'The freeze ends before it begins. Move its end to a later beat.', nearest: null }];
  const lands = move.at.beat + move.every * move.parts.length;
  if (move.parts.length === 0 || lands < move.until.beat) return [];
  const most = Math.max(0, Math.ceil((move.until.beat - move.at.beat) / move.every) - 1);
  return [
    {
      text: `${move.parts.length} parts, one every ${move.every === 1 ? 'beat' : `${move.every} beats`}, land up to ${move.every * move.parts.length} beats after the freeze, which ends ${move.until.beat - move.at.beat} beats after it began: at most ${most}.`,
      nearest: {
        label: 'Land them faster',
        move: { ...move, every: Math.max(0.25, Math.floor((4 * (move.until.beat - move.at.beat)) / (move.parts.length + 1)) / 4) },
      },
    },
  ];
}

/** The takes of a reveal whose figure it needs and does not have yet. */
export function outlinesMissing(move: MoveOf<'reveal'>): string[] {
  const sides = [...(move.by === 'figure' ? [move.outOf] : []), ...(move.duck === 'nobody' ? [] : [move.duck])];
  const takes = sides.map((side) => move[side].takeId).filter((takeId) => !move.figures.some((f) => f.takeId === takeId));
  return [...new Set(takes)];
}

function revealProblems(project: Project, scene: Scene, move: MoveOf<'reveal'>): MoveProblem[] {
  const missing = outlinesMissing(move).map((takeId) => ({
    text: `Where somebody is in “${footageOf(project, takeId).name}” is not known yet, so the edge takes no notice of them. Find them in it first.`,
    nearest: null,
  }));
  if (placeFrame(scene, move.end) > placeFrame(scene, move.start)) return missing;
  return [
    ...missing,
    {
      text: 'The reveal ends before it begins. Move its end to a later beat.',
      nearest: { label: 'End it two beats later', move: { ...move, end: { ...move.start, beat: move.start.beat + 2 } } },
    },
  ];
}

/** Where a layer asks for more than its take has: how many frames stand still for want of footage, at its start and its end. */
function missingFrames(project: Project, scene: Scene, layer: Layer): { before: number; after: number } {
  if (layer.source.kind !== 'take') return { before: 0, after: 0 };
  const { from, to, fps: rate } = footageOf(project, layer.source.takeId);
  const time = layerTime(scene, layer);
  const [first, end] = layerFrames(scene, layer);
  let [before, after] = [0, 0];
  for (let frame = first; frame < end; frame++) {
    const at = time.sourceAt(frameToSeconds(frame, scene.rate));
    if (at < from - 0.5 / (rate || 25)) before++;
    else if (at > to + 0.5 / (rate || 25)) after++;
  }
  return { before, after };
}

function footageProblems(project: Project, scene: Scene, shot: Shot): MoveProblem[] {
  return shot.layers.flatMap((layer): MoveProblem[] => {
    const { before, after } = missingFrames(project, scene, layer);
    if (layer.source.kind !== 'take' || before + after === 0) return [];
    const { name } = footageOf(project, layer.source.takeId);
    const where = before > 0 ? `begins ${frames(before)} after` : `is over ${frames(after)} before`;
    return [
      {
        text: `“${name}” ${where} the layer “${layer.name}” needs it: the picture stands still there. Shorten the shot by that much, or slide the take ${before > 0 ? 'on' : 'back'}.`,
        nearest: null,
      },
    ];
  });
}

/** What stands in the way of a shot's move, and what can be had instead. Empty where it is all possible. */
export function moveProblems(project: Project, shot: Shot): MoveProblem[] {
  const scene = sceneOf(project, shot);
  const { move } = shot;
  const own =
    move === null
      ? []
      : move.kind === 'whip'
        ? whipProblems(scene, move)
        : move.kind === 'ramp'
          ? rampProblems(project, scene, move)
          : move.kind === 'split'
            ? splitProblems(scene, move)
            : move.kind === 'freeze'
              ? freezeProblems(scene, move)
              : revealProblems(project, scene, move);
  return [...own, ...footageProblems(project, scene, shot)];
}
