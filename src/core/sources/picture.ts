import * as z from 'zod/mini';
import { IDENTITY_COLOUR } from '../picture';
import { say } from '../words';
import { idSchema } from './id';
import type { SourceKind } from './kind';
import { fitFrame } from './placing';

const schema = z.object({ kind: z.literal('picture'), mediaId: idSchema });
type PictureSource = z.infer<typeof schema>;

/** A picture from a file, which may be clear in places: whole in the frame where it comes, as large as fits. */
export const picture: SourceKind<PictureSource, PictureSource> = {
  kind: 'picture',
  schema,
  name: say`Picture from a file`,
  settings: [],
  endless: false,
  shows: 'in part',
  describe: ({ frame, still: sizeOf }, source) => {
    const size = sizeOf(source.mediaId);
    return size && { source, size, base: fitFrame(frame, size), colour: IDENTITY_COLOUR };
  },
  requests: () => [],
  stills: ({ mediaId }) => [mediaId],
};
