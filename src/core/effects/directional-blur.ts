import { numberKind } from '../motion';
import { STAY } from '../picture';
import { say } from '../words';
import type { EffectKind } from './kind';
import { streaked } from './streaked';
import { scaledWay, type Way, wayOf } from './way';

/** Streaks along a straight way, as of something that rushes past: the mean over that length (a box, not a Gaussian). */
export const directionalBlur: EffectKind<Way> = {
  kind: 'directional blur',
  name: say`Directional blur`,
  about: say`Smears the picture along one direction: the streaks of a whip.`,
  numbers: { amount: numberKind(say`Length, of the height`, '%', 0, 100, 0, 0.5, 1), angle: numberKind('Angle', '°', -360, 360, 0) },
  usual: { amount: 4 },
  resolve: wayOf,
  scale: scaledWay,
  reach: ({ dx, dy }) => Math.hypot(dx, dy) / 2,
  apply: (planes, { dx, dy }) => streaked(planes, (share) => ({ ...STAY, c: share * dx, f: share * dy })),
};
