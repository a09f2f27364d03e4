import type { Mattes, Raster } from '@/core/picture';
import type { Project } from '@/core/shot';
import { openMedia } from './files';

const known = new Map<string, Promise<Raster>>();

/** A stored cut-out: a picture whose red is how much of each pixel belongs to the figure. */
async function read(mediaId: string): Promise<Raster> {
  const bitmap = await createImageBitmap(await openMedia(mediaId), { colorSpaceConversion: 'none', premultiplyAlpha: 'none' });
  const { width, height } = bitmap;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('A cut-out could not be read: this browser gives no canvas to a worker.');
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height);
  return { width, height, alpha: Uint8Array.from({ length: width * height }, (_, i) => data[4 * i]) };
}

/** The project's stored cut-outs, each read once. */
export async function mattesOf(project: Project): Promise<Mattes> {
  const out = new Map<string, Raster>();
  for (const media of project.media) {
    if (media.kind !== 'matte') continue;
    const reading = known.get(media.id) ?? read(media.id);
    known.set(media.id, reading);
    reading.catch(() => known.delete(media.id));
    out.set(media.id, await reading);
  }
  return out;
}

/** A cut-out as a PNG file's bytes. */
export async function mattePng({ width, height, alpha }: Raster): Promise<Blob> {
  const rgba = new Uint8ClampedArray(4 * width * height);
  for (let i = 0; i < alpha.length; i++) rgba.set([alpha[i], alpha[i], alpha[i], 255], 4 * i);
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}
