import { say } from '@/core/words';
/** Media bytes live in the origin's private file system, one file per media id, under `media/`; films under `films/`; what is being recorded under `recordings/`; pictures drawn before under `renders/`; halves of what comes from another device under `incoming/`. */
export type Folder = 'media' | 'films' | 'recordings' | 'renders' | 'incoming';

/** What a film in the making is called under `films/`, until it is whole. */
export const makingName = (format: string) => `making-${Date.now()}.${format}`;
export const isMaking = (name: string) => /^making-\d+\.\w+$/.test(name);

/** The worker-only parts of the file system that TypeScript's page library leaves out. */
export interface SyncFile {
  truncate(size: number): void;
  write(data: Uint8Array, options: { at: number }): number;
  read(into: Uint8Array, options: { at: number }): number;
  getSize(): number;
  flush(): void;
  close(): void;
}

/** Opens a file for writing in place, as only a worker may; throws while another worker holds it. */
export async function syncFile(place: Folder, name: string, create: boolean): Promise<SyncFile> {
  const handle = (await (await folder(place)).getFileHandle(name, { create })) as unknown as {
    createSyncAccessHandle(): Promise<SyncFile>;
  };
  return handle.createSyncAccessHandle();
}

export async function folder(name: Folder): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory();
  return root.getDirectoryHandle(name, { create: true });
}

/** Stores bytes under a media id, whole or not at all. */
export async function storeMedia(id: string, bytes: Blob): Promise<void> {
  const writable = await (await (await folder('media')).getFileHandle(id, { create: true })).createWritable();
  await writable.write(bytes);
  await writable.close();
}

/** The stored file of a media id; throws a sentence when it is gone. */
export async function openMedia(id: string): Promise<File> {
  try {
    return await (await (await folder('media')).getFileHandle(id)).getFile();
  } catch {
    throw new Error(say`The file of this take is no longer in the browser’s storage. Import it again; your edit is kept.`);
  }
}

/** Bytes of a stored file; null where it is not there. */
export async function mediaSize(id: string): Promise<number | null> {
  return openMedia(id).then(
    (file) => file.size,
    () => null,
  );
}

export const hasMedia = async (id: string): Promise<boolean> => (await mediaSize(id)) !== null;

/**
 * Writes a file of `media/` whole or not at all: `pour` is handed where its bytes go, in order. Only in a worker. Throws a
 * QuotaExceededError where there is no room, and leaves nothing behind then.
 */
export async function writeMedia(id: string, pour: (put: (chunk: Uint8Array) => void) => Promise<void>): Promise<void> {
  const part = `${id}.part`;
  const access = await syncFile('media', part, true);
  let at = 0;
  try {
    access.truncate(0);
    await pour((chunk) => {
      const written = access.write(chunk, { at });
      if (written < chunk.length) throw new DOMException(say`The file could not take it all.`, 'QuotaExceededError');
      at += written;
    });
    access.flush();
    access.close();
    await renameFile('media', part, id);
  } catch (error) {
    access.close();
    await removeFile('media', part);
    throw error;
  }
}

/** Gives a file another name in its folder or in another, in the place of any that has it. */
export async function renameFile(place: Folder, from: string, to: string, into = place): Promise<void> {
  const handle = await (await folder(place)).getFileHandle(from);
  // TypeScript's library leaves it out.
  await (handle as unknown as { move(into: FileSystemDirectoryHandle, name: string): Promise<void> }).move(await folder(into), to);
}

export async function removeFile(place: Folder, name: string): Promise<void> {
  await (await folder(place)).removeEntry(name).catch(() => undefined);
}

/** Removes a file as soon as whoever wrote it has let it go; gives up after two seconds. */
export async function removeSoon(place: Folder, name: string): Promise<void> {
  const there = await folder(place);
  for (let tries = 0; tries < 40; tries++) {
    const gone = await there.removeEntry(name).then(
      () => true,
      (error: DOMException) => error.name === 'NotFoundError',
    );
    if (gone) return;
    await new Promise((again) => setTimeout(again, 50));
  }
}

/** Names of the files in a folder. */
export async function filesIn(place: Folder): Promise<string[]> {
  const names: string[] = [];
  for await (const name of ((await folder(place)) as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(name);
  return names;
}

/** Removes copies that were broken off (a stopped import, a closed page). One being written just now cannot be removed and stays. */
export async function removeLeftovers(): Promise<void> {
  for (const name of await filesIn('media')) if (name.endsWith('.part')) await removeFile('media', name);
}
