import * as Comlink from 'comlink';
import type { Media } from '@/core/shot';
import { folder, hasMedia, removeFile, removeLeftovers, syncFile } from '@/media/files';
import { probe } from '@/media/probe';

export type Taken = { ok: true; media: Media } | { ok: false; reason: string };

/** A short id from the file's size and its first, middle and last megabyte: the same file gets the same id. */
async function contentId(file: Blob): Promise<string> {
  const piece = 1 << 20;
  const parts = [0, Math.max(0, (file.size >> 1) - piece / 2), Math.max(0, file.size - piece)].map((at) => file.slice(at, at + piece));
  const bytes = await new Blob([String(file.size), ...parts]).arrayBuffer();
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return [...digest.subarray(0, 12)].map((b) => b.toString(16).padStart(2, '0')).join('');
}

async function copy(file: Blob, id: string, onProgress: (done: number) => void): Promise<void> {
  const access = await syncFile('media', `${id}.part`, true);
  try {
    access.truncate(0);
    const reader = file.stream().getReader();
    let at = 0;
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      at += access.write(value, { at });
      onProgress(at / file.size);
    }
    access.flush();
  } finally {
    access.close();
  }
  const handle = (await (await folder('media')).getFileHandle(`${id}.part`)) as unknown as { move(name: string): Promise<void> };
  await handle.move(id);
}

const api = {
  /** Looks into a file and, when it can be used, streams it into the browser's storage. */
  async take(file: File, onProgress: (done: number) => void): Promise<Taken> {
    await removeLeftovers();
    const looked = await probe(file);
    if (!looked.ok) return looked;
    const id = await contentId(file);
    try {
      if (!(await hasMedia(id))) await copy(file, id, onProgress);
    } catch (error) {
      await removeFile('media', `${id}.part`);
      const name = error instanceof DOMException ? error.name : '';
      if (name === 'QuotaExceededError')
        return {
          ok: false,
          reason:
            'The browser’s storage is full, so this file was not taken in. Nothing else was lost. Free some space on this device, then import it again.',
        };
      if (name === 'NotReadableError' || name === 'NotFoundError')
        return {
          ok: false,
          reason: 'The file could not be read to its end: it was moved, changed or taken out while it was being copied. Import it again.',
        };
      throw error;
    }
    return { ok: true, media: { id, name: file.name, type: file.type, bytes: file.size, ...looked.media } };
  },
};
export type ImportApi = typeof api;
Comlink.expose(api);
