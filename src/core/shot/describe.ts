import { sourceTime, valueAt } from '../motion';
import { type Affine, type BlendMode, type ColourMatrix, type Coverage, type Gains, lineExtent, takeToProject } from '../picture';
import { type BeatMap, constantBeatMap, type FrameRate, frameToSeconds, resolveAnchor } from '../time';
import type { Frames, Pixels, Seconds, Unit } from '../units';
import { footageOf } from './footage';
import type { Correction, Media, Project, Reveal, SeamMix, Shot, SoundClip } from './schema';

/** One layer of a picture with all numbers resolved; plain data. */
export interface LayerDescription {
  takeId: string;
  mediaId: string;
  /** Time in the source file whose frame is shown. */
  sourceTime: Seconds;
  /** Output pixels to pixels of the upright source. */
  map: Affine;
  colour: ColourMatrix;
  coverage: Coverage | null;
  opacity: Unit;
  blend: BlendMode;
}

/** What one frame of the film shows, bottom layer first. No layers is black. */
export interface PictureDescription {
  frame: Frames;
  width: Pixels;
  height: Pixels;
  shotId: string | null;
  layers: LayerDescription[];
}

/** The song's beats, or 120 BPM from 0 s while there is no song, so that a film can be made without one. */
export function beatMapOf(project: Project): BeatMap {
  return project.song?.map ?? constantBeatMap(120, 0, 240);
}

/** Song second at which a laid sound begins. */
export function clipStart(project: Project, clip: SoundClip): Seconds {
  const { rate } = project.frame;
  return frameToSeconds(resolveAnchor(beatMapOf(project), clip.start, rate), rate) + clip.nudge;
}

/** First frame of the shot and the frame after its last. */
export function shotFrames(project: Project, shot: Shot): [Frames, Frames] {
  const map = beatMapOf(project);
  const { rate } = project.frame;
  const first = resolveAnchor(map, shot.start, rate);
  return [first, Math.max(first + 1, resolveAnchor(map, shot.end, rate))];
}

/** A shot whose takes are mixed by a line that passes, or by a seam. */
export type RevealShot = Shot & { mix: Reveal };
export type SeamShot = Shot & { mix: SeamMix };

export const isReveal = (shot: Shot): shot is RevealShot => shot.mix.kind === 'curtain reveal';
export const isSeam = (shot: Shot): shot is SeamShot => shot.mix.kind === 'seam';

/** Start and end frame of the shot's reveal; at least one frame apart. */
export function revealFrames(project: Project, shot: RevealShot): [Frames, Frames] {
  const map = beatMapOf(project);
  const { rate } = project.frame;
  const first = resolveAnchor(map, shot.mix.start, rate);
  return [first, Math.max(first + 1, resolveAnchor(map, shot.mix.end, rate))];
}

/** The film: from the first shot's start to the last shot's end, or the whole song when there is no shot. */
export function filmFrames(project: Project): [Frames, Frames] {
  const spans = project.shots.map((shot) => shotFrames(project, shot));
  if (spans.length > 0) return [Math.min(...spans.map((s) => s[0])), Math.max(...spans.map((s) => s[1]))];
  const song = project.media.find((m) => m.id === project.song?.mediaId);
  return [0, song ? Math.ceil((song.duration * project.frame.rate.num) / project.frame.rate.den) : 0];
}

/** Time in a take's file at a film frame. */
export function takeTimeAt(project: Project, shot: Shot, sync: Seconds, frame: Frames): Seconds {
  const { rate } = project.frame;
  if (!isReveal(shot)) return sync + frameToSeconds(frame - shotFrames(project, shot)[0], rate);
  const [from, to] = revealFrames(project, shot);
  const span = { from: 0, to: frameToSeconds(to - from, rate), speed: shot.mix.fallSpeed };
  return sync + sourceTime(frameToSeconds(frame - from, rate), span);
}

/** The measurements before and after a time, and how far it lies from the first to the second; beyond the ends, the end twice. */
function around<T extends { time: Seconds }>(series: readonly T[], time: Seconds): [T, T, Unit] {
  let low = 0;
  let high = series.length - 1;
  if (time <= series[0].time) return [series[0], series[0], 0];
  if (time >= series[high].time) return [series[high], series[high], 0];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (series[middle].time <= time) low = middle;
    else high = middle;
  }
  return [series[low], series[high], (time - series[low].time) / (series[high].time - series[low].time)];
}

/** The measured gains of a corrected take at a source time, linear between measurements; all 1 when it is not corrected. */
export function gainsAt(correction: Correction | null, time: Seconds): Gains {
  if (!correction?.enabled) return { r: 1, g: 1, b: 1 };
  const [a, b, k] = around(correction.gains, time);
  return { r: a.r + k * (b.r - a.r), g: a.g + k * (b.g - a.g), b: a.b + k * (b.b - a.b) };
}

/** The measured move of a corrected take at a source time, linear between measurements; null when it is not corrected. */
export function correctionAt(correction: Correction | null, time: Seconds): Correction['moves'][number] | null {
  if (!correction?.enabled) return null;
  const [a, b, k] = around(correction.moves, time);
  const mix = (pick: (m: typeof a) => number) => pick(a) + k * (pick(b) - pick(a));
  return { time, dx: mix((m) => m.dx), dy: mix((m) => m.dy), turn: mix((m) => m.turn), scale: mix((m) => m.scale) };
}

