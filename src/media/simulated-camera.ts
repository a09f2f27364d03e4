import { blackPlanes, compose, IDENTITY_COLOUR, type Planes } from '@/core/picture';
import { bump, type CameraPose, LiveRoom, STILL } from '@/core/room';
import { say } from '@/core/words';
import { FrameReader, planesOf } from './frames';

/** What can be wrong with the simulated camera; all zero is a perfect one. */
export interface Simulation {
  outfit: 0 | 1 | null;
  /** Metres right of the axis. */
  place: number;
  /** Stops a minute that the light drifts. */
  drift: number;
  /** Stops, peak to peak, of mains flicker. */
  flicker: number;
  /** Share by which the focus breathes. */
  breathing: number;
}

const CALM: Simulation = { outfit: null, place: 0, drift: 0, flicker: 0, breathing: 0 };

/** Mains flicker as a camera of 25 pictures a second sees it through a shutter that is slightly off: a slow beat, hertz. */
const FLICKER_BEAT = 2.3;
/** Milliseconds that are left between two pictures at least. */
const GAP = 6;
/** Seconds of one breath of the focus. */
const BREATH = 7;

/** A camera that looks into the simulated laundrette and gives pictures as a real one does. Only in a worker. */
export class SimulatedCamera {
  readonly fps = 25;
  private simulation: Simulation = CALM;
  private pose: (t: number) => CameraPose = () => STILL;
  private acting = Number.POSITIVE_INFINITY;
  private lit = 0;
  private driftFrom = 0;
  private frame = -1;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private closed = false;
  private readonly started = performance.now();

  private constructor(
    private readonly room: LiveRoom,
    private readonly give: (frame: VideoFrame) => Promise<void>,
  ) {
    this.goOn();
  }

  /** Waits for the next picture's time. Even a camera that cannot keep up leaves a gap: messages and files must get their turn. */
  private goOn(): void {
    if (this.closed) return;
    const next = ((this.frame + 1) / this.fps - this.now()) * 1000;
    this.timer = setTimeout(() => void this.tick().finally(() => this.goOn()), Math.max(GAP, next));
  }

  static async open(width: number, height: number, give: (frame: VideoFrame) => Promise<void>): Promise<SimulatedCamera> {
    return new SimulatedCamera(new LiveRoom(await emptyRoom(width, height)), give);
  }

  /** Seconds since the camera was opened. */
  private now(): number {
    return (performance.now() - this.started) / 1000;
  }

  change(change: Partial<Simulation>): void {
    const now = this.now();
    if (change.drift !== undefined) {
      // The light stays where it has drifted to and goes on from there.
      this.lit += (this.simulation.drift / 60) * (now - this.driftFrom);
      this.driftFrom = now;
    }
    this.simulation = { ...this.simulation, ...change };
  }

  /** Knocks the camera: it rings for a quarter of a second and stays off by this many pixels and degrees. Returns when, on its own clock. */
  knock(dx: number, dy: number, turn: number): number {
    const before = this.pose;
    const now = this.now();
    const shove = bump(now, dx, dy, turn);
    this.pose = (t) => {
      const [a, b] = [before(t), shove(t)];
      return { dx: a.dx + b.dx, dy: a.dy + b.dy, turn: a.turn + b.turn, scale: a.scale * b.scale };
    };
    return now;
  }

  act(inSeconds: number): void {
    this.acting = this.now() + inSeconds;
  }

  private async tick(): Promise<void> {
    const frame = Math.floor(this.now() * this.fps);
    if (frame === this.frame) return;
    this.frame = frame;
    const t = frame / this.fps;
    const { drift, flicker, breathing, outfit, place } = this.simulation;
    const still = this.pose(t);
    const planes = this.room.draw(
      {
        pose: { ...still, scale: still.scale * (1 + breathing * Math.sin((2 * Math.PI * t) / BREATH)) },
        exposure: this.lit + (drift / 60) * (t - this.driftFrom) + (flicker / 2) * Math.sin(2 * Math.PI * FLICKER_BEAT * t),
        balance: [1, 1],
        outfit,
        place,
        acting: t - this.acting,
      },
      frame,
    );
    await this.give(frameOf(planes, t));
  }

  close(): void {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
  }
}

function frameOf({ width, height, y, u, v }: Planes, seconds: number): VideoFrame {
  const bytes = new Uint8Array(y.length + u.length + v.length);
  bytes.set(y);
  bytes.set(u, y.length);
  bytes.set(v, y.length + u.length);
  return new VideoFrame(bytes, {
    format: 'I420',
    codedWidth: width,
    codedHeight: height,
    timestamp: Math.round(seconds * 1e6),
    duration: 40_000,
    colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
  });
}

/** The empty laundrette at a camera's size, from the demo's clean plate: the mean of some frames, so that its own grain is gone. */
async function emptyRoom(width: number, height: number): Promise<Planes> {
  const answer = await fetch('/demo/take-1-clean-plate.mp4').catch(() => null);
  if (!answer?.ok) throw new Error(say`The simulated camera could not fetch its room. Check the connection and try again.`);
  const reader = await FrameReader.open(await answer.blob());
  try {
    const frames: Planes[] = [];
    for await (const sample of reader.samples(0, 0.6)) {
      try {
        frames.push(await planesOf(sample, reader, 1, true));
      } finally {
        sample.close();
      }
    }
    const [first] = frames;
    const mean = blackPlanes(first.width, first.height);
    for (const plane of ['y', 'u', 'v'] as const) {
      const out = mean[plane];
      for (let i = 0; i < out.length; i++) out[i] = Math.round(frames.reduce((s, f) => s + f[plane][i], 0) / frames.length);
    }
    if (mean.width === width && mean.height === height) return mean;
    const scaled = blackPlanes(width, height);
    const k = Math.min(mean.width / width, mean.height / height);
    compose(
      [
        {
          planes: mean,
          map: { a: k, b: 0, c: (mean.width - k * width) / 2, d: 0, e: k, f: (mean.height - k * height) / 2 },
          colour: IDENTITY_COLOUR,
          coverage: null,
          opacity: 1,
          blend: 'normal',
        },
      ],
      scaled,
    );
    return scaled;
  } finally {
    reader.close();
  }
}
