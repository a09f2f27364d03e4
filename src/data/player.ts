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

interface Reading {
  project: Project;
  loop: LoopFrames | null;
}

interface Ready extends Spot {
  picture: Picture;
  /** What it was read for. */
  of: Reading;
}

let reading: Reading | null = null;
let ready: Ready[] = [];
/** The newest picture that was due, kept until there is another. */
let shown: Ready | null = null;

/**
 * Has pictures made ahead from a spot on, until it is called for the project as it is by then, another loop, or `stopReading`. After an edit
 * what was ready plays on until there is a picture of what it is now.
 */
export function readAhead(project: Project, from: Spot, loop: LoopFrames | null): void {
  const sameLoop = reading?.loop?.first === loop?.first && reading?.loop?.end === loop?.end;
  if (reading?.project === project && sameLoop) return;
  const mine: Reading = { project, loop };
  if (!sameLoop || reading?.project.id !== project.id) ready = [];
  reading = mine;
  const show = Comlink.proxy((spot: Spot, picture: Picture) => {
    if (reading !== mine) return;
    ready = [...ready.filter((r) => r.of === mine || isLater(spot, r)), { ...spot, picture, of: mine }];
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
  const due = ready.slice(0, later < 0 ? ready.length : later);
  shown = due.at(-1) ?? shown;
  ready = ready.slice(due.length);
  // Only those it has made since it was last asked are given back.
  const own = due.filter(({ of }) => of === reading).length;
  if (reading) filmWorker.call((api) => api.clock(spot, own)).catch(() => undefined);
  return shown;
}
