import * as z from 'zod/mini';
import { IDENTITY_COLOUR, STAY, takeToProject } from '../picture';
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
  describe: ({ frame, light, shot: shotAt }, { shotId }) => {
    const picture = shotAt(shotId);
    const colour = light === 1 ? IDENTITY_COLOUR : takeToProject({ matrix: 'bt709', fullRange: false }, { r: light, g: light, b: light });
    return picture && { source: { kind: 'shot', picture }, size: frame, base: STAY, colour };
  },
  requests: () => [],
  stills: () => [],
  within: ({ picture }) => picture,
  around: (_, picture) => ({ kind: 'shot', picture }),
};
