import { type Folder, filesIn, folder, isMaking, removeFile } from '@/media/files';
import { db, type ProjectRow } from './db';
import { dropDerived, dropUnused } from './derived';
import { deleteForGood, KEPT_DAYS } from './projects';
import { whileNothingComesIn } from './storage-lock';
import { settled, useProject } from './store';
import { PACKED } from './stored';

const DAY = 86_400_000;
/** Days after which what was worked out is dropped when nobody used it. */
const UNUSED_DAYS = 60;
/** Milliseconds a file that belongs to nothing stays: long work stores it before the project names it. */
const GRACE = 3_600_000;

interface StoredFile {
  name: string;
  bytes: number;
  at: number;
}

/** What a project takes up. */
export interface ProjectUse {
  id: string;
  name: string;
  changed: number;
  deleted: number | null;
  open: boolean;
  /** Bytes of the files it uses, and how many of them no other project uses. */
  bytes: number;
  own: number;
  /** Bytes that only its steps of undo still need. */
  undo: number;
}

/** Where the room goes. */
export interface StorageUse {
  /** Bytes; null where the browser does not say. */
  quota: number | null;
  usage: number | null;
  /** Whether the browser has promised not to clear it by itself. */
  persisted: boolean;
  projects: ProjectUse[];
  films: StoredFile[];
  recordings: StoredFile[];
  originals: { id: number; name: string; at: number }[];
  /** What was worked out and can be again. */
  derived: { bytes: number; count: number };
  /** Files that belong to nothing. */
  orphans: { bytes: number; names: string[] };
}

async function stored(place: Folder): Promise<StoredFile[]> {
  const there = await folder(place);
  const files: StoredFile[] = [];
  for (const name of await filesIn(place)) {
    const file = await there
      .getFileHandle(name)
      .then((h) => h.getFile())
      .catch(() => null);
    if (file) files.push({ name, bytes: file.size, at: file.lastModified });
  }
  return files;
}

/** Calls `found` with every text inside a value. */
function eachText(value: unknown, found: (text: string) => void): void {
  if (typeof value === 'string') found(value);
  else if (typeof value === 'object' && value !== null && !ArrayBuffer.isView(value))
    for (const item of Object.values(value)) eachText(item, found);
}

/** The files among `names` that are spoken of anywhere in a value. */
function namedIn(value: unknown, names: ReadonlySet<string>): Set<string> {
  const found = new Set<string>();
  eachText(value, (text) => names.has(text) && found.add(text));
  return found;
}

/** About how many bytes a kept value takes. */
function sizeOf(value: unknown): number {
  if (typeof value === 'string') return 2 * value.length;
  if (ArrayBuffer.isView(value)) return value.byteLength;
  if (value instanceof ArrayBuffer) return value.byteLength;
  if (value instanceof Blob) return value.size;
  if (Array.isArray(value) && typeof value[0] === 'number') return 8 * value.length;
  if (typeof value !== 'object' || value === null) return 8;
  return Object.entries(value).reduce((sum, [key, item]) => sum + key.length + sizeOf(item), 16);
}

async function derivedUse(): Promise<{ bytes: number; count: number }> {
  const renders = await stored('renders');
  let [bytes, count] = [renders.reduce((sum, f) => sum + f.bytes, 0), renders.length];
  await db.derived.each((row) => {
    bytes += sizeOf(row.value);
    count++;
  });
  return { bytes, count };
}

const nameOf = (row: ProjectRow) => (row.document as { name?: string } | null)?.name || 'Unnamed';

/** What every project needs of the stored files: its document, and its steps of undo and earlier versions. */
async function needs(names: ReadonlySet<string>): Promise<Map<string, { row: ProjectRow; uses: Set<string>; undo: Set<string> }>> {
  const all = new Map<string, { row: ProjectRow; uses: Set<string>; undo: Set<string> }>();
  await db.projects.each((row) => {
    all.set(row.id, { row, uses: namedIn(row.document, names), undo: new Set() });
  });
  await db.shots.each(({ projectId, item }) => {
    const project = all.get(projectId);
    if (project) for (const name of namedIn(item, names)) project.uses.add(name);
  });
  await db.history.each(({ projectId, patches, inverse }) => {
    const project = all.get(projectId);
    if (project) for (const name of namedIn([patches, inverse], names)) if (!project.uses.has(name)) project.undo.add(name);
  });
  await db.versionDocuments.each(({ projectId, document }) => {
    const project = all.get(projectId);
    if (project) for (const name of namedIn(document, names)) if (!project.uses.has(name)) project.undo.add(name);
  });
  return all;
}

