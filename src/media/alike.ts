import type { Footage } from '@/core/document';
import {
  type BlockColour,
  blockColours,
  canLock,
  type LightReading,
  LockMeter,
  type LockReading,
  lumaOf,
  makeReference,
  matchTravel,
  NO_MOVE,
  nearestMove,
  readLight,
  summarise,
  type TakeLock,
  type TimeMatch,
} from '@/core/measure';
import { chained, ofMove, type Planes, undone } from '@/core/picture';
import { eachFrame } from './each-frame';
import { openMedia } from './files';
import { FrameReader, planesOf, reduceFor } from './frames';
import { type Baseline, Series } from './series';

/** Frames of the reference that are read against one of them, before the next is taken. */
const KEY = 10;

/** The frames of a take one after another, each until the next is asked for. */
class InOrder {
  private held: { time: number; planes: Planes } | null = null;
  private next: { time: number; planes: Planes } | null = null;
  private over = false;

  private constructor(
    private readonly reader: FrameReader,
    private readonly frames: AsyncGenerator<{ time: number; planes: Planes }>,
  ) {}

  static async open(media: Footage, from: number): Promise<InOrder> {
    const reader = await FrameReader.open(await openMedia(media.id));
    const frames = async function* () {
      for await (const sample of reader.samples(Math.max(media.from, from), media.to)) {
        try {
          yield { time: sample.timestamp, planes: await planesOf(sample, reader, reduceFor(media), true) };
        } finally {
          sample.close();
        }
      }
    };
    return new InOrder(reader, frames());
  }

  /** The frame shown at a moment, not before the one asked for last; null before the first and after the last. */
  async at(time: number): Promise<{ time: number; planes: Planes } | null> {
    while (!this.over && (!this.next || this.next.time <= time)) {
      if (this.next) this.held = this.next;
      const { value, done } = await this.frames.next();
      this.over = done === true;
      this.next = done ? null : value;
    }
    return this.over && this.held && time > this.held.time + 0.1 ? null : this.held;
  }

  async close(): Promise<void> {
    await this.frames.return(undefined);
    this.reader.close();
  }
}

/** What frames around one of the reference are read against. */
interface Key {
  time: number;
  left: number;
  colours: BlockColour[];
  mine: LockMeter;
  theirs: LockMeter;
}

function keyAt({ time, planes }: { time: number; planes: Planes }): Key | null {
  const lock = makeReference([lumaOf(planes)]);
  if (!canLock(lock)) return null;
  return { time, left: KEY, colours: blockColours(lock.fine, planes), mine: new LockMeter(lock), theirs: new LockMeter(lock) };
}

/** The take's frames against those that the reference shows at the matching moments. */
async function readPairs(media: Footage, reference: Footage, match: TimeMatch, tell: (done: number) => unknown) {
  const theirs = await InOrder.open(reference, match.offset + match.rate * media.from - 0.2);
  const readings: LockReading[] = [];
  const lights: (LightReading | null)[] = [];
  let key: Key | null = null;
  let [seen, lies]: [number, LockReading | null] = [Number.NaN, null];
  const times: number[] = [];
  const visit = async (planes: Planes, again: boolean) => {
    if (again) return;
    const other = await theirs.at(match.offset + match.rate * times[times.length - 1]);
    if (other && other.time !== seen) {
      if (!key || --key.left <= 0) key = keyAt(other);
      lies = key && (key.time === other.time ? null : key.theirs.read(lumaOf(other.planes)));
      seen = other.time;
    }
    if (!other || !key || (lies && !lies.trusted)) {
      readings.push({ ...NO_MOVE, trusted: false, inliers: 0, agreeing: [] });
      lights.push(null);
      return;
    }
    const luma = lumaOf(planes);
    const reading = key.mine.read(luma);
    const whole = lies ? chained(ofMove(reading), undone(ofMove(lies))) : ofMove(reading);
    readings.push({ ...reading, ...nearestMove(whole, luma.width, luma.height) });
    lights.push(reading.trusted ? readLight(key.mine.reference.fine, key.colours, reference.colour, planes, media.colour, reading) : null);
  };
  try {
    await eachFrame(media, reduceFor(media), (p) => tell(0.5 + 0.5 * p), visit, times);
  } finally {
    await theirs.close();
  }
  return { times, readings, lights };
}

/**
 * A take whose camera moves as it does in its reference (a slider, a motorised dolly), frame by frame against the moments of the
 * reference that pass the same places. `first` is the reference's first second, `still` are its readings against the reference's first second. Null where no such moments are found.
 */
export async function readAlike(
  media: Footage,
  reference: Footage,
  first: Baseline,
  still: TakeLock,
  tell: (done: number) => unknown,
): Promise<TakeLock | null> {
  const path = new Series(first, [], []);
  const times = await eachFrame(
    reference,
    reduceFor(reference),
    (p) => tell(0.5 * p),
    (planes) => path.read(planes, reference),
  );
  const theirs = path.done(times, reference);
  const match = theirs.travel && matchTravel(still, theirs, Math.hypot(media.width, media.height) / 2);
  if (!match) return null;
  const { times: mine, readings, lights } = await readPairs(media, reference, match, tell);
  const reduce = reduceFor(media);
  const scaled = readings.map((r) => ({ ...r, dx: r.dx * reduce, dy: r.dy * reduce }));
  // A frame more or less of the move is no knock; those are told against the take's own way.
  return { ...summarise(mine, scaled, lights, media.width, media.height), bumps: [], match };
}
