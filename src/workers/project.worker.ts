import * as Comlink from 'comlink';
import type { Project } from '@/core/document';
import { folder, openMedia, writeMedia } from '@/media/files';
import { readEntry, readProjectZip, writeProjectZip } from '@/media/project-zip';
import { sentenceOf } from '@/media/sentence';
import { arrived, noRoomFor, placesFor, readIncoming } from './incoming';

/** Where a project file is written: into the browser's storage, or straight to the file the user chose. */
export type ProjectTarget = { name: string } | { handle: FileSystemFileHandle };

/** A project file opened: what it holds, with what had to be set aside and the names of files that are damaged or not in it. */
export type OpenedFile = { ok: true; project: Project; setAside: string[]; missing: string[] } | { ok: false; reason: string };

const api = {
  /** Writes a project file. Gives the names of files that are not in storage and so not in it. */
  async write(project: Project, target: ProjectTarget, onProgress: (done: number) => void): Promise<string[]> {
    const handle = 'handle' in target ? target.handle : await (await folder('films')).getFileHandle(target.name, { create: true });
    const out = await handle.createWritable();
    try {
      return await writeProjectZip(project, openMedia, out, onProgress);
    } catch (error) {
      await out.abort().catch(() => undefined);
      throw new Error(sentenceOf(error));
    }
  },
  /** Looks all of a project file through, then stores what is whole of it. The project itself is not stored. */
  async open(file: Blob, onProgress: (news: { doing: string; done: number }) => void): Promise<OpenedFile> {
    try {
      const zip = await readProjectZip(file, (done) => onProgress({ doing: 'Checking', done }));
      const read = readIncoming(zip.document);
      if (!read.ok) return read;
      const places = await placesFor(zip.whole);
      const bytesOf = (id: string) => zip.whole.get(id)?.bytes ?? 0;
      const needed = new Set(read.project.media.map((m) => m.id));
      const fresh = places.filter((p) => needed.has(p.id) && !p.there);
      const total = fresh.reduce((sum, { id }) => sum + bytesOf(id), 0);
      const noRoom = await noRoomFor(total);
      if (noRoom) return { ok: false, reason: noRoom };
      let done = 0;
      for (const place of fresh) {
        const found = zip.whole.get(place.id);
        if (!found) continue;
        await writeMedia(place.as, (put) =>
          readEntry(found.entry, (chunk) => {
            put(chunk);
            done += chunk.length;
            onProgress({ doing: 'Copying', done: done / total });
          }),
        );
      }
      const came = await arrived(read, places);
      await zip.close();
      return { ok: true, ...came };
    } catch (error) {
      return { ok: false, reason: sentenceOf(error) };
    }
  },
};
export type ProjectApi = typeof api;
Comlink.expose(api);
