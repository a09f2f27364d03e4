import type { Project } from '@/core/document';
import { fps } from '@/core/time';
import type { Picture } from './picture';
import type { Preview } from './preview';

/** Where playing is: a frame of the film, and how often the loop has begun anew before it. */
export interface Spot {
  lap: number;
  frame: number;
}

/** Frames that are played over and over, the end excluded. */
export interface LoopFrames {
  first: number;
  end: number;
}

export const isLater = (a: Spot, b: Spot): boolean => a.lap > b.lap || (a.lap === b.lap && a.frame > b.frame);

/** Pictures that are ready and not yet shown, at most: two thirds of a second. */
const AHEAD = 16;

/** The spot `by` frames on, around the loop if there is one. */
export function onward({ lap, frame }: Spot, by: number, loop: LoopFrames | null): Spot {
  if (!loop || frame >= loop.end) return { lap, frame: frame + by };
  const length = Math.max(1, loop.end - loop.first);
  const past = frame + by - loop.end;
  return past < 0 ? { lap, frame: frame + by } : { lap: lap + 1 + Math.floor(past / length), frame: loop.first + (past % length) };
}

/**
 * Frames in a row that are stepped over so that pictures keep up: as many as a picture takes of its own time, evenly. `cost` is the mean
 * of seconds a picture takes, `each` the seconds it is shown.
 */
export const strideFor = (cost: number, each: number): number => Math.min(12, Math.max(1, Math.ceil(cost / each - 0.1)));

/** Makes the pictures of a film in order ahead of what is heard, as fast as they are taken. */
export class ReadAhead {
  private heard: Spot;
  private waiting = 0;
  private go: () => void = () => undefined;
  private over = false;

  constructor(
    private readonly preview: Preview,
    private readonly project: Project,
    private readonly from: Spot,
    private readonly loop: LoopFrames | null,
    private readonly show: (spot: Spot, picture: Picture) => void,
    /** Told once of what cannot be drawn; the rest is played on. */
    private readonly failed: (error: unknown) => void,
  ) {
    this.heard = from;
  }

  /** Told what is heard now and how many pictures were taken since. */
  clock(heard: Spot, taken: number): void {
    this.heard = heard;
    this.waiting -= taken;
    this.go();
  }

  stop(): void {
    this.over = true;
    this.go();
  }

  async run(): Promise<void> {
    const each = 1 / fps(this.project.frame.rate);
    let [spot, cost] = [this.from, 0];
    let told = false;
    while (!this.over) {
      if (this.waiting >= AHEAD) {
        await new Promise<void>((go) => {
          this.go = go;
        });
        continue;
      }
      const began = performance.now();
      let picture: Picture;
      try {
        picture = await this.preview.frame(this.project, spot.frame);
      } catch (error) {
        if (!told) this.failed(error);
        told = true;
        // No faster than it is played.
        await new Promise((go) => setTimeout(go, 1000 * each));
        spot = isLater(spot, this.heard) ? onward(spot, 1, this.loop) : onward(this.heard, 1, this.loop);
        continue;
      }
      if (this.over) return;
      const took = (performance.now() - began) / 1000;
      // The first opens files and seeks: that says nothing about the next.
      cost = spot === this.from ? 0 : cost + 0.15 * (took - cost);
      this.waiting++;
      this.show(spot, picture);
      const stride = strideFor(cost, each);
      spot = onward(spot, stride, this.loop);
      // What is heard already is too late; what comes is met where a picture can be ready by then.
      if (!isLater(spot, this.heard)) spot = onward(this.heard, Math.max(1, strideFor(Math.max(cost, took), each)), this.loop);
    }
  }
}
