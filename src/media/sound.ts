import { ALL_FORMATS, AudioSampleSink, BlobSource, Input } from 'mediabunny';

/** Decoded sound, -1..1, one array a channel (at most two). */
export interface Sound {
  sampleRate: number;
  channels: Float32Array<ArrayBuffer>[];
}

/** Decodes a file's sound from `from` to `to` seconds; samples stand at their own timestamps, gaps are silent. */
export async function decodeSound(
  file: Blob,
  onProgress?: (done: number) => void,
  from = 0,
  to = Number.POSITIVE_INFINITY,
): Promise<Sound | null> {
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
  try {
    const track = await input.getPrimaryAudioTrack();
    if (!track || !(await track.canDecode())) return null;
    const sampleRate = await track.getSampleRate();
    const count = Math.min(2, await track.getNumberOfChannels());
    const end = Math.min(to, await track.computeDuration());
    const length = Math.max(0, Math.round((end - from) * sampleRate));
    const channels = Array.from({ length: count }, () => new Float32Array(length));
    const sink = new AudioSampleSink(track);
    for await (const sample of sink.samples(from, end)) {
      const at = Math.round((sample.timestamp - from) * sampleRate);
      const skip = Math.max(0, -at);
      const frames = Math.min(sample.numberOfFrames - skip, length - Math.max(0, at));
      if (frames > 0) {
        for (let c = 0; c < count; c++) {
          sample.copyTo(channels[c].subarray(at + skip, at + skip + frames), {
            planeIndex: c,
            format: 'f32-planar',
            frameOffset: skip,
            frameCount: frames,
          });
        }
      }
      onProgress?.(Math.min(1, (sample.timestamp - from) / (end - from)));
      sample.close();
    }
    return { sampleRate, channels };
  } finally {
    input.dispose();
  }
}
