import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { AudioSample, AudioSampleSource, canEncodeAudio, canEncodeVideo, VideoSample, VideoSampleSource } from 'mediabunny';
import { blackPlanes, type Planes, planesOver } from '@/core/picture';
import { describeFrame, filmFrames, type PictureDescription, type Project } from '@/core/shot';
import { fps, frameToSeconds } from '@/core/time';
import { type FilmFault, type Leave, SourceFault } from './fault';
import { mediaSize, openMedia } from './files';
import { FilmFile, type FilmFormat } from './film-file';
import { FrameReader, planesOf } from './frames';
import { mixedSound } from './mixed';
import { asked, filesOf, paint } from './painting';
import { picturesOf } from './pictures';
import { sentenceOf } from './sentence';
import { soundRate } from './sound';

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

  /** Planes of the next frame asked for; the decoder goes on meanwhile. Throws a sentence where it cannot be read. */
  async next(): Promise<Planes> {
    const again = this.at > this.from && this.times[this.at] === this.times[this.at - 1];
    this.at++;
    if (again && this.shown) return this.shown;
    const { value: sample, done } = await this.pending;
    if (!done) {
      this.pending = this.frames.next();
      this.pending.catch(() => undefined);
    }
    if (!sample) throw new Error('There is no picture in the file at that second: it breaks off before.');
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
    await this.frames.return().catch(() => undefined);
    this.reader.close();
  }
}

/** Times a file is opened anew after it could not be read, before it is given up. */
const TRIES = 3;

/** The takes of some pictures in the order they are asked for, each layer with a stream of its own that lives no longer than it is needed. */
class FilmTakes {
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
    if (!wanted) throw new Error('A picture was asked for that the film does not show.');
    const failed = this.failures.get(mediaId) ?? [];
    const at = wanted.at++;
    if (failed.length >= TRIES) throw failed[0];
    try {
      const stream =
        this.open.get(path) ?? openMedia(mediaId).then(async (file) => new TakeStream(await FrameReader.open(file), wanted.times, at));
      this.open.set(path, stream);
      const planes = await (await stream).next();
      if (wanted.at === wanted.times.length) await this.end(path);
      return { planes, reduce: 1 };
    } catch (error) {
      await this.end(path);
      const fault = new SourceFault(mediaId, 'picture', sentenceOf(error));
      this.failures.set(mediaId, [...failed, fault]);
      throw fault;
    }
  };

  private async end(path: string): Promise<void> {
    const stream = this.open.get(path);
    this.open.delete(path);
    await stream?.then((s) => s.close()).catch(() => undefined);
  }

  async close(): Promise<void> {
    for (const path of [...this.open.keys()]) await this.end(path);
  }
}

/** One frame of the film at full size, from its description. Throws a sentence where something in it cannot be read. */
export async function renderStill(project: Project, frame: number): Promise<Planes> {
  const picture = describeFrame(project, frame);
  const takes = new FilmTakes([picture]);
  const out = blackPlanes(picture.width, picture.height);
  try {
    await paint(picture, out, takes.frame, await picturesOf(project, false));
  } finally {
    await takes.close();
  }
  return out;
}

function bitrateFor(project: Project): number {
  const { width, height, rate } = project.frame;
  return Math.round(Math.min(60e6, Math.max(2e6, width * height * fps(rate) * 0.32)));
}

