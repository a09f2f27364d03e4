import type { VideoSample } from 'mediabunny';
import type { PictureDescription } from '@/core/evaluate';
import { bytesUnder, type ClearPlanes } from '@/core/picture';
import { say } from '@/core/words';
import { SourceFault } from './fault';
import { openMedia } from './files';
import { FrameReader, planesOf } from './frames';
import { asked } from './painting';
import { asReduced } from './pictures';
import { sentenceOf } from './sentence';

/** One layer's take being read for the film: its frames in the order the film asks for them. One asked for again at once is kept. */
class TakeStream {
  private readonly frames: AsyncGenerator<VideoSample | null, void, unknown>;
  private pending: Promise<IteratorResult<VideoSample | null>>;
  private shown: ClearPlanes | null = null;
  /** The frame gone on to last, held until the next. */
  private sample: VideoSample | null = null;
  /** Second of the take's own frame that is shown; in slow motion it is asked for many times. */
  private shownAt = Number.NaN;
  private at: number;

  /** `from` is the first of the times that is asked for. */
  constructor(
    private readonly reader: FrameReader,
    private readonly times: readonly number[],
    private readonly from: number,
  ) {
    this.at = from;
    const left = times.slice(from);
    this.frames = reader.samplesAt(left.filter((t, i) => i === 0 || t !== left[i - 1]));
    this.pending = this.frames.next();
    this.pending.catch(() => undefined);
  }

  /** Goes on to the next frame asked for; the decoder goes on meanwhile. Throws a sentence where it cannot be read. */
  private async advance(): Promise<VideoSample> {
    const again = this.at > this.from && this.times[this.at] === this.times[this.at - 1];
    this.at++;
    if (again && this.sample) return this.sample;
    const { value: sample, done } = await this.pending;
    if (!done) {
      this.pending = this.frames.next();
      this.pending.catch(() => undefined);
    }
    this.sample?.close();
    this.sample = sample ?? null;
    if (!sample) throw new Error(say`There is no picture in the file at that second: it breaks off before.`);
    return sample;
  }

  /** Planes of the next frame asked for. */
  async next(): Promise<ClearPlanes> {
    const sample = await this.advance();
    if (this.shown && sample.timestamp === this.shownAt) return this.shown;
    this.shownAt = sample.timestamp;
    // The frame before is no longer needed: its bytes are used again where they fit.
    const before = this.shown;
    this.shown = null;
    this.shown = await planesOf(sample, this.reader, 1, true, before && bytesUnder(before));
    return this.shown;
  }

  /** Leaves out the next frame that would be asked for: somebody else draws it. */
  async pass(): Promise<void> {
    await this.advance();
  }

  async close(): Promise<void> {
    this.sample?.close();
    this.sample = null;
    await this.pending.then((r) => r.value?.close()).catch(() => undefined);
    await this.frames.return().catch(() => undefined);
    this.reader.close();
  }
}

/** Times a file is opened anew after it could not be read, before it is given up. */
const TRIES = 3;

/** The takes of some pictures in the order they are asked for, each layer with a stream of its own that lives no longer than it is needed. */
export class FilmTakes {
  private readonly wanted = new Map<string, { times: number[]; at: number }>();
  private readonly open = new Map<string, Promise<TakeStream>>();
  private readonly failures = new Map<string, SourceFault[]>();

  constructor(pictures: Iterable<PictureDescription>) {
    for (const picture of pictures)
      for (const { path, time } of asked(picture)) {
        const known = this.wanted.get(path);
        if (known) known.times.push(time);
        else this.wanted.set(path, { times: [time], at: 0 });
      }
  }

  /** The next frame of a layer; a SourceFault where it cannot be read. What comes after it is tried again, for a damage may be short. */
  readonly frame = async (_: string, mediaId: string, __: number, path: string) => {
    const wanted = this.wanted.get(path);
    if (!wanted) throw new Error(say`A picture was asked for that the film does not show.`);
    const failed = this.failures.get(mediaId) ?? [];
    const at = wanted.at++;
    if (failed.length >= TRIES) throw failed[0];
    try {
      const planes = await (await this.streamFor(path, mediaId, wanted.times, at)).next();
      if (wanted.at === wanted.times.length) await this.end(path);
      return asReduced(planes, 1);
    } catch (error) {
      await this.end(path);
      const fault = new SourceFault(mediaId, 'picture', sentenceOf(error));
      this.failures.set(mediaId, [...failed, fault]);
      throw fault;
    }
  };

  /** Leaves out a picture that would be asked for next: somebody else draws it. What cannot be read shows itself with the next that is. */
  async pass(picture: PictureDescription): Promise<void> {
    for (const { path, mediaId } of asked(picture)) {
      const wanted = this.wanted.get(path);
      if (!wanted) continue;
      const at = wanted.at++;
      try {
        await (await this.streamFor(path, mediaId, wanted.times, at)).pass();
        if (wanted.at === wanted.times.length) await this.end(path);
      } catch {
        await this.end(path);
      }
    }
  }

  private streamFor(path: string, mediaId: string, times: readonly number[], at: number): Promise<TakeStream> {
    const stream = this.open.get(path) ?? openMedia(mediaId).then(async (file) => new TakeStream(await FrameReader.open(file), times, at));
    this.open.set(path, stream);
    return stream;
  }

  private async end(path: string): Promise<void> {
    const stream = this.open.get(path);
    this.open.delete(path);
    await stream?.then((s) => s.close()).catch(() => undefined);
  }

  async close(): Promise<void> {
    for (const path of [...this.open.keys()]) await this.end(path);
  }
}
