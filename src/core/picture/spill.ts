import { around, type Degrees, lengthOf, type Unit } from '../units';
import type { Planes } from './planes';

/** Coded chroma of a colour, from the middle: how far to blue and to red. */
export interface Chroma {
  u: number;
  v: number;
}

/** Luma and chroma (ITU-R BT.709) of a hue at its strongest, shares of 1. */
function codedHue(hue: Degrees): Chroma & { y: number } {
  const channel = (at: number) => Math.max(0, Math.min(1, Math.abs(around(hue / 60 + at, 6) - 3) - 1));
  const [r, g, b] = [channel(0), channel(4), channel(2)];
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return { y, u: (b - y) / 1.8556, v: (r - y) / 1.5748 };
}

/** The direction of a hue in chroma (ITU-R BT.709), of length 1: 0° red, 120° green, 240° blue. */
export function chromaOfHue(hue: Degrees): Chroma {
  const { u, v } = codedHue(hue);
  const size = lengthOf(u, v) || 1;
  return { u: u / size, v: v / size };
}

/** The hue whose chroma points the way of a colour's. */
export function hueOfChroma({ u, v }: Chroma): Degrees {
  let [best, most] = [0, Number.NEGATIVE_INFINITY];
  const size = lengthOf(u, v) || 1;
  for (let hue = 0; hue < 360; hue++) {
    const c = chromaOfHue(hue);
    const along = (c.u * u + c.v * v) / size;
    if (along > most) [best, most] = [hue, along];
  }
  return best;
}

/** Luma that comes with each step of coded chroma of a hue's own light (ITU-R BT.709, limited range). `towards` is of length 1. */
function lumaOf(towards: Chroma): number {
  const { y, u, v } = codedHue(hueOfChroma(towards));
  return (219 * y) / (224 * (lengthOf(u, v) || 1));
}

/**
 * Takes a colour's spill out of a picture, in place: what leans its way by more than half of what lies beside it is brought back to there
 * (despill by a limit on the backing's colour, common practice). `light` is the share of the spill's own light that goes with it: at 0
 * brightness stays as it is. `towards` is of length 1.
 */
export function takeSpillOut(
  { width, y, u, v }: Pick<Planes, 'width' | 'y' | 'u' | 'v'>,
  towards: Chroma,
  amount: Unit,
  light: Unit,
): void {
  const half = width >> 1;
  const darker = light > 0 ? amount * light * lumaOf(towards) : 0;
  for (let i = 0; i < u.length; i++) {
    const [du, dv] = [u[i] - 128, v[i] - 128];
    const along = du * towards.u + dv * towards.v;
    const over = along - 0.5 * Math.abs(du * towards.v - dv * towards.u);
    if (over <= 0) continue;
    u[i] = Math.round(128 + du - amount * over * towards.u);
    v[i] = Math.round(128 + dv - amount * over * towards.v);
    if (darker === 0) continue;
    const at = 2 * Math.floor(i / half) * width + 2 * (i % half);
    for (const k of [at, at + 1, at + width, at + width + 1]) y[k] = Math.max(16, Math.round(y[k] - darker * over));
  }
}
