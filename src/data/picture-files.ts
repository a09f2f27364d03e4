import type { Media, Project } from '@/core/document';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { sequencesIn } from '@/core/log';
import { toTimecode } from '@/core/time';
import { say } from '@/core/words';
import { makeStill, type Progress } from './jobs';
import { keepFile } from './keep-file';
import { addTakeLayer } from './masks';
import { takeInDrawn } from './media';
import { changeShot } from './shots';
import { useProject } from './store';

/** The most pixels a picture may have: beyond it a phone runs out of memory. */
const MOST_PIXELS = 50e6;
/** How large a drawing without a size of its own is made, and the least for one that has one. */
const DRAWING = 2048;

const even = (size: number) => Math.max(2, 2 * Math.round(size / 2));

/** A drawing of lines (SVG) as pixels, large enough to fill a film's frame. */
async function drawn(file: File): Promise<Blob> {
  const url = URL.createObjectURL(file);
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const [w, h] = [image.naturalWidth || DRAWING, image.naturalHeight || DRAWING];
    const size = Math.max(1, DRAWING / Math.max(w, h));
    const canvas = new OffscreenCanvas(even(w * size), even(h * size));
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await canvas.convertToBlob({ type: 'image/png' });
  } finally {
    URL.revokeObjectURL(url);
  }
}

/** A picture from a file, kept with the project. Throws a sentence where it cannot be read. */
async function keepPicture(file: File): Promise<Media> {
  const unread = say`“${file.name}” cannot be read as a picture. PNG, JPEG, WebP, AVIF, GIF and SVG can.`;
  const kept = /svg/.test(file.type) || /\.svg$/i.test(file.name) ? await drawn(file).catch(() => null) : file;
  const bitmap = kept && (await createImageBitmap(kept).catch(() => null));
  if (!kept || !bitmap) throw new Error(unread);
  // Turned as the camera noted, so its size is that of what is seen.
  const { width, height } = bitmap;
  bitmap.close();
  if (width * height > MOST_PIXELS)
    throw new Error(
      say`“${file.name}” has ${Math.round((width * height) / 1e6)} million pixels; 50 million are read at most. Make it smaller first.`,
    );
  const type = kept.type || 'image/png';
  const codec = (kept.type.split('/')[1] ?? 'picture').toUpperCase();
  return keepFile(kept, file.name, { kind: 'picture', type, codec, width: even(width), height: even(height) });
}

/** A picture from a file as one more layer on top of a shot. */
export async function addPictureLayer(project: Project, shotId: string, file: File): Promise<void> {
  const media = await keepPicture(file);
  const name = file.name.replace(/\.[^.]*$/, '').slice(0, 90) || 'Picture';
  const layer = plainLayer(`layer-${crypto.randomUUID().slice(0, 8)}`, name, 0, { kind: 'picture', mediaId: media.id }, [
    remapKeyAt(0, 0, 0),
  ]);
  changeShot(shotId, say`Add a picture`, (s) => ({ ...s, layers: [...s.layers, layer] }), [media], project.id);
}

/** Pictures from files on top of a shot: a picture that moves, or numbered ones, as a film, others each by itself. Throws a sentence. */
export async function addPictureFiles(project: Project, shotId: string, files: readonly File[], onProgress: Progress): Promise<void> {
  for (const taking of sequencesIn(files)) {
    const [pictures, name] = taking.kind === 'file' ? [[taking.file], taking.file.name] : [taking.files, taking.name];
    const moves = taking.kind === 'sequence' || (await mayMove(taking.file));
    if (!moves) {
      await addPictureLayer(project, shotId, pictures[0]);
      continue;
    }
    const { problem, takeId } = await takeInDrawn(pictures, name, onProgress);
    if (!takeId) throw new Error(`“${name}”: ${problem}`);
    const { project: now } = useProject.getState();
    if (now) addTakeLayer(now, shotId, takeId, 0);
  }
}

/** Whether a file is a picture of more than one frame. */
async function mayMove(file: File): Promise<boolean> {
  if (!('ImageDecoder' in globalThis) || !(await ImageDecoder.isTypeSupported(file.type))) return false;
  const decoder = new ImageDecoder({ data: file.stream(), type: file.type });
  try {
    await decoder.tracks.ready;
    return decoder.tracks.selectedTrack?.animated ?? false;
  } catch {
    return false;
  } finally {
    decoder.close();
  }
}

/** The film's frame at the playhead, as it looks now, as a picture on top of a shot. */
export async function addFrameLayer(project: Project, shotId: string): Promise<void> {
  const { playhead } = useProject.getState();
  const drawnFrame = await makeStill(project, playhead);
  const name = say`Frame ${toTimecode(playhead, project.frame.rate)}`;
  await addPictureLayer(project, shotId, new File([drawnFrame], `${name}.png`, { type: 'image/png' }));
}
