import type { Project, Shot } from '../document';
import { STAY } from '../picture';
import type { Size } from '../sources';
import { clamp, type Frames, type Percent, type Unit } from '../units';
import { describeFrame, shotAt } from './describe';
import type { PictureDescription } from './description';
import { pictureLayer } from './picture-layer';
import { scaledPicture } from './scale';

/** The part of a film's frame that a version in another shape shows, as shares of it: its size, and where it lies at `part`. */
export function shownPart(film: Size, version: Size, part: Shot['part']): { left: number; top: number; width: number; height: number } {
  const factor = Math.max(version.width / film.width, version.height / film.height);
  const [width, height] = [version.width / factor / film.width, version.height / factor / film.height];
  const at = part ?? { x: 50, y: 50 };
  return { width, height, left: ((1 - width) * at.x) / 100, top: ((1 - height) * at.y) / 100 };
}

/** Where a version's part lies when its upper left corner is at a share of the film's frame, or as near as the frame allows. */
export function partAt(film: Size, version: Size, left: Unit, top: Unit): NonNullable<Shot['part']> {
  const { width, height } = shownPart(film, version, undefined);
  const along = (at: Unit, size: Unit) => (size > 0.999 ? 50 : clamp((100 * at) / (1 - size), 0, 100));
  return { x: along(left, width), y: along(top, height) };
}

/** Where a version's part lies so that a place of the film (per cent of its frame) is as near its middle as the frame allows. */
export function partAround(film: Size, version: Size, x: Percent, y: Percent): NonNullable<Shot['part']> {
  const { width, height } = shownPart(film, version, undefined);
  return partAt(film, version, x / 100 - width / 2, y / 100 - height / 2);
}

/** A project as a version of its film in another shape; itself where it has that shape and size already. */
export function asVersion(project: Project, { width, height }: Size): Project {
  const { frame } = project;
  if (frame.width === width && frame.height === height) return project;
  return { ...project, frame: { width, height, rate: frame.rate, cutFrom: { width: frame.width, height: frame.height } } };
}

/** Part of a picture, drawn as large as fills `size`. */
function cutOut(picture: PictureDescription, size: Size, part: Shot['part']): PictureDescription {
  const { frame, shotId } = picture;
  const { width, height } = size;
  if (picture.layers.length === 0) return { frame, width, height, shotId, layers: [] };
  const large = scaledPicture(picture, Math.max(width / picture.width, height / picture.height));
  const { left, top } = shownPart(picture, size, part);
  // By whole pairs of pixels, so that nothing is drawn between them.
  const [c, f] = [2 * Math.round((left * large.width) / 2), 2 * Math.round((top * large.height) / 2)];
  return {
    frame,
    width,
    height,
    shotId,
    layers: [
      pictureLayer(large, 'version', { map: { ...STAY, c: Math.min(c, large.width - width), f: Math.min(f, large.height - height) } }),
    ],
  };
}

/** Everything one frame of the film shows; of a version in another shape the part of each shot that it shows. Pure: same input, same output. */
export function describeShown(project: Project, frame: Frames): PictureDescription {
  const { cutFrom, ...own } = project.frame;
  if (!cutFrom) return describeFrame(project, frame);
  const film = { ...project, frame: { ...own, ...cutFrom } };
  return cutOut(describeFrame(film, frame), own, shotAt(film, frame)?.part);
}
