import * as Comlink from 'comlink';
import type { Media } from '@/core/document';
import { contentId, sameContent, wholeId } from '@/media/content';
import { hasMedia, openMedia, removeLeftovers, writeMedia } from '@/media/files';
import { probe } from '@/media/probe';
import { sentenceOf } from '@/media/sentence';

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
