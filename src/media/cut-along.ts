import {
  ALL_FORMATS,
  BufferSource,
  BufferTarget,
  canEncodeVideo,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  Input,
  Mp4OutputFormat,
  Output,
  VideoSampleSource,
} from 'mediabunny';
import type { Stroke } from '@/core/document';
import {
  type BackingColour,
  type Box,
  backingColour,
  boxAround,
  brush,
  type CleanPlate,
  chosenFigure,
  colourKey,
  cutOut,
  cutOutWithin,
  grow,
  laidStrokes,
  lasso,
  type Mask,
  type Matte,
  makeBackdrop,
  type PatchPose,
  packed,
  personMatte,
  resized,
  SteadyMatte,
  StrokeFollower,
  type Strokes,
  smearOf,
  strokePieces,
  withStrokes,
} from '@/core/measure';
import { greyPlanes, type Planes, reducedPlanes, toRgba } from '@/core/picture';
import { say } from '@/core/words';
import { type AlignedTake, alignedOn, laidFrames } from './align';
import type { PersonMap } from './cut-out';
import { openMedia } from './files';
import { FrameReader, planesOf, reduceFor } from './frames';
import { madeFrame } from './made-frame';
import type { Picture } from './picture';
import { masksAt, type OccupancyTrack } from './set-up';

/** What was painted on a frame, and how it goes along until the next that was painted on. */
export interface CarriedCorrection {
  time: number;
  strokes: Stroke[];
  /** Seconds of the take's frames from there on, and where each piece of it lies in them. */
  times: number[];
  poses: (PatchPose | null)[][];
}

/** How one stretch of a take is cut out. */
export interface CutAsk {
  take: AlignedTake;
  way: 'set' | 'key' | 'person';
  /** The empty set, and where the figure is: for cutting out by the set. */
  plate: CleanPlate | null;
  occupancy: OccupancyTrack | null;
  /** Whether only what the occupancy shows belongs to the figure: one of several is meant. */
  only: boolean;
  backing: BackingColour | null;
  /** 0..1. */
  tolerance: number;
  corrections: readonly CarriedCorrection[];
}

/** A stretch of a grey film: an MP4 file's bytes, its seconds counted from the take's first on. */
export interface MattePart {
  bytes: Uint8Array;
  frames: number;
}

const SAYS = { figure: 1, set: 2, measured: 0 } as const;

/** Paints strokes as they are kept, per cent of the picture, as they are used: a value for each pixel. */
function painted(strokes: readonly Stroke[], width: number, height: number): Strokes {
  const out = new Uint8Array(width * height);
  for (const { by, says, radius, points } of strokes) {
    const line = points.map(([x, y]): [number, number] => [(x * width) / 100, (y * height) / 100]);
    if (by === 'brush') brush(out, width, height, line, (radius * height) / 100, SAYS[says]);
    else lasso(out, width, height, line, SAYS[says]);
  }
  return out;
}

/** Frames of a take as they lie on its reference, in order, from a second on; valid until the next. */
async function* laid(
  take: AlignedTake,
  plate: CleanPlate | null,
  from: number,
  to: number,
): AsyncGenerator<{ planes: Planes; time: number }> {
  const reader = await FrameReader.open(await openMedia(take.media.id));
  const reduce = reduceFor(take.media);
  try {
    for await (const sample of reader.samples(from, to)) {
      try {
        const planes = await planesOf(sample, reader, reduce, false);
        const { timestamp: time } = sample;
        yield { planes: take.correction || plate ? alignedOn(planes, take, time, reduce, plate?.planes ?? null) : planes, time };
      } finally {
        sample.close();
      }
    }
  } finally {
    reader.close();
  }
}

/** The colour of a take's blue or green backing; throws a sentence where there is none. */
export async function backingOf(take: AlignedTake): Promise<BackingColour> {
  const { from, to } = take.media;
  const frames = await laidFrames(
    take,
    [0.1, 0.3, 0.5, 0.7, 0.9].map((k) => from + k * (to - from)),
    reduceFor(take.media),
    null,
    true,
  );
  const found = frames.map((frame) => backingColour(frame)).filter((c) => c !== null);
  if (found.length === 0)
    throw new Error(say`There is no blue or green backing in this take: nothing of that colour covers a tenth of its picture.`);
  return found.sort((a, b) => a.u - b.u)[found.length >> 1];
}

/** One figure among several over a take; a place in per cent of the picture. */
export function onlyChosen(occupancy: OccupancyTrack, at: { time: number; x: number; y: number }): OccupancyTrack {
  const { width, height, times } = occupancy;
  const masks = masksAt(occupancy, times).map((m) => m.figure);
  const later = times.findIndex((t) => t > at.time + 1e-4);
  const frame = Math.max(0, (later < 0 ? times.length : later) - 1);
  const chosen = chosenFigure(masks, frame, (at.x * width) / 100, (at.y * height) / 100);
  if (!chosen[frame])
    throw new Error(say`Nobody was told apart from the set where you pressed. Press on the figure itself, on a frame that shows it.`);
  return { ...occupancy, figure: chosen.map((mask) => mask && packed(mask)) };
}

