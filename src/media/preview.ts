import type { Project } from '@/core/document';
import { describeFrame, type PictureDescription, scaledPicture } from '@/core/evaluate';
import { blackPlanes, type ClearPlanes, type Planes, toRgba } from '@/core/picture';
import { fps } from '@/core/time';
import { type AlignedTake, alignedOn } from './align';
import { openMedia } from './files';
import { FrameBudget, FrameCache, type FrameShare } from './frame-cache';
import { FrameReader } from './frames';
import { filesOf, paint } from './painting';
import type { Picture } from './picture';
import { asReduced, picturesOf } from './pictures';
import type { RenderCache } from './render-cache';

/** About how wide the preview is; sources are reduced by whole factors to at least this. */
const PREVIEW_WIDTH = 640;
/** Half of everything where the machine says that it has little memory. */
const PART = ((navigator as { deviceMemory?: number }).deviceMemory ?? 8) <= 4 ? 0.5 : 1;
/** For the film, which is played and stepped through. */
export const FOR_FILM: FrameShare = { kept: 100e6 * PART, ahead: 200e6 * PART, least: 2, idle: 8000 };
/** For small pictures of takes: asked for in one go, then not again for long. */
export const FOR_GLANCES: FrameShare = { kept: 30e6 * PART, ahead: 100e6 * PART, least: 1, idle: 1000 };
/** Kept pictures of the film that were slow to draw, bytes on disk. */
export const KEPT_RENDERS = 200e6 * PART;
/** Share of a frame's time from which on drawing it is slow, and how far apart frames are when they are drawn one after another. */
const HEAVY = 0.8;
const STRIDE = 12;
/** The program that draws: a newer one may draw otherwise. Its address names its files, each by a hash of what is in it. */
const MADE_BY = globalThis.location?.href ?? '';

/** Files that are open at once. */
const MOST_OPEN = 12;

interface Opened {
  cache: FrameCache;
  reduce: number;
}

/** Draws frames of a project small and fast; keeps decoders and decoded frames between calls. */
export class Preview {
  private readonly open = new Map<string, Promise<Opened>>();
  private readonly budget: FrameBudget;

  /** The frame drawn last: what follows it was not waited for by a search in the file. */
  private last = Number.NaN;

  /** With `renders`, pictures that take longer than they are shown are kept there. */
  constructor(
    share: FrameShare,
    private readonly renders: RenderCache | null = null,
  ) {
    this.budget = new FrameBudget(share);
  }

  private cacheFor(mediaId: string, width: number): Promise<Opened> {
    const known = this.open.get(mediaId);
    if (known) {
      // Used last, closed last.
      this.open.delete(mediaId);
      this.open.set(mediaId, known);
      return known;
    }
    const made = (async () => {
      const reduce = Math.max(1, Math.floor(width / PREVIEW_WIDTH));
      return { cache: new FrameCache(await FrameReader.open(await openMedia(mediaId)), reduce, this.budget), reduce };
    })();
    this.open.set(mediaId, made);
    made.catch(() => this.open.delete(mediaId));
    for (const [id, oldest] of this.open) {
      if (this.open.size <= MOST_OPEN) break;
      this.open.delete(id);
      oldest.then(({ cache }) => cache.close()).catch(() => undefined);
    }
    return made;
  }

  /** One frame of the film. */
  async frame(project: Project, frame: number): Promise<Picture> {
    const factor = Math.min(1, PREVIEW_WIDTH / project.frame.width, PREVIEW_WIDTH / project.frame.height);
    const picture = scaledPicture(describeFrame(project, frame), factor);
    const { renders } = this;
    const description = () => `${MADE_BY} ${JSON.stringify({ ...picture, frame: 0 })}`;
    const known = renders && renders.size > 0 ? await renders.get(await renders.nameOf(description())) : null;
    if (known) return known;
    const follows = frame > this.last && frame <= this.last + STRIDE;
    this.last = frame;
    const began = performance.now();
    const { planes, whole } = await this.draw(project, picture);
    const drawn = forScreen(planes);
    const heavy = (performance.now() - began) / 1000 > HEAVY / fps(project.frame.rate);
    if (renders && whole && heavy && follows) {
      // A copy, made now: whoever asked may send the picture away.
      const copy = { ...drawn, rgba: drawn.rgba.slice() };
      void renders.nameOf(description()).then((own) => renders.put(own, copy));
    }
    return drawn;
  }

  /** A picture drawn, and whether all that it needs could be read. */
  private async draw(project: Project, picture: PictureDescription): Promise<{ planes: Planes; whole: boolean }> {
    const planes = blackPlanes(picture.width, picture.height);
    const pictures = await picturesOf(project, true, new Set(filesOf(picture)), PREVIEW_WIDTH);
    let whole = pictures.faults.size === 0;
    const frameOf = async (_: string, mediaId: string, time: number) => {
      const width = project.media.find((m) => m.id === mediaId)?.width ?? PREVIEW_WIDTH;
      const { cache, reduce } = await this.cacheFor(mediaId, width);
      const found = await cache.at(time);
      if (!found) whole = false;
      return asReduced(found ?? blackPlanes(2, 2), reduce);
    };
    await paint(picture, planes, frameOf, pictures);
    return { planes, whole };
  }

  /** One frame of a take by itself. */
  async take(mediaId: string, width: number, time: number): Promise<Picture> {
    const { cache } = await this.cacheFor(mediaId, width);
    return forScreen((await cache.at(time)) ?? blackPlanes(2, 2));
  }

  /** One frame of a take laid on its set-up's reference, in its light. */
  async aligned(take: AlignedTake, time: number): Promise<Picture> {
    const { cache, reduce } = await this.cacheFor(take.media.id, take.media.width);
    const planes = await cache.at(time);
    return forScreen(planes ? alignedOn(planes, take, time, reduce, null) : blackPlanes(2, 2));
  }

  async close(): Promise<void> {
    const all = [...this.open.values()];
    this.open.clear();
    for (const one of all) await one.then(({ cache }) => cache.close()).catch(() => undefined);
  }
}

function forScreen(planes: ClearPlanes): Picture {
  const rgba = new Uint8ClampedArray(planes.width * planes.height * 4);
  toRgba(planes, rgba);
  // Where a take is clear the page is seen.
  planes.alpha?.forEach((a, i) => {
    rgba[4 * i + 3] = a;
  });
  return { width: planes.width, height: planes.height, rgba };
}