/** Feeds what is heard in the film's span, a second at a time. Throws a SourceFault for a file that cannot be read and is not left silent. */
async function* filmSound(project: Project, first: number, end: number, leave: readonly Leave[]): AsyncGenerator<AudioSample> {
  const { rate } = project.frame;
  const [from, to] = [frameToSeconds(first, rate), frameToSeconds(end, rate)];
  // At the song's own rate, so that it passes through as it is.
  const song = project.song && (await openMedia(project.song.mediaId).then(soundRate, () => null));
  const sampleRate = song ?? 48000;
  const total = Math.round((to - from) * sampleRate);
  const unread = (fileId: string, reason: string) => {
    if (!leave.some((l) => l.fileId === fileId)) throw new SourceFault(fileId, 'sound', reason);
  };
  for (let at = 0; at < total; at += sampleRate) {
    const count = Math.min(sampleRate, total - at);
    const data = new Float32Array(count * 2);
    for (const [c, samples] of (await mixedSound(project, from + at / sampleRate, count, sampleRate, unread)).entries())
      data.set(samples, c * count);
    yield new AudioSample({ data, format: 'f32-planar', numberOfChannels: 2, sampleRate, timestamp: at / sampleRate });
  }
}

/** Where a film goes: its name under `films/` until it is whole, and the file the user chose for it, if any. */
export interface FilmTarget {
  making: string;
  chosen: FileSystemFileHandle | null;
}

/** What became of a film: made, or stopped at something that cannot be read. */
export type FilmMade = { ok: true; name: string; left: number } | { ok: false; fault: FilmFault };

/** How many frames in a row from one on need a file, as far as the film goes. */
function framesInNeed(project: Project, first: number, end: number, from: number, fileId: string): number {
  let frame = from;
  while (frame < end - first && [...filesOf(describeFrame(project, first + frame))].includes(fileId)) frame++;
  return Math.max(1, frame - from);
}

/** The first frame that needs a file which is not in storage as it was taken in; before anything is drawn. */
async function missingAtOnce(project: Project, first: number, end: number, leave: readonly Leave[]): Promise<FilmFault | null> {
  const gone = new Map<string, string>();
  for (const { id, name, bytes } of project.media) {
    const size = await mediaSize(id);
    if (size === bytes || leave.some((l) => l.fileId === id)) continue;
    gone.set(id, `The file “${name}” is ${size === null ? 'no longer in the browser’s storage' : 'damaged in the browser’s storage'}.`);
  }
  if (gone.size === 0) return null;
  for (let i = 0; i < end - first; i++)
    for (const fileId of filesOf(describeFrame(project, first + i))) {
      const sentence = gone.get(fileId);
      if (sentence) return { sentence, kind: 'picture', fileId, frame: i, frames: framesInNeed(project, first, end, i, fileId) };
    }
  return null;
}

/**
 * Makes the film and writes it as it goes: to the browser's storage in pieces that play up to where it got, then whole to `films/` or
 * straight to the file the user chose. Decoding, composing and encoding overlap; memory does not grow with the film's length. What
 * cannot be read stops it with its sentence and frame, unless `leave` says what is to be left of it; `left` counts such frames.
 */
