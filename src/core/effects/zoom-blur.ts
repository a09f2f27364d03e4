import { numberKind } from '../motion';
import type { Pixels } from '../units';
import { say } from '../words';
import { about, MIDDLE } from './around';
import type { EffectKind } from './kind';
import { streaked } from './streaked';

/** Streaks away from a place, as of a zoom while the shutter is open: from so much smaller to so much larger, evenly in its logarithm. */
export const zoomBlur: EffectKind<{ times: number; x: Pixels; y: Pixels }> = {
  kind: 'zoom blur',
  name: say`Zoom blur`,
  about: say`Smears the picture towards a point or away from it: a rush forward.`,
  numbers: { amount: numberKind(say`Grows by`, '%', 0, 200, 0, 1, 1), ...MIDDLE },
  usual: { amount: 8 },
  resolve: ({ amount, x, y }, { width, height }) =>
    amount > 0 ? { times: 1 + amount / 100, x: (x / 100) * width, y: (y / 100) * height } : null,
  scale: ({ times, x, y }, factor) => ({ times, x: x * factor, y: y * factor }),
  reach: () => Number.POSITIVE_INFINITY,
  apply: (planes, { times, x, y }) => streaked(planes, (share) => about(x, y, times ** share, 0)),
};
