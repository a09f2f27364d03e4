import * as z from 'zod/mini';
import { say } from '../words';
import { idSchema } from './id';
import type { SourceKind } from './kind';
import { within } from './made';

const schema = z.object({
  kind: z.literal('echo'),
  /** The layer of the shot that is shown again. */
  layerId: idSchema,
  /** Frames by which it comes later. */
  late: within(0, 500),
  shown: z.enum(['as it is', 'as a shadow']),
  /** Per cent of the height over which its outline is soft. */
  soft: within(0, 20),
});
export type Echo = z.infer<typeof schema>;

/** Another layer of the shot once more: later, moved, tinted by its effects, or black as its shadow. Described where the layers are (`core/evaluate/echo.ts`). */
export const echo: SourceKind<Echo, never> = {
  kind: 'echo',
  schema,
  name: say`Echo or shadow`,
  settings: [
    { is: 'layer', label: say`Of the layer`, of: 'layerId' },
    { is: 'number', label: say`Later by`, unit: 'f', of: 'late', min: 0, max: 500, step: 1, digits: 0 },
    {
      is: 'choice',
      label: say`Shown`,
      of: 'shown',
      options: [
        ['as it is', say`as it is`],
        ['as a shadow', say`as a shadow`],
      ],
    },
    { is: 'number', label: say`Soft outline, of the height`, unit: '%', of: 'soft', min: 0, max: 20, step: 0.5, digits: 1 },
  ],
  endless: false,
  again: (source) => source,
  describe: () => null,
  requests: () => [],
  stills: () => [],
};
