import * as z from 'zod/mini';
import { lineNormal } from '../picture';
import { say } from '../words';
import type { SourceKind } from './kind';
import { type Moving, overFrame, painted, share, within } from './made';

const schema = z.object({
  kind: z.literal('stripes'),
  r: share,
  g: share,
  b: share,
  otherR: share,
  otherG: share,
  otherB: share,
  angle: within(-360, 360),
  /** From one stripe to the next, and how far they go in a second, per cent of the frame's height. */
  period: within(0.2, 400),
  speed: within(-400, 400),
  /** How much of a period the first colour takes, per cent. */
  wide: within(1, 99),
});
type Stripes = z.infer<typeof schema>;

/** Stripes of two colours that move across: bands, scan lines, barriers. */
export const stripes: SourceKind<Stripes, Moving<Stripes>> = {
  kind: 'stripes',
  schema,
  name: say`Stripes`,
  fresh: { kind: 'stripes', r: 1, g: 1, b: 1, otherR: 0, otherG: 0, otherB: 0, angle: 0, period: 10, speed: 0, wide: 50 },
  settings: [
    { is: 'colour', label: say`Colour` },
    { is: 'colour', label: say`The other`, of: ['otherR', 'otherG', 'otherB'] },
    { is: 'number', label: say`Direction (0 down, 90 right)`, unit: '°', of: 'angle', min: -360, max: 360, step: 15, digits: 0 },
    { is: 'number', label: say`Apart, of the height`, unit: '%', of: 'period', min: 0.2, max: 400, step: 1, digits: 1 },
    { is: 'number', label: say`Width, of that`, unit: '%', of: 'wide', min: 1, max: 99, step: 5, digits: 0 },
    { is: 'number', label: say`Moves in a second`, unit: '%', of: 'speed', min: -400, max: 400, step: 5, digits: 0 },
  ],
  endless: false,
  describe: (context, source) => overFrame(context, { ...source, frame: source.speed === 0 ? 0 : context.run.frames }),
  requests: () => [],
  stills: () => [],
  make: ({ r, g, b, otherR, otherG, otherB, angle, period, speed, wide, frame }, size) => {
    const { width, height } = size;
    const [nx, ny] = lineNormal(angle);
    const apart = Math.max(0.5, (period / 100) * height);
    const moved = ((speed / 100) * height * frame) / 25;
    const share = wide / 100;
    return painted(size, (x, y, rgb, at) => {
      const along = ((x + 0.5 - width / 2) * nx + (y + 0.5 - height / 2) * ny - moved) / apart;
      const phase = along - Math.floor(along);
      // A pixel across an edge is a share of both, so that stripes do not crawl.
      const soft = Math.min(0.5, 1 / apart);
      const first = Math.min(1, Math.max(0, (share - phase) / soft + 0.5)) + Math.min(1, Math.max(0, (phase - 1) / soft + 0.5));
      const t = Math.min(1, first * Math.min(1, Math.max(0, phase / soft + 0.5)));
      rgb[at] = 255 * (otherR + t * (r - otherR));
      rgb[at + 1] = 255 * (otherG + t * (g - otherG));
      rgb[at + 2] = 255 * (otherB + t * (b - otherB));
      rgb[at + 3] = 255;
    });
  },
};
