import type { VideoSample } from 'mediabunny';
import type { ClearPlanes } from '@/core/picture';
import { type FrameReader, planesOf } from './frames';

interface CachedFrame {
  from: number;
  to: number;
  planes: ClearPlanes;
}

/** One decoder going forward through a file. */
interface Stream {
  samples: AsyncGenerator<VideoSample, void, unknown>;
  /** Second at which the next frame begins. */
  next: number;
  last: CachedFrame | null;
  busy: boolean;
  /** What its decoder is reckoned to hold, bytes; 0 until its first frame. */
  bytes: number;
}

/** Decoders that are open at once, and frames that each holds decoded ahead or to decode others by. */
const MOST_STREAMS = 8;
const HELD_AHEAD = 32;
/** Decoders of one file: the same take is often seen at several of its seconds at once. */
const STREAMS_EACH = 3;

const bytesOf = ({ planes: { y, u, v, alpha } }: CachedFrame) => y.length + u.length + v.length + (alpha?.length ?? 0);

/** How much may be kept for pictures of one use. */
export interface FrameShare {
  /** Bytes of frames. */
  kept: number;
  /** Bytes that waiting decoders are reckoned to hold. */
  ahead: number;
  /** Decoders that may be open however large their frames are: a picture of two takes needs both. */
  least: number;
  /** Milliseconds after which a decoder that nobody asks for anything is closed. */
  idle: number;
}

/** What all takes of one use may keep between them: so many bytes of frames and so many decoders; what was used longest ago goes first. */
export class FrameBudget {
  private readonly frames = new Map<CachedFrame, FrameCache>();
  private readonly streams = new Map<Stream, FrameCache>();
  private idle: ReturnType<typeof setTimeout> | undefined;
  private used = 0;

  constructor(private readonly share: FrameShare) {}

  get bytes(): number {
    return this.used;
  }

  /** Notes that a frame was used now, new or again. */
  use(frame: CachedFrame, cache: FrameCache): void {
    if (!this.frames.delete(frame)) this.used += bytesOf(frame);
    this.frames.set(frame, cache);
    for (const [oldest, owner] of this.frames) {
      if (this.used <= this.share.kept || this.frames.size <= 2) break;
      this.forget(oldest);
      owner.drop(oldest);
    }
  }

  forget(frame: CachedFrame): void {
    if (this.frames.delete(frame)) this.used -= bytesOf(frame);
  }

  holdStream(stream: Stream, cache: FrameCache): void {
    this.streams.delete(stream);
    this.streams.set(stream, cache);
    for (const [oldest, owner] of this.streams) {
      const held = [...this.streams.keys()].reduce((sum, s) => sum + s.bytes, 0);
      if (this.streams.size <= MOST_STREAMS && (held <= this.share.ahead || this.streams.size <= this.share.least)) break;
      if (!oldest.busy) owner.end(oldest);
    }
    this.closeLater();
  }

  private closeLater(): void {
    clearTimeout(this.idle);
    this.idle = setTimeout(() => this.closeIdle(), this.share.idle);
  }

  /** Closes the decoders that wait for nothing: what they decoded ahead is large. */
  private closeIdle(): void {
    for (const [stream, owner] of this.streams) if (!stream.busy) owner.end(stream);
    if (this.streams.size) this.closeLater();
  }

  forgetStream(stream: Stream): void {
    this.streams.delete(stream);
  }
}

/** Seconds before the wanted frame from which frames are kept; those before are decoded on the way but not copied. */
const LEAD = 0.5;
/** Seconds that are rather decoded through than sought over. */
const NEAR = 1.5;

/** Random access to frames of one take: decodes forward and keeps what lies near, within a budget shared with other takes. */
export class FrameCache {
  private frames: CachedFrame[] = [];
  private streams: Stream[] = [];
  private queue: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly reader: FrameReader,
    private readonly reduce: number,
    private readonly budget: FrameBudget,
  ) {}

  private find(time: number): ClearPlanes | null {
    const frame = this.frames.findLast((f) => time >= f.from - 1e-4 && time < f.to - 1e-4);
    if (frame) this.budget.use(frame, this);
    return frame?.planes ?? null;
  }

  /** The frame shown at `time`, the last one past the end; null where there is none. Calls are served one after another. */
  at(time: number): Promise<ClearPlanes | null> {
    const job = this.queue.then(() => this.find(time) ?? this.decodeTo(time));
    this.queue = job.catch(() => undefined);
    return job;
  }

  private async decodeTo(time: number): Promise<ClearPlanes | null> {
    const stream = await this.streamFor(time);
    let last: ClearPlanes | null = null;
    let passed: VideoSample | null = null;
    stream.busy = true;
    try {
      for (;;) {
        const { value: sample, done } = await stream.samples.next();
        if (done || !sample) {
          this.end(stream);
          break;
        }
        passed?.close();
        passed = sample;
        if (stream.bytes === 0) {
          stream.bytes = sample.codedWidth * sample.codedHeight * 1.5 * HELD_AHEAD;
          this.budget.holdStream(stream, this);
        }
        stream.next = sample.timestamp + Math.max(sample.duration, 1e-3);
        if (stream.next <= time - LEAD) continue;
        last = await this.kept(sample, stream);
        if (time < stream.next - 1e-4) return last;
      }
      // Past the end: the last frame stays.
      return last ?? (passed && (await this.kept(passed, stream)));
    } catch (error) {
      this.end(stream);
      throw error;
    } finally {
      stream.busy = false;
      passed?.close();
    }
  }

  /** The decoder that leads to `time` soonest, or a new one from the picture before it that stands alone. */
  private async streamFor(time: number): Promise<Stream> {
    const behind = this.streams.filter((s) => time > s.next - 1e-4).sort((a, b) => b.next - a.next);
    const nearest = behind.at(0);
    const key = nearest && time < nearest.next + NEAR ? Number.NEGATIVE_INFINITY : await this.reader.keyTimeBefore(time);
    if (nearest && key <= nearest.next) {
      this.budget.holdStream(nearest, this);
      return nearest;
    }
    while (this.streams.length >= STREAMS_EACH) this.end(this.streams[0]);
    const stream: Stream = { samples: this.reader.samples(key), next: key, last: null, busy: true, bytes: 0 };
    this.streams.push(stream);
    this.budget.holdStream(stream, this);
    return stream;
  }

  private async kept(sample: VideoSample, stream: Stream): Promise<ClearPlanes> {
    const from = sample.timestamp;
    const known = this.find(from);
    if (known) return known;
    const planes = await planesOf(sample, this.reader, this.reduce, true);
    const frame = { from, to: from + Math.max(sample.duration, 1e-3), planes };
    if (stream.last && stream.last.to < from && from - stream.last.to < 0.2) stream.last.to = from;
    stream.last = frame;
    this.frames.push(frame);
    this.budget.use(frame, this);
    return planes;
  }

  /** Forgets a frame that the budget gives back. */
  drop(frame: CachedFrame): void {
    const at = this.frames.indexOf(frame);
    if (at >= 0) this.frames.splice(at, 1);
  }

  /** Closes a decoder. */
  end(stream: Stream): void {
    this.streams = this.streams.filter((s) => s !== stream);
    this.budget.forgetStream(stream);
    stream.samples.return().catch(() => undefined);
  }

  async close(): Promise<void> {
    await this.queue;
    for (const stream of [...this.streams]) this.end(stream);
    for (const frame of this.frames) this.budget.forget(frame);
    this.frames = [];
    this.reader.close();
  }
}
