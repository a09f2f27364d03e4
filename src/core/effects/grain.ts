import { numberKind } from '../motion';
import { randomAt, randomSource } from '../room';
import type { Frames, Pixels } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

/** Noise of about one standard deviation, always the same; each frame begins in it at a place of its own. Its length is prime. */
let noise: Float32Array | null = null;
function grains(): Float32Array {
  const random = randomSource(77);
  noise ??= Float32Array.from({ length: 262_139 }, () => 1.7 * (random() + random() + random() - 1.5));
  return noise;
}

/** Film grain: brightness that strays from pixel to pixel and from frame to frame; the same film has the same grain. */
export const grain: EffectKind<{ amount: number; size: Pixels; seed: number }> = {
  kind: 'grain',
  name: say`Grain`,
  about: say`The grain of film, new on every frame.`,
  numbers: {
    amount: numberKind(say`Amount, of full range`, '%', 0, 30, 0, 0.5, 1),
    size: numberKind(say`Size, of the height`, '%', 0.1, 2, 0.15, 0.05, 2),
    seed: numberKind('Seed', '', 0, 9999, 1),
    every: numberKind(say`Changes every`, 'frames', 1, 25, 1),
  },
  usual: { amount: 4 },
  resolve: ({ amount, size, seed, every }, { height, index }) =>
    amount > 0
      ? {
          amount: (amount / 100) * 219,
          size: Math.max(1, (size / 100) * height),
          seed: placeOf(seed, Math.floor(index / Math.max(1, every))),
        }
      : null,
  scale: ({ amount, size, seed }, factor) => ({ amount, size: Math.max(1, size * factor), seed }),
  reach: () => 0,
  apply: (planes, { amount, size, seed }) => {
    const { width, height } = planes;
    const all = grains();
    const y = planes.y.slice();
    const across = Math.ceil(width / size) + 1;
    for (let row = 0; row < height; row++) {
      const line = Math.floor(row / size) * across + seed;
      for (let x = 0; x < width; x++) {
        const value = y[row * width + x] + amount * all[(line + Math.floor(x / size)) % all.length];
        y[row * width + x] = value < 0 ? 0 : value > 255 ? 255 : value + 0.5;
      }
    }
    return { ...planes, y };
  },
};

const placeOf = (seed: number, frame: Frames) => Math.floor(randomAt(seed, frame)() * 262_139);
