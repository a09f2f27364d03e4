import {
  analyseOnsets,
  Downsampler,
  FluxMeter,
  hearRanges,
  type Loudness,
  LoudnessMeter,
  onsetStrength,
  type Peaks,
  PeaksBuilder,
  type SongAnalysis,
} from '@/core/song';
import { type Sound, soundChunks } from './sound';

/** All that is found in a song. */
export interface HeardSong extends SongAnalysis {
  loudness: Loudness;
  peaks: Peaks;
}

/** What goes from the one who decodes to the one who measures and finds the beats: stretches, and that there are no more. */
type Passed = Sound | 'over';

/** Stretches that may wait to be heard. */
const AHEAD = 6;

/** Passes stretches on through a port, and waits while too many of them are not heard yet. */
function passing(port: MessagePort): (stretch: Sound) => Promise<void> {
  let ahead = 0;
  let heard = () => {};
  port.onmessage = () => {
    ahead--;
    heard();
  };
  return async (stretch) => {
    port.postMessage(
      stretch,
      stretch.channels.map((c) => c.buffer),
    );
    ahead++;
    while (ahead >= AHEAD)
      await new Promise<void>((resolve) => {
        heard = resolve;
      });
  };
}

/** Decodes a song piece by piece, so that a long mix needs little memory, and passes each piece on to `findInSong`. */
export async function decodeSong(file: Blob, port: MessagePort, onProgress: (done: number) => void): Promise<void> {
  const pass = passing(port);
  for await (const { sampleRate, channels, done, total } of soundChunks(file)) {
    await pass({ sampleRate, channels });
    onProgress((0.9 * done) / total);
  }
  port.postMessage('over' satisfies Passed);
}

/** Measures a song as it comes, stretch by stretch. */
class SongMeters {
  private readonly flux: FluxMeter;
  private readonly down: Downsampler;
  private readonly loudness: LoudnessMeter;
  private readonly peaks: PeaksBuilder;
  private samples = 0;

  constructor(private readonly sampleRate: number) {
    this.flux = new FluxMeter(sampleRate);
    this.down = new Downsampler(sampleRate);
    this.loudness = new LoudnessMeter(sampleRate);
    this.peaks = new PeaksBuilder(sampleRate);
  }

  push(channels: readonly Float32Array[]): void {
    this.samples += channels[0].length;
    for (const meter of [this.flux, this.down, this.loudness, this.peaks]) meter.push(channels);
  }

  found(): HeardSong {
    const onsets = onsetStrength(this.down.read());
    return {
      ...analyseOnsets(onsets, hearRanges(this.flux.read()), this.samples / this.sampleRate),
      loudness: this.loudness.read(),
      peaks: this.peaks.read(),
    };
  }
}

/** Measures what `decodeSong` passes on and finds its beats, hits and parts. Null where there is no sound that can be decoded. */
export function findInSong(port: MessagePort): Promise<HeardSong | null> {
  let meters: SongMeters | null = null;
  return new Promise((resolve, reject) => {
    const take = (passed: Passed) => {
      if (passed === 'over') return resolve(meters?.found() ?? null);
      meters ??= new SongMeters(passed.sampleRate);
      meters.push(passed.channels);
      port.postMessage('heard');
    };
    port.onmessage = ({ data }: MessageEvent<Passed>) => {
      try {
        take(data);
      } catch (error) {
        reject(error);
      }
    };
  });
}
