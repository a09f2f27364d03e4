import type { AlignedTake } from '@/media/align';
import type { Picture } from '@/media/picture';
import type { PictureApi } from '@/workers/picture.worker';
import { KeptWorker } from './kept-worker';

const newWorker = () => new Worker(new URL('../workers/picture.worker.ts', import.meta.url), { type: 'module' });

/** Draws the film; the other one small pictures of takes, with decoders of its own. */
export const filmWorker = new KeptWorker<PictureApi>(newWorker);
const small = new KeptWorker<PictureApi>(newWorker);

/** Gives back the decoders and frames of pictures that nobody waits for. */
export function restPictures(): void {
  filmWorker.rest();
  small.rest();
}

/** One frame of a take by itself, about 640 pixels wide. */
export const takePicture = (mediaId: string, width: number, time: number): Promise<Picture> =>
  small.call((api) => api.take(mediaId, width, time) as Promise<Picture>);

/** One frame of a take laid on its set-up's reference. */
export const alignedPicture = (take: AlignedTake, time: number): Promise<Picture> =>
  small.call((api) => api.aligned(take, time) as Promise<Picture>);
