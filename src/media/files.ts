/** Media bytes live in the origin's private file system, one file per media id, under `media/`; films under `films/`; what is being recorded under `recordings/`. */
type Folder = 'media' | 'films' | 'recordings';

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

/** The stored file of a media id; throws a sentence when it is gone. */
export async function openMedia(id: string): Promise<File> {
  try {
    return await (await (await folder('media')).getFileHandle(id)).getFile();
  } catch {
    throw new Error('The file of this take is no longer in the browser’s storage. Import it again; your edit is kept.');
  }
}

export async function hasMedia(id: string): Promise<boolean> {
  try {
    await (await folder('media')).getFileHandle(id);
    return true;
  } catch {
    return false;
  }
}

export async function removeFile(place: Folder, name: string): Promise<void> {
  await (await folder(place)).removeEntry(name).catch(() => undefined);
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
