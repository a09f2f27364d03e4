import { wholeFragments } from '@/core/exchange';
import type { SyncFile } from './files';

/** Cuts a broken-off fragmented file to what is whole; bytes left. */
export function cutToWhole(file: SyncFile): number {
  const whole = wholeFragments((at, length) => {
    const bytes = new Uint8Array(length);
    return bytes.subarray(0, file.read(bytes, { at }));
  }, file.getSize());
  file.truncate(whole);
  file.flush();
  return whole;
}