/** All that is kept in this browser, and what it takes. */
export async function storageUse(): Promise<StorageUse> {
  await settled();
  const [room, persisted, media, films, recordings, originals] = await Promise.all([
    navigator.storage.estimate().catch(() => ({}) as StorageEstimate),
    navigator.storage.persisted?.().catch(() => false),
    stored('media'),
    stored('films'),
    stored('recordings'),
    db.originals.toArray(),
  ]);
  const sizes = new Map(media.map((f) => [f.name, f.bytes]));
  const names = new Set(sizes.keys());
  const all = await needs(names);
  const users = new Map<string, number>();
  for (const { uses, undo } of all.values()) for (const name of [...uses, ...undo]) users.set(name, (users.get(name) ?? 0) + 1);
  const total = (list: Iterable<string>) => [...list].reduce((sum, name) => sum + (sizes.get(name) ?? 0), 0);
  const named = new Set([...users.keys(), ...namedIn(originals, names)]);
  const orphans = media.filter((f) => !named.has(f.name));
  const open = useProject.getState().project?.id;
  return {
    quota: room.quota ?? null,
    usage: room.usage ?? null,
    persisted: persisted === true,
    projects: [...all.values()]
      .map(({ row, uses, undo }) => ({
        id: row.id,
        name: nameOf(row),
        changed: row.changed,
        deleted: row.deleted ?? null,
        open: row.id === open,
        bytes: total(uses),
        own: total([...uses].filter((name) => users.get(name) === 1)),
        undo: total([...undo].filter((name) => users.get(name) === 1)),
      }))
      .sort((a, b) => b.changed - a.changed),
    films: films.filter((f) => !isMaking(f.name)),
    recordings,
    originals: originals.map(({ id, document, at }) => ({ id: id as number, name: nameOf({ document } as ProjectRow), at })),
    derived: await derivedUse(),
    orphans: { bytes: orphans.reduce((sum, f) => sum + f.bytes, 0), names: orphans.map((f) => f.name) },
  };
}

/** Asks the browser not to clear what is kept by itself. True where it promises that. */
export async function askToPersist(): Promise<boolean> {
  return (await navigator.storage?.persist?.().catch(() => false)) === true;
}

/** Drops all that was worked out; it is worked out again when it is needed. */
export async function dropCaches(): Promise<void> {
  await dropDerived(await db.derived.toCollection().primaryKeys());
  for (const name of await filesIn('renders')) await removeFile('renders', name);
}

/** The document of a project as it was before it was repaired. */
export async function originalOf(id: number): Promise<Blob | null> {
  const row = await db.originals.get(id);
  return row ? new Blob([JSON.stringify(row.document, null, 1)], { type: 'application/json' }) : null;
}

export const removeOriginal = (id: number): Promise<void> => db.originals.delete(id);

/** Removes a film made here, or a recording that was not kept. */
export const removeStored = (place: 'films' | 'recordings', name: string): Promise<void> => removeFile(place, name);

/**
 * Removes files that belong to no project, no step of undo and no kept original, of at least `age` milliseconds. Gives the bytes
 * freed; null where files are being taken in just now.
 */
export async function sweep(age = GRACE): Promise<number | null> {
  return whileNothingComesIn(async () => {
    await settled();
    const media = (await stored('media')).filter((f) => Date.now() - f.at >= age);
    const names = new Set(media.map((f) => f.name));
    const named = namedIn(await db.originals.toArray(), names);
    for (const { uses, undo } of (await needs(names)).values()) for (const name of [...uses, ...undo]) named.add(name);
    let freed = 0;
    for (const { name, bytes } of media) {
      if (named.has(name)) continue;
      await removeFile('media', name);
      freed += bytes;
    }
    for (const { name, bytes, at } of await stored('incoming')) {
      if (Date.now() - at < (age === 0 ? 0 : KEPT_DAYS * DAY)) continue;
      await removeFile('incoming', name);
      freed += bytes;
    }
    return freed;
  });
}

/** What is done once after a start: deleted projects past their time, what nobody uses, what was packed for a download, and orphans go. */
export async function tidy(): Promise<void> {
  const past = await db.projects.filter((row) => row.deleted !== undefined && Date.now() - row.deleted > KEPT_DAYS * DAY).primaryKeys();
  for (const id of past) await deleteForGood(id);
  await dropUnused(UNUSED_DAYS);
  for (const { name, at } of await stored('films')) if (name === PACKED && Date.now() - at > GRACE) await removeFile('films', name);
  await sweep();
}
