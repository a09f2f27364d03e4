import * as z from 'zod/mini';
import { IDENTITY_COLOUR } from '../picture';
import { say } from '../words';
import { idSchema } from './id';
import type { SourceKind } from './kind';
import { fillFrame } from './placing';

const schema = z.object({ kind: z.literal('still'), mediaId: idSchema });
export type StillSource = z.infer<typeof schema>;

/** A picture that stands still: a clean plate kept with the project. */
export const still: SourceKind<StillSource, StillSource> = {
  kind: 'still',
  schema,
  name: say`Picture`,
  settings: [],
  endless: false,
  describe: ({ frame, overscan, still: sizeOf }, source) => {
    const size = sizeOf(source.mediaId);
    return size && { source, size, base: fillFrame(frame, size, overscan, null), colour: IDENTITY_COLOUR };
  },
  requests: () => [],
  stills: ({ mediaId }) => [mediaId],
};
