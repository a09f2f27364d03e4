import type { Footage } from '@/core/document';
import { type Luma, lumaOf, PointTracker, type TrackedPoint } from '@/core/measure';
import type { Planes } from '@/core/picture';
import { openMedia } from './files';
import { FrameReader, planesOf, reduceFor } from './frames';

/** A place to be followed: its radius in pixels of the take's picture, and where it was marked and put right, in order of time. */
export interface PointAsk {
  radius: number;
  keys: readonly { time: number; x: number; y: number }[];
}

/** Where a place is on the frames of a take; pixels of the take's picture. */
export interface PointCourse {
  times: number[];
  points: TrackedPoint[];
}

/** Seconds that are held at once to be followed backwards, before where the place was marked. */
const BACK = 1.5;

/** The frames of a stretch as brightness; `own` to be kept. */
async function* lumas(media: Footage, from: number, to: number, own: boolean): AsyncGenerator<{ time: number; luma: Luma }> {
  const reader = await FrameReader.open(await openMedia(media.id));
  try {
    for await (const sample of reader.samples(from, to)) {
      try {
        const planes: Planes = await planesOf(sample, reader, reduceFor(media), own);
        yield { time: sample.timestamp, luma: lumaOf(planes) };
      } finally {
        sample.close();
      }
    }
  } finally {
    reader.close();
  }
}

/** A frame's points from where they were put right: what is off at the next place that is known is shared out over the way there. */
function sharedOut(points: TrackedPoint[], times: readonly number[], from: number, to: number, off: { x: number; y: number }): void {
  for (const [i, point] of points.entries()) {
    const k = Math.max(0, Math.min(1, (times[i] - from) / (to - from)));
    point.x += k * off.x;
    point.y += k * off.y;
  }
}

/**
 * Follows a place through a take: forwards from each place that is known to the next, and backwards from the first. What is off when the
 * next is reached is shared out evenly. Progress 0..1.
 */
export async function trackPoint(media: Footage, { radius, keys }: PointAsk, onProgress: (done: number) => unknown): Promise<PointCourse> {
  const by = reduceFor(media);
  const { from, to } = media;
  const tell = async (time: number) => void (await onProgress(Math.max(0, Math.min(1, (time - from) / Math.max(0.04, to - from)))));
  const course: PointCourse = { times: [], points: [] };
  const region = (key: PointAsk['keys'][number]) => ({ x: key.x / by, y: key.y / by, radius: radius / by });
  const whole = (p: TrackedPoint): TrackedPoint => ({ ...p, x: p.x * by, y: p.y * by });
  const before = await backwards(media, keys[0].time, region(keys[0]), async (time) => tell(from + (keys[0].time - time)));
  course.times.push(...before.times);
  course.points.push(...before.points.map(whole));
  let turned = { turn: 0, scale: 1 };
  for (const [k, key] of keys.entries()) {
    const until = keys[k + 1]?.time ?? to + 1;
    const times: number[] = [];
    const points: TrackedPoint[] = [];
    let tracker: PointTracker | null = null;
    let reached: TrackedPoint | null = null;
    for await (const { time, luma } of lumas(media, key.time, Math.min(until + 0.05, to), false)) {
      if (time > until + 1e-4) break;
      const at: TrackedPoint = tracker ? tracker.next(luma) : { ...region(key), turn: 0, scale: 1, sure: 1, lost: false };
      tracker ??= new PointTracker(luma, region(key));
      const point = whole({ ...at, turn: at.turn + turned.turn, scale: at.scale * turned.scale });
      if (time > until - 1e-4) {
        reached = point;
        break;
      }
      times.push(time);
      points.push(point);
      await tell(time);
    }
    const next = keys[k + 1];
    const last = reached ?? points.at(-1);
    if (next && last) {
      sharedOut(points, times, key.time, next.time, { x: next.x - last.x, y: next.y - last.y });
      turned = { turn: last.turn, scale: last.scale };
    }
    course.times.push(...times);
    course.points.push(...points);
  }
  return course;
}

/** Where a place is on the frames before it was marked, in order of time; pixels of the measured picture. */
async function backwards(
  media: Footage,
  marked: number,
  region: { x: number; y: number; radius: number },
  tell: (time: number) => Promise<void>,
): Promise<PointCourse> {
  const times: number[] = [];
  const points: TrackedPoint[] = [];
  let tracker: PointTracker | null = null;
  for (let end = marked + 1e-4; end > media.from + 1e-4; end -= BACK) {
    const held: { time: number; luma: Luma }[] = [];
    for await (const frame of lumas(media, Math.max(media.from, end - BACK), end, true)) if (frame.time < end) held.push(frame);
    for (const { time, luma } of held.reverse()) {
      if (tracker) {
        times.unshift(time);
        points.unshift(tracker.next(luma));
      } else tracker = new PointTracker(luma, region);
      await tell(time);
    }
  }
  return { times, points };
}
