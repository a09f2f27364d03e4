import * as Comlink from 'comlink';
import { toRgba } from '@/core/picture';
import { type Project, readProject } from '@/core/shot';
import { makeFilm, renderStill } from '@/media/film';
import { cutOffFilms, wholeFilm } from '@/media/film-file';

/** A project as it came from the page; throws a sentence where it is none. */
function received(value: unknown): Project {
  const read = readProject(value);
  if (!read.ok) throw new Error(read.reason);
  return read.project;
}

const api = {
  makeFilm: ((project, ...rest) => makeFilm(received(project), ...rest)) as typeof makeFilm,
  cutOffFilms,
  wholeFilm,
  /** A still as a PNG file's bytes. */
  async still(project: Project, frame: number): Promise<Blob> {
    const planes = await renderStill(received(project), frame);
    const rgba = new Uint8ClampedArray(planes.width * planes.height * 4);
    toRgba(planes, rgba);
    const canvas = new OffscreenCanvas(planes.width, planes.height);
    canvas.getContext('2d')?.putImageData(new ImageData(rgba, planes.width, planes.height), 0, 0);
    return canvas.convertToBlob({ type: 'image/png' });
  },
};
export type FilmApi = typeof api;
Comlink.expose(api);
