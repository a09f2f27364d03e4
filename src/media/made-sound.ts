import { AudioSample, AudioSampleSource, BufferTarget, Output, WavOutputFormat } from 'mediabunny';
import { makeSound, type SoundKind } from '@/core/sounds';
import { say } from '@/core/words';

/** A sound of the application's own as a WAV file (16 bits, 48 kHz, one channel). */
export async function madeSoundFile(kind: SoundKind, seconds: number, seed: number): Promise<File> {
  const { samples, rate } = makeSound(kind, seconds, seed);
  const target = new BufferTarget();
  const output = new Output({ format: new WavOutputFormat(), target });
  const source = new AudioSampleSource({ codec: 'pcm-s16' });
  output.addAudioTrack(source);
  await output.start();
  const sample = new AudioSample({ data: samples, format: 'f32', numberOfChannels: 1, sampleRate: rate, timestamp: 0 });
  await source.add(sample);
  sample.close();
  await output.finalize();
  if (!target.buffer) throw new Error(say`The sound could not be written.`);
  return new File([target.buffer], `${kind}-${seconds.toFixed(2)}s.wav`, { type: 'audio/wav' });
}
