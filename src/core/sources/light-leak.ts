import * as z from 'zod/mini';
import { randomAt } from '../room';
import { say } from '../words';
import type { SourceKind } from './kind';
import { type Moving, overFrame, painted, share, within } from './made';

const schema = z.object({
  kind: z.literal('light leak'),
  r: share,
  g: share,
  b: share,
  /** How far a patch of light reaches, per cent of the frame's height. */
  size: within(5, 200),
  /** How far it wanders in a second, per cent of the height. */
  speed: within(0, 200),
  patches: within(1, 12),
  seed: within(0, 9999),
});
type Leak = z.infer<typeof schema>;

/** Soft patches of coloured light that wander over black, to be laid over by screen. */
export const lightLeak: SourceKind<Leak, Moving<Leak>> = {
  kind: 'light leak',
  schema,
  name: say`Light leak`,
  fresh: { kind: 'light leak', r: 1, g: 0.45, b: 0.15, size: 60, speed: 12, patches: 3, seed: 1 },
  blend: 'screen',
  settings: [
    { is: 'colour', label: say`Colour` },
    { is: 'number', label: say`Reach, of the height`, unit: '%', of: 'size', min: 5, max: 200, step: 5, digits: 0 },
    { is: 'number', label: say`Wanders in a second`, unit: '%', of: 'speed', min: 0, max: 200, step: 5, digits: 0 },
    { is: 'number', label: say`Patches`, unit: '', of: 'patches', min: 1, max: 12, step: 1, digits: 0 },
    { is: 'number', label: say`Seed`, unit: '', of: 'seed', min: 0, max: 9999, step: 1, digits: 0 },
  ],
  endless: false,
  describe: (context, source) => overFrame(context, { ...source, frame: context.run.frames }),
  requests: () => [],
  stills: () => [],
  make: ({ r, g, b, size: reach, speed, patches, seed, frame }, size) => {
    const { width, height } = size;
    const spread = ((reach / 100) * height) / 2;
    const all = Array.from({ length: Math.round(patches) }, (_, k) => {
      const random = randomAt(seed, k);
      // From the edges in: that is where light gets into a camera.
      const [side, along, way, light] = [random() * 4, random(), random() * 6.28, 0.5 + 0.5 * random()];
      const [x, y] = side < 1 ? [0, along] : side < 2 ? [1, along] : side < 3 ? [along, 0] : [along, 1];
      const far = ((speed / 100) * height * frame) / 25;
      // It turns as it goes, so that it stays about where it began.
      const [turn, radius] = [way + far / (spread || 1), spread * 0.6];
      return { x: x * width + radius * Math.cos(turn), y: y * height + radius * Math.sin(turn), light };
    });
    return painted(size, (x, y, rgb, at) => {
      let light = 0;
      for (const p of all) light += p.light * Math.exp(-((x - p.x) ** 2 + (y - p.y) ** 2) / (2 * spread * spread));
      rgb[at] = 255 * r * light;
      rgb[at + 1] = 255 * g * light;
      rgb[at + 2] = 255 * b * light;
      rgb[at + 3] = 255;
    });
  },
};
