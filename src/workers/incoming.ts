import { type Project, readProject, repairProject } from '@/core/document';
import { withFileRenamed } from '@/core/exchange';
import { say } from '@/core/words';
import { wholeHash } from '@/media/content';
import { hasMedia, mediaSize, openMedia } from '@/media/files';

/** A project that came in, and what of its document had to be set aside. */
interface CameIn {
  project: Project;
  setAside: string[];
}

/** Reads a document that comes in, mended where it is damaged; or a sentence. */
export function readIncoming(document: unknown): ({ ok: true } & CameIn) | { ok: false; reason: string } {
  const read = readProject(document);
  if (read.ok) return { ok: true, project: read.project, setAside: [] };
  const repaired = repairProject(document);
  return repaired ? { ok: true, ...repaired } : read;
}

/** What came in once its files are stored, each under `as`: the project that names them so, and the names of files that are not here. */
export async function arrived(
  { project, setAside }: CameIn,
  places: Iterable<{ id: string; as: string }>,
): Promise<CameIn & { missing: string[] }> {
  let named = project;
  for (const { id, as } of places) if (id !== as) named = withFileRenamed(named, id, as);
  const sizes = await Promise.all(named.media.map((m) => mediaSize(m.id)));
  return { project: named, setAside, missing: named.media.filter((m, i) => sizes[i] !== m.bytes).map((m) => m.name) };
}

/** The names under which files that come in are to be stored: their own, or another where a different file has that name. */
export async function placesFor(
  files: Iterable<readonly [string, { bytes: number; sha256: string }]>,
): Promise<{ id: string; as: string; there: boolean }[]> {
  const places = [];
  for (const [id, { bytes, sha256 }] of files) {
    const stored = (await hasMedia(id)) ? await openMedia(id) : null;
    // A stored file of another length is itself the damaged one.
    const same = stored !== null && stored.size === bytes && (await wholeHash(stored)) === sha256;
    const taken = stored !== null && stored.size === bytes && !same;
    const as = taken ? sha256.slice(0, 24) : id;
    places.push({ id, as, there: same || (taken && (await hasMedia(as))) });
  }
  return places;
}

/** '' where there is room for so many bytes of films, else a sentence. */
export async function noRoomFor(bytes: number): Promise<string> {
  const room = await navigator.storage.estimate();
  const left = (room.quota ?? Number.POSITIVE_INFINITY) - (room.usage ?? 0);
  return bytes > left
    ? say`There is not enough room for it: its films take ${(bytes / 1e6).toFixed(0)} MB, ${(Math.max(0, left) / 1e6).toFixed(0)} MB are left to this browser. Nothing was changed. Free some space, then open it again.`
    : '';
}
