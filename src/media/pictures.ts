import type { Media, Project } from '@/core/document';
import { readCube, readSilhouetteFile } from '@/core/exchange';
import {
  bleedIntoClear,
  boxPlane,
  type ClearPlanes,
  type ColourCube,
  fromRgba,
  type Mattes,
  type MovingSilhouette,
  type Planes,
  type Raster,
  reducedPlanes,
  toRgba,
} from '@/core/picture';
import { say } from '@/core/words';
import { SourceFault } from './fault';
import { openMedia } from './files';

/** A picture reduced by a whole factor. */
export interface Reduced {
  planes: Planes;
  reduce: number;
  /** Where it is seen, reduced alike; without it everywhere. */
  alpha?: Raster;
}

/** Planes reduced by a whole factor, with their alpha as a raster of their size. */
export const asReduced = ({ alpha, ...planes }: ClearPlanes, reduce: number): Reduced => ({
  planes,
  reduce,
  ...(alpha && { alpha: { width: planes.width, height: planes.height, alpha } }),
});

/** The pictures kept with a project: cut-outs, and stills such as clean plates. */
export interface Pictures {
  mattes: Mattes;
  stills: ReadonlyMap<string, Reduced>;
  /** Colour tables that effects go by. */
  tables: ReadonlyMap<string, ColourCube>;
  /** Those that cannot be read, by their file. */
  faults: ReadonlyMap<string, SourceFault>;
  /** True where what cannot be read is left out: for a preview, never for a film. */
  lenient: boolean;
}

interface Pixels {
  width: number;
  height: number;
  data: Uint8ClampedArray;
}

