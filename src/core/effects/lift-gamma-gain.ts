import { numberKind } from '../motion';
import { say } from '../words';
import type { EffectKind } from './kind';

type Three = readonly [number, number, number];
interface Resolved {
  lift: Three;
  gamma: Three;
  gain: Three;
}

const PARTS = [
  ['lift', 'Lift', '%', -50, 50, 0],
  ['gamma', 'Gamma', '%', 20, 400, 100],
  ['gain', 'Gain', '%', 0, 400, 100],
] as const;
const CHANNELS = [
  ['', ''],
  ['R', say`, red`],
  ['G', say`, green`],
  ['B', say`, blue`],
] as const;

/** Black raised, middle bent and white scaled, of all channels and of each: out = (gain · (in + lift · (1 − in)))^(1 / gamma). */
export const liftGammaGain: EffectKind<Resolved> = {
  kind: 'lift gamma gain',
  name: say`Lift, gamma, gain`,
  about: say`Balances shadows, middle tones and highlights, each by colour.`,
  numbers: Object.fromEntries(
    PARTS.flatMap(([part, label, unit, min, max, otherwise]) =>
      CHANNELS.map(([c, words]) => [`${part}${c}`, numberKind(`${label}${words}`, unit, min, max, otherwise)] as const),
    ),
  ),
  resolve: (numbers) => {
    if (PARTS.every(([part, , , , , otherwise]) => CHANNELS.every(([c]) => numbers[`${part}${c}`] === otherwise))) return null;
    const three = (of: (c: string) => number): Three => [of('R'), of('G'), of('B')];
    return {
      lift: three((c) => (numbers.lift + numbers[`lift${c}`]) / 100),
      gamma: three((c) => (numbers.gamma * numbers[`gamma${c}`]) / 1e4),
      gain: three((c) => (numbers.gain * numbers[`gain${c}`]) / 1e4),
    };
  },
  scale: (resolved) => resolved,
  reach: () => 0,
  rgb:
    ({ lift, gamma, gain }) =>
    (rgb) => {
      for (let c = 0; c < 3; c++) rgb[c] = Math.max(0, gain[c] * (rgb[c] + lift[c] * (1 - rgb[c]))) ** (1 / gamma[c]);
    },
};
