import * as Comlink from 'comlink';
import type { Project } from '@/core/document';
import { type ChannelMatch, matchColour } from '@/core/measure';
import { toRgba } from '@/core/picture';
import { say } from '@/core/words';
import type { Leave } from '@/media/fault';
import { type FilmMade, type FilmProgress, type FilmTarget, makeFilm, renderStill } from '@/media/film';
import { cutOffFilms, wholeFilm } from '@/media/film-file';
import type { Painter } from '@/media/film-pictures';
import { handed } from './handed';
import type { PainterApi } from './painter.worker';
import { receivedProject } from './project-in-use';

/** Who draws beside: one for each further core, three at most. */
const helpers = (): Painter[] =>
  Array.from({ length: Math.max(0, Math.min(4, navigator.hardwareConcurrency) - 1) }, () => {
    const worker = new Worker(new URL('./painter.worker.ts', import.meta.url), { type: 'module' });
    const api = Comlink.wrap<PainterApi>(worker);
    const died = new Promise<never>((_, reject) => worker.addEventListener('error', () => reject(new Error(say`A helper died.`))));
    died.catch(() => undefined);
    return {
      paint: (project, frames, give) =>
        Promise.race([
          api.paint(
            project,
            [...frames],
            Comlink.proxy(async (frame, bytes) => handed(await give(frame, bytes))),
          ),
          died,
        ]),
      stop: () => worker.terminate(),
    };
  });

const api = {
  async makeFilm(project: Project, leave: readonly Leave[], target: FilmTarget, onProgress: (p: FilmProgress) => void): Promise<FilmMade> {
    return makeFilm(receivedProject(project), leave, target, onProgress, helpers);
  },
  cutOffFilms,
  wholeFilm,
  /** A still as a PNG file's bytes. */
  async still(project: Project, frame: number): Promise<Blob> {
    const planes = await renderStill(receivedProject(project), frame);
    const rgba = new Uint8ClampedArray(planes.width * planes.height * 4);
    toRgba(planes, rgba);
    const canvas = new OffscreenCanvas(planes.width, planes.height);
    canvas.getContext('2d')?.putImageData(new ImageData(rgba, planes.width, planes.height), 0, 0);
    return canvas.convertToBlob({ type: 'image/png' });
  },
  /** What gives a frame of one project the tones of a frame of another; null where one of them shows nothing. */
  async match(
    project: Project,
    frame: number,
    like: Project,
    likeFrame: number,
  ): Promise<[ChannelMatch, ChannelMatch, ChannelMatch] | null> {
    return matchColour(await renderStill(receivedProject(project), frame), await renderStill(receivedProject(like), likeFrame));
  },
};
export type FilmApi = typeof api;
Comlink.expose(api);
