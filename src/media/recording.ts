import {
  ALL_FORMATS,
  AudioSample,
  AudioSampleSource,
  BlobSource,
  BufferTarget,
  Conversion,
  getFirstEncodableAudioCodec,
  getFirstEncodableVideoCodec,
  Input,
  Mp4OutputFormat,
  Output,
  StreamTarget,
  type VideoSample,
  VideoSampleSource,
} from 'mediabunny';
import { say } from '@/core/words';
import { cutToWhole } from './cut-off';
import { filesIn, folder, removeFile, type SyncFile, syncFile } from './files';

/** Seconds between points up to which a cut-off recording can be saved; also how often it is pressed onto the disk. */
const FRAGMENT = 0.5;

export interface RecordingShape {
  width: number;
  height: number;
  fps: number;
  sound: boolean;
}

/**
 * A film written to `recordings/` while it runs, as fragmented MP4: after a crash all but the last fragment is whole.
 * Only in a worker. A write that fails (a full disk) ends the recording; what was written stays.
 */
export class Recording {
  private failure: Error | null = null;
  private first: number | null = null;
  private last = 0;

  private constructor(
    readonly name: string,
    private readonly file: SyncFile,
    private readonly output: Output,
    private readonly video: VideoSampleSource,
    private readonly audio: AudioSampleSource | null,
  ) {}

  static async begin(name: string, shape: RecordingShape): Promise<Recording> {
    const codec = await getFirstEncodableVideoCodec(['avc', 'vp9', 'vp8'], shape);
    if (!codec) throw new Error(say`This browser cannot record a film of ${shape.width}×${shape.height}. Choose a smaller picture.`);
    const soundCodec = shape.sound ? await getFirstEncodableAudioCodec(['aac', 'opus']) : null;
    const file = await syncFile('recordings', name, true);
    file.truncate(0);
    let pressed = performance.now();
    let recording: Recording | null = null;
    const target = new StreamTarget(
      new WritableStream<{ data: Uint8Array; position: number }>({
        write({ data, position }) {
          try {
            const written = file.write(data, { at: position });
            if (written < data.length) throw new DOMException(say`The file could not take it all.`, 'QuotaExceededError');
            if (performance.now() - pressed > (FRAGMENT * 1000) / 2) {
              file.flush();
              pressed = performance.now();
            }
          } catch (error) {
            if (recording) recording.failure ??= error instanceof Error ? error : new Error(String(error));
          }
        },
      }),
    );
    const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'fragmented', minimumFragmentDuration: FRAGMENT }), target });
    const bitrate = Math.round(Math.min(60e6, Math.max(3e6, shape.width * shape.height * shape.fps * 0.25)));
    const video = new VideoSampleSource({ codec, bitrate, keyFrameInterval: FRAGMENT, latencyMode: 'realtime' });
    output.addVideoTrack(video);
    const audio = soundCodec ? new AudioSampleSource({ codec: soundCodec, bitrate: 128e3 }) : null;
    if (audio) output.addAudioTrack(audio);
    recording = new Recording(name, file, output, video, audio);
    await output.start();
    return recording;
  }

  /** Seconds recorded so far. */
  get seconds(): number {
    return this.first === null ? 0 : this.last - this.first;
  }

  /** When the first picture was taken, on the camera's clock, seconds; null before it. */
  get began(): number | null {
    return this.first;
  }

  /** Why nothing more can be written; null while all is well. */
  get problem(): Error | null {
    return this.failure;
  }

  /** Adds a picture; it is closed here. Timestamps are the camera's own, in seconds. */
  async addPicture(sample: VideoSample): Promise<void> {
    try {
      this.first ??= sample.timestamp;
      this.last = sample.timestamp;
      sample.setTimestamp(sample.timestamp - this.first);
      if (!this.failure) await this.video.add(sample);
    } catch (error) {
      this.failure ??= error instanceof Error ? error : new Error(String(error));
    } finally {
      sample.close();
    }
  }

  /** Adds sound, on the same clock as the pictures; what comes before the first picture is dropped. */
  async addSound(data: AudioData): Promise<void> {
    const sample = new AudioSample(data);
    try {
      if (this.first === null || !this.audio || this.failure || sample.timestamp < this.first) return;
      sample.setTimestamp(sample.timestamp - this.first);
      await this.audio.add(sample);
    } finally {
      sample.close();
    }
  }

  /** Ends the recording. After a failed write the file is cut to its last whole fragment. */
  async end(): Promise<void> {
    try {
      await this.output.finalize();
      this.file.flush();
    } catch (error) {
      this.failure ??= error instanceof Error ? error : new Error(String(error));
    }
    if (this.failure) cutToWhole(this.file);
    this.file.close();
  }
}

/** Recordings that a crash cut off, cut to what is whole; those with nothing to save are removed, those being written are left alone. */
export async function savedFromCrash(): Promise<string[]> {
  const names: string[] = [];
  for (const name of await filesIn('recordings')) {
    const file = await syncFile('recordings', name, false).catch(() => null);
    if (!file) continue;
    const left = cutToWhole(file);
    file.close();
    if (left > 0) names.push(name);
    else await removeFile('recordings', name);
  }
  return names;
}

/** A slot inside an unbroken recording, seconds from its start, and the file it becomes. */
export interface RecordedPart {
  name: string;
  from: number;
  to: number;
}

/**
 * Cuts an unbroken recording into a file a slot, without encoding the pictures anew; each part begins at the point up to
 * half a second earlier where a picture stands by itself. The whole is removed when all parts are there.
 */
export async function partRecording(name: string, parts: readonly RecordedPart[]): Promise<void> {
  const whole = await (await (await folder('recordings')).getFileHandle(name)).getFile();
  for (const part of parts) {
    const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(whole) });
    const target = new BufferTarget();
    const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target });
    const start = Math.max(0, Math.floor(part.from / FRAGMENT) * FRAGMENT);
    const conversion = await Conversion.init({ input, output, trim: { start, end: part.to }, showWarnings: false });
    await conversion.execute();
    input.dispose();
    if (!target.buffer) throw new Error(say`The part of ${part.name} could not be cut out; the whole recording is kept.`);
    const file = await syncFile('recordings', part.name, true);
    try {
      file.truncate(0);
      file.write(new Uint8Array(target.buffer), { at: 0 });
      file.flush();
    } finally {
      file.close();
    }
  }
  await removeFile('recordings', name);
}
