import {
  analyseOnsets,
  Downsampler,
  FluxMeter,
  type Loudness,
  LoudnessMeter,
  onsetStrength,
  type Peaks,
  PeaksBuilder,
  type SongAnalysis,
} from '@/core/song';
import { soundChunks } from './sound';

/** All that is found in a song in one pass over its sound. */
export interface HeardSong extends SongAnalysis {
  loudness: Loudness;
  peaks: Peaks;
}

/** Share of the work that is decoding. */
const DECODING = 0.6;

/** Decodes a song piece by piece, so that a long mix needs little memory, and finds its beats, hits, parts, loudness and waveform. Null without sound that can be decoded. */
export async function hearSong(file: Blob, onProgress: (done: number) => void): Promise<HeardSong | null> {
  let made: { down: Downsampler; flux: FluxMeter; meter: LoudnessMeter; peaks: PeaksBuilder; rate: number; samples: number } | null = null;
  for await (const { sampleRate, channels, done, total } of soundChunks(file)) {
    made ??= {
      down: new Downsampler(sampleRate),
      flux: new FluxMeter(sampleRate),
      meter: new LoudnessMeter(sampleRate),
      peaks: new PeaksBuilder(sampleRate),
      rate: sampleRate,
      samples: 0,
    };
    made.down.push(channels);
    made.flux.push(channels);
    made.meter.push(channels);
    made.peaks.push(channels);
    made.samples += channels[0].length;
    onProgress((done / total) * DECODING);
  }
  if (!made) return null;
  const onsets = onsetStrength(made.down.read(), (p) => {
    onProgress(DECODING + p * (0.95 - DECODING));
    return true;
  });
  return (
    onsets && {
      ...analyseOnsets(onsets, made.flux.read(), made.samples / made.rate),
      loudness: made.meter.read(),
      peaks: made.peaks.read(),
    }
  );
}
