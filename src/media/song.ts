import {
  analyseOnsets,
  Downsampler,
  FluxMeter,
  type HeardRanges,
  hearRanges,
  type Loudness,
  LoudnessMeter,
  type OnsetStrength,
  onsetStrength,
  type Peaks,
  PeaksBuilder,
  type SongAnalysis,
} from '@/core/song';
import type { Seconds } from '@/core/units';
import { type Sound, soundChunks } from './sound';

/** What a song's sound is as a whole: what begins in it, how loud it is, its waveform. */
interface WholeSound {
  onsets: OnsetStrength;
  loudness: Loudness;
  peaks: Peaks;
  duration: Seconds;
}

/** All that is found in a song. */
export interface HeardSong extends SongAnalysis {
  loudness: Loudness;
  peaks: Peaks;
}

/** What goes from the one who decodes to the one who finds the beats: stretches, that there are no more, and what it is as a whole. */
type Passed = Sound | 'over' | { whole: WholeSound | null };

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

/**
 * Decodes a song piece by piece, so that a long mix needs little memory, passes each piece on to `findInSong` and measures the sound as
 * a whole.
 */
export async function decodeSong(file: Blob, port: MessagePort, onProgress: (done: number) => void): Promise<void> {
  const pass = passing(port);
  let made: { down: Downsampler; meter: LoudnessMeter; peaks: PeaksBuilder; duration: Seconds } | null = null;
  for await (const { sampleRate, channels, done, total } of soundChunks(file)) {
    made ??= {
      down: new Downsampler(sampleRate),
      meter: new LoudnessMeter(sampleRate),
      peaks: new PeaksBuilder(sampleRate),
      duration: 0,
    };
    made.down.push(channels);
    made.meter.push(channels);
    made.peaks.push(channels);
    made.duration = done / sampleRate;
    await pass({ sampleRate, channels });
    onProgress((0.9 * done) / total);
  }
  port.postMessage('over' satisfies Passed);
  if (!made) return port.postMessage({ whole: null } satisfies Passed);
  const { down, meter, peaks, duration } = made;
  const whole = { onsets: onsetStrength(down.read()), loudness: meter.read(), peaks: peaks.read(), duration };
  port.postMessage({ whole } satisfies Passed);
}

/** Finds a song's beats, hits and parts in what `decodeSong` passes on. Null where there is no sound that can be decoded. */
export function findInSong(port: MessagePort): Promise<HeardSong | null> {
  let flux: FluxMeter | null = null;
  let ranges: HeardRanges | null = null;
  return new Promise((resolve, reject) => {
    const take = (passed: Passed) => {
      if (passed === 'over') ranges = flux && hearRanges(flux.read());
      else if ('whole' in passed) resolve(ranges && passed.whole && found(passed.whole, ranges));
      else {
        flux ??= new FluxMeter(passed.sampleRate);
        flux.push(passed.channels);
        port.postMessage('heard');
      }
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

const found = ({ onsets, loudness, peaks, duration }: WholeSound, ranges: HeardRanges): HeardSong => ({
  ...analyseOnsets(onsets, ranges, duration),
  loudness,
  peaks,
});
