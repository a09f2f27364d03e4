import * as z from 'zod/mini';
import { lineExtent, lineNormal } from '../picture';
import { lengthOf } from '../units';
import { say } from '../words';
import type { SourceKind } from './kind';
import { overFrame, painted, share, within } from './made';

const schema = z.object({
  kind: z.literal('gradient'),
  r: share,
  g: share,
  b: share,
  toR: share,
  toG: share,
  toB: share,
  angle: within(-360, 360),
  shape: z.enum(['even', 'round']),
});
type Gradient = z.infer<typeof schema>;

/** One colour into another: along a direction, or from the middle outwards. */
export const gradient: SourceKind<Gradient, Gradient> = {
  kind: 'gradient',
  schema,
  name: say`Gradient`,
  fresh: { kind: 'gradient', r: 0.1, g: 0.05, b: 0.2, toR: 0.9, toG: 0.5, toB: 0.3, angle: 0, shape: 'even' },
  settings: [
    { is: 'colour', label: say`From` },
    { is: 'colour', label: say`To`, of: ['toR', 'toG', 'toB'] },
    {
      is: 'choice',
      label: say`Runs`,
      of: 'shape',
      options: [
        ['even', say`along a direction`],
        ['round', say`from the middle outwards`],
      ],
    },
    { is: 'number', label: say`Direction (0 down, 90 right)`, unit: '°', of: 'angle', min: -360, max: 360, step: 15, digits: 0 },
  ],
  endless: false,
  describe: overFrame,
  requests: () => [],
  stills: () => [],
  make: ({ r, g, b, toR, toG, toB, angle, shape }, size) => {
    const { width, height } = size;
    const [nx, ny] = lineNormal(angle);
    const extent = lineExtent(angle, width, height);
    const corner = lengthOf(width, height) / 2;
    return painted(size, (x, y, rgb, at) => {
      const [dx, dy] = [x + 0.5 - width / 2, y + 0.5 - height / 2];
      const t = shape === 'round' ? lengthOf(dx, dy) / corner : (dx * nx + dy * ny) / extent + 0.5;
      rgb[at] = 255 * (r + t * (toR - r));
      rgb[at + 1] = 255 * (g + t * (toG - g));
      rgb[at + 2] = 255 * (b + t * (toB - b));
      rgb[at + 3] = 255;
    });
  },
};