/** How what was painted on a frame goes along with the picture until `until`. */
export async function carryAlong(
  take: AlignedTake,
  { time, strokes }: Pick<CarriedCorrection, 'time' | 'strokes'>,
  until: number,
  onProgress: (done: number) => void,
): Promise<CarriedCorrection> {
  const out: CarriedCorrection = { time, strokes, times: [], poses: [] };
  let follower: StrokeFollower | null = null;
  for await (const { planes, time: at } of laid(take, null, time, until)) {
    if (at >= until - 1e-4) break;
    if (!follower) {
      const pieces = strokePieces(painted(strokes, planes.width, planes.height), planes.width, planes.height);
      follower = new StrokeFollower(planes, pieces);
      out.poses.push(pieces.map(({ x, y }) => ({ x, y, turn: 0, scale: 1 })));
    } else out.poses.push(follower.next(planes));
    out.times.push(at);
    onProgress(Math.min(1, (at - time) / Math.max(0.04, until - time)));
    if (out.poses[out.poses.length - 1].every((p) => p === null)) break;
  }
  return out;
}

/** What is painted on each frame of a stretch. */
class Corrections {
  private readonly pieces = new Map<CarriedCorrection, ReturnType<typeof strokePieces>>();

  constructor(private readonly corrections: readonly CarriedCorrection[]) {}

  at(time: number, { width, height }: Planes): Strokes | null {
    const own = this.corrections.findLast((c) => c.time <= time + 1e-4);
    if (!own) return null;
    const frame = own.times.findIndex((t) => Math.abs(t - time) < 1e-4);
    if (frame < 0) return null;
    const known = this.pieces.get(own) ?? strokePieces(painted(own.strokes, width, height), width, height);
    this.pieces.set(own, known);
    return laidStrokes(known, own.poses[frame], width, height);
  }
}

/** How a frame is cut out, by the way that was asked for. */
type Cut = (frame: Planes, time: number, strokes: Strokes | null) => Promise<Matte>;

/** Grid pixels beyond which what lies near a chosen figure is not its own. */
const BESIDE = 3;

function bySet({ plate, occupancy, only }: CutAsk): Cut {
  if (!plate || !occupancy) throw new Error(say`The empty set is missing.`);
  const backdrop = makeBackdrop(plate, 1);
  const { times, width } = occupancy;
  const own = plate.planes.width / width;
  return async (frame, time, strokes) => {
    const at = Math.max(
      0,
      times.findLastIndex((t) => t <= time + 1e-4),
    );
    const masks = [times[at - 1] ?? time, times[at] ?? time, times[at + 1] ?? time].map((t) => masksAt(occupancy, [t])[0]?.figure ?? null);
    const [before, now, after] = masks;
    const smear = before && now && after && at > 0 && at + 1 < times.length ? smearOf(before, now, after, 0.5) : { dx: 0, dy: 0 };
    const box = boxFor(masks, strokes, frame, own);
    const options = { blur: { dx: smear.dx * own, dy: smear.dy * own }, strokes };
    const matte = box ? cutOutWithin(frame, backdrop, box, options) : cutOut(frame, backdrop, options);
    return only ? within(matte, now, strokes) : matte;
  };
}

/** Room around where a figure was seen on the coarse grid, as a share of the frame's height. */
const ROOM = 0.14;

/** Where in a frame somebody can be: around where they are seen on the grid now, a frame before and after; null where that could not be told. */
function boxFor(masks: readonly (Mask | null)[], strokes: Strokes | null, { width, height }: Planes, by: number): Box | null {
  const [before, now, after] = masks;
  if (!now || strokes) return null;
  const seen = boxAround([now.data, before?.data ?? null, after?.data ?? null], now.width, now.height, Math.ceil(ROOM * now.height));
  if (!seen) return null;
  // In fours, which the compiled passes go through at once.
  const four = (v: number) => Math.floor(v) & ~3;
  const [left, top] = [four(seen.left * by), four(seen.top * by)];
  const reach = (from: number, length: number, most: number) => Math.min((most - from) & ~1, four(length * by + 7));
  return { left, top, width: reach(left, seen.width, width), height: reach(top, seen.height, height) };
}

/** A matte with nothing but what lies on a mask or right beside it; what was painted stands. */
function within(matte: Matte, mask: Mask | null, strokes: Strokes | null): Matte {
  const { width, height } = matte;
  const near = mask && grow(mask, BESIDE);
  const alpha = matte.alpha.map((a, i) => {
    if (strokes?.[i] === 1) return a;
    const [x, y] = [i % width, Math.floor(i / width)];
    const on = near?.data[Math.floor((y * near.height) / height) * near.width + Math.floor((x * near.width) / width)];
    return on ? a : 0;
  });
  return { width, height, alpha };
}

