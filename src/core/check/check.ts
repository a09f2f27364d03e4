import { cornerMove, NO_MOVE, type Similarity } from '../measure';
import {
  beatMapOf,
  correctionAt,
  describeFrame,
  edgeGap,
  halfFrame,
  isReveal,
  overscanFor,
  type Project,
  revealFrames,
  type Shot,
  shotFrames,
} from '../shot';
import { anchorBeatSeconds, describeAnchor, frameToSeconds, resolveAnchor } from '../time';
import type { Frames, Pixels } from '../units';

/** What the fix of a finding does; the editor turns it into one undoable command. */
export type Fix =
  | { kind: 'correct take'; takeId: string; label: string }
  | { kind: 'overscan'; shotId: string; percent: number; label: string }
  | { kind: 'on the beat'; shotId: string; anchor: 'shot start' | 'shot end' | 'reveal start' | 'reveal end'; label: string };

/** Something a viewer might see. `weight` orders findings, worst first. */
export interface Finding {
  rule: 'camera moved' | 'edge shows' | 'off the beat' | 'not measured';
  shotId: string;
  frame: Frames;
  weight: number;
  text: string;
  fix: Fix | null;
}

/** One take's measured moves against the take it is mixed with. */
export interface MeasuredTake {
  takeId: string;
  referenceTakeId: string;
  moves: readonly ({ time: number } & Similarity)[];
}

const LIMIT: Pixels = 0.5;

/** Rule: uncorrected camera shift over half a pixel (at the frame's corner) in a shot that mixes takes. */
function cameraMoved(project: Project, shot: Shot, measured: readonly MeasuredTake[]): Finding[] {
  const take = project.takes.find((t) => t.id === shot.after.takeId);
  const media = project.media.find((m) => m.id === take?.mediaId);
  if (!take || !media) return [];
  const pair = measured.find((m) => m.takeId === shot.after.takeId && m.referenceTakeId === shot.before.takeId);
  const [first, end] = isReveal(shot) ? revealFrames(project, shot) : shotFrames(project, shot);
  if (!pair || pair.moves.length === 0) {
    return [
      {
        rule: 'not measured',
        shotId: shot.id,
        frame: first,
        weight: 1,
        text: 'These two takes were not measured against each other, so nobody knows whether the camera moved between them. Measure them in Takes.',
        fix: null,
      },
    ];
  }
  let worst = 0;
  let at = first;
  for (let frame = first; frame < end; frame++) {
    const layer = describeFrame(project, frame).layers.find((l) => l.takeId === take.id);
    if (!layer) continue;
    const real = nearest(pair.moves, layer.sourceTime);
    const used = correctionAt(take.correction, layer.sourceTime) ?? { time: 0, ...NO_MOVE };
    const left: Similarity = { dx: real.dx - used.dx, dy: real.dy - used.dy, turn: real.turn - used.turn, scale: real.scale / used.scale };
    const size = cornerMove(left, media.width, media.height);
    if (size > worst) {
      worst = size;
      at = frame;
    }
  }
  if (worst <= LIMIT) return [];
  return [
    {
      rule: 'camera moved',
      shotId: shot.id,
      frame: at,
      weight: worst,
      text: `The camera stands ${worst.toFixed(1)} px away from the other take while the two are mixed; over ${LIMIT} px shows as a jump behind the line.`,
      fix: { kind: 'correct take', takeId: take.id, label: 'Correct the take' },
    },
  ];
}

function nearest(moves: MeasuredTake['moves'], time: number): MeasuredTake['moves'][number] {
  let best = moves[0];
  for (const m of moves) if (Math.abs(m.time - time) < Math.abs(best.time - time)) best = m;
  return best;
}

/** Rule: the source's edge lies inside the frame anywhere in the shot. A tenth of a pixel is let pass. */
function edgeShows(project: Project, shot: Shot): Finding[] {
  const { width, height } = project.frame;
  const [first, end] = shotFrames(project, shot);
  let worst = 0;
  let at = first;
  let frames = 0;
  for (let frame = first; frame < end; frame++) {
    for (const layer of describeFrame(project, frame).layers) {
      const media = project.media.find((m) => m.id === layer.mediaId);
      const gap = media ? edgeGap(layer.map, media, width, height) : 0;
      if (gap > 0.1) frames++;
      if (gap > worst) {
        worst = gap;
        at = frame;
      }
    }
  }
  if (worst <= 0.1) return [];
  const need = Math.max(
    ...[shot.before, shot.after].map(({ takeId }) => {
      const take = project.takes.find((t) => t.id === takeId);
      const media = project.media.find((m) => m.id === take?.mediaId);
      return media && take?.correction?.enabled ? overscanFor(project, media, take.correction.moves) : 100;
    }),
  );
  return [
    {
      rule: 'edge shows',
      shotId: shot.id,
      frame: at,
      weight: 2 + worst,
      text: `The picture's edge shows by up to ${worst.toFixed(1)} px on ${frames} ${frames === 1 ? 'frame' : 'frames'}.`,
      fix: { kind: 'overscan', shotId: shot.id, percent: need, label: `Enlarge the shot to ${need.toFixed(2)} %` },
    },
  ];
}

/** Rule: an event lies more than half a frame off its beat. */
function offTheBeat(project: Project, shot: Shot): Finding[] {
  const map = beatMapOf(project);
  const { rate } = project.frame;
  const events = [
    ['shot start', shot.start],
    ...(isReveal(shot)
      ? ([
          ['reveal start', shot.mix.start],
          ['reveal end', shot.mix.end],
        ] as const)
      : []),
    ['shot end', shot.end],
  ] as const;
  return events.flatMap(([name, anchor]): Finding[] => {
    const frame = resolveAnchor(map, anchor, rate);
    const off = frameToSeconds(frame, rate) - anchorBeatSeconds(map, anchor);
    if (Math.abs(off) <= halfFrame(rate) + 1e-6) return [];
    const frames = off / (2 * halfFrame(rate));
    return [
      {
        rule: 'off the beat',
        shotId: shot.id,
        frame,
        weight: Math.abs(frames),
        text: `The ${name} is ${Math.abs(frames).toFixed(1)} frames ${off > 0 ? 'after' : 'before'} ${describeAnchor(map, { ...anchor, offset: 0 })}.`,
        fix: { kind: 'on the beat', shotId: shot.id, anchor: name, label: 'Put it on the beat' },
      },
    ];
  });
}

/** All findings of a project, worst first. */
export function checkProject(project: Project, measured: readonly MeasuredTake[]): Finding[] {
  return project.shots
    .flatMap((shot) => [...cameraMoved(project, shot, measured), ...edgeShows(project, shot), ...offTheBeat(project, shot)])
    .sort((a, b) => b.weight - a.weight);
}
