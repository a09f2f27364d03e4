import { BT709, blackPlanes, compose, type Planes, takeToProject } from '../picture';
import { clamp, type Metres, type Seconds, type Stops } from '../units';
import { figureLimbs, limbDistance, limbLight, OUTFITS, poseAt } from './figure';
import { randomSource } from './random';
import { CAMERA } from './scene';
import { type CameraPose, curve, PLANE_DEPTH } from './take';

/** What the simulated camera sees at one instant; every imperfection is a number, so its truth is known. */
export interface LiveMoment {
  pose: CameraPose;
  exposure: Stops;
  /** Linear gains on red and blue. */
  balance: readonly [number, number];
  /** null: nobody is there. */
  outfit: 0 | 1 | null;
  /** Metres right of the axis. */
  place: Metres;
  /** Seconds since the performance began; before 0 the performer waits. */
  acting: Seconds;
}

const NOISE_LENGTH = 1 << 16;
/** Enlargement of the room's picture. */
const FILL = 1.04;

/**
 * The laundrette drawn fast enough to be a live camera: a finished picture of the empty room with the performer drawn on
 * it in coded values, then moved and lit as a whole, then grained. No motion blur, no falling cloths.
 */
export class LiveRoom {
  readonly width: number;
  readonly height: number;
  private readonly scene: Planes;
  private readonly out: Planes;
  private readonly covered: Float32Array;
  private readonly noise: Int8Array;

  /** `plate` is the empty room as the camera at rest sees it; its size is the camera's. `noise` is the deviation in code values. */
  constructor(
    private readonly plate: Planes,
    noise = 1.2,
    seed = 1,
  ) {
    this.width = plate.width;
    this.height = plate.height;
    this.scene = blackPlanes(plate.width, plate.height);
    this.out = blackPlanes(plate.width, plate.height);
    this.covered = new Float32Array(plate.width * plate.height);
    const random = randomSource(seed);
    this.noise = Int8Array.from({ length: NOISE_LENGTH }, () => Math.round((random() + random() + random() - 1.5) * 2 * noise));
  }

  /** One frame. The planes are overwritten by the next call. */
  draw(moment: LiveMoment, frame: number): Planes {
    const { scene, plate, out } = this;
    scene.y.set(plate.y);
    scene.u.set(plate.u);
    scene.v.set(plate.v);
    if (moment.outfit !== null) this.figure(moment);
    const gain = 2 ** moment.exposure;
    compose(
      [
        {
          planes: scene,
          map: this.mapOf(moment.pose),
          colour: takeToProject(BT709, { r: gain * moment.balance[0], g: gain, b: gain * moment.balance[1] }),
          coverage: null,
          opacity: 1,
          blend: 'normal',
        },
      ],
      out,
    );
    // A different stretch of the same grain each frame and line.
    for (let row = 0; row < out.height; row++) {
      let k = (frame * 7919 + row * 613) & (NOISE_LENGTH - 1);
      const end = (row + 1) * out.width;
      for (let i = row * out.width; i < end; i++) {
        const v = out.y[i] + this.noise[k];
        out.y[i] = v < 0 ? 0 : v > 255 ? 255 : v;
        k = (k + 1) & (NOISE_LENGTH - 1);
      }
    }
    return out;
  }

  /** Frame pixels to pixels of the scene; the camera at rest sees a little less than all of it, so that a knock shows no edge. */
  private mapOf({ dx, dy, turn, scale }: CameraPose) {
    const angle = (turn * Math.PI) / 180;
    const [c, s] = [Math.cos(angle) / scale / FILL, Math.sin(angle) / scale / FILL];
    const [cx, cy] = [this.width / 2 + dx, this.height / 2 + dy];
    return { a: c, b: s, c: this.width / 2 - c * cx - s * cy, d: -s, e: c, f: this.height / 2 + s * cx - c * cy };
  }

  private figure({ outfit, place, acting }: LiveMoment): void {
    const { width, height, covered, scene } = this;
    const perMetre = width / (CAMERA.widthAt1 * PLANE_DEPTH);
    const half = width >> 1;
    covered.fill(0);
    for (const limb of figureLimbs(poseAt(Math.max(0, acting), place), OUTFITS[outfit ?? 0]).reverse()) {
      const radius = Math.max(limb.ra, limb.rb) + 2 / perMetre;
      const column = (x: Metres) => width / 2 + x * perMetre;
      const row = (y: Metres) => height / 2 + (CAMERA.height - y) * perMetre;
      const x0 = Math.max(0, Math.floor(column(Math.min(limb.a[0], limb.b[0]) - radius)));
      const x1 = Math.min(width - 1, Math.ceil(column(Math.max(limb.a[0], limb.b[0]) + radius)));
      const y0 = Math.max(0, Math.floor(row(Math.max(limb.a[1], limb.b[1]) + radius)));
      const y1 = Math.min(height - 1, Math.ceil(row(Math.min(limb.a[1], limb.b[1]) - radius)));
      for (let y = y0; y <= y1; y++) {
        const my = CAMERA.height - (y + 0.5 - height / 2) / perMetre;
        for (let x = x0; x <= x1; x++) {
          const at = y * width + x;
          const free = 1 - covered[at];
          if (free < 0.004) continue;
          const d = limbDistance(limb, (x + 0.5 - width / 2) / perMetre, my);
          const alpha = clamp(0.5 - d.distance * perMetre, 0, 1) * free;
          if (alpha <= 0) continue;
          covered[at] += alpha;
          const [r, g, b] = limbLight(limb, d).map(curve);
          const luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
          scene.y[at] += (16 + 219 * luma - scene.y[at]) * alpha;
          if ((x | y) & 1) continue;
          const k = (y >> 1) * half + (x >> 1);
          scene.u[k] += (128 + (224 * (b - luma)) / 1.8556 - scene.u[k]) * alpha;
          scene.v[k] += (128 + (224 * (r - luma)) / 1.5748 - scene.v[k]) * alpha;
        }
      }
    }
  }
}
