import { ALL_FORMATS, BlobSource, EncodedPacketSink, Input, type InputVideoTrack, type VideoSample, VideoSampleSink } from 'mediabunny';
import { blackPlanes, fromRgba, type Planes, planesOver, reducedPlanes, upright } from '@/core/picture';
import { answering } from './answering';

/** Large pictures are measured, laid and cut at half size: texture enough, and memory stays small. */
export const reduceFor = ({ width, height }: { width: number; height: number }) => (Math.max(width, height) > 2200 ? 2 : 1);

/** Decoded frames of one file as upright planes. Close it when done. */
export class FrameReader {
  private constructor(
    private readonly input: Input,
    private readonly track: InputVideoTrack,
    readonly rotation: 0 | 90 | 180 | 270,
  ) {}

  static async open(file: Blob): Promise<FrameReader> {
    const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
    const track = await input.getPrimaryVideoTrack();
    if (!track) throw new Error('There is no picture in this file.');
    return new FrameReader(input, track, await track.getRotation());
  }

  /** Every frame from `from` seconds on, in order. The caller closes each sample. */
  samples(from = 0, to = Number.POSITIVE_INFINITY): AsyncGenerator<VideoSample, void, unknown> {
    return answering(new VideoSampleSink(this.track).samples(from, to));
  }

  /** The frame shown at each of the ascending `times`, the first one before it begins; decodes ahead. */
  async *samplesAt(times: Iterable<number>): AsyncGenerator<VideoSample | null, void, unknown> {
    const first = await this.track.getFirstTimestamp();
    yield* answering(new VideoSampleSink(this.track).samplesAtTimestamps(Array.from(times, (t) => Math.max(first, t))));
  }

  /** Start of the group of pictures that holds `time`. */
  async keyTimeBefore(time: number): Promise<number> {
    const packet = await new EncodedPacketSink(this.track).getKeyPacket(time, { metadataOnly: true });
    return packet?.timestamp ?? 0;
  }

  /**
   * The ascending `times`, each moved back to the picture before it that stands by itself, where every one then gets a picture of
   * its own no earlier than `from`: those are decoded without the ones between.
   */
  async standAlone(times: readonly number[], from: number): Promise<number[]> {
    const out: number[] = [];
    for (const time of times) {
      const key = await this.keyTimeBefore(time);
      out.push(key >= from && key > (out.at(-1) ?? -1) + 1e-4 ? key : time);
    }
    return out;
  }

  close(): void {
    this.input.dispose();
  }
}

let buffer = new Uint8Array(0);

function take(size: number): Uint8Array {
  if (buffer.length < size) buffer = new Uint8Array(size);
  return buffer.subarray(0, size);
}

/**
 * A sample's pixels as upright planes reduced by a whole factor. With `own` the planes are safe to keep;
 * otherwise they may be overwritten by the next call.
 */
export async function planesOf(sample: VideoSample, rotation: 0 | 90 | 180 | 270, reduce: number, own: boolean): Promise<Planes> {
  const { width, height } = { width: sample.visibleRect.width & ~1, height: sample.visibleRect.height & ~1 };
  const rect = { x: sample.visibleRect.left, y: sample.visibleRect.top, width, height };
  const chroma = (width / 2) * (height / 2);
  let planes: Planes;
  if (sample.format === 'I420') {
    const size = width * height + 2 * chroma;
    const bytes = own && reduce === 1 && rotation === 0 ? new Uint8Array(size) : take(size);
    const layout = [
      { offset: 0, stride: width },
      { offset: width * height, stride: width / 2 },
      { offset: width * height + chroma, stride: width / 2 },
    ];
    await sample.copyTo(bytes, { rect, layout });
    planes = planesOver(bytes, width, height);
  } else if (sample.format === 'NV12') {
    const bytes = take(width * height + 2 * chroma);
    await sample.copyTo(bytes, {
      rect,
      layout: [
        { offset: 0, stride: width },
        { offset: width * height, stride: width },
      ],
    });
    planes = blackPlanes(width, height);
    planes.y.set(bytes.subarray(0, width * height));
    for (let i = 0, at = width * height; i < chroma; i++, at += 2) {
      planes.u[i] = bytes[at];
      planes.v[i] = bytes[at + 1];
    }
  } else {
    // 10-bit and RGB forms go through the browser's own conversion.
    const bytes = new Uint8Array(sample.allocationSize({ rect, format: 'RGBA' }));
    await sample.copyTo(bytes, { rect, format: 'RGBA' });
    planes = fromRgba(bytes, width, height);
  }
  const done = upright(reducedPlanes(planes, reduce), rotation);
  if (!own || done !== planes || planes.y.buffer !== buffer.buffer) return done;
  return { ...done, y: done.y.slice(), u: done.u.slice(), v: done.v.slice() };
}

