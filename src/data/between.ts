import { type Line, passOn, takeOver } from '@/core/between';
import type { Project } from '@/core/document';
import { say } from '@/core/words';
import type { BetweenApi } from '@/workers/between.worker';
import { inWorker } from './jobs';
import { saidOfOpened } from './project-file';
import { takingIn } from './storage-lock';
import { addProject } from './store';

const worker = () => new Worker(new URL('../workers/between.worker.ts', import.meta.url), { type: 'module' });

/** Sends a project over a line. Gives a sentence on what could not go with it, or ''. */
export function sendProject(line: Line, project: Project, onProgress: (bytes: number) => void): Promise<string> {
  return inWorker<BetweenApi, string>(worker(), undefined, async (api) => {
    const { document, missing } = await api.document(project);
    await passOn(line, document, (id, at, bytes) => api.read(id, at, bytes) as Promise<Uint8Array>, onProgress);
    return missing.length > 0 ? say`Not in this browser, and so not sent: ${missing.join(', ')}.` : '';
  });
}

/** Takes a project over from a line and opens it. Gives a sentence on what is to be known of it, or ''. */
export function receiveProject(line: Line, onProgress: (bytes: number, of: number) => void): Promise<string> {
  return takingIn(() =>
    inWorker<BetweenApi, string>(worker(), undefined, async (api) => {
      await takeOver(
        line,
        {
          begin: (document, files) => api.begin(document, files) as ReturnType<BetweenApi['begin']>,
          put: (file, at, chunk) => api.put(file, at, chunk),
          finish: (file) => api.finish(file),
        },
        onProgress,
      );
      const came = (await api.end()) as Awaited<ReturnType<BetweenApi['end']>>;
      await addProject({ ...came.project, id: crypto.randomUUID() });
      return saidOfOpened(came);
    }),
  );
}
