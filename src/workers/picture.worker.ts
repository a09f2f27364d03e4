import * as Comlink from 'comlink';
import { alignedTakeSchema, type Project } from '@/core/document';
import type { AlignedTake } from '@/media/align';
import type { Picture } from '@/media/picture';
import { FOR_FILM, FOR_GLANCES, KEPT_RENDERS, Preview } from '@/media/preview';
import { type LoopFrames, ReadAhead, type Spot } from '@/media/read-ahead';
import { AS_JPEG, RENDERS, RenderCache } from '@/media/render-cache';
import { sentenceOf } from '@/media/sentence';
import { checked } from './checked';
import { ProjectInUse } from './project-in-use';

const renders = new RenderCache(KEPT_RENDERS, RENDERS, AS_JPEG);
let preview = new Preview(FOR_FILM, renders);
const glances = new Preview(FOR_GLANCES);
const project = new ProjectInUse();
let playing: ReadAhead | null = null;

const send = (picture: Picture) => Comlink.transfer(picture, [picture.rgba.buffer]);

const api = {
  ...project.told,
  use(next: Project) {
    const before = project.current;
    project.told.use(next);
    if (!before || next.id === before.id) return;
    void preview.close();
    preview = new Preview(FOR_FILM, renders);
  },
  async frame(frame: number) {
    return send(await preview.frame(project.open, frame));
  },
  aligned: checked([alignedTakeSchema], async (take: AlignedTake, time: number) => send(await glances.aligned(take, time))),
  async take(mediaId: string, width: number, time: number) {
    return send(await glances.take(mediaId, width, time));
  },
  /** Makes pictures from a spot on until it is stopped or begun anew. `show` gets each in order, `failed` a sentence. */
  async play(from: Spot, loop: LoopFrames | null, show: (spot: Spot, picture: Picture) => void, failed: (sentence: string) => void) {
    playing?.stop();
    const { open } = project;
    const mine = new ReadAhead(
      preview,
      open,
      from,
      loop,
      (spot, picture) => show(spot, send(picture)),
      (error) => failed(sentenceOf(error)),
    );
    playing = mine;
    await mine.run();
  },
  /** Draws frames so that those that take long are kept; stops where `onProgress` gives false. */
  async prepare(first: number, end: number, onProgress: (done: number) => boolean | Promise<boolean>): Promise<void> {
    const { open } = project;
    for (let frame = first; frame < end; frame++) {
      await preview.frame(open, frame);
      if (!(await onProgress((frame + 1 - first) / (end - first)))) return;
    }
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
