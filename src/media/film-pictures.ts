import type { Project } from '@/core/document';
import { describeFrame } from '@/core/evaluate';
import { type Planes, planesOver } from '@/core/picture';
import { FilmTakes } from './film-takes';
import { paint } from './painting';
import { type Pictures, picturesOf } from './pictures';

/** A frame as packed I420 planes; null where something in it could not be read. */
type Packed = Uint8Array<ArrayBuffer> | null;

/** Told of a frame that was drawn; waits until it is taken, and gives its bytes back to draw another in them. */
export type Give = (frame: number, bytes: Packed) => Promise<Packed>;

/** Draws frames of a film beside the one who makes it. */
export interface Painter {
  paint(project: Project, frames: readonly number[], give: Give): Promise<void>;
  stop(): void;
}

/** Milliseconds from which on a frame is slow to draw; so many in a row, and so many left of its shot, for helpers to be worth starting. */
const SLOW = 40;
const IN_A_ROW = 3;
const WORTH = 10;

/** Frames of a film drawn in the order given, each handed over before the next but one is begun. For a helper. */
export async function paintFrames(project: Project, frames: readonly number[], give: Give): Promise<void> {
  const { width, height } = project.frame;
  const described = function* () {
    for (const frame of frames) yield describeFrame(project, frame);
  };
  const takes = new FilmTakes(described());
  const kept = await picturesOf(project, false);
  let taken: Promise<Packed> = Promise.resolve(null);
  let spare: Packed = null;
  try {
    for (const frame of frames) {
      const bytes = spare ?? new Uint8Array((width * height * 3) / 2);
      const whole = await paint(describeFrame(project, frame), planesOver(bytes, width, height), takes.frame, kept).then(
        () => true,
        () => false,
      );
      spare = await taken;
      taken = give(frame, whole ? bytes : null);
      // Whoever makes the film draws it by itself and says what is wrong.
      if (!whole) break;
    }
    await taken;
  } finally {
    await takes.close();
  }
}

/** A frame that a helper drew, until it is taken. */
interface Drawn {
  bytes: Packed;
  taken: (back: Packed) => void;
}

/** A stretch of a shot that is shared out: the first of each `shares` frames is drawn here, the others each by a helper. */
interface Shared {
  from: number;
  end: number;
  shares: number;
}

/**
 * The pictures of a film in order. Where a shot is slow to draw the rest of it is shared out among helpers; every frame is drawn by the same
 * steps whoever draws it, so the film is the same to the byte.
 */
export class FilmPictures {
  private readonly takes: FilmTakes;
  private readonly drawn = new Map<number, Drawn>();
  private waiting: (() => void) | null = null;
  private painters: Painter[] = [];
  private shared: Shared | null = null;
  private slow = 0;

  /** `first` to `end` are frames of the film; `helpers` starts those who draw beside. */
  constructor(
    private readonly project: Project,
    first: number,
    private readonly end: number,
    private readonly kept: Pictures,
    private readonly helpers: () => Painter[],
  ) {
    const described = function* () {
      for (let frame = first; frame < end; frame++) yield describeFrame(project, frame);
    };
    this.takes = new FilmTakes(described());
  }

  /** Draws the next frame into planes. Throws a SourceFault where something in it cannot be read. */
  async into(frame: number, planes: Planes, bytes: Uint8Array): Promise<void> {
    const { shared } = this;
    if (shared && frame >= shared.end) this.shared = null;
    else if (shared && (frame - shared.from) % shared.shares !== 0) {
      if (await this.byHelper(frame, bytes)) return this.takes.pass(describeFrame(this.project, frame));
    }
    const began = performance.now();
    await paint(describeFrame(this.project, frame), planes, this.takes.frame, this.kept);
    this.slow = performance.now() - began > SLOW ? this.slow + 1 : 0;
    if (!this.shared && this.slow >= IN_A_ROW) this.share(frame + 1);
  }

  /** Shares out the rest of the shot that is shown on a frame. */
  private share(from: number): void {
    this.slow = 0;
    const { shotId } = describeFrame(this.project, from);
    let end = from;
    while (end < this.end && describeFrame(this.project, end).shotId === shotId) end++;
    if (end - from < WORTH) return;
    if (this.painters.length === 0) this.painters = this.helpers();
    const shares = this.painters.length + 1;
    if (shares === 1) return;
    this.shared = { from, end, shares };
    for (const [i, painter] of this.painters.entries()) {
      const frames: number[] = [];
      for (let frame = from + i + 1; frame < end; frame += shares) frames.push(frame);
      const left = new Set(frames);
      const put = (frame: number, drawn: Drawn) => {
        left.delete(frame);
        this.drawn.set(frame, drawn);
        this.waiting?.();
      };
      const give: Give = (frame, bytes) => new Promise((taken) => put(frame, { bytes, taken }));
      // What a helper did not draw is drawn here.
      const over = () => {
        for (const frame of left) put(frame, { bytes: null, taken: () => undefined });
      };
      void painter.paint(this.project, frames, give).then(over, over);
    }
  }

  /** Waits for a frame that a helper draws and copies it; false where it could not. */
  private async byHelper(frame: number, into: Uint8Array): Promise<boolean> {
    while (!this.drawn.has(frame))
      await new Promise<void>((resolve) => {
        this.waiting = resolve;
      });
    this.waiting = null;
    const found = this.drawn.get(frame);
    this.drawn.delete(frame);
    if (found?.bytes) into.set(found.bytes);
    found?.taken(found.bytes);
    return found?.bytes != null;
  }

  async close(): Promise<void> {
    for (const painter of this.painters) painter.stop();
    await this.takes.close();
  }
}
