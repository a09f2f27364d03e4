import { type Degrees, lengthOf, type Unit } from '../units';

/** Coded chroma of a colour, from the middle: how far to blue and to red. */
export interface Chroma {
  u: number;
  v: number;
}

/** The direction of a hue in chroma (ITU-R BT.709), of length 1: 0° red, 120° green, 240° blue. */
export function chromaOfHue(hue: Degrees): Chroma {
  const channel = (at: number) => Math.max(0, Math.min(1, Math.abs(((((hue / 60 + at) % 6) + 6) % 6) - 3) - 1));
  const [r, g, b] = [channel(0), channel(4), channel(2)];
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  const [u, v] = [(b - y) / 1.8556, (r - y) / 1.5748];
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

/**
 * Takes a colour's spill out of chroma planes, in place: what leans its way by more than half of what lies beside it is brought back to there
 * (despill by a limit on the backing's colour, common practice). `towards` is of length 1.
 */
export function takeSpillOut(u: Uint8Array, v: Uint8Array, towards: Chroma, amount: Unit): void {
  for (let i = 0; i < u.length; i++) {
    const [du, dv] = [u[i] - 128, v[i] - 128];
    const along = du * towards.u + dv * towards.v;
    const over = along - 0.5 * Math.abs(du * towards.v - dv * towards.u);
    if (over <= 0) continue;
    u[i] = Math.round(128 + du - amount * over * towards.u);
    v[i] = Math.round(128 + dv - amount * over * towards.v);
  }
}
