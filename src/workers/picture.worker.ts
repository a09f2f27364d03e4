import * as Comlink from 'comlink';
import { changed, type Project, type ProjectChange } from '@/core/shot';
import type { AlignedTake } from '@/media/align';
import { type Picture, Preview } from '@/media/preview';
import { type LoopFrames, ReadAhead, type Spot } from '@/media/read-ahead';
import { sentenceOf } from '@/media/sentence';

let preview = new Preview();
let project: Project | null = null;
let playing: ReadAhead | null = null;

const send = (picture: Picture) => Comlink.transfer(picture, [picture.rgba.buffer]);

const api = {
  use(next: Project) {
    if (project && next.id !== project.id) {
      void preview.close();
      preview = new Preview();
    }
    project = next;
  },
  /** What changed of the project in use. */
  change(change: ProjectChange) {
    if (project) project = changed(project, change);
  },
  async frame(frame: number) {
    if (!project) throw new Error('No project is open.');
    return send(await preview.frame(project, frame));
  },
  async aligned(take: AlignedTake, time: number) {
    return send(await preview.aligned(take, time));
  },
  async take(mediaId: string, width: number, time: number) {
    return send(await preview.take(mediaId, width, time));
  },
  /** Makes pictures from a spot on until it is stopped or begun anew. `show` gets each in order, `failed` a sentence. */
  async play(from: Spot, loop: LoopFrames | null, show: (spot: Spot, picture: Picture) => void, failed: (sentence: string) => void) {
    playing?.stop();
    if (!project) throw new Error('No project is open.');
    const mine = new ReadAhead(
      preview,
      project,
      from,
      loop,
      (spot, picture) => show(spot, send(picture)),
      (error) => failed(sentenceOf(error)),
    );
    playing = mine;
    await mine.run();
  },
  clock(heard: Spot, taken: number) {
    playing?.clock(heard, taken);
  },
  stop() {
    playing?.stop();
    playing = null;
  },
};
export type PictureApi = typeof api;
Comlink.expose(api);