async function pixelsOf(mediaId: string, options: ImageBitmapOptions): Promise<Pixels> {
  const bitmap = await createImageBitmap(await openMedia(mediaId), options);
  const [width, height] = [(bitmap.width + 1) & ~1, (bitmap.height + 1) & ~1];
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error(say`A kept picture could not be read: this browser gives no canvas to a worker.`);
  // An odd size is made even by its last row and column again.
  context.drawImage(bitmap, 0, 0, width, height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return { width, height, data: context.getImageData(0, 0, width, height).data };
}

/** What was kept is read as it was written; what comes from a file of the user's by its profile and turned as its camera noted. */
const AS_KEPT: ImageBitmapOptions = { colorSpaceConversion: 'none', premultiplyAlpha: 'none' };
const AS_MEANT: ImageBitmapOptions = { premultiplyAlpha: 'none' };

/** Each read once for as long as the worker lives. */
function reader<T>(make: (pixels: Pixels) => T, options: ImageBitmapOptions = AS_KEPT): (mediaId: string) => Promise<T> {
  const known = new Map<string, Promise<T>>();
  return (mediaId) => {
    const reading = known.get(mediaId) ?? pixelsOf(mediaId, options).then(make);
    known.set(mediaId, reading);
    reading.catch(() => known.delete(mediaId));
    return reading;
  };
}

/** A cut-out is a picture whose red is how much of each pixel belongs to the figure. */
const matte = reader(
  ({ width, height, data }): Raster => ({
    width,
    height,
    alpha: Uint8Array.from({ length: width * height }, (_, i) => data[4 * i]),
  }),
);
const still = reader(({ width, height, data }) => ({ planes: fromRgba(new Uint8Array(data.buffer), width, height), alpha: undefined }));
const picture = reader(({ width, height, data }): { planes: Planes; alpha: Raster | undefined } => {
  const alpha = Uint8Array.from({ length: width * height }, (_, i) => data[4 * i + 3]);
  const clear = alpha.some((a) => a < 255);
  if (clear) bleedIntoClear(data, width, height);
  return { planes: fromRgba(new Uint8Array(data.buffer), width, height), alpha: clear ? { width, height, alpha } : undefined };
}, AS_MEANT);

function reducedRaster({ width, alpha }: Raster, reduce: number, to: Planes): Raster {
  const out = new Uint8Array(to.width * to.height);
  boxPlane(alpha, width, reduce, out, to.width, to.height);
  return { width: to.width, height: to.height, alpha: out };
}

const smaller = new Map<string, Reduced>();
/** A still or picture reduced by a whole factor to about a width; each once for as long as the worker lives. */
async function stillAt(mediaId: string, kind: 'still' | 'picture', towards: number): Promise<Reduced> {
  const { planes: whole, alpha } = await (kind === 'still' ? still : picture)(mediaId);
  const reduce = Math.max(1, Math.floor(whole.width / towards));
  const key = `${mediaId} ${reduce}`;
  const known = smaller.get(key);
  if (known) return known;
  const planes = reducedPlanes(whole, reduce);
  const made: Reduced = { planes, reduce, ...(alpha && { alpha: reduce > 1 ? reducedRaster(alpha, reduce, planes) : alpha }) };
  smaller.set(key, made);
  return made;
}

/** Where somebody is in a take, frame by frame; unpacked once for as long as the worker lives. */
const figures = new Map<string, Promise<MovingSilhouette>>();
function figure(mediaId: string): Promise<MovingSilhouette> {
  const reading =
    figures.get(mediaId) ??
    (async () => {
      const file = await openMedia(mediaId);
      return readSilhouetteFile(
        new Uint8Array(await new Response(file.stream().pipeThrough(new DecompressionStream('gzip'))).arrayBuffer()),
      );
    })();
  figures.set(mediaId, reading);
  reading.catch(() => figures.delete(mediaId));
  return reading;
}

/** A colour table from a file; read once for as long as the worker lives. */
const cubes = new Map<string, Promise<ColourCube>>();
function colourTable(mediaId: string): Promise<ColourCube> {
  const reading =
    cubes.get(mediaId) ??
    (async () => {
      const read = readCube(await (await openMedia(mediaId)).text());
      if (!read.ok) throw new Error(read.reason);
      return read.cube;
    })();
  cubes.set(mediaId, reading);
  reading.catch(() => cubes.delete(mediaId));
  return reading;
}

const NAMED: Partial<Record<Media['kind'], string>> = { picture: say`a picture`, 'colour table': say`a colour table` };

/**
 * The pictures a project keeps, as far as they can be read; only those of `wanted` where that is given, and stills no wider than is of
 * use for a picture of `towards` pixels.
 */
export async function picturesOf(
  project: Project,
  lenient: boolean,
  wanted: ReadonlySet<string> | null = null,
  towards = Number.POSITIVE_INFINITY,
): Promise<Pictures> {
  const mattes = new Map<string, Raster | MovingSilhouette>();
  const stills = new Map<string, Reduced>();
  const tables = new Map<string, ColourCube>();
  const faults = new Map<string, SourceFault>();
  for (const { id, kind, name } of project.media) {
    if (wanted && !wanted.has(id)) continue;
    try {
      if (kind === 'matte') mattes.set(id, await matte(id));
      if (kind === 'silhouette') mattes.set(id, await figure(id));
      if (kind === 'colour table') tables.set(id, await colourTable(id));
      if (kind === 'still' || kind === 'picture') stills.set(id, await stillAt(id, kind, towards));
    } catch {
      faults.set(id, new SourceFault(id, 'picture', say`“${name}”, ${NAMED[kind] ?? say`which was worked out and kept,`} cannot be read.`));
    }
  }
  return { mattes, stills, tables, faults, lenient };
}

function png(rgba: Uint8ClampedArray<ArrayBuffer>, width: number, height: number): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}

/** A cut-out as a PNG file's bytes. */
export function mattePng({ width, height, alpha }: Raster): Promise<Blob> {
  const rgba = new Uint8ClampedArray(4 * width * height).fill(255);
  for (let i = 0; i < alpha.length; i++) for (let c = 0; c < 3; c++) rgba[4 * i + c] = alpha[i];
  return png(rgba, width, height);
}

/** A picture as a PNG file's bytes. */
export function stillPng(planes: Planes): Promise<Blob> {
  const rgba = new Uint8ClampedArray(4 * planes.width * planes.height);
  toRgba(planes, rgba);
  return png(rgba, planes.width, planes.height);
}
