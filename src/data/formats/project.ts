import { say } from '@/core/words';
import { listed, saveProjectFile } from '../project-file';
import { PACKED, storedFilm } from '../stored';
import type { ExportFormat } from './format';

/** Everything in one file. */
export const projectFile: ExportFormat = {
  id: 'zip',
  group: 'project',
  label: say`Save the project file`,
  type: 'application/zip',
  streams: true,
  ending: () => 'zip',
  unavailable: () => '',
  make: async ({ project, chosen, tell, signal }) => {
    tell(say`Packing the project`, 0);
    const target = chosen ? { handle: chosen } : { name: PACKED };
    const missing = await saveProjectFile(project, target, (done) => tell(say`Packing the project`, done), signal);
    const file = chosen ? await chosen.getFile() : await storedFilm(PACKED);
    const lacks = missing.length > 0 ? say` Not in it, for they are missing here too: ${listed(missing)}.` : '';
    const said = say`The whole project, films and song included, is one file of ${(file.size / 1e6).toFixed(1)} MB. “Open a project file” brings it back anywhere.${lacks}`;
    return { ok: true, file, said };
  },
};
