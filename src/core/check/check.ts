import { cornerMove, NO_MOVE, type Similarity } from '../measure';
import { kindOf } from '../moves';
import {
  beatMapOf,
  correctionAt,
  describeFrame,
  edgeGap,
  halfFrame,
  layerFrames,
  MOST_OVERSCAN,
  moveEvents,
  overscanFor,
  type Project,
  regenerate,
  type Shot,
  sceneOf,
  shotFrames,
  takesOf,
  withEvents,
} from '../shot';
import { type Anchor, anchorBeatSeconds, describeAnchor, frameToSeconds, resolveAnchor } from '../time';
import type { Frames, Pixels } from '../units';

/** What the fix of a finding does; the editor turns it into one undoable command. */
export type Fix =
  | { kind: 'correct take'; takeId: string; referenceTakeId: string; label: string }
  | { kind: 'overscan'; shotId: string; percent: number; label: string }
  | { kind: 'on the beat'; shotId: string; event: string; label: string };

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

/** The take others of a shot are laid on: that of its lowest layer. Those laid on it where both are seen at once. */
function pairsOf(project: Project, shot: Shot): { below: string; above: string }[] {
  const scene = sceneOf(project, shot);
  const spans = shot.layers.flatMap((layer) =>
    layer.source.kind === 'take' && layer.on && layer.masks.length > 0
      ? [{ takeId: layer.source.takeId, frames: layerFrames(scene, layer) }]
      : [],
  );
  const [below] = takesOf(shot);
  const above = spans.filter((s) => s.takeId !== below && s.frames[1] > s.frames[0]).map((s) => s.takeId);
  return [...new Set(above)].map((takeId) => ({ below, above: takeId }));
}

/** Rule: uncorrected camera shift over half a pixel (at the frame's corner) in a shot that mixes takes. */
function cameraMoved(project: Project, shot: Shot, measured: readonly MeasuredTake[]): Finding[] {
  // Panels and whips show takes beside or after one another: nothing of one has to meet the other.
  if (shot.move && !kindOf(shot.move).mixes) return [];
  return pairsOf(project, shot).flatMap((pair) => pairMoved(project, shot, pair, measured));
}

function pairMoved(
  project: Project,
  shot: Shot,
  { below, above }: { below: string; above: string },
  measured: readonly MeasuredTake[],
): Finding[] {
  const take = project.takes.find((t) => t.id === above);
  const media = project.media.find((m) => m.id === take?.mediaId);
  if (!take || !media) return [];
  const pair = measured.find((m) => m.takeId === above && m.referenceTakeId === below);
  const scene = sceneOf(project, shot);
  const mixed = Array.from({ length: scene.end - scene.first }, (_, i) => describeFrame(project, scene.first + i)).filter(
    ({ layers }) => layers.filter((l) => l.source.kind === 'take').length > 1,
  );
  const begins = mixed[0]?.frame ?? scene.first;
  if (!pair || pair.moves.length === 0) {
    return [
      {
        rule: 'not measured',
        shotId: shot.id,
        frame: begins,
        weight: 1,
        text: 'These two takes were not measured against each other, so nobody knows whether the camera moved between them. Measure them in Takes.',
        fix: null,
      },
    ];
  }
  let worst = 0;
  let at = begins;
  for (const { frame, layers } of mixed) {
    for (const { source } of layers) {
      if (source.kind !== 'take' || source.takeId !== take.id) continue;
      const real = nearest(pair.moves, source.time);
      const used = correctionAt(take.correction, source.time) ?? { time: 0, ...NO_MOVE };
      const left: Similarity = {
        dx: real.dx - used.dx,
        dy: real.dy - used.dy,
        turn: real.turn - used.turn,
        scale: real.scale / used.scale,
      };
      const size = cornerMove(left, media.width, media.height);
      if (size > worst) {
        worst = size;
        at = frame;
      }
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
      fix: { kind: 'correct take', takeId: take.id, referenceTakeId: below, label: 'Correct the take' },
    },
  ];
}

function nearest(moves: MeasuredTake['moves'], time: number): MeasuredTake['moves'][number] {
  let best = moves[0];
  for (const m of moves) if (Math.abs(m.time - time) < Math.abs(best.time - time)) best = m;
  return best;
}

/** Rule: the source's edge lies inside the frame anywhere in the shot, where the layer is neither cut out nor meant to move. A tenth of a pixel is let pass. */
function edgeShows(project: Project, shot: Shot): Finding[] {
  const { width, height } = project.frame;
  const [first, end] = shotFrames(project, shot);
  const moves = new Set(shot.layers.filter((l) => (['x', 'y', 'scale', 'turn'] as const).some((n) => l.numbers[n])).map((l) => l.id));
  let worst = 0;
  let at = first;
  let frames = 0;
  for (let frame = first; frame < end; frame++) {
    for (const { source, map, edge, layerId } of describeFrame(project, frame).layers) {
      if (source.kind !== 'take' || edge === 'mirror' || moves.has(layerId)) continue;
      const media = project.media.find((m) => m.id === source.mediaId);
      const gap = media ? edgeGap(map, media, width, height) : 0;
      if (gap > 0.1) frames++;
      if (gap > worst) {
        worst = gap;
        at = frame;
      }
    }
  }
  if (worst <= 0.1) return [];
  const need = Math.max(
    ...takesOf(shot).map((takeId) => {
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

const [START, END] = ['shot start', 'shot end'];
/** What of a shot has a beat of its own, with its place in the song. */
export const eventsOf = (shot: Shot): [name: string, place: Anchor][] => [[START, shot.start], ...moveEvents(shot), [END, shot.end]];

/** Rule: an event lies more than half a frame off its beat. */
function offTheBeat(project: Project, shot: Shot): Finding[] {
  const map = beatMapOf(project);
  const { rate } = project.frame;
  const events = eventsOf(shot);
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
        fix: { kind: 'on the beat', shotId: shot.id, event: name, label: 'Put it on the beat' },
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

/** A shot with a finding's fix made to it: enlarged, or an event put on its beat with its move run again. */
export function applyFix(shot: Shot, project: Project, fix: Exclude<Fix, { kind: 'correct take' }>): Shot {
  if (fix.kind === 'overscan') return { ...shot, overscan: Math.min(MOST_OVERSCAN, Math.max(shot.overscan, fix.percent)) };
  const onIt = (anchor: Anchor): Anchor => ({ ...anchor, offset: 0 });
  if (fix.event === START) return regenerate(project, { ...shot, start: onIt(shot.start) });
  if (fix.event === END) return regenerate(project, { ...shot, end: onIt(shot.end) });
  return regenerate(project, { ...shot, move: shot.move && withEvents(shot.move, fix.event, onIt) });
}
