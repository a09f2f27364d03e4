import { numberKind } from '../motion';
import { alongCurves, type ChannelCurves } from '../picture';
import { say } from '../words';
import type { EffectKind } from './kind';

const CHANNELS = [
  ['all', ''],
  ['r', say`Red, `],
  ['g', say`Green, `],
  ['b', say`Blue, `],
] as const;
const POINTS = [
  ['0', say`black`],
  ['25', say`shadows`],
  ['50', say`middle`],
  ['75', say`highlights`],
  ['100', say`white`],
] as const;

const capital = (text: string) => text[0].toUpperCase() + text.slice(1);

const STEPS = 64;

/** Evenly spaced points joined smoothly (Catmull & Rom 1974), at even steps. */
function smooth(points: readonly number[]): number[] {
  const last = points.length - 1;
  return Array.from({ length: STEPS + 1 }, (_, k) => {
    const at = (k / STEPS) * last;
    const i = Math.min(last - 1, Math.floor(at));
    const t = at - i;
    const [p, q] = [points[i], points[i + 1]];
    const [before, after] = [points[i - 1] ?? 2 * p - q, points[i + 2] ?? 2 * q - p];
    return p + 0.5 * t * (q - before + t * (2 * before - 5 * p + 4 * q - after + t * (3 * (p - q) + after - before)));
  });
}

/** Raises and lowers tones: five points of a curve for all channels and for each, per cent of full range up or down, a smooth line through them. */
export const curves: EffectKind<ChannelCurves> = {
  kind: 'curves',
  name: say`Curves`,
  about: say`Bends the tones, all of them or each colour by itself.`,
  numbers: Object.fromEntries(
    CHANNELS.flatMap(([channel, words]) =>
      POINTS.map(([at, point]) => [`${channel}${at}`, numberKind(capital(`${words}${point}`), '%', -100, 100, 0, 0.5, 1)] as const),
    ),
  ),
  resolve: (numbers) => {
    if (Object.values(numbers).every((n) => n === 0)) return null;
    const steps = (channel: string) => smooth(POINTS.map(([at]) => (numbers[`${channel}${at}`] ?? 0) / 100));
    const all = steps('all');
    const withAll = (channel: string) => steps(channel).map((own, k) => own + all[k]);
    return { r: withAll('r'), g: withAll('g'), b: withAll('b') };
  },
  scale: (resolved) => resolved,
  reach: () => 0,
  rgb: alongCurves,
};
