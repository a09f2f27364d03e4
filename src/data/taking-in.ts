import { create } from 'zustand';
import { sentenceOf } from '@/media/sentence';
import { Cancelled } from './jobs';
import { type TakenIn, takeInFiles } from './media';
import { useProject } from './store';

interface TakingIn {
  /** The file being taken in and how much of it is, 0 to 1. */
  doing: { name: string; done: number } | null;
  /** What could not be used and what was put where, since it was last asked, of the project it was for. */
  results: TakenIn[];
  projectId: string | null;
}

/** What is being taken in, wherever on the page it was dropped or chosen. */
export const useTakingIn = create<TakingIn>(() => ({ doing: null, results: [], projectId: null }));

let stop: AbortController | null = null;
export const stopTakingIn = () => stop?.abort();

let queue: Promise<void> = Promise.resolve();

/** Takes files into the open project, after those that are still being taken in; a project file is opened instead. */
export function bring(files: readonly File[]): Promise<void> {
  queue = queue.then(() => bringNow(files));
  return queue;
}

async function bringNow(files: readonly File[]): Promise<void> {
  const zip = files.find((f) => /\.zip$/i.test(f.name));
  if (files.length === 0) return;
  const results: TakenIn[] = [];
  const tell = (name: string, done: number) => useTakingIn.setState({ doing: { name, done } });
  const own = new AbortController();
  stop = own;
  useTakingIn.setState({ results: [], projectId: useProject.getState().project?.id ?? null });
  try {
    if (zip) {
      const { openProjectFile } = await import('./project-file');
      const { problem, said } = await openProjectFile(zip, tell);
      useProject.setState(problem ? { problem } : { notice: said });
    }
    results.push(
      ...(await takeInFiles(
        files.filter((f) => f !== zip),
        tell,
        own.signal,
      )),
    );
  } catch (error) {
    if (!(error instanceof Cancelled)) results.push({ name: 'Import', problem: sentenceOf(error), placed: '' });
  }
  useTakingIn.setState({ doing: null, results });
}