interface CachedFrame {
  from: number;
  to: number;
  planes: Planes;
}

/** Seconds before the wanted frame from which frames are kept; those before are decoded on the way but not copied. */
const LEAD = 0.5;

/** Random access to frames for the preview: decodes forward, keeps what lies near, forgets the oldest beyond `budget` bytes. */
export class FrameCache {
  private frames: CachedFrame[] = [];
  private used = 0;
  private stream: AsyncGenerator<VideoSample, void, unknown> | null = null;
  private next = 0;
  private queue: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly reader: FrameReader,
    private readonly reduce: number,
    private readonly budget: number,
  ) {}

  private find(time: number): Planes | null {
    for (let i = this.frames.length - 1; i >= 0; i--) {
      const f = this.frames[i];
      if (time >= f.from - 1e-4 && time < f.to - 1e-4) {
        if (i < this.frames.length - 1) {
          this.frames.splice(i, 1);
          this.frames.push(f);
        }
        return f.planes;
      }
    }
    return null;
  }

  /** The frame shown at `time`; calls are served one after another. */
  at(time: number): Promise<Planes | null> {
    const job = this.queue.then(() => this.find(time) ?? this.decodeTo(time));
    this.queue = job.catch(() => undefined);
    return job;
  }

  private async decodeTo(time: number): Promise<Planes | null> {
    await this.seek(time);
    let last: Planes | null = null;
    let passed: VideoSample | null = null;
    try {
      while (this.stream) {
        const { value: sample, done } = await this.stream.next();
        if (done || !sample) {
          this.stream = null;
          break;
        }
        passed?.close();
        passed = sample;
        this.next = sample.timestamp + Math.max(sample.duration, 1e-3);
        if (this.next <= time - LEAD) continue;
        last = await this.kept(sample);
        if (time < this.next - 1e-4) return last;
      }
      // Past the end: the last frame stands.
      return last ?? (passed && (await this.kept(passed)));
    } finally {
      passed?.close();
    }
  }

  /** Puts the stream where decoding forward leads to `time` soonest. */
  private async seek(time: number): Promise<void> {
    if (this.stream && time > this.next - 1e-4 && time < this.next + 1.5) return;
    const key = await this.reader.keyTimeBefore(time);
    if (this.stream && time > this.next - 1e-4 && key <= this.next) return;
    await this.stream?.return();
    this.stream = this.reader.samples(key);
    this.next = key;
  }

  private async kept(sample: VideoSample): Promise<Planes> {
    const from = sample.timestamp;
    const known = this.find(from);
    if (known) return known;
    return this.keep(from, from + Math.max(sample.duration, 1e-3), await planesOf(sample, this.reader.rotation, this.reduce, true));
  }

  private keep(from: number, to: number, planes: Planes): Planes {
    const previous = this.frames.at(-1);
    if (previous && previous.to < from && from - previous.to < 0.2) previous.to = from;
    this.frames.push({ from, to, planes });
    this.used += planes.y.length * 1.5;
    while (this.used > this.budget && this.frames.length > 2) {
      const old = this.frames.shift();
      this.used -= (old?.planes.y.length ?? 0) * 1.5;
    }
    return planes;
  }

  async close(): Promise<void> {
    await this.queue;
    await this.stream?.return();
    this.reader.close();
    this.frames = [];
  }
}
