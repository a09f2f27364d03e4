import * as z from 'zod/mini';
import { IDENTITY_COLOUR } from '../picture';
import { say } from '../words';
import { idSchema } from './id';
import type { NestedPicture, SourceKind } from './kind';
import { fillFrame } from './placing';

const schema = z.object({ kind: z.literal('shot'), shotId: idSchema });

export interface NestedDescription {
  kind: 'shot';
  picture: NestedPicture;
}

/** A shot within the shot. */
export const shot: SourceKind<z.infer<typeof schema>, NestedDescription> = {
  kind: 'shot',
  schema,
  name: say`Shot`,
  settings: [],
  endless: false,
  describe: ({ frame, overscan, shot: shotAt }, { shotId }) => {
    const picture = shotAt(shotId);
    // Enlarged about its middle as the takes of the shot are, so that its motion shows no edge.
    return (
      picture && { source: { kind: 'shot', picture }, size: frame, base: fillFrame(frame, frame, overscan, null), colour: IDENTITY_COLOUR }
    );
  },
  requests: () => [],
  stills: () => [],
  within: ({ picture }) => picture,
  around: (_, picture) => ({ kind: 'shot', picture }),
};
