import * as Comlink from 'comlink';
import type { Project } from '@/core/document';
import { type Give, paintFrames } from '@/media/film-pictures';
import { handed } from './handed';
import { receivedProject } from './project-in-use';

/** Draws frames of a film beside the worker that makes it. */
const api = {
  paint: (project: Project, frames: number[], give: Give): Promise<void> =>
    paintFrames(receivedProject(project), frames, (frame, bytes) => give(frame, handed(bytes))),
};
export type PainterApi = typeof api;
Comlink.expose(api);
