import { blackPlanes, type Planes, toRgba } from '@/core/picture';
import { describeFrame, type Project, scaledPicture } from '@/core/shot';
import { openMedia } from './files';
import { FrameCache, FrameReader } from './frames';
import { type LaidTake, laidOn } from './laid';
import { paint } from './painting';
import { picturesOf } from './pictures';

/** About how wide the preview is; sources are reduced by whole factors to at least this. */
const PREVIEW_WIDTH = 640;
/** Bytes of decoded frames kept for each take. */
const BUDGET = 60e6;

/** Draws frames of a project small and fast; keeps decoders and decoded frames between calls. */
export class Preview {
  private readonly caches = new Map<string, Promise<{ cache: FrameCache; reduce: number }>>();
  private out: Planes = blackPlanes(2, 2);

  private cacheFor(mediaId: string, width: number): Promise<{ cache: FrameCache; reduce: number }> {
    const known = this.caches.get(mediaId);
    if (known) return known;
    const made = (async () => {
      const reduce = Math.max(1, Math.floor(width / PREVIEW_WIDTH));
      return { cache: new FrameCache(await FrameReader.open(await openMedia(mediaId)), reduce, BUDGET), reduce };
    })();
    this.caches.set(mediaId, made);
    made.catch(() => this.caches.delete(mediaId));
    return made;
  }

  /** One frame of the film as RGBA. */
  async frame(project: Project, frame: number): Promise<{ width: number; height: number; rgba: Uint8ClampedArray<ArrayBuffer> }> {
    const factor = Math.min(1, PREVIEW_WIDTH / project.frame.width, PREVIEW_WIDTH / project.frame.height);
    const picture = scaledPicture(describeFrame(project, frame), factor);
    if (this.out.width !== picture.width || this.out.height !== picture.height) this.out = blackPlanes(picture.width, picture.height);
    const widths = new Map(project.media.map((m) => [m.id, m.width]));
    await paint(
      picture,
      this.out,
      async (_, mediaId, time) => {
        const { cache, reduce } = await this.cacheFor(mediaId, widths.get(mediaId) ?? PREVIEW_WIDTH);
        return { planes: (await cache.at(time)) ?? blackPlanes(2, 2), reduce };
      },
      await picturesOf(project, true),
    );
    return this.rgba(this.out);
  }

  /** One frame of a take by itself. */
  async take(
    mediaId: string,
    width: number,
    time: number,
  ): Promise<{ width: number; height: number; rgba: Uint8ClampedArray<ArrayBuffer> }> {
    const { cache } = await this.cacheFor(mediaId, width);
    return this.rgba((await cache.at(time)) ?? blackPlanes(2, 2));
  }

  /** One frame of a take laid on its set-up's reference, in its light. */
  async laid(take: LaidTake, time: number): Promise<{ width: number; height: number; rgba: Uint8ClampedArray<ArrayBuffer> }> {
    const { cache, reduce } = await this.cacheFor(take.media.id, take.media.width);
    const planes = await cache.at(time);
    return this.rgba(planes ? laidOn(planes, take, time, reduce, null) : blackPlanes(2, 2));
  }

  private rgba(planes: Planes) {
    const rgba = new Uint8ClampedArray(planes.width * planes.height * 4);
    toRgba(planes, rgba);
    return { width: planes.width, height: planes.height, rgba };
  }
}
