import type { Footage } from '@/core/document';
import {
  CROSSING_WIDTH,
  type Crossing,
  canLock,
  FALL_CELLS,
  fallPath,
  fallProfile,
  findCrossing,
  findWhips,
  type LightReading,
  type LockReading,
  type Luma,
  lumaOf,
  type PictureStep,
  pictureStep,
  type Quality,
  QualityMeter,
  type QualitySeries,
  shrink,
  type TakeLock,
  type Thrown,
  toldBy,
  WHIP_WIDTH,
} from '@/core/measure';
import type { MeasuredFall } from '@/core/moves';
import { boxPlane, type Planes } from '@/core/picture';
import { say } from '@/core/words';
import { readAlike } from './alike';
import { eachFrame } from './each-frame';
import { reduceFor } from './frames';
import { concat, Parts } from './resumable';
import { baseline, elsewhere, handMap, Series } from './series';
import { tonesOf } from './tones';

export interface TakeMeasurement {
  own: TakeLock | null;
  against: TakeLock | null;
  /** Why a figure is missing. */
  reason: string;
  frames: number;
  /** Sharpness, clipping, noise, repeated frames. */
  quality: Quality | null;
  /** What falls straight down, seen in the same pass. */
  fall: SeenFall | null;
}

/** A measured fall and how much of all falling movement lies near its path, 0..1. */
export type SeenFall = MeasuredFall & { cover: number };

/** What a measure has gathered of a stretch of frames, so that it goes on after an interruption. */
export interface TakeReadings extends QualitySeries {
  times: number[];
  own: LockReading[];
  ownLight: (LightReading | null)[];
  other: LockReading[];
  otherLight: (LightReading | null)[];
  falling: Float32Array[];
}

/**
 * Measures every frame of a take against its own first second and, when given, against the first second of another. `begun` is what
 * an earlier, interrupted run kept; what is gathered since is handed to `keep` every few seconds.
 */
export async function measureTake(
  media: Footage,
  reference: Footage | null,
  begun: readonly TakeReadings[],
  keep: (part: TakeReadings) => void,
  onProgress: (done: number) => unknown,
): Promise<TakeMeasurement> {
  const own = await baseline(media);
  const none = { own: null, against: null, frames: 0, quality: null, fall: null };
  if (!canLock(own.lock))
    return {
      ...none,
      reason: say`The background has too little texture to follow (a blank wall, darkness or blur). No figure is given. Put something patterned at the edge of the frame.`,
    };
  const sameSize = reference && reference.width === media.width && reference.height === media.height;
  const other = sameSize ? await baseline(reference) : null;
  const seen = concat(NO_READINGS, begun);
  const series = [new Series(own, seen.own, seen.ownLight)];
  const from = other && canLock(other.lock) ? await elsewhere(other, own, handMap(media, reference)) : null;
  if (other && canLock(other.lock)) series.push(new Series(from?.seen ?? other, seen.other, seen.otherLight, from?.lie));
  const falling = new FallWatch(0, seen.falling);
  const quality = new QualityMeter(seen);
  const parts = new Parts(seen, keep);
  const visit = async (planes: Planes, again: boolean) => {
    falling.see(planes, again);
    if (again) {
      quality.see(lumaOf(planes));
      for (const s of series) s.again(planes, media);
      return;
    }
    for (const s of series) await s.read(planes, media);
    quality.read(lumaOf(planes));
    parts.offer();
  };
  await eachFrame(media, reduceFor(media), onProgress, visit, seen.times);
  const { times } = seen;
  const [ownLock, still] = series.map((s) => s.done(times, media));
  // A camera that moves is compared with the other's moments; where there are none, with its first second as long as that is in sight.
  const alike = ownLock.travel && reference && other && still ? await readAlike(media, reference, other, still, onProgress) : null;
  const followed = still && (!still.travel || still.trusted >= 0.5) ? { ...still, travel: null } : undefined;
  const againstLock = alike ?? followed;
  const tones = other && againstLock?.light && !alike ? await tonesOf(media, other, againstLock) : null;
  const reason =
    reference && !sameSize
      ? say`The two takes differ in size (${media.width}×${media.height} and ${reference.width}×${reference.height}), so they cannot be laid over each other to measure.`
      : ownLock.travel && reference && !againstLock
        ? say`The camera moves in this take, and ${reference.name} holds no such move at places that both pass, so the two cannot be laid over each other.`
        : '';
  return {
    own: tones && ownLock ? toldBy(ownLock, tones.transfer, null) : ownLock,
    against: tones && againstLock ? toldBy(againstLock, tones.transfer, tones.curves) : (againstLock ?? null),
    reason,
    frames: times.length,
    quality: quality.done(times),
    fall: falling.done(times),
  };
}

