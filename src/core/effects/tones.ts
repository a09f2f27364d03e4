import { numberKind } from '../motion';
import { around, type Degrees, type Unit } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

type Colour = readonly [number, number, number];
interface Resolved {
  dark: Colour;
  middle: Colour;
  light: Colour;
  amount: Unit;
}

/** R'G'B' of hue, saturation and lightness (CSS Color Level 4, section 7.1). */
export function ofHsl(hue: Degrees, saturation: Unit, lightness: Unit): [number, number, number] {
  const f = (n: number) => {
    const k = around(n + hue / 30, 12);
    return lightness - saturation * Math.min(lightness, 1 - lightness) * Math.max(-1, Math.min(k - 3, 9 - k, 1));
  };
  return [f(0), f(8), f(4)];
}

const PLACES = [
  ['dark', 'Dark', 8],
  ['middle', 'Middle', 50],
  ['light', 'Light', 92],
] as const;

/** The picture in three tones of one's own, by its brightness: dark, middle and light, mixed between. */
export const tones: EffectKind<Resolved> = {
  kind: 'tones',
  name: say`Two or three tones`,
  about: say`Two or three colours from shadows to highlights, whatever was filmed.`,
  numbers: {
    amount: numberKind('Amount', '%', 0, 100, 0),
    ...Object.fromEntries(
      PLACES.flatMap(([place, label, lightness]) => [
        [`${place}Hue`, numberKind(say`${label}: hue`, '°', 0, 360, 30)],
        [`${place}Saturation`, numberKind(say`${label}: saturation`, '%', 0, 100, 40)],
        [`${place}Lightness`, numberKind(say`${label}: lightness`, '%', 0, 100, lightness)],
      ]),
    ),
  },
  usual: { amount: 100 },
  resolve: (numbers) => {
    if (!(numbers.amount > 0)) return null;
    const colour = (place: string): Colour =>
      ofHsl(numbers[`${place}Hue`], numbers[`${place}Saturation`] / 100, numbers[`${place}Lightness`] / 100);
    return { dark: colour('dark'), middle: colour('middle'), light: colour('light'), amount: numbers.amount / 100 };
  },
  scale: (resolved) => resolved,
  reach: () => 0,
  rgb:
    ({ dark, middle, light, amount }) =>
    (rgb) => {
      const luma = Math.min(1, Math.max(0, 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2]));
      const [low, high, share] = luma < 0.5 ? [dark, middle, 2 * luma] : [middle, light, 2 * luma - 1];
      for (let c = 0; c < 3; c++) rgb[c] += amount * (low[c] + share * (high[c] - low[c]) - rgb[c]);
    },
};
