import { registerAacEncoder } from '@mediabunny/aac-encoder';
import {
  AudioSample,
  AudioSampleSource,
  canEncodeAudio,
  canEncodeVideo,
  Mp4OutputFormat,
  Output,
  StreamTarget,
  VideoSample,
  VideoSampleSource,
  WebMOutputFormat,
} from 'mediabunny';
import { blackPlanes, type Planes, planesOver } from '@/core/picture';
import { describeFrame, filmFrames, type PictureDescription, type Project } from '@/core/shot';
import { fps, frameToSeconds } from '@/core/time';
import { folder, openMedia } from './files';
import { FrameReader, planesOf } from './frames';
import { mixedSound } from './mixed';
import { asked, paint } from './painting';
import { picturesOf } from './pictures';
import { soundRate } from './sound';

export type FilmFormat = 'mp4' | 'webm';

export interface FilmProgress {
  done: number;
  total: number;
  doing: string;
}

/** One layer's take being read for the film: its frames in the order the film asks for them. One asked for again at once is kept. */
class TakeStream {
  private readonly frames: AsyncGenerator<VideoSample | null, void, unknown>;
  private pending: Promise<IteratorResult<VideoSample | null>>;
  private shown: Planes | null = null;
  /** Second of the take's own frame that is shown; in slow motion it is asked for many times. */
  private shownAt = Number.NaN;
  private at = 0;

  constructor(
    private readonly reader: FrameReader,
    private readonly times: readonly number[],
  ) {
    this.frames = reader.samplesAt(times.filter((t, i) => i === 0 || t !== times[i - 1]));
    this.pending = this.frames.next();
  }

  /** Planes of the next frame asked for; the decoder goes on meanwhile. */
  async next(): Promise<Planes> {
    const again = this.at > 0 && this.times[this.at] === this.times[this.at - 1];
    this.at++;
    if (again && this.shown) return this.shown;
    const { value: sample, done } = await this.pending;
    this.pending = done ? this.pending : this.frames.next();
    if (!sample) return blackPlanes(2, 2);
    try {
      if (this.shown && sample.timestamp === this.shownAt) return this.shown;
      this.shownAt = sample.timestamp;
      this.shown = await planesOf(sample, this.reader.rotation, 1, true);
      return this.shown;
    } finally {
      sample.close();
    }
  }

  async close(): Promise<void> {
    await this.pending.then((r) => r.value?.close()).catch(() => undefined);
    await this.frames.return();
    this.reader.close();
  }
}

/** The takes of some pictures in the order they are asked for, each layer with a stream of its own that lives no longer than it is needed. */
class FilmTakes {
  private readonly wanted = new Map<string, { mediaId: string; times: number[]; left: number }>();
  private readonly open = new Map<string, Promise<TakeStream>>();

  constructor(pictures: readonly PictureDescription[]) {
    for (const picture of pictures)
      for (const { path, mediaId, time } of asked(picture)) {
        const known = this.wanted.get(path) ?? { mediaId, times: [], left: 0 };
        known.times.push(time);
        known.left++;
        this.wanted.set(path, known);
      }
  }

  readonly frame = async (_: string, mediaId: string, __: number, path: string) => {
    const wanted = this.wanted.get(path);
    if (!wanted) return { planes: blackPlanes(2, 2), reduce: 1 };
    const stream =
      this.open.get(path) ?? openMedia(mediaId).then(async (file) => new TakeStream(await FrameReader.open(file), wanted.times));
    this.open.set(path, stream);
    const planes = await (await stream).next();
    if (--wanted.left === 0) {
      this.open.delete(path);
      await (await stream).close();
    }
    return { planes, reduce: 1 };
  };

  async close(): Promise<void> {
    for (const stream of this.open.values()) await stream.then((s) => s.close()).catch(() => undefined);
  }
}

/** One frame of the film at full size, from its description. */
export async function renderStill(project: Project, frame: number): Promise<Planes> {
  const picture = describeFrame(project, frame);
  const takes = new FilmTakes([picture]);
  const out = blackPlanes(picture.width, picture.height);
  try {
    await paint(picture, out, takes.frame, await picturesOf(project));
  } finally {
    await takes.close();
  }
  return out;
}

function bitrateFor(project: Project): number {
  const { width, height, rate } = project.frame;
  return Math.round(Math.min(60e6, Math.max(2e6, width * height * fps(rate) * 0.32)));
}

