import * as Comlink from 'comlink';
import { changed, type Project, type ProjectChange } from '@/core/shot';
import { mixedSound } from '@/media/mixed';

let project: Project | null = null;

const api = {
  /** The project whose sound is asked for from now on. */
  use(next: Project): void {
    project = next;
  },
  /** What changed of it. */
  change(change: ProjectChange): void {
    if (project) project = changed(project, change);
  },
  /** Left and right from a song second on; null before a project is given. */
  async mix(from: number, count: number, sampleRate: number) {
    if (!project) return null;
    const channels = await mixedSound(project, from, count, sampleRate);
    return Comlink.transfer(
      channels,
      channels.map((c) => c.buffer),
    );
  },
};
export type SoundApi = typeof api;
Comlink.expose(api);
