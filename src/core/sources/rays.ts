import * as z from 'zod/mini';
import { randomAt } from '../room';
import { say } from '../words';
import type { SourceKind } from './kind';
import { type Moving, overFrame, painted, share, within } from './made';

const schema = z.object({
  kind: z.literal('rays'),
  r: share,
  g: share,
  b: share,
  /** Where they come from, per cent of the frame; outside it too. */
  x: within(-100, 200),
  y: within(-100, 200),
  /** The middle of the beam, 0° down and 90° to the right, and how far it opens in all. */
  angle: within(-360, 360),
  opens: within(1, 360),
  /** How many rays within it; 0 for an even beam. */
  rays: within(0, 200),
  /** How much of the beam's edge is soft, per cent of its opening. */
  soft: within(0, 100),
  /** After so far of the frame's height half of the light is left. */
  reach: within(5, 1000),
  /** How often the rays change in a second. */
  speed: within(0, 10),
  seed: within(0, 9999),
});
type Rays = z.infer<typeof schema>;

/** Entries of the light around the circle: a third of a degree each, finer than a ray is. */
const AROUND = 1080;

/** The light of rays in each direction at a time: seeded, smooth from one to the next, gone over into others as time passes. */
function raysAt({ rays, speed, seed, opens }: Rays, second: number): Float32Array {
  const light = new Float32Array(AROUND + 1).fill(1);
  const count = Math.round(rays);
  if (count === 0) return light;
  const step = Math.floor(second * speed);
  const gone = second * speed - step;
  const value = (k: number, at: number) => randomAt(seed + 7 * at, k)();
  const each = Array.from({ length: count + 1 }, (_, k) => value(k, step) + gone * (value(k, step + 1) - value(k, step)));
  for (let i = 0; i <= AROUND; i++) {
    const along = Math.min(0.999999, i / AROUND / (opens / 360)) * count;
    const k = Math.floor(along);
    const t = along - k;
    const eased = t * t * (3 - 2 * t);
    light[i] = (each[k] + eased * (each[k + 1] - each[k])) ** 2;
  }
  return light;
}

/** A beam of light from a place, even or of rays, over black: to be laid over by screen. */
export const rays: SourceKind<Rays, Moving<Rays>> = {
  kind: 'rays',
  schema,
  name: say`Light beam and rays`,
  fresh: {
    kind: 'rays',
    r: 1,
    g: 0.9,
    b: 0.7,
    x: 50,
    y: -10,
    angle: 0,
    opens: 60,
    rays: 14,
    soft: 40,
    reach: 80,
    speed: 0.5,
    seed: 1,
  },
  blend: 'screen',
  settings: [
    { is: 'colour', label: say`Colour` },
    { is: 'number', label: say`From across`, unit: '%', of: 'x', min: -100, max: 200, step: 1, digits: 0 },
    { is: 'number', label: say`From down`, unit: '%', of: 'y', min: -100, max: 200, step: 1, digits: 0 },
    { is: 'number', label: say`Towards (0 down, 90 right)`, unit: '°', of: 'angle', min: -360, max: 360, step: 5, digits: 0 },
    { is: 'number', label: say`Opens by`, unit: '°', of: 'opens', min: 1, max: 360, step: 5, digits: 0 },
    { is: 'number', label: say`Rays, 0 for an even beam`, unit: '', of: 'rays', min: 0, max: 200, step: 1, digits: 0 },
    { is: 'number', label: say`Soft edge, of its opening`, unit: '%', of: 'soft', min: 0, max: 100, step: 5, digits: 0 },
    { is: 'number', label: say`Half as bright after, of the height`, unit: '%', of: 'reach', min: 5, max: 1000, step: 5, digits: 0 },
    { is: 'number', label: say`Rays change, times a second`, unit: '', of: 'speed', min: 0, max: 10, step: 0.1, digits: 1 },
    { is: 'number', label: say`Seed`, unit: '', of: 'seed', min: 0, max: 9999, step: 1, digits: 0 },
  ],
  endless: false,
  describe: (context, source) => overFrame(context, { ...source, frame: source.speed === 0 || source.rays < 1 ? 0 : context.run.frames }),
  requests: () => [],
  stills: () => [],
  make: (source, size) => {
    const { r, g, b, x, y, angle, opens, soft, reach, frame } = source;
    const { width, height } = size;
    const [fromX, fromY] = [(x / 100) * width, (y / 100) * height];
    const light = raysAt(source, frame / 25);
    const half = opens / 2;
    // A soft edge lies within the beam: what is beyond it is dark.
    const edge = Math.max(0.35, (soft / 100) * half);
    const fade = Math.LN2 / ((reach / 100) * height);
    return painted(size, (px, py, rgb, at) => {
      const dx = px + 0.5 - fromX;
      const dy = py + 0.5 - fromY;
      let off = (Math.atan2(dx, dy) * 180) / Math.PI - angle;
      off -= 360 * Math.round(off / 360);
      const inside = opens >= 360 ? 1 : Math.min(1, Math.max(0, (half - Math.abs(off)) / edge));
      let value = 0;
      if (inside > 0) {
        const ray = light[Math.min(AROUND, Math.max(0, Math.floor(((off + half) / 360) * AROUND)))];
        value = 255 * inside * inside * (3 - 2 * inside) * ray * Math.exp(-fade * Math.sqrt(dx * dx + dy * dy));
      }
      rgb[at] = r * value;
      rgb[at + 1] = g * value;
      rgb[at + 2] = b * value;
      rgb[at + 3] = 255;
    });
  },
};
