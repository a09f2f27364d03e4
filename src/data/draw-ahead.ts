import * as Comlink from 'comlink';
import type { Project } from '@/core/document';
import { Cancelled, type Progress } from './jobs';
import { filmWorker } from './pictures';
import { tellOfProject } from './player';

/** Draws frames of the film ahead of playing, so that those that take long to draw are kept and play. */
export async function prepareFrames(
  project: Project,
  first: number,
  end: number,
  onProgress: Progress,
  signal: AbortSignal,
): Promise<void> {
  await tellOfProject(project);
  const tell = Comlink.proxy((done: number) => {
    onProgress(done);
    return !signal.aborted;
  });
  await filmWorker.call((api) => api.prepare(first, end, tell), 2 ** 31 - 1);
  if (signal.aborted) throw new Cancelled();
}
