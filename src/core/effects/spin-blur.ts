import { numberKind } from '../motion';
import type { Pixels } from '../units';
import { say } from '../words';
import { about, MIDDLE } from './around';
import type { EffectKind } from './kind';
import { streaked } from './streaked';

/** Streaks around a place, as of a camera that rolls while the shutter is open. */
export const spinBlur: EffectKind<{ angle: number; x: Pixels; y: Pixels }> = {
  kind: 'spin blur',
  name: say`Spin blur`,
  about: say`Smears the picture round a point: a spin.`,
  numbers: { amount: numberKind(say`Turns by`, '°', 0, 180, 0, 1, 1), ...MIDDLE },
  usual: { amount: 4 },
  resolve: ({ amount, x, y }, { width, height }) =>
    amount > 0 ? { angle: (amount * Math.PI) / 180, x: (x / 100) * width, y: (y / 100) * height } : null,
  scale: ({ angle, x, y }, factor) => ({ angle, x: x * factor, y: y * factor }),
  reach: () => Number.POSITIVE_INFINITY,
  apply: (planes, { angle, x, y }) => streaked(planes, (share) => about(x, y, 1, share * angle)),
};
