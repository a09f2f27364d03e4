import { type Footage, footageOf, isReveal, type Project, type RevealShot, type Shot, shotFrames } from '../shot';
import { type Anchor, type BeatMap, beatToSeconds, frameToSeconds, resolveAnchor } from '../time';
import type { Beats, Seconds, Unit } from '../units';
import { followLine, plainLine } from './curtain-reveal';

/** What was seen falling in a take: when it begins and ends, and the path of the densest part. */
export interface MeasuredFall {
  from: Seconds;
  to: Seconds;
  position: readonly Unit[];
}

export interface RevealRequest {
  id: string;
  /** The beat at which the change begins. */
  beat: Beats;
  before: { takeId: string; fall: MeasuredFall | null };
  after: { takeId: string; fall: MeasuredFall | null };
  overscan: number;
}

const FEATHER = 18;

/** The mean of the takes' paths, resampled to 100 steps. One path or more. */
export function meanPath(falls: readonly MeasuredFall[]): Unit[] {
  return Array.from({ length: 101 }, (_, i) => {
    const values = falls.map(({ position }) => position[Math.round((i / 100) * (position.length - 1))]);
    return values.reduce((a, b) => a + b, 0) / values.length;
  });
}

/** The whole beat, at least one after `start`, nearest to `seconds` later. */
function endBeat(map: BeatMap, start: Beats, seconds: Seconds): Beats {
  let beat = start + 1;
  const target = beatToSeconds(map, start) + seconds;
  while (beatToSeconds(map, beat + 0.5) < target) beat++;
  return beat;
}

/**
 * A curtain reveal on the beat: the fall's first frame meets `beat`, the line follows the densest movement and ends on
 * the beat nearest to the fall's own end; the shot opens a bar before and closes as far after as both takes have picture.
 * Without a measured fall the reveal lasts two beats from the middle of the takes.
 */
export function buildReveal(project: Project, map: BeatMap, request: RevealRequest): RevealShot {
  const { rate } = project.frame;
  const falls = [request.before.fall, request.after.fall].filter((f) => f !== null);
  const lasts = falls.length ? falls.reduce((s, f) => s + f.to - f.from, 0) / falls.length : 0;
  const start: Anchor = { beat: request.beat, offset: 0 };
  const end: Anchor = { beat: falls.length ? endBeat(map, request.beat, lasts) : request.beat + 2, offset: 0 };
  const first = resolveAnchor(map, start, rate);
  const length = Math.max(2, resolveAnchor(map, end, rate) - first);
  const use = (side: RevealRequest['before']) => ({
    takeId: side.takeId,
    sync: side.fall?.from ?? middleOf(footageOf(project, side.takeId)),
  });
  const before = use(request.before);
  const after = use(request.after);
  const opens = Math.min(
    map.beatsPerBar,
    Math.floor(before.sync / Math.max(0.2, beatToSeconds(map, request.beat) - beatToSeconds(map, request.beat - 1))),
  );
  const left = footageOf(project, after.takeId).to - after.sync;
  let closes = end.beat;
  while (closes < end.beat + 2 * map.beatsPerBar && beatToSeconds(map, closes + 1) - beatToSeconds(map, request.beat) < left) closes++;
  return {
    id: request.id,
    name: 'Curtain reveal',
    start: { beat: request.beat - opens, offset: 0 },
    end: { beat: closes, offset: 0 },
    before,
    after,
    overscan: request.overscan,
    mix: {
      kind: 'curtain reveal',
      angle: 0,
      start,
      end,
      feather: FEATHER,
      fallSpeed: 1,
      line: [
        ...(falls.length ? followLine(meanPath(falls), length, FEATHER, frameToSeconds(length, rate) / lasts) : plainLine(length, FEATHER)),
      ],
      lineLength: length,
    },
  };
}

/** A second before the middle of a take, where something may be expected to happen. */
const middleOf = ({ from, to }: Footage) => Math.max(from, (from + to) / 2 - 1);

/** A shot moved so that it begins at another frame, keeping lengths in beats and frame offsets of its anchors. */
export function movedShot(project: Project, map: BeatMap, shot: Shot, beats: Beats): Shot {
  const by = (anchor: Anchor): Anchor => ({ ...anchor, beat: anchor.beat + beats });
  const next = {
    ...shot,
    start: by(shot.start),
    end: by(shot.end),
    mix: isReveal(shot) ? { ...shot.mix, start: by(shot.mix.start), end: by(shot.mix.end) } : shot.mix,
  };
  const [first] = shotFrames({ ...project, song: project.song && { ...project.song, map } }, next);
  return first < 0 ? shot : next;
}
