import * as Comlink from 'comlink';
import type { Project } from '@/core/document';
import { type ChannelMatch, matchColour } from '@/core/measure';
import { toRgba } from '@/core/picture';
import { makeFilm, renderStill } from '@/media/film';
import { cutOffFilms, wholeFilm } from '@/media/film-file';
import { receivedProject } from './project-in-use';

const api = {
  makeFilm: ((project, ...rest) => makeFilm(receivedProject(project), ...rest)) as typeof makeFilm,
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