/** Feeds what is heard in the film's span, a second at a time. */
async function* filmSound(project: Project, first: number, end: number): AsyncGenerator<AudioSample> {
  const { rate } = project.frame;
  const [from, to] = [frameToSeconds(first, rate), frameToSeconds(end, rate)];
  // At the song's own rate, so that it passes through as it is.
  const sampleRate = (project.song && (await soundRate(await openMedia(project.song.mediaId)))) ?? 48000;
  const total = Math.round((to - from) * sampleRate);
  for (let at = 0; at < total; at += sampleRate) {
    const count = Math.min(sampleRate, total - at);
    const data = new Float32Array(count * 2);
    for (const [c, samples] of (await mixedSound(project, from + at / sampleRate, count, sampleRate)).entries())
      data.set(samples, c * count);
    yield new AudioSample({ data, format: 'f32-planar', numberOfChannels: 2, sampleRate, timestamp: at / sampleRate });
  }
}

/**
 * Makes the film and writes it to `films/` as it goes. Returns the stored file's name. Decoding, composing and
 * encoding overlap; memory does not grow with the film's length.
 */
export async function makeFilm(project: Project, format: FilmFormat, onProgress: (p: FilmProgress) => void): Promise<string> {
  const [first, end] = filmFrames(project);
  if (end <= first) throw new Error('There is nothing to deliver yet: put a shot on the score first.');
  const { width, height, rate } = project.frame;
  const [videoCodec, audioCodec] = format === 'mp4' ? (['avc', 'aac'] as const) : (['vp9', 'opus'] as const);
  if (audioCodec === 'aac' && !(await canEncodeAudio('aac'))) registerAacEncoder();
  if (!(await canEncodeVideo(videoCodec, { width, height })))
    throw new Error(`This browser cannot write ${format === 'mp4' ? 'H.264' : 'VP9'} at ${width}×${height}. Try the other format.`);
  const name = `film.${format}`;
  const handle = await (await folder('films')).getFileHandle(name, { create: true });
  const writable = await handle.createWritable();
  const output = new Output({
    format: format === 'mp4' ? new Mp4OutputFormat({ fastStart: false }) : new WebMOutputFormat(),
    target: new StreamTarget(writable as unknown as WritableStream, { chunked: true }),
  });
  const video = new VideoSampleSource({ codec: videoCodec, bitrate: bitrateFor(project), keyFrameInterval: 2, latencyMode: 'quality' });
  const audio = new AudioSampleSource({ codec: audioCodec, bitrate: 192e3 });
  output.addVideoTrack(video, { frameRate: fps(rate) });
  output.addAudioTrack(audio);
  await output.start();
  const pictures = Array.from({ length: end - first }, (_, i) => describeFrame(project, first + i));
  const takes = new FilmTakes(pictures);
  const kept = await picturesOf(project);
  // The sound is encoded beside the picture, never more than two seconds ahead of it.
  let seen = 0;
  let stopped = false;
  const sounded = (async () => {
    for await (const sample of filmSound(project, first, end)) {
      while (sample.timestamp > seen + 2 && !stopped) await new Promise((resolve) => setTimeout(resolve, 15));
      if (!stopped) await audio.add(sample);
      sample.close();
    }
  })();
  sounded.catch(() => undefined);
  try {
    let told = 0;
    for (let i = 0; i < pictures.length; i++) {
      const time = frameToSeconds(i, rate);
      seen = time;
      const bytes = new Uint8Array((width * height * 3) / 2);
      await paint(pictures[i], planesOver(bytes, width, height), takes.frame, kept);
      const sample = new VideoSample(bytes, {
        format: 'I420',
        codedWidth: width,
        codedHeight: height,
        timestamp: time,
        duration: frameToSeconds(i + 1, rate) - time,
        colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
      });
      await video.add(sample);
      sample.close();
      if (performance.now() - told > 100) {
        told = performance.now();
        onProgress({ done: i + 1, total: pictures.length, doing: 'Composing and encoding' });
      }
    }
    seen = Number.POSITIVE_INFINITY;
    await sounded;
    onProgress({ done: pictures.length, total: pictures.length, doing: 'Closing the file' });
    await output.finalize();
  } catch (error) {
    await output.cancel().catch(() => undefined);
    if (error instanceof DOMException && error.name === 'QuotaExceededError')
      throw new Error('The disk is full: the film could not be written. Your project is safe. Free some space and deliver again.');
    throw error;
  } finally {
    stopped = true;
    await takes.close();
  }
  return name;
}
