import { ALL_FORMATS, AudioSampleSink, BlobSource, Input } from 'mediabunny';
import { answering } from './answering';
import { mp3Lead } from './mp3-lead';

/** Decoded sound, -1..1, one array a channel (at most two). */
export interface Sound {
  sampleRate: number;
  channels: Float32Array<ArrayBuffer>[];
}

/** A stretch of decoded sound; `done` samples of `total` have been read with it. */
interface SoundChunk extends Sound {
  done: number;
  total: number;
}

/** Samples handed on at once, at least. */
const CHUNK = 65_536;

/** Decodes a file's sound from `from` to `to` seconds in stretches; samples stand at their own timestamps, gaps are silent. Nothing where there is no sound that can be decoded. */
export async function* soundChunks(file: Blob, from = 0, to = Number.POSITIVE_INFINITY): AsyncGenerator<SoundChunk> {
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
  try {
    const track = await input.getPrimaryAudioTrack();
    if (!track || !(await track.canDecode())) return;
    const sampleRate = await track.getSampleRate();
    const count = Math.min(2, await track.getNumberOfChannels());
    const lead = await mp3Lead(file);
    const end = Math.min(to, (await track.computeDuration()) - lead);
    const length = Math.max(0, Math.round((end - from) * sampleRate));
    let begun = 0;
    let open = Array.from({ length: count }, () => new Float32Array(CHUNK));
    let filled = 0;
    const taken = () => {
      const channels = open.map((c) => c.subarray(0, filled));
      begun += filled;
      open = Array.from({ length: count }, () => new Float32Array(CHUNK));
      filled = 0;
      return { sampleRate, channels, done: begun, total: length };
    };
    for await (const sample of answering(new AudioSampleSink(track).samples(from + lead, end + lead))) {
      try {
        const at = Math.round((sample.timestamp - lead - from) * sampleRate);
        let skip = Math.max(0, begun + filled - at);
        // What is missing before it is silent.
        while (begun + filled < at) {
          filled = Math.min(CHUNK, filled + at - begun - filled);
          if (filled === CHUNK) yield taken();
        }
        while (skip < sample.numberOfFrames && begun + filled < length) {
          const frames = Math.min(sample.numberOfFrames - skip, CHUNK - filled, length - begun - filled);
          for (let c = 0; c < count; c++)
            sample.copyTo(open[c].subarray(filled, filled + frames), {
              planeIndex: c,
              format: 'f32-planar',
              frameOffset: skip,
              frameCount: frames,
            });
          skip += frames;
          filled += frames;
          if (filled === CHUNK) yield taken();
        }
      } finally {
        sample.close();
      }
    }
    // What is missing at the end is silent, as it is between.
    while (begun + filled < length) {
      filled = Math.min(CHUNK, length - begun);
      if (filled === CHUNK) yield taken();
    }
    if (filled) yield taken();
  } finally {
    input.dispose();
  }
}

/** Samples a second of a file's sound; null where there is none that can be decoded. */
export async function soundRate(file: Blob): Promise<number | null> {
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
  try {
    const track = await input.getPrimaryAudioTrack();
    return track && (await track.canDecode()) ? await track.getSampleRate() : null;
  } finally {
    input.dispose();
  }
}

/** The same as a whole; null where there is no sound that can be decoded. */
export async function decodeSound(
  file: Blob,
  onProgress?: (done: number) => void,
  from = 0,
  to = Number.POSITIVE_INFINITY,
): Promise<Sound | null> {
  let whole: Sound | null = null;
  for await (const { sampleRate, channels, done, total } of soundChunks(file, from, to)) {
    whole ??= { sampleRate, channels: channels.map(() => new Float32Array(total)) };
    for (const [c, data] of channels.entries()) whole.channels[c].set(data, done - data.length);
    onProgress?.(done / total);
  }
  return whole;
}
