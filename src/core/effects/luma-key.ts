import { numberKind } from '../motion';
import type { Unit } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

/** Clear where it is darker than one level or brighter than another, softly. */
export const lumaKey: EffectKind<{ from: Unit; to: Unit; softness: Unit }> = {
  kind: 'luma key',
  name: say`Luma key`,
  about: say`Clears what is dark or what is bright: a flash or smoke on black.`,
  numbers: {
    from: numberKind(say`Clear below a brightness of`, '%', 0, 100, 0),
    to: numberKind(say`Clear above a brightness of`, '%', 0, 100, 100),
    softness: numberKind('Softness', '%', 0.5, 50, 5, 0.5, 1),
  },
  usual: { from: 20 },
  resolve: ({ from, to, softness }) => (from <= 0 && to >= 100 ? null : { from: from / 100, to: to / 100, softness: softness / 100 }),
  scale: (resolved) => resolved,
  reach: () => 0,
  clears: ({ y }, { from, to, softness }) => {
    const levels = Uint8Array.from({ length: 256 }, (_, code) => {
      const level = (code - 16) / 219;
      const up = from <= 0 ? 1 : (level - from) / softness + 0.5;
      const down = to >= 1 ? 1 : (to - level) / softness + 0.5;
      return Math.round(255 * Math.min(1, Math.max(0, Math.min(up, down))));
    });
    return y.map((code) => levels[code]);
  },
};
