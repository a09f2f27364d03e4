import * as z from 'zod/mini';
import { IDENTITY_COLOUR, STAY } from '../picture';
import { idSchema } from './id';
import type { NestedPicture, SourceKind } from './kind';

const schema = z.object({ kind: z.literal('shot'), shotId: idSchema });

export interface NestedDescription {
  kind: 'shot';
  picture: NestedPicture;
}

/** A shot within the shot. */
export const shot: SourceKind<z.infer<typeof schema>, NestedDescription> = {
  kind: 'shot',
  schema,
  name: 'Shot',
  settings: [],
  endless: false,
  describe: ({ frame, shot: shotAt }, { shotId }) => {
    const picture = shotAt(shotId);
    return picture && { source: { kind: 'shot', picture }, size: frame, base: STAY, colour: IDENTITY_COLOUR };
  },
  requests: () => [],
  stills: () => [],
  within: ({ picture }) => picture,
  around: (_, picture) => ({ kind: 'shot', picture }),
};
