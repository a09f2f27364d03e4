import * as Comlink from 'comlink';
import type { Project } from '@/core/shot';
import type { LaidTake } from '@/media/laid';
import { Preview } from '@/media/preview';

let preview = new Preview();
let project: Project | null = null;

const send = (picture: { width: number; height: number; rgba: Uint8ClampedArray<ArrayBuffer> }) =>
  Comlink.transfer(picture, [picture.rgba.buffer]);

const api = {
  use(next: Project) {
    if (project && next.id !== project.id) preview = new Preview();
    project = next;
  },
  async frame(frame: number) {
    if (!project) throw new Error('No project is open.');
    return send(await preview.frame(project, frame));
  },
  async laid(take: LaidTake, time: number) {
    return send(await preview.laid(take, time));
  },
  async take(mediaId: string, width: number, time: number) {
    return send(await preview.take(mediaId, width, time));
  },
};
export type PictureApi = typeof api;
Comlink.expose(api);
