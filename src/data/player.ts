import * as Comlink from 'comlink';
import type { Project } from '@/core/document';
import type { Picture } from '@/media/picture';
import { isLater, type LoopFrames, type Spot } from '@/media/read-ahead';
import { sentenceOf } from '@/media/sentence';
import { projectTeller } from './kept-worker';
import { filmWorker } from './pictures';
import { useProject } from './store';

/** Tells the worker that draws the film of a project, before it is asked for anything of it. */
export const tellOfProject = projectTeller(filmWorker);

/** One frame of a project's film. */
export async function filmPicture(project: Project, frame: number): Promise<Picture> {
  await tellOfProject(project);
  return filmWorker.call((api) => api.frame(frame) as Promise<Picture>);
}

interface Ready extends Spot {
  picture: Picture;
}

interface Reading {
  project: Project;
  loop: LoopFrames | null;
}

let reading: Reading | null = null;
let ready: Ready[] = [];
/** The newest picture that was due, kept until there is another. */
let shown: Ready | null = null;

/** Has pictures made ahead from a spot on, until it is called for another project, another loop, or `stopReading`. */
export function readAhead(project: Project, from: Spot, loop: LoopFrames | null): void {
  if (reading?.project === project && reading.loop?.first === loop?.first && reading.loop?.end === loop?.end) return;
  const mine: Reading = { project, loop };
  reading = mine;
  ready = [];
  const show = Comlink.proxy((spot: Spot, picture: Picture) => {
    if (reading === mine) ready.push({ ...spot, picture });
  });
  const failed = Comlink.proxy((problem: string) => {
    if (reading === mine) useProject.setState({ problem });
  });
  void (async () => {
    await tellOfProject(project);
    if (reading === mine) await filmWorker.call((api) => api.play(from, loop, show, failed), 2 ** 31 - 1);
  })().catch((error: unknown) => {
    // The worker has died: the sound plays on, and the picture comes again with the next press of play.
    if (reading === mine) useProject.setState({ problem: sentenceOf(error) });
  });
}

export function stopReading(): void {
  if (!reading) return;
  reading = null;
  ready = [];
  shown = null;
  filmWorker.call((api) => api.stop()).catch(() => undefined);
}

/** The newest ready picture that is due at a spot; null where there is none yet. Those before it are given back. */
export function pictureAt(spot: Spot): (Spot & { picture: Picture }) | null {
  const later = ready.findIndex((r) => isLater(r, spot));
  const due = later < 0 ? ready.length : later;
  if (due > 0) {
    shown = ready[due - 1];
    ready = ready.slice(due);
  }
  if (reading) filmWorker.call((api) => api.clock(spot, due)).catch(() => undefined);
  return shown;
}
