import { type Recorded, type Sync, syncSounds } from '@/core/measure';
import { say } from '@/core/words';
import { openMedia } from './files';
import { decodeSound } from './sound';

const SILENT: Sync = { ok: false, reason: say`There is no sound in one of the files.` };

/** Lays a file's sound against others': its second t is heard in the other at offset + t · (1 + drift). */
export async function syncMedia(mediaId: string, others: readonly string[], onProgress: (done: number) => void): Promise<Sync[]> {
  const own: Recorded | null = await decodeSound(await openMedia(mediaId));
  const found: Sync[] = [];
  for (const [i, other] of others.entries()) {
    const sound = own && (await decodeSound(await openMedia(other)));
    found.push(own && sound ? syncSounds(own, sound) : SILENT);
    onProgress((i + 1) / others.length);
  }
  return found;
}
