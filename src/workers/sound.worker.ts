import * as Comlink from 'comlink';
import { mixedSound } from '@/media/mixed';
import { ProjectInUse } from './project-in-use';

const project = new ProjectInUse();

const api = {
  ...project.told,
  /** Left and right from a song second on; null before a project is given. */
  async mix(from: number, count: number, sampleRate: number) {
    if (!project.current) return null;
    const channels = await mixedSound(project.current, from, count, sampleRate);
    return Comlink.transfer(
      channels,
      channels.map((c) => c.buffer),
    );
  },
};
export type SoundApi = typeof api;
Comlink.expose(api);
