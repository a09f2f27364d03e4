import * as z from 'zod/mini';
import { fromRgba } from '../picture';
import { say } from '../words';
import type { SourceKind } from './kind';
import { overFrame, share } from './made';

const schema = z.object({ kind: z.literal('colour'), r: share, g: share, b: share });
export type ColourSource = z.infer<typeof schema>;

/** An even colour, R'G'B' 0 to 1. */
export const colour: SourceKind<ColourSource, ColourSource> = {
  kind: 'colour',
  schema,
  name: say`Colour`,
  fresh: { kind: 'colour', r: 0, g: 0, b: 0 },
  settings: [{ is: 'colour', label: say`Colour` }],
  endless: true,
  describe: overFrame,
  requests: () => [],
  stills: () => [],
  // The same wherever it is looked at: a few pixels are as good as a frame of them.
  make: ({ r, g, b }) => {
    const pixel = [r, g, b, 1].map((v) => Math.round(255 * v));
    return fromRgba(Uint8Array.from([...pixel, ...pixel, ...pixel, ...pixel]), 2, 2);
  },
};
