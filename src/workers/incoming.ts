import { wholeHash } from '@/media/content';
import { hasMedia, openMedia } from '@/media/files';

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
    ? `There is not enough room for it: its films take ${(bytes / 1e6).toFixed(0)} MB, ${(Math.max(0, left) / 1e6).toFixed(0)} MB are left to this browser. Nothing was changed. Free some space, then open it again.`
    : '';
}
