import { numberKind } from '../motion';
import { STAY } from '../picture';
import type { Pixels } from '../units';
import type { EffectKind } from './kind';
import { streaked } from './streaked';

/** Streaks along a straight way, as of something that rushes past: the mean over that length (a box, not a Gaussian). */
export const directionalBlur: EffectKind<{ dx: Pixels; dy: Pixels }> = {
  kind: 'directional blur',
  name: 'Directional blur',
  numbers: { amount: numberKind('Length, of the height', '%', 0, 100, 0, 0.5, 1), angle: numberKind('Angle', '°', -360, 360, 0) },
  resolve: ({ amount, angle }, { height }) => {
    const [far, a] = [(amount / 100) * height, (angle * Math.PI) / 180];
    return far > 0 ? { dx: far * Math.cos(a), dy: far * Math.sin(a) } : null;
  },
  scale: ({ dx, dy }, factor) => ({ dx: dx * factor, dy: dy * factor }),
  reach: ({ dx, dy }) => Math.hypot(dx, dy) / 2,
  apply: (planes, { dx, dy }) => streaked(planes, (share) => ({ ...STAY, c: share * dx, f: share * dy })),
};
