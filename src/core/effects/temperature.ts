import { numberKind } from '../motion';
import { BT709, type Gains, takeToProject } from '../picture';
import { say } from '../words';
import type { EffectKind } from './kind';

/** CIE x of a light by its colour temperature: daylight of CIE 015 from 4000 K on, below it the Planckian locus (cubic by Kim et al. 2002, from memory). */
function chromaticityX(kelvin: number): number {
  const t = 1000 / kelvin;
  if (kelvin >= 7000) return 0.23704 + 0.24748 * t + 1.9018 * t ** 2 - 2.0064 * t ** 3;
  if (kelvin >= 4000) return 0.244063 + 0.09911 * t + 2.9678 * t ** 2 - 4.607 * t ** 3;
  return 0.17991 + 0.8776956 * t - 0.2343589 * t ** 2 - 0.2661239 * t ** 3;
}

/** CIE x and y of a light by its colour temperature, 2000 to 12000 K. */
export function chromaticity(kelvin: number): [x: number, y: number] {
  const x = chromaticityX(kelvin);
  if (kelvin >= 4000) return [x, -3 * x ** 2 + 2.87 * x - 0.275];
  return kelvin >= 2222
    ? [x, -0.9549476 * x ** 3 - 1.37418593 * x ** 2 + 2.09137015 * x - 0.16748867]
    : [x, -1.1063814 * x ** 3 - 1.3481102 * x ** 2 + 2.18555832 * x - 0.20219683];
}

/** Linear R, G and B of BT.709 of a light (matrix of IEC 61966-2-1), of brightness 1. */
function lightOf([x, y]: readonly [number, number]): Gains {
  const [X, Z] = [x / y, (1 - x - y) / y];
  return {
    r: 3.2406 * X - 1.5372 - 0.4986 * Z,
    g: -0.9689 * X + 1.8758 + 0.0415 * Z,
    b: Math.max(0.01, 0.0557 * X - 0.204 + 1.057 * Z),
  };
}

const AS_FILMED = 6500;

/** The picture as lit by light of another colour temperature, and more green or magenta; brightness stays. */
export const temperature: EffectKind<Gains> = {
  kind: 'temperature',
  name: say`Temperature and tint`,
  about: say`Warmer or cooler, greener or more magenta: light of another lamp.`,
  numbers: {
    kelvin: numberKind(say`Lit by (6500 as filmed)`, 'K', 2000, 12_000, AS_FILMED, 100),
    tint: numberKind(say`Green to magenta`, 'EV', -1, 1, 0, 0.01, 2),
  },
  resolve: ({ kelvin, tint }) => {
    if (kelvin === AS_FILMED && tint === 0) return null;
    const [now, filmed] = [lightOf(chromaticity(kelvin)), lightOf(chromaticity(AS_FILMED))];
    const gains = { r: now.r / filmed.r, g: (now.g / filmed.g) * 2 ** -tint, b: now.b / filmed.b };
    const bright = 0.2126 * gains.r + 0.7152 * gains.g + 0.0722 * gains.b;
    return { r: gains.r / bright, g: gains.g / bright, b: gains.b / bright };
  },
  scale: (resolved) => resolved,
  reach: () => 0,
  colour: (gains) => takeToProject(BT709, gains),
};
