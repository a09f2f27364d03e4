import { AudioSample, type AudioSampleSource } from 'mediabunny';
import type { Project } from '@/core/document';
import { frameToSeconds } from '@/core/time';
import { type Leave, SourceFault } from './fault';
import { openMedia } from './files';
import { mixedSound } from './mixed';
import { soundRate } from './sound';

/** Feeds what is heard in the film's span, a second at a time. Throws a SourceFault for a file that cannot be read and is not left silent. */
export async function* filmSound(project: Project, first: number, end: number, leave: readonly Leave[]): AsyncGenerator<AudioSample> {
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

/** The film's sound, encoded beside the picture and never more than two seconds ahead of it. */
export class SoundBeside {
  /** Seconds encoded so far. */
  at = 0;
  private reached = 0;
  private stopped = false;
  private error: unknown = null;
  private readonly done: Promise<void>;

  /** `lead` is by how many samples the encoder's sound comes late: they lie before the film's beginning and are not presented. */
  constructor(
    samples: AsyncGenerator<AudioSample>,
    track: AudioSampleSource,
    private readonly lead = 0,
  ) {
    this.done = this.run(samples, track).catch((error: unknown) => {
      this.error = error;
    });
  }

  private async run(samples: AsyncGenerator<AudioSample>, track: AudioSampleSource): Promise<void> {
    for await (const sample of samples) {
      while (sample.timestamp > this.reached + 2 && !this.stopped) await new Promise((resolve) => setTimeout(resolve, 15));
      this.at = sample.timestamp + sample.duration;
      sample.setTimestamp(sample.timestamp - this.lead / sample.sampleRate);
      if (!this.stopped) await track.add(sample);
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
