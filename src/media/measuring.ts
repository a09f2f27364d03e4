import { type Footage, type Media, pointsOn } from '@/core/document';
import { correctionFrom } from '@/core/edit';
import { gainsAt } from '@/core/evaluate';
import {
  type BlockColour,
  bestLie,
  blockColours,
  canLock,
  cornerMove,
  curvesThrough,
  FALL_CELLS,
  fallPath,
  fallProfile,
  type Lie,
  type LightReading,
  LockMeter,
  type LockReading,
  type LockReference,
  type Luma,
  lumaOf,
  makeReference,
  mapOfPoints,
  meanColours,
  nearestMove,
  type Quality,
  QualityMeter,
  type QualitySeries,
  readLight,
  referenceThrough,
  type Similarity,
  shrink,
  summarise,
  type TakeLock,
  ToneLevels,
  toldBy,
  transferOf,
} from '@/core/measure';
import type { MeasuredFall } from '@/core/moves';
import {
  chained,
  cornersApart,
  enlarged,
  type Homography,
  meanPlanes,
  ofMove,
  type Planes,
  recoloured,
  seenThrough,
  takeToProject,
  undone,
} from '@/core/picture';
import { alignedOn, framesAt } from './align';
import { openMedia } from './files';
import { FrameReader, planesOf, reduceFor } from './frames';
import { concat, Parts } from './resumable';
import { vision } from './vision';

/** A take's first second as what other frames are compared with. */
interface Baseline {
  /** Mean of what was looked at. */
  planes: Planes;
  lock: LockReference;
  colours: BlockColour[];
  media: Media;
}

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

async function baseline(media: Footage): Promise<Baseline> {
  const reader = await FrameReader.open(await openMedia(media.id));
  const kept: Planes[] = [];
  const step = Math.max(1, Math.round((media.fps || 25) / 8));
  try {
    let n = 0;
    for await (const sample of reader.samples(media.from, Math.min(media.to, media.from + 1))) {
      try {
        if (n++ % step === 0 && kept.length < 9) kept.push(await planesOf(sample, reader, reduceFor(media), true));
      } finally {
        sample.close();
      }
    }
  } finally {
    reader.close();
  }
  if (kept.length === 0) throw new Error(`“${media.name}” holds no frame in its first second.`);
  const lock = makeReference(kept.map(lumaOf));
  return { planes: meanPlanes(kept), lock, colours: meanColours(kept.map((p) => blockColours(lock.fine, p))), media };
}

/** How a take lies over its reference where it was filmed from elsewhere, and the reference as it is seen from there. */
interface Elsewhere {
  lie: Pick<Lie, 'map' | 'move'>;
  seen: Baseline;
}

/** The map of the points set by hand on measured (perhaps reduced) pictures; null where there are none for this reference. */
function handMap(media: Footage, reference: Footage | null): Homography | null {
  const pairs = pointsOn(media, reference);
  const map = pairs && mapOfPoints(pairs.map(([x, y, u, v]) => ({ x, y, dx: u - x, dy: v - y })));
  return map && enlarged(map, 1 / reduceFor(media));
}

/** A map as a shift, a turn and a scale, where it is one. */
function moveOf(map: Homography, { width, height }: Luma): Similarity | null {
  const move = nearestMove(map, width, height);
  return cornersApart(ofMove(move), map, width, height) <= STILL ? move : null;
}

/** What is let pass as standing still: half a pixel at the corner. */
const STILL = 0.5;
/** Moves that blocks can be followed through as they are: turns of degrees and scales of per cents leave too little alike. */
const small = ({ turn, scale }: Similarity) => Math.abs(turn) < 1 && Math.abs(scale - 1) < 0.01;

/**
 * Looks whether a take was filmed from elsewhere than its reference, so that its first second has to be laid over the reference's before it
 * can be followed: by points set by hand, from where it is found, or by what is alike in both wherever it lies. Null where nothing of
 * that is needed, or nothing is alike.
 */
async function elsewhere(reference: Baseline, own: Baseline, byHand: Homography | null): Promise<Elsewhere | null> {
  const { picture } = own.lock;
  const near = new LockMeter(reference.lock).read(picture);
  if (!byHand && near.trusted && cornerMove(near, picture.width, picture.height) <= STILL) return null;
  const known = byHand ?? (near.trusted ? ofMove(near) : null);
  const guesses = known ? [known] : await vision((api) => api.featureGuesses(reference.lock.picture, picture) as Promise<Homography[]>);
  const found = bestLie(reference.lock.picture, picture, guesses);
  // Points set by hand hold also where nothing can be followed from one to the other: then the take is followed by itself.
  if (!found) return byHand && { lie: { map: byHand, move: moveOf(byHand, picture) }, seen: own };
  if (near.trusted && near.inliers > 0.45 && found.move && small(found.move)) return null;
  return { lie: found, seen: seenFrom(reference, found.map) };
}

/** A baseline as it is seen in a picture that it lies in by `map`. */
function seenFrom({ planes, lock, media }: Baseline, map: Homography): Baseline {
  const seen = seenThrough(planes, undone(map));
  const moved = referenceThrough(lock.picture, map);
  return { planes: seen, lock: moved, colours: blockColours(moved.fine, seen), media };
}

/** A reading against what was seen through `map`, as one against what it was before. */
const goneOn = (reading: LockReading, map: Homography, { width, height }: { width: number; height: number }): LockReading => ({
  ...reading,
  ...nearestMove(chained(ofMove(reading), map), width, height),
});

/** Frames in a row that cannot be followed until the take is looked for anew; four times as many before each next time. */
const LOST = 12;
/** Times that it is looked for at most. */
const TRIES = 4;

