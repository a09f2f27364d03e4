import type { Project } from '@/core/document';
import { say } from '@/core/words';
import type { OpenedFile, ProjectApi, ProjectTarget } from '@/workers/project.worker';
import { inWorker } from './jobs';
import { takingIn } from './storage-lock';
import { addProject } from './store';

const worker = () => new Worker(new URL('../workers/project.worker.ts', import.meta.url), { type: 'module' });

/** The whole project as one zip file, streamed. Gives the names of files that are missing from this browser's storage and so from it. */
export function saveProjectFile(
  project: Project,
  target: ProjectTarget,
  onProgress: (done: number) => void,
  signal?: AbortSignal,
): Promise<string[]> {
  return inWorker<ProjectApi, string[]>(worker(), signal, (api, tell) => api.write(project, target, tell(onProgress)));
}

/** Names told one after another, the first five of many. */
export function listed(names: readonly string[]): string {
  const told = names.slice(0, 5).map((n) => `“${n}”`);
  return `${told.join(', ')}${names.length > 5 ? say` and ${names.length - 5} more` : ''}`;
}

/**
 * Opens a saved project file as a project of its own: all of it is checked first, then what is whole is stored. What was damaged is
 * named. Returns a problem, or what is to be known of it; both '' where all is well.
 */
export function openProjectFile(
  file: File,
  onProgress: (doing: string, done: number) => void,
  signal?: AbortSignal,
): Promise<{ problem: string; said: string }> {
  return takingIn(() => opened(file, onProgress, signal));
}

async function opened(
  file: File,
  onProgress: (doing: string, done: number) => void,
  signal?: AbortSignal,
): Promise<{ problem: string; said: string }> {
  const found = await inWorker<ProjectApi, OpenedFile>(
    worker(),
    signal,
    // Two arguments make one piece of news.
    (api, tell) =>
      api.open(
        file,
        tell(({ doing, done }: { doing: string; done: number }) => onProgress(doing, done)),
      ) as Promise<OpenedFile>,
  );
  if (!found.ok) return { problem: found.reason, said: '' };
  const { project, setAside, missing } = found;
  await addProject({ ...project, id: crypto.randomUUID() });
  return { problem: '', said: saidOfOpened({ project, setAside, missing }) };
}

/** What is to be known of a project that came in: files that did not, and what of its document had to be set aside; or ''. */
export function saidOfOpened({ project, setAside, missing }: { project: Project; setAside: string[]; missing: string[] }): string {
  const said = [
    missing.length > 0 &&
      say`${missing.length} of its ${project.media.length} files ${missing.length === 1 ? 'is' : 'are'} damaged or not in it: ${listed(missing)}. Everything else is here; what needs them is marked missing under Takes and Song, where you can point to the files.`,
    setAside.length > 0 &&
      say`Its document was damaged. Set aside: ${setAside.slice(0, 5).join('; ')}${setAside.length > 5 ? say` and ${setAside.length - 5} more` : ''}.`,
  ].filter((s) => s !== false);
  return said.join(' ');
}
