import { BT709, type Planes, toRgbMatrix } from '../picture';
import { clamp, type Unit } from '../units';

/** Shares of the pixels of a picture that are darker, at which two pictures are compared. */
const SHARES = [0.02, 0.1, 0.25, 0.5, 0.75, 0.9, 0.98];
/** Pixels that are looked at, about. */
const LOOKED_AT = 60_000;
/** Values of a channel closer together than this say nothing of a curve. */
const FLAT = 6 / 255;
/** Ends of what a gamma is looked for in. */
const GAMMA = [0.4, 2.5] as const;

/** What makes one channel of a picture like another's: out = (gain · (in + lift · (1 − in)))^(1 / gamma). */
export interface ChannelMatch {
  lift: number;
  gamma: number;
  gain: number;
}

/** Values of a channel at `SHARES`, of red, green and blue, 0..1; pixels of nothing (plain black) are left out. Null for an empty picture. */
function levels({ width, height, y, u, v }: Planes): number[][] | null {
  const from = toRgbMatrix(BT709);
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / LOOKED_AT)));
  const rgb: number[][] = [[], [], []];
  for (let row = 0; row < height; row += step)
    for (let x = 0; x < width; x += step) {
      const c = (row >> 1) * (width >> 1) + (x >> 1);
      const [l, cb, cr] = [y[row * width + x], u[c], v[c]];
      if (l <= 16 && Math.abs(cb - 128) < 2 && Math.abs(cr - 128) < 2) continue;
      for (let k = 0; k < 3; k++) rgb[k].push(from[4 * k] * l + from[4 * k + 1] * cb + from[4 * k + 2] * cr + from[4 * k + 3]);
    }
  if (rgb[0].length < 100) return null;
  return rgb.map((values) => {
    values.sort((a, b) => a - b);
    return SHARES.map((share) => clamp(values[Math.floor(share * (values.length - 1))], 0, 1));
  });
}

const changed = ({ lift, gamma, gain }: ChannelMatch, value: Unit) => Math.max(0, gain * (value + lift * (1 - value))) ** (1 / gamma);

/** The best lift and gain for a gamma, by least squares on what the gamma leaves. */
function lineFor(from: readonly number[], to: readonly number[], gamma: number): ChannelMatch {
  const target = to.map((v) => v ** gamma);
  const n = from.length;
  const [mx, my] = [from, target].map((all) => all.reduce((a, b) => a + b, 0) / n);
  const [sxy, sxx] = [0, 1].map((k) => from.reduce((sum, x, i) => sum + (x - mx) * (k ? x - mx : target[i] - my), 0));
  const slope = Math.max(0.02, sxy / sxx);
  const low = my - slope * mx;
  const gain = clamp(slope + low, 0.05, 4);
  return { gain, lift: clamp(low / gain, -0.5, 0.5), gamma };
}

/** One channel's curve through pairs of levels: the gamma by golden section (Kiefer 1953), lift and gain with it. */
function channelMatch(from: readonly number[], to: readonly number[]): ChannelMatch {
  const last = SHARES.length - 1;
  const middle = last >> 1;
  if (from[last] - from[0] < FLAT || to[last] - to[0] < FLAT)
    return { lift: 0, gamma: 1, gain: clamp(to[middle] / Math.max(1e-3, from[middle]), 0.05, 4) };
  const off = (log: number) => {
    const match = lineFor(from, to, Math.exp(log));
    return from.reduce((sum, v, i) => sum + (changed(match, v) - to[i]) ** 2, 0);
  };
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [a, b] = GAMMA.map(Math.log);
  for (let i = 0; i < 40; i++) {
    const [c, d] = [b - ratio * (b - a), a + ratio * (b - a)];
    if (off(c) < off(d)) b = d;
    else a = c;
  }
  return lineFor(from, to, Math.exp((a + b) / 2));
}

/**
 * Lift, gamma and gain of red, green and blue that give a picture the tones of another, whatever lies where in them: its levels at seven
 * shares of the pixels meet those of the other (histogram matching, Gonzalez & Woods, drawn through three numbers a channel). Null where
 * one of the pictures shows nothing.
 */
export function matchColour(picture: Planes, like: Planes): [ChannelMatch, ChannelMatch, ChannelMatch] | null {
  const [from, to] = [levels(picture), levels(like)];
  return from && to && [channelMatch(from[0], to[0]), channelMatch(from[1], to[1]), channelMatch(from[2], to[2])];
}