/** One series of readings in the making. */
class Series {
  private meter: LockMeter;
  /** What is followed now: the baseline, or as it is seen from where the camera was put down again. */
  private seen: Baseline;
  private moved: Homography | null = null;
  private lost = 0;
  private tries = 0;

  constructor(
    private readonly base: Baseline,
    private readonly readings: LockReading[],
    private readonly lights: (LightReading | null)[],
    private readonly lie: Elsewhere['lie'] | null = null,
  ) {
    this.seen = base;
    this.meter = new LockMeter(base.lock);
  }

  async read(planes: Planes, media: Media): Promise<void> {
    const luma = lumaOf(planes);
    let reading = this.meter.read(luma);
    this.lost = reading.trusted ? 0 : this.lost + 1;
    if (this.tries < TRIES && this.lost === LOST * 4 ** this.tries && (await this.lookedFor(luma))) reading = this.meter.read(luma);
    const { moved, seen } = this;
    this.readings.push(moved ? goneOn(reading, moved, luma) : reading);
    this.lights.push(reading.trusted ? readLight(seen.lock.fine, seen.colours, seen.media.colour, planes, media.colour, reading) : null);
  }

  /** Looks for the baseline in a frame wherever it may lie: the camera may have been lifted and put down elsewhere. */
  private async lookedFor(frame: Luma): Promise<boolean> {
    this.tries++;
    const { picture } = this.base.lock;
    // A camera that is still in the hand is looked for again later.
    const guesses = await vision((api) => api.featureGuesses(picture, frame) as Promise<Homography[]>).catch(() => []);
    const found = bestLie(picture, frame, guesses);
    if (!found) return false;
    this.moved = found.map;
    this.seen = seenFrom(this.base, found.map);
    this.meter = new LockMeter(this.seen.lock);
    this.lost = 0;
    return true;
  }

  done(times: number[], media: Media): TakeLock {
    // Reduced pictures are measured in reduced pixels; figures are given in the take's own.
    const reduce = reduceFor(media);
    const { lie } = this;
    // Where the reference was moved to be followed, the readings go on from there.
    const whole = lie?.move ? this.readings.map((r) => goneOn(r, lie.map, media)) : this.readings;
    const scaled = whole.map((r) => ({ ...r, dx: r.dx * reduce, dy: r.dy * reduce }));
    return summarise(times, scaled, this.lights, media.width, media.height, lie && !lie.move ? enlarged(lie.map, reduce) : null);
  }
}

/**
 * Shows `visit` every frame of a take in order, valid only during the call, and returns the frames' times. Tells how far it is six
 * times a second, and waits for the answer. With the times of frames seen before an interruption it goes on from there: the last of them is shown first, `again`.
 */
export async function eachFrame(
  media: Footage,
  reduce: number,
  onProgress: (done: number) => unknown,
  visit: (planes: Planes, again: boolean) => unknown,
  times: number[] = [],
): Promise<number[]> {
  const reader = await FrameReader.open(await openMedia(media.id));
  const seen = times[times.length - 1] ?? Number.NEGATIVE_INFINITY;
  let told = 0;
  try {
    for await (const sample of reader.samples(Math.max(media.from, seen), media.to)) {
      try {
        const again = sample.timestamp <= seen + 1e-6;
        if (!again) times.push(sample.timestamp);
        await visit(await planesOf(sample, reader, reduce, false), again);
      } finally {
        sample.close();
      }
      if (performance.now() - told > 150) {
        // Whoever is told may let the work wait: while the film plays the machine is the player's.
        await onProgress(Math.min(1, (sample.timestamp - media.from) / (media.to - media.from)));
        told = performance.now();
      }
    }
  } finally {
    reader.close();
  }
  return times;
}

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
      reason:
        'The background has too little texture to follow (a blank wall, darkness or blur). No figure is given. Put something patterned at the edge of the frame.',
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
      return;
    }
    for (const s of series) await s.read(planes, media);
    quality.read(lumaOf(planes));
    parts.offer();
  };
  await eachFrame(media, reduceFor(media), onProgress, visit, seen.times);
  const { times } = seen;
  const [ownLock, againstLock] = series.map((s) => s.done(times, media));
  const tones = other && againstLock?.light ? await tonesOf(media, other, againstLock) : null;
  const reason =
    reference && !sameSize
      ? `The two takes differ in size (${media.width}×${media.height} and ${reference.width}×${reference.height}), so they cannot be laid over each other to measure.`
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

/** Frames of a take by which its tones are compared. */
const TONE_FRAMES = 9;

/** How a take's tones lie against its reference's once it is laid on it and its gains are taken out, and the tone curve they tell of. */
async function tonesOf(media: Footage, { planes, media: { colour } }: Baseline, lock: TakeLock) {
  const correction = correctionFrom(lock, '');
  const reference = recoloured(planes, takeToProject(colour, { r: 1, g: 1, b: 1 }));
  const seen = lock.times.filter((_, i) => lock.readings[i].trusted);
  const times = [...new Set(Array.from({ length: TONE_FRAMES }, (_, k) => seen[Math.floor(((k + 0.5) / TONE_FRAMES) * seen.length)]))];
  if (seen.length === 0) return null;
  const levels = new ToneLevels();
  const take = { media, correction };
  const reduce = reduceFor(media);
  const look = (frame: Planes, time: number) =>
    levels.see(reference, alignedOn(frame, take, time, reduce, null), gainsAt(correction, time));
  await framesAt(take, times, reduce, look, true);
  const found = levels.levels();
  return { curves: curvesThrough(found), transfer: transferOf(found, (lock.light as NonNullable<TakeLock['light']>).gains) };
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
