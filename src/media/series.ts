import { type Footage, type Media, pointsOn } from '@/core/document';
import {
  type BlockColour,
  bestLie,
  blockColours,
  canLock,
  cornerMove,
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
  readLight,
  referenceThrough,
  type Similarity,
  summarise,
  type TakeLock,
} from '@/core/measure';
import { chained, cornersApart, enlarged, type Homography, meanPlanes, ofMove, type Planes, seenThrough, undone } from '@/core/picture';
import { say } from '@/core/words';
import { openMedia } from './files';
import { FrameReader, planesOf, reduceFor } from './frames';
import { vision } from './vision';

/** A take's first second as what other frames are compared with. */
export interface Baseline {
  /** Mean of what was looked at. */
  planes: Planes;
  lock: LockReference;
  colours: BlockColour[];
  media: Media;
}

export async function baseline(media: Footage): Promise<Baseline> {
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
  if (kept.length === 0) throw new Error(say`“${media.name}” holds no frame in its first second.`);
  const lock = makeReference(kept.map(lumaOf));
  return { planes: meanPlanes(kept), lock, colours: meanColours(kept.map((p) => blockColours(lock.fine, p))), media };
}

/** How a take lies over its reference where it was filmed from elsewhere, and the reference as it is seen from there. */
export interface Elsewhere {
  lie: Pick<Lie, 'map' | 'move'>;
  seen: Baseline;
}

/** The map of the points set by hand on measured (perhaps reduced) pictures; null where there are none for this reference. */
export function handMap(media: Footage, reference: Footage | null): Homography | null {
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
export async function elsewhere(reference: Baseline, own: Baseline, byHand: Homography | null): Promise<Elsewhere | null> {
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

/** Part of the width that a camera goes until it is followed from where it is then, and frames in which it goes on evenly before. */
const LEFT = 0.12;
const RECENT = 8;

/** Whether the camera moves out of what it is compared with: far from there, and frame by frame, not by a knock. */
function leaves(recent: readonly LockReading[], { width, height }: Luma): boolean {
  if (recent.length <= RECENT || cornerMove(recent[RECENT], width, height) < LEFT * width) return false;
  const steps = recent
    .slice(1)
    .map((r, i) => Math.hypot(r.dx - recent[i].dx, r.dy - recent[i].dy, ((r.scale - recent[i].scale) * width) / 2));
  return steps.every((step) => step > 0.0002 * width && step < 0.03 * width);
}

/** One series of readings in the making. */
export class Series {
  private meter: LockMeter;
  /** What is followed now: the baseline, or as it is seen from where the camera was put down again. */
  private seen: Baseline;
  private moved: Homography | null = null;
  private lost = 0;
  private tries = 0;
  /** Whether the camera has left the first picture behind, so that the light is no longer compared with it. */
  private travelled = false;
  /** The last moves against what is followed, while they come one after another. */
  private recent: LockReading[] = [];

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
    const { moved, seen, travelled } = this;
    this.readings.push(moved ? goneOn(reading, moved, luma) : reading);
    const light = reading.trusted && !travelled;
    this.lights.push(light ? readLight(seen.lock.fine, seen.colours, seen.media.colour, planes, media.colour, reading) : null);
    this.recent = reading.trusted ? [...this.recent.slice(-RECENT), reading] : [];
    if (leaves(this.recent, luma)) this.goOnFrom(planes, luma, reading, media);
  }

  /** Takes up what was interrupted: `planes` is the last frame that was seen. */
  again(planes: Planes, media: Media): void {
    const luma = lumaOf(planes);
    const last = this.readings.at(-1);
    if (last?.trusted && Math.hypot(last.dx, last.dy) > LEFT * luma.width) this.goOnFrom(planes, luma, last, media, null);
  }

  /** Follows from this frame on, which lies by `reading` in what was followed so far. */
  private goOnFrom(planes: Planes, luma: Luma, reading: LockReading, media: Media, before = this.moved): void {
    const lock = makeReference([luma]);
    if (!canLock(lock)) return;
    this.moved = before ? chained(ofMove(reading), before) : ofMove(reading);
    this.seen = { planes, lock, colours: blockColours(lock.fine, planes), media };
    this.meter = new LockMeter(lock);
    this.travelled = true;
    this.recent = [];
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
