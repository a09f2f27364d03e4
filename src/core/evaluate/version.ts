import type { Project, Shot } from '../document';
import { numberAt } from '../layer';
import { STAY } from '../picture';
import type { Size } from '../sources';
import { clamp, type Frames, type Percent, type Unit } from '../units';
import { describeFrame, shotAt } from './describe';
import type { PictureDescription } from './description';
import { pictureLayer } from './picture-layer';
import { scaledPicture } from './scale';
import { sceneOf } from './shot-scene';

/** Where a version's part lies in what does not fit: from the left and from the top, 0 to 100. */
export interface PartPlace {
  x: Percent;
  y: Percent;
}

const MIDDLE: PartPlace = { x: 50, y: 50 };

/** Where the part of a shot lies that other shapes show at a film frame. */
export function partOf(project: Project, shot: Shot, frame: Frames): PartPlace {
  const { part } = shot;
  if (!part) return MIDDLE;
  const scene = sceneOf(project, shot);
  const at = (axis: 'x' | 'y') =>
    numberAt(
      scene,
      part.map((key) => ({ ...key, value: key[axis] })),
      50,
      frame,
    );
  return part.length === 1 ? part[0] : { x: at('x'), y: at('y') };
}

/** The part of a film's frame that a version in another shape shows, as shares of it: its size, and where it lies at `part`. */
export function shownPart(film: Size, version: Size, { x, y }: PartPlace): { left: number; top: number; width: number; height: number } {
  const factor = Math.max(version.width / film.width, version.height / film.height);
  const [width, height] = [version.width / factor / film.width, version.height / factor / film.height];
  return { width, height, left: ((1 - width) * x) / 100, top: ((1 - height) * y) / 100 };
}

/** Where a version's part lies when its upper left corner is at a share of the film's frame, or as near as the frame allows. */
export function partAt(film: Size, version: Size, left: Unit, top: Unit): PartPlace {
  const { width, height } = shownPart(film, version, MIDDLE);
  const along = (at: Unit, size: Unit) => (size > 0.999 ? 50 : clamp((100 * at) / (1 - size), 0, 100));
  return { x: along(left, width), y: along(top, height) };
}

/** Where a version's part lies so that a place of the film (per cent of its frame) is as near its middle as the frame allows. */
export function partAround(film: Size, version: Size, x: Percent, y: Percent): PartPlace {
  const { width, height } = shownPart(film, version, MIDDLE);
  return partAt(film, version, x / 100 - width / 2, y / 100 - height / 2);
}

/** A project as a version of its film in another shape; itself where it has that shape and size already. */
export function asVersion(project: Project, { width, height }: Size): Project {
  const { frame } = project;
  if (frame.width === width && frame.height === height) return project;
  return { ...project, frame: { width, height, rate: frame.rate, cutFrom: { width: frame.width, height: frame.height } } };
}

/** Part of a picture, drawn as large as fills `size`. */
function cutOut(picture: PictureDescription, size: Size, part: PartPlace): PictureDescription {
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
  const shot = shotAt(film, frame);
  return cutOut(describeFrame(film, frame), own, shot ? partOf(film, shot, frame) : MIDDLE);
}
