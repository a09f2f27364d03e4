import { numberKind } from '../motion';
import { copiedPlanes } from '../picture';
import type { Unit } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

/** Darkens (or lightens) towards the corners: `size` is how far the middle stays as it is, 1 is the corner. */
export const vignette: EffectKind<{ amount: number; size: Unit; soft: Unit }> = {
  kind: 'vignette',
  name: say`Vignette`,
  about: say`Darker towards the corners: eyes stay in the middle.`,
  numbers: {
    amount: numberKind(say`Darker at the corners`, '%', -100, 100, 0),
    size: numberKind(say`Untouched middle`, '%', 0, 100, 40),
    soft: numberKind('Softness', '%', 1, 100, 60),
  },
  usual: { amount: 50 },
  resolve: ({ amount, size, soft }) => (amount === 0 ? null : { amount: amount / 100, size: size / 100, soft: soft / 100 }),
  scale: (resolved) => resolved,
  reach: () => 0,
  apply: (planes, { amount, size, soft }) => {
    const { width, height, y, u, v } = planes;
    const out = copiedPlanes(planes);
    const half = width >> 1;
    for (let row = 0; row < height; row += 2) {
      const dy = ((row + 1) / height - 0.5) * 2;
      for (let x = 0; x < half; x++) {
        const dx = ((2 * x + 1) / width - 0.5) * 2;
        const t = Math.min(1, Math.max(0, (Math.sqrt((dx * dx + dy * dy) / 2) - size) / soft));
        if (t === 0) continue;
        const k = 1 - amount * t * t * (3 - 2 * t);
        const at = row * width + 2 * x;
        for (const i of [at, at + 1, at + width, at + width + 1]) out.y[i] = Math.min(235, Math.max(0, 16 + k * (y[i] - 16) + 0.5));
        const c = (row >> 1) * half + x;
        out.u[c] = Math.min(240, Math.max(16, 128 + k * (u[c] - 128) + 0.5));
        out.v[c] = Math.min(240, Math.max(16, 128 + k * (v[c] - 128) + 0.5));
      }
    }
    return out;
  },
};
