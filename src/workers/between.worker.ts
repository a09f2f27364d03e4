import * as Comlink from 'comlink';
import type { Project } from '@/core/document';
import { type FileSum, projectDocument } from '@/core/exchange';
import { say } from '@/core/words';
import { wholeHash } from '@/media/content';
import { filesIn, folder, openMedia, removeFile, renameFile, type SyncFile, syncFile } from '@/media/files';
import { handed } from './handed';
import { arrived, noRoomFor, placesFor, readIncoming } from './incoming';

/** Half a file stands in `incoming/` under its hash, so that it is gone on with whatever project it comes with. */
let taken: { project: Project; setAside: string[]; places: { id: string; as: string }[] } | null = null;
let open: { sha256: string; access: SyncFile } | null = null;

function letGo(): void {
  open?.access.flush();
  open?.access.close();
  open = null;
}

async function accessOf(sha256: string): Promise<SyncFile> {
  if (open?.sha256 === sha256) return open.access;
  letGo();
  open = { sha256, access: await syncFile('incoming', sha256, true) };
  return open.access;
}

const sizeOf = async (sha256: string) => (await (await (await folder('incoming')).getFileHandle(sha256)).getFile()).size;

const api = {
  /** The document of a project with the sums of the files it has here. Those that are missing are left out and named. */
  async document(project: Project): Promise<{ document: string; missing: string[] }> {
    const files: FileSum[] = [];
    const missing: string[] = [];
    for (const { id, name, bytes } of project.media) {
      const file = await openMedia(id).catch(() => null);
      if (file?.size === bytes) files.push({ id, bytes, sha256: await wholeHash(file) });
      else missing.push(name);
    }
    return { document: projectDocument(project, files), missing };
  },
  /** Bytes of a file that goes out. */
  async read(id: string, at: number, bytes: number): Promise<Uint8Array> {
    const read = new Uint8Array(await (await openMedia(id)).slice(at, at + bytes).arrayBuffer());
    return handed(read);
  },
  /** Looks at a document that comes in: which of its files are lacking here. */
  async begin(
    document: unknown,
    files: readonly FileSum[],
  ): Promise<{ ok: true; wants: { file: FileSum; have: number }[] } | { ok: false; reason: string }> {
    const read = readIncoming(document);
    if (!read.ok) return read;
    const needed = new Set(read.project.media.map((m) => m.id));
    const places = await placesFor(files.filter(({ id }) => needed.has(id)).map((f) => [f.id, f] as const));
    taken = { ...read, places };
    const there = new Set(await filesIn('incoming'));
    const wants: { file: FileSum; have: number }[] = [];
    for (const file of files) {
      const place = places.find((p) => p.id === file.id);
      if (!place || place.there) continue;
      wants.push({ file, have: there.has(file.sha256) ? Math.min(file.bytes, await sizeOf(file.sha256)) : 0 });
    }
    const reason = await noRoomFor(wants.reduce((sum, { file, have }) => sum + file.bytes - have, 0));
    return reason ? { ok: false, reason } : { ok: true, wants };
  },
  async put({ sha256 }: FileSum, at: number, chunk: Uint8Array): Promise<void> {
    if ((await accessOf(sha256)).write(chunk, { at }) < chunk.length)
      throw new DOMException(say`The file could not take it all.`, 'QuotaExceededError');
  },
  async finish({ id, bytes, sha256 }: FileSum): Promise<boolean> {
    await accessOf(sha256);
    letGo();
    const file = await (await (await folder('incoming')).getFileHandle(sha256)).getFile();
    if (file.size !== bytes || (await wholeHash(file)) !== sha256) {
      await removeFile('incoming', sha256);
      return false;
    }
    await renameFile('incoming', sha256, taken?.places.find((p) => p.id === id)?.as ?? id, 'media');
    return true;
  },
  /** What came in, once all of it is here: the project as it is to be stored, what was set aside, and names of files that are not here. */
  async end(): Promise<{ project: Project; setAside: string[]; missing: string[] }> {
    if (!taken) throw new Error(say`Nothing came in.`);
    return arrived(taken, taken.places);
  },
};
export type BetweenApi = typeof api;
Comlink.expose(api);
