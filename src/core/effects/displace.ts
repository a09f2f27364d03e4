import { numberKind } from '../motion';
import { randomAt } from '../room';
import type { Pixels } from '../units';
import { say } from '../words';
import { drawnFrom, type PlaceOf, stepFor } from './drawn-from';
import type { EffectKind } from './kind';
import { fieldAt } from './noise-field';

/** Shifted from place to place: along a wave that runs through the picture, or by smooth noise that boils; heat, water, a bad signal. */
export const displace: EffectKind<{ far: Pixels; size: Pixels; phase: number; wave: boolean; seed: number }> = {
  kind: 'displace',
  name: say`Displace`,
  about: say`Shakes the picture by waves or noise: heat over a dryer, water, a bad signal.`,
  numbers: {
    amount: numberKind(say`Amount, of the height`, '%', 0, 30, 0, 0.1, 2),
    wave: numberKind(say`By: 0 noise, 1 a wave`, '', 0, 1, 0),
    size: numberKind(say`Size, of the height`, '%', 1, 100, 15, 1, 1),
    speed: numberKind(say`Changes, times a second at 25`, '', 0, 25, 1, 0.1, 1),
    seed: numberKind('Seed', '', 0, 9999, 1),
  },
  usual: { amount: 2 },
  resolve: ({ amount, wave, size, speed, seed }, { height, index }) =>
    amount > 0
      ? {
          far: (amount / 100) * height,
          size: Math.max(2, (size / 100) * height),
          phase: (index * speed) / 25,
          wave: Math.round(wave) === 1,
          seed: Math.round(seed),
        }
      : null,
  scale: ({ far, size, ...rest }, factor) => ({ ...rest, far: far * factor, size: Math.max(2, size * factor) }),
  reach: ({ far }) => 2 * far,
  apply: (planes, { far, size, phase, wave, seed }) => {
    if (wave) {
      const begin = randomAt(seed, 0)();
      const bend = far * ((2 * Math.PI) / size) ** 2;
      const along: PlaceOf = (x, y, at) => {
        at[0] = x + far * Math.sin(2 * Math.PI * (y / size + phase + begin));
        at[1] = y;
      };
      return drawnFrom(planes, along, stepFor(bend));
    }
    // Two fields, each gone over into its next as time passes.
    const [now, share] = [Math.floor(phase), phase % 1];
    const [right, down] = [0, 1].map((k) => [fieldAt(seed + 17 * k, now), fieldAt(seed + 17 * k, now + 1)] as const);
    const boiling: PlaceOf = (x, y, at) => {
      const [u, v] = [x / size, y / size];
      const a = right[0](u, v);
      const b = down[0](u, v);
      at[0] = x + far * (a + share * (right[1](u, v) - a));
      at[1] = y + far * (b + share * (down[1](u, v) - b));
    };
    // The fade between two values bends by up to 5.8 of their difference, which is 2 at most.
    return drawnFrom(planes, boiling, stepFor((11.6 * far) / size ** 2));
  },
};
