import { randomSource } from '../room';
import type { Seconds } from '../units';
import { say } from '../words';
import { type SoundKind, VOICES, type Voice } from './voices';

/** A sound that was made: samples of one channel, -1..1, and the second of it that meets a beat. */
export interface MadeSound {
  samples: Float32Array;
  rate: number;
  meets: Seconds;
}

/** Seconds over which it begins and ends, so that nothing clicks. */
const EDGE = 0.002;

/**
 * Makes a sound: the same for a kind, length (0.05 to 30 s) and seed, brought to its kind's peak. Throws a RangeError for another length.
 */
export function makeSound(kind: SoundKind, seconds: Seconds, seed: number, rate = 48_000): MadeSound {
  if (!(seconds >= 0.05 && seconds <= 30)) throw new RangeError(say`A sound lasts from 0.05 to 30 seconds.`);
  const voice: Voice = VOICES[kind];
  const random = randomSource(seed * 7919 + kind.length);
  const sample = voice.make({ rate, seconds, noise: () => 2 * random() - 1, chance: random });
  const count = Math.round(seconds * rate);
  const samples = new Float32Array(count);
  let most = 0;
  for (let i = 0; i < count; i++) {
    const t = i / rate;
    // What begins at once keeps its attack: only its end is taken down.
    const edge = Math.min(1, (seconds - t) / EDGE, voice.meets > 0 ? t / EDGE : 1);
    samples[i] = edge * sample(t);
    most = Math.max(most, Math.abs(samples[i]));
  }
  const gain = most > 0 ? 10 ** (voice.peak / 20) / most : 0;
  for (let i = 0; i < count; i++) samples[i] *= gain;
  return { samples, rate, meets: voice.meets * seconds };
}