function byKey({ backing, tolerance }: CutAsk): Cut {
  if (!backing) throw new Error(say`The colour of the backing is not known.`);
  return async (frame, _, strokes) => {
    const matte = colourKey(frame, backing, tolerance);
    withStrokes(matte.alpha, strokes, 255);
    return matte;
  };
}

/** Width of the picture that a person is looked for in. */
const SEEN_AT = 640;

function byPerson(find: (picture: Picture) => Promise<PersonMap>): Cut {
  return async (frame, _, strokes) => {
    const small = reducedPlanes(frame, Math.max(1, Math.floor(frame.width / SEEN_AT)));
    const rgba = new Uint8ClampedArray(4 * small.width * small.height);
    toRgba(small, rgba);
    const { width, height, sure } = await find({ width: small.width, height: small.height, rgba });
    return personMatte(
      frame,
      resized(sure, width, height, frame.width, frame.height).map((v) => v / 255),
      strokes,
    );
  };
}

/** Bits a second of a grey film. */
const bitrateOf = (width: number, height: number, fps: number) => Math.round(Math.min(20e6, Math.max(1e6, width * height * fps * 0.2)));
/** Frames before a stretch that are worked out with it, so that it begins as the one before it ends. */
const LEAD = 2;

/**
 * Cuts a stretch of a take out, `from` and `to` seconds of its file, frame by frame at its full size (large pictures at half), even where
 * nothing moves, as a piece of a grey film. `find` finds a person in a picture.
 */
export async function cutStretch(
  ask: CutAsk,
  from: number,
  to: number,
  find: (picture: Picture) => Promise<PersonMap>,
  onProgress: (done: number) => void,
): Promise<MattePart> {
  const { take, way, plate } = ask;
  const begins = take.media.from;
  const fps = take.media.fps || 25;
  const cut = way === 'set' ? bySet(ask) : way === 'key' ? byKey(ask) : byPerson(find);
  const corrections = new Corrections(ask.corrections);
  const steady = new SteadyMatte();
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target });
  let film: { source: VideoSampleSource; bytes: Uint8Array<ArrayBuffer> } | null = null;
  let frames = 0;
  for await (const { planes, time } of laid(take, way === 'set' ? plate : null, Math.max(begins, from - LEAD / fps), to)) {
    if (time >= to - 1e-4) break;
    const matte = steady.next(await cut(planes, time, corrections.at(time, planes)), planes);
    if (time < from - 1e-4) continue;
    const { width, height } = matte;
    if (!film) {
      const codec = (await canEncodeVideo('avc', { width, height })) ? 'avc' : 'vp9';
      const source = new VideoSampleSource({ codec, bitrate: bitrateOf(width, height, fps), keyFrameInterval: 1, latencyMode: 'quality' });
      output.addVideoTrack(source);
      await output.start();
      film = { source, bytes: new Uint8Array((width * height * 3) / 2) };
    }
    greyPlanes(matte.alpha, width, height, film.bytes);
    const sample = madeFrame(film.bytes, width, height, time - begins, 1 / fps);
    await film.source.add(sample);
    sample.close();
    frames++;
    onProgress(Math.min(1, (time - from) / (to - from)));
  }
  if (!film) return { bytes: new Uint8Array(0), frames: 0 };
  await output.finalize();
  return { bytes: new Uint8Array(target.buffer as ArrayBuffer), frames };
}

/** Puts the stretches of a grey film together, their pictures as they are. */
export async function joinStretches(parts: readonly MattePart[]): Promise<{ file: Blob; width: number; height: number; duration: number }> {
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target });
  let source: EncodedVideoPacketSource | null = null;
  let [width, height, duration] = [0, 0, 0];
  for (const { bytes, frames } of parts) {
    if (frames === 0) continue;
    const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(bytes) });
    try {
      const track = await input.getPrimaryVideoTrack();
      const codec = track?.codec;
      const decoderConfig = await track?.getDecoderConfig();
      if (!track || !codec || !decoderConfig) throw new Error(say`A part of the cut-out could not be read again. Work it out anew.`);
      if (!source) {
        source = new EncodedVideoPacketSource(codec);
        output.addVideoTrack(source);
        await output.start();
        [width, height] = [track.displayWidth, track.displayHeight];
      }
      for await (const packet of new EncodedPacketSink(track).packets()) {
        await source.add(packet, { decoderConfig });
        duration = Math.max(duration, packet.timestamp + packet.duration);
      }
    } finally {
      input.dispose();
    }
  }
  if (!source) throw new Error(say`This take holds no picture to cut out.`);
  await output.finalize();
  return { file: new Blob([target.buffer as ArrayBuffer], { type: 'video/mp4' }), width, height, duration };
}
