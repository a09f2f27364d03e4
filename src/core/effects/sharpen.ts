import { numberKind } from '../motion';
import { gaussianBlur } from '../picture';
import type { Pixels } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

/** Raises edges by what a blur takes away (unsharp masking, common practice). */
export const sharpen: EffectKind<{ amount: number; deviation: Pixels }> = {
  kind: 'sharpen',
  name: say`Sharpen`,
  about: say`Makes edges crisper by what blurring takes from them.`,
  numbers: { amount: numberKind('Amount', '%', 0, 400, 0), radius: numberKind(say`Radius, of the height`, '%', 0.05, 5, 0.2, 0.05, 2) },
  usual: { amount: 80 },
  resolve: ({ amount, radius }, { height }) => (amount > 0 ? { amount: amount / 100, deviation: (radius / 100) * height } : null),
  scale: ({ amount, deviation }, factor) => ({ amount, deviation: deviation * factor }),
  reach: ({ deviation }) => 3 * deviation,
  apply: (planes, { amount, deviation }) => {
    const soft = gaussianBlur(planes, Math.max(0.4, deviation));
    const y = planes.y.slice();
    for (let i = 0; i < y.length; i++) {
      const value = y[i] + amount * (y[i] - soft.y[i]);
      y[i] = value < 0 ? 0 : value > 255 ? 255 : value + 0.5;
    }
    return { ...planes, y };
  },
};
