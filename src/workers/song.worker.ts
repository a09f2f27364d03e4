import * as Comlink from 'comlink';
import { type Alignment, alignSongs, type HeardOnsets, type SongAnalysis, solveAgain } from '@/core/song';
import type { BeatMap } from '@/core/time';
import { openMedia } from '@/media/files';
import { decodeSong, findInSong } from '@/media/song';
import { decodeSound, type Sound } from '@/media/sound';

const api = {
  /** Decodes a stored song and measures it as a whole; what is decoded goes through a port to a worker that finds its beats. */
  decode: async (mediaId: string, port: MessagePort, onProgress: (done: number) => void): Promise<void> =>
    decodeSong(await openMedia(mediaId), port, onProgress),
  /** All that is to be found in a song that another worker decodes. */
  find: findInSong,
  /** The map solved again around what was locked by hand. */
  solve: (map: BeatMap, heard: SongAnalysis): BeatMap => solveAgain(map, heard.onsets, heard.duration),
  /** How another mix of a song lies on it. */
  align: (old: { onsets: HeardOnsets; duration: number }, fresh: { onsets: HeardOnsets; duration: number }): Alignment =>
    alignSongs(old.onsets, fresh.onsets, old.duration, fresh.duration),
  /** Samples of a stored sound, from and to in seconds. */
  async listen(mediaId: string, from: number, to: number): Promise<Sound | null> {
    const sound = await decodeSound(await openMedia(mediaId), undefined, from, to);
    return (
      sound &&
      Comlink.transfer(
        sound,
        sound.channels.map((c) => c.buffer),
      )
    );
  },
};
export type SongApi = typeof api;
Comlink.expose(api);