const NO_READINGS: TakeReadings = {
  times: [],
  own: [],
  ownLight: [],
  other: [],
  otherLight: [],
  falling: [],
  details: [],
  blown: [],
  drowned: [],
  noises: [],
  moves: [],
};

/** Gathers movement along one direction, frame by frame, into `profiles`, which may hold earlier frames already. */
class FallWatch {
  private before: Luma | null = null;

  constructor(
    private readonly angle: number,
    private readonly profiles: Float32Array[] = [],
  ) {}

  /** Sees the next frame; `again` when its profile is there already. */
  see(planes: Planes, again: boolean): void {
    const small = shrink(lumaOf(planes), Math.max(1, Math.round(planes.width / 320)));
    if (!again) this.profiles.push(this.before ? fallProfile(this.before, small, this.angle) : new Float32Array(FALL_CELLS));
    this.before = small;
  }

  done(times: readonly number[]): SeenFall | null {
    const path = fallPath(this.profiles);
    return path && { from: times[path.from], to: times[path.to], position: path.position, cover: path.cover };
  }
}

/** Finds what falls (or sweeps) along a direction in a take. Null when nothing clearly does. */
export async function measureFall(media: Footage, angle: number, onProgress: (done: number) => unknown): Promise<SeenFall | null> {
  const watch = new FallWatch(angle);
  return watch.done(await eachFrame(media, reduceFor(media), onProgress, (planes, again) => watch.see(planes, again)));
}

/** Seconds beyond which fewer frames a second are looked at for what crosses, so that a long take stays small in memory. */
const LOOKED_AT_WHOLE = 120;

/** Finds what crosses the lens in a take whose camera stands still. Null when nothing does. */
export async function measureCrossing(media: Footage, onProgress: (done: number) => unknown): Promise<Crossing | null> {
  const every = Math.max(1, Math.ceil((media.to - media.from) / LOOKED_AT_WHOLE));
  const frames: Luma[] = [];
  let n = 0;
  const times = await eachFrame(media, reduceFor(media), onProgress, (planes) => {
    if (n++ % every === 0) frames.push(shrink(lumaOf(planes), Math.max(1, Math.round(planes.width / CROSSING_WIDTH))));
  });
  return findCrossing(
    frames,
    times.filter((_, i) => i % every === 0),
  );
}

/** A picture some pixels across, every one of which is the mean of what it stands for. */
function averaged({ width, height, data }: Luma, across: number): Luma {
  const by = Math.max(1, Math.round(width / across));
  const [w, h] = [Math.floor(width / by), Math.floor(height / by)];
  const out = new Uint8Array(w * h);
  boxPlane(data, width, by, out, w, h);
  return { width: w, height: h, data: out };
}

/** Finds where the camera is thrown round in a take, in order. */
export async function measureWhips(media: Footage, onProgress: (done: number) => unknown): Promise<Thrown[]> {
  const steps: PictureStep[] = [];
  let before: Luma | null = null;
  const times = await eachFrame(media, reduceFor(media), onProgress, (planes) => {
    const small = averaged(lumaOf(planes), WHIP_WIDTH);
    if (before) steps.push(pictureStep(before, small));
    before = small;
  });
  return findWhips(steps, times);
}