export async function makeFilm(
  project: Project,
  format: FilmFormat,
  leave: readonly Leave[],
  { making, chosen }: FilmTarget,
  onProgress: (p: FilmProgress) => void,
): Promise<FilmMade> {
  const [first, end] = filmFrames(project);
  const total = end - first;
  if (total <= 0) throw new Error('There is nothing to deliver yet: put a shot on the score first.');
  const { width, height, rate } = project.frame;
  const missing = await missingAtOnce(project, first, end, leave);
  if (missing) return { ok: false, fault: missing };
  const [videoCodec, audioCodec] = format === 'mp4' ? (['avc', 'aac'] as const) : (['vp9', 'opus'] as const);
  if (audioCodec === 'aac' && !(await canEncodeAudio('aac'))) registerAacEncoder();
  if (!(await canEncodeVideo(videoCodec, { width, height })))
    throw new Error(`This browser cannot write ${format === 'mp4' ? 'H.264' : 'VP9'} at ${width}×${height}. Try the other format.`);
  const film = await FilmFile.begin(making, format);
  const video = new VideoSampleSource({ codec: videoCodec, bitrate: bitrateFor(project), keyFrameInterval: 1, latencyMode: 'quality' });
  const audio = new AudioSampleSource({ codec: audioCodec, bitrate: 192e3 });
  film.output.addVideoTrack(video, { frameRate: fps(rate) });
  film.output.addAudioTrack(audio);
  await film.output.start();
  const described = function* () {
    for (let i = 0; i < total; i++) yield describeFrame(project, first + i);
  };
  const takes = new FilmTakes(described());
  const kept = await picturesOf(project, false);
  const sound = new SoundBeside(filmSound(project, first, end, leave), audio);
  let frame = 0;
  let left = 0;
  let last: Uint8Array | null = null;
  try {
    let told = 0;
    for (; frame < total; frame++) {
      const time = frameToSeconds(frame, rate);
      sound.reach(time);
      const bytes = new Uint8Array((width * height * 3) / 2);
      const planes = planesOver(bytes, width, height);
      try {
        await paint(describeFrame(project, first + frame), planes, takes.frame, kept);
        last = bytes;
      } catch (error) {
        standIn(error, leave, planes, bytes, last);
        left++;
      }
      const sample = new VideoSample(bytes, {
        format: 'I420',
        codedWidth: width,
        codedHeight: height,
        timestamp: time,
        duration: frameToSeconds(frame + 1, rate) - time,
        colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
      });
      await video.add(sample);
      sample.close();
      film.check();
      if (performance.now() - told > 100) {
        told = performance.now();
        onProgress({ done: frame + 1, total, doing: 'Composing and encoding' });
      }
    }
    await sound.end();
    onProgress({ done: total, total, doing: 'Closing the file' });
    return { ok: true, name: await film.finish(chosen), left };
  } catch (error) {
    sound.stop();
    await film.drop();
    if (!(error instanceof SourceFault)) throw new Error(sentenceOf(error));
    const { fileId, kind, message } = error;
    const at = kind === 'sound' ? Math.floor(sound.at * fps(rate)) : frame;
    const name = project.media.find((m) => m.id === fileId)?.name ?? '';
    const frames = kind === 'sound' ? total - at : framesInNeed(project, first, end, at, fileId);
    return { ok: false, fault: { sentence: `“${name}” cannot be read. ${message}`, kind, fileId, frame: at, frames } };
  } finally {
    sound.stop();
    await takes.close();
  }
}

/** What is shown instead of a frame that cannot be read, as the user let it pass; else throws the error on. */
function standIn(error: unknown, leave: readonly Leave[], { y, u, v }: Planes, bytes: Uint8Array, last: Uint8Array | null): void {
  const how = error instanceof SourceFault && leave.find((l) => l.fileId === error.fileId)?.how;
  if (!how) throw error;
  if (how === 'hold' && last) bytes.set(last);
  else {
    y.fill(16);
    u.fill(128);
    v.fill(128);
  }
}

/** The film's sound, encoded beside the picture and never more than two seconds ahead of it. */
class SoundBeside {
  /** Seconds encoded so far. */
  at = 0;
  private reached = 0;
  private stopped = false;
  private error: unknown = null;
  private readonly done: Promise<void>;

  constructor(samples: AsyncGenerator<AudioSample>, track: AudioSampleSource) {
    this.done = this.run(samples, track).catch((error: unknown) => {
      this.error = error;
    });
  }

  private async run(samples: AsyncGenerator<AudioSample>, track: AudioSampleSource): Promise<void> {
    for await (const sample of samples) {
      while (sample.timestamp > this.reached + 2 && !this.stopped) await new Promise((resolve) => setTimeout(resolve, 15));
      if (!this.stopped) await track.add(sample);
      this.at = sample.timestamp + sample.duration;
      sample.close();
    }
  }

  /** The picture has got to `time` seconds. Throws what went wrong with the sound. */
  reach(time: number): void {
    this.reached = time;
    if (this.error) throw this.error;
  }

  /** All of the picture is there: waits for the rest. */
  async end(): Promise<void> {
    this.reached = Number.POSITIVE_INFINITY;
    await this.done;
    this.reach(this.reached);
  }

  stop(): void {
    this.stopped = true;
  }
}
