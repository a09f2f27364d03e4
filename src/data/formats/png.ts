import { toTimecode } from '@/core/time';
import { say } from '@/core/words';
import { makeStill } from '../jobs';
import type { ExportFormat } from './format';

/** The frame at the playhead at full size. */
export const png: ExportFormat = {
  id: 'png',
  group: 'still',
  label: say`Save PNG`,
  type: 'image/png',
  streams: false,
  ending: (playhead) => `frame-${playhead}.png`,
  unavailable: () => '',
  make: async ({ project, playhead, tell }) => {
    tell(say`Drawing the still`, 0.5);
    const file = await makeStill(project, playhead);
    return { ok: true, file, said: say`Frame ${toTimecode(playhead, project.frame.rate)} is saved as a picture.` };
  },
};