/**
 * Output pixels to source pixels: the source fills the frame (its middle is kept), enlarged by `overscan` per cent,
 * and the measured move is followed so that the picture stands where the reference stood.
 */
export function sourceMap(
  { width, height }: Pick<Project['frame'], 'width' | 'height'>,
  media: Pick<Media, 'width' | 'height'>,
  overscan: number,
  move: Omit<Correction['moves'][number], 'time'> | null,
): Affine {
  const fill = Math.max(width / media.width, height / media.height) * (overscan / 100);
  const angle = ((move?.turn ?? 0) * Math.PI) / 180;
  const scale = move?.scale ?? 1;
  const c = (Math.cos(angle) * scale) / fill;
  const s = (Math.sin(angle) * scale) / fill;
  const cx = media.width / 2 + (move?.dx ?? 0);
  const cy = media.height / 2 + (move?.dy ?? 0);
  return { a: c, b: -s, c: cx - (c * width) / 2 + (s * height) / 2, d: s, e: c, f: cy - (s * width) / 2 - (c * height) / 2 };
}

/** Where the reveal's line stands at a film frame, in per cent of the way across; stretches with the anchors. */
export function lineAt(project: Project, shot: RevealShot, frame: Frames): number {
  const [from, to] = revealFrames(project, shot);
  return valueAt(shot.mix.line, ((frame - from) * shot.mix.lineLength) / (to - from));
}

/** The seam that stands at a film frame, in per cent of the reference take's picture. */
export function seamAt(project: Project, shot: SeamShot, frame: Frames): SeamMix['stands'][number] {
  const at = frameToSeconds(frame - shotFrames(project, shot)[0], project.frame.rate) + 1e-6;
  return shot.mix.stands.findLast((s) => s.from <= at) ?? shot.mix.stands[0];
}

/** Where a point of the reference take's picture, in per cent, lies on the film's frame. */
export function onFrame(
  project: Project,
  shot: Shot,
  { x, y, soft }: { x: number; y: number; soft?: number },
): { x: Pixels; y: Pixels; soft?: Pixels } {
  const { width, height } = project.frame;
  const take = project.takes.find((t) => t.id === shot.before.takeId);
  const media = project.media.find((m) => m.id === take?.mediaId) ?? { width, height };
  const fill = Math.max(width / media.width, height / media.height) * (shot.overscan / 100);
  return {
    x: width / 2 + (x / 100 - 0.5) * media.width * fill,
    y: height / 2 + (y / 100 - 0.5) * media.height * fill,
    ...(soft !== undefined && { soft: (soft / 100) * height }),
  };
}

function coverageAt(project: Project, shot: Shot, frame: Frames): Coverage | 'none' | 'all' {
  if (isSeam(shot)) {
    const points = seamAt(project, shot, frame).points.map((p) => onFrame(project, shot, p));
    return { kind: 'path', points, feather: (shot.mix.feather / 100) * project.frame.height };
  }
  if (!isReveal(shot)) return 'none';
  const { width, height } = project.frame;
  const [from, to] = revealFrames(project, shot);
  if (frame < from) return 'none';
  if (frame >= to) return 'all';
  const { angle, feather } = shot.mix;
  const extent = lineExtent(angle, width, height);
  return { kind: 'line', angle, position: (lineAt(project, shot, frame) / 100 - 0.5) * extent, feather: (feather / 100) * height };
}

function layer(project: Project, shot: Shot, use: Shot['before'], frame: Frames, coverage: Coverage | null): LayerDescription | null {
  const take = project.takes.find((t) => t.id === use.takeId);
  const media = project.media.find((m) => m.id === take?.mediaId);
  if (!take || !media) return null;
  const time = takeTimeAt(project, shot, use.sync, frame);
  const { from, to } = footageOf(project, take.id);
  const shown = Math.min(Math.max(time, from), Math.max(from, to - 0.5 / (media.fps || 25)));
  return {
    takeId: take.id,
    mediaId: media.id,
    sourceTime: shown,
    map: sourceMap(project.frame, media, shot.overscan, correctionAt(take.correction, shown)),
    colour: takeToProject(media.colour, inverse(gainsAt(take.correction, shown))),
    coverage,
    opacity: 1,
    blend: 'normal',
  };
}

const inverse = ({ r, g, b }: Gains): Gains => ({ r: 1 / r, g: 1 / g, b: 1 / b });

/** Everything one frame of the film shows. Frames count from song time 0 at the project's rate. Pure: same input, same output. */
export function describeFrame(project: Project, frame: Frames): PictureDescription {
  const picture: PictureDescription = { frame, width: project.frame.width, height: project.frame.height, shotId: null, layers: [] };
  const shot = project.shots.find((s) => {
    const [first, end] = shotFrames(project, s);
    return frame >= first && frame < end;
  });
  if (!shot) return picture;
  picture.shotId = shot.id;
  const coverage = coverageAt(project, shot, frame);
  if (coverage !== 'all') picture.layers.push(...[layer(project, shot, shot.before, frame, null)].filter((l) => l !== null));
  if (coverage !== 'none')
    picture.layers.push(...[layer(project, shot, shot.after, frame, coverage === 'all' ? null : coverage)].filter((l) => l !== null));
  return picture;
}

/** Half of one frame in seconds at a rate: the most an event may be off its anchor. */
export function halfFrame(rate: FrameRate): Seconds {
  return rate.den / rate.num / 2;
}
