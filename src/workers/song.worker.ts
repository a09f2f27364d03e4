import * as Comlink from 'comlink';
import { analyseSong, type SongAnalysis } from '@/core/song';
import { openMedia } from '@/media/files';
import { decodeSound } from '@/media/sound';

const api = {
  /** Decodes a stored song and finds its beats. Decoding is the first half of the progress. */
  async analyse(mediaId: string, onProgress: (done: number) => void): Promise<SongAnalysis | null> {
    const sound = await decodeSound(await openMedia(mediaId), (p) => onProgress(p / 2));
    return (
      sound &&
      analyseSong(sound.channels, sound.sampleRate, (p) => {
        onProgress(0.5 + p / 2);
        return true;
      })
    );
  },
  /** The song's samples, for listening. */
  async listen(mediaId: string) {
    const sound = await decodeSound(await openMedia(mediaId));
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
