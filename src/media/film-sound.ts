import { AudioSample, type AudioSampleSource } from 'mediabunny';
import type { Project } from '@/core/document';
import { Limiter, LoudnessMeter } from '@/core/song';
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
  const heard = (at: number, count: number) => mixedSound(project, from + at / sampleRate, count, sampleRate, unread);
  const { target } = project.sound;
  const limiter = target === undefined ? null : new Limiter(sampleRate, CEILING, await gainTo(target, heard, total, sampleRate));
  for (let at = 0; at < total; at += sampleRate) {
    const count = Math.min(sampleRate, total - at);
    const data = new Float32Array(count * 2);
    const mixed = await heard(at, count + (limiter?.ahead ?? 0));
    limiter?.run(mixed, count);
    for (const [c, samples] of mixed.entries()) data.set(samples.subarray(0, count), c * count);
    yield new AudioSample({ data, format: 'f32-planar', numberOfChannels: 2, sampleRate, timestamp: at / sampleRate });
  }
}

/** What no sample of a film that is brought to a loudness passes: half a decibel of room for what lies between samples. */
const CEILING = 10 ** (-1.5 / 20);
/** How far a mix may be made louder or quieter, decibels. */
const MOST_GAIN = 30;

/** The gain that brings all of a mix to a loudness (BS.1770-4, integrated), linear; 1 for silence. */
async function gainTo(
  target: number,
  heard: (at: number, count: number) => Promise<readonly Float32Array[]>,
  total: number,
  rate: number,
): Promise<number> {
  const meter = new LoudnessMeter(rate);
  for (let at = 0; at < total; at += rate) meter.push(await heard(at, Math.min(rate, total - at)));
  const { integrated } = meter.read();
  return Number.isFinite(integrated) ? 10 ** (Math.max(-MOST_GAIN, Math.min(MOST_GAIN, target - integrated)) / 20) : 1;
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
