import { numberKind } from '../motion';
import { copiedPlanes, gaussianBlur, type Planes } from '../picture';
import type { Pixels, Unit } from '../units';
import { say } from '../words';
import type { EffectKind } from './kind';

/** What is brighter than a level shines beyond its edges: blurred and laid over by screen (W3C Compositing Level 1, on brightness). */
export const glow: EffectKind<{ amount: number; from: Unit; deviation: Pixels }> = {
  kind: 'glow',
  name: say`Glow`,
  about: say`What is bright shines over its surroundings.`,
  numbers: {
    amount: numberKind('Amount', '%', 0, 300, 0),
    from: numberKind(say`From a brightness of`, '%', 0, 100, 60),
    radius: numberKind(say`Radius, of the height`, '%', 0.2, 20, 3, 0.1, 1),
  },
  usual: { amount: 60 },
  resolve: ({ amount, from, radius }, { height }) =>
    amount > 0 ? { amount: amount / 100, from: from / 100, deviation: (radius / 100) * height } : null,
  scale: ({ amount, from, deviation }, factor) => ({ amount, from, deviation: deviation * factor }),
  reach: ({ deviation }) => 3 * deviation,
  apply: (planes, { amount, from, deviation }) => {
    const { width, height } = planes;
    const limit = 16 + 219 * from;
    const half = width >> 1;
    const bright: Planes = { width, height, y: planes.y.map((l) => (l > limit ? l - limit : 0)), u: planes.u.slice(), v: planes.v.slice() };
    // Where nothing shines there is no colour to spread.
    for (let i = 0; i < bright.u.length; i++) {
      const at = 2 * Math.floor(i / half) * width + 2 * (i % half);
      if (bright.y[at] === 0) bright.u[i] = bright.v[i] = 128;
    }
    const soft = gaussianBlur(bright, Math.max(0.5, deviation));
    const out = copiedPlanes(planes);
    for (let i = 0; i < out.y.length; i++) {
      const below = Math.min(1, Math.max(0, (out.y[i] - 16) / 219));
      const shine = Math.min(1, (amount * soft.y[i]) / 219);
      out.y[i] = Math.round(16 + 219 * (below + shine - below * shine));
    }
    for (let i = 0; i < out.u.length; i++) {
      out.u[i] = Math.min(240, Math.max(16, out.u[i] + amount * (soft.u[i] - 128)));
      out.v[i] = Math.min(240, Math.max(16, out.v[i] + amount * (soft.v[i] - 128)));
    }
    return out;
  },
};
