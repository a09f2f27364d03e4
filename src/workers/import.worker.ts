import * as Comlink from 'comlink';
import type { Media } from '@/core/document';
import { contentId, sameContent, wholeId } from '@/media/content';
import { hasMedia, openMedia, removeLeftovers, writeMedia } from '@/media/files';
import { filmOfAnimation, filmOfSequence } from '@/media/picture-film';
import { probe } from '@/media/probe';
import { sentenceOf } from '@/media/sentence';

/** Made just now, so nothing says when it was filmed. */
const asFile = (film: Blob, name: string) => new File([film], name, { type: film.type });

export type Taken = { ok: true; media: Media } | { ok: false; reason: string };

function copy(file: Blob, id: string, onProgress: (done: number) => void): Promise<void> {
  return writeMedia(id, async (put) => {
    const reader = file.stream().getReader();
    let at = 0;
    for (let next = await reader.read(); !next.done; next = await reader.read()) {
      put(next.value);
      at += next.value.length;
      onProgress(at / file.size);
    }
  });
}

/** The id a file is stored under, and whether it is there already, whole; one kept damaged under its id is to be written again. */
async function placeFor(file: File): Promise<{ id: string; there: boolean }> {
  const id = await contentId(file);
  if (!(await hasMedia(id))) return { id, there: false };
  const stored = await openMedia(id);
  if (stored.size !== file.size || (await contentId(stored)) !== id) return { id, there: false };
  if (await sameContent(stored, file)) return { id, there: true };
  // The samples are the same, the rest is not: two films of one beginning, middle and end.
  const other = await wholeId(file);
  return { id: other, there: (await hasMedia(other)) && (await sameContent(await openMedia(other), file)) };
}

const api = {
  /** As `take`, of the film that an animated picture is made into; null where the file is none. */
  async takeAnimation(file: File, onProgress: (done: number) => void): Promise<Taken | null> {
    try {
      const film = await filmOfAnimation(file, (p) => onProgress(0.9 * p));
      return film && (await api.take(asFile(film, file.name), () => undefined, onProgress));
    } catch (error) {
      return { ok: false, reason: sentenceOf(error) };
    }
  },
  /** As `take`, of the film that numbered pictures are made into, `rate` of them a second. */
  async takeSequence(files: readonly File[], name: string, rate: number, onProgress: (done: number) => void): Promise<Taken> {
    try {
      const film = await filmOfSequence(files, rate, (p) => onProgress(0.9 * p));
      return await api.take(asFile(film, name), () => undefined, onProgress);
    } catch (error) {
      return { ok: false, reason: sentenceOf(error) };
    }
  },
  /** Looks into a file and, when it can be used, streams it into the browser's storage. `onLooked` is called in between. */
  async take(file: File, onLooked: (news: null) => void, onProgress: (done: number) => void): Promise<Taken> {
    const looked = await probe(file);
    onLooked(null);
    if (!looked.ok) return looked;
    await removeLeftovers();
    try {
      const { id, there } = await placeFor(file);
      if (!there) await copy(file, id, onProgress);
      return { ok: true, media: { id, name: file.name.slice(0, 300), type: file.type.slice(0, 200), bytes: file.size, ...looked.media } };
    } catch (error) {
      return { ok: false, reason: sentenceOf(error) };
    }
  },
};
export type ImportApi = typeof api;
Comlink.expose(api);
