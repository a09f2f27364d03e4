import * as z from 'zod/mini';
import { blackPlanes } from '../picture';
import { say } from '../words';
import type { SourceKind } from './kind';
import { overFrame } from './made';

const schema = z.object({ kind: z.literal('below') });
type Below = z.infer<typeof schema>;

/** What the layers below it show together: for effects, and masks, on all of them at once. */
export const below: SourceKind<Below, Below> = {
  kind: 'below',
  schema,
  name: say`Everything below`,
  fresh: { kind: 'below' },
  settings: [],
  endless: true,
  shows: 'below',
  describe: overFrame,
  requests: () => [],
  stills: () => [],
  // Its pixels are those it is laid on.
  make: () => blackPlanes(2, 2),
};
