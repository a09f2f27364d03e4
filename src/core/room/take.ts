import { clamp, type Degrees, type Pixels, type Seconds, type Stops } from '../units';
import { type ClothAt, type ClothFall, clothColour, clothsAt, fallHeight, makeFall } from './cloths';
import { figureLimbs, limbDistance, limbLight, OUTFITS, type Pose, poseAt } from './figure';
import { handOverPose, type Part } from './hand-over';
import { randomSource } from './random';
import { bakeRoom, CAMERA, type LinearPicture } from './scene';

/** Where the camera points against its set-up: shift of the picture in pixels of the frame, turn about its centre, scale. */
export interface CameraPose {
  dx: Pixels;
  dy: Pixels;
  turn: Degrees;
  scale: number;
}

/** One simulated take; every imperfection is a parameter, so its truth is known exactly. */
export interface TakeOptions {
  width: number;
  height: number;
  /** null films the empty set. */
  outfit: 0 | 1 | null;
  seed: number;
  /** Metres right of the camera's axis. */
  place: number;
  /** What is acted: the toss with its falling cloths, or a part of the hand-over. */
  act: 'toss' | Part;
  pose: (t: Seconds) => CameraPose;
  exposure: (t: Seconds) => Stops;
  /** Linear gains on red and blue: warmer is red up, blue down. */
  balance: readonly [number, number];
  /** Standard deviation of the noise at mid grey, in code values of 8 bits. */
  noise: number;
  shutter: Seconds;
}

/** Frame at rest. */
export const STILL: CameraPose = { dx: 0, dy: 0, turn: 0, scale: 1 };

/** A knock: still before `at`, a damped ring of `ring` seconds, then off by (dx, dy, turn) for good. */
export function bump(at: Seconds, dx: Pixels, dy: Pixels, turn: Degrees, ring = 0.24): (t: Seconds) => CameraPose {
  return (t) => {
    if (t < at) return STILL;
    const s = t - at;
    const over = s < ring ? 1 + 0.9 * Math.cos((s / ring) * 9) * (1 - s / ring) : 1;
    return { dx: dx * over, dy: dy * over, turn: turn * over, scale: 1 };
  };
}

/** Breathing of the focus: the picture grows and shrinks by `depth` (a share) every `period` seconds. */
export function breathing(depth: number, period: Seconds): (t: Seconds) => CameraPose {
  return (t) => ({ ...STILL, scale: 1 + depth * Math.sin((2 * Math.PI * t) / period) });
}

/** Mains flicker as exposure over time: `depth` stops peak to peak at `frequency` (twice the mains). */
export function flicker(depth: Stops, frequency: number): (t: Seconds) => Stops {
  return (t) => (depth / 2) * Math.sin(2 * Math.PI * frequency * t);
}

/** Three 8-bit planes, 4:2:0, BT.709 limited range. */
export interface RoomFrame {
  width: number;
  height: number;
  y: Uint8Array;
  u: Uint8Array;
  v: Uint8Array;
}

const MARGIN = 0.02;
export const PLANE_DEPTH = 3.55;
const CLOTH_DEPTH = 3.35;
const SUBFRAMES = 5;

/** Draws takes of the laundrette. Bake once, draw many. */
export class RoomCamera {
  private readonly base: LinearPicture;
  private readonly cover: Float32Array;
  private posed: { key: string; data: Float32Array } | null = null;

  /** `quality` is the oversampling of the room's picture, 1 or 2. Baking takes seconds. */
  constructor(
    readonly width: number,
    readonly height: number,
    readonly quality = 2,
  ) {
    this.cover = new Float32Array(width * height);
    const w = Math.round(width * quality * (1 + 2 * MARGIN));
    const h = Math.round(height * quality * (1 + 2 * MARGIN));
    this.base = bakeRoom(w, h, MARGIN, randomSource(5), quality > 1 ? 5 : 3);
  }

  /** What nearer parts already cover in this sub-frame, cleared. */
  private freshCover(): Float32Array {
    return this.cover.fill(0);
  }

  /** Metres in the performer's or cloths' plane to frame pixels. */
  private pixelsPerMetre(depth: number): number {
    return this.width / (CAMERA.widthAt1 * depth);
  }

  /** The empty room as this pose sees it, linear light at frame size; the same pose is not drawn twice. */
  private background(pose: CameraPose): Float32Array {
    const key = [pose.dx, pose.dy, pose.turn, pose.scale].map((v) => v.toFixed(5)).join();
    if (this.posed?.key === key) return this.posed.data;
    const { width, height, base, quality } = this;
    const out = new Float32Array(width * height * 3);
    const [c, s] = rotation(pose);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const px = (x + 0.5 - width / 2 - pose.dx) / pose.scale;
        const py = (y + 0.5 - height / 2 - pose.dy) / pose.scale;
        sampleTent(
          base,
          (px * c + py * s) * quality + base.width / 2,
          (py * c - px * s) * quality + base.height / 2,
          quality,
          out,
          (y * width + x) * 3,
        );
      }
    }
    this.posed = { key, data: out };
    return out;
  }

  /** One frame of a take, with motion blur over the shutter time. */
  draw(options: TakeOptions, fall: ClothFall | null, t: Seconds, frameNumber: number): RoomFrame {
    const pose = options.pose(t);
    const picture = this.background(pose).slice();
    if (options.outfit !== null) {
      const layer = new Float32Array(this.width * this.height * 4);
      for (let k = 0; k < SUBFRAMES; k++) {
        const time = t + ((k + 0.5) / SUBFRAMES - 0.5) * options.shutter;
        if (k === SUBFRAMES >> 1) this.shadow(picture, options, time);
        this.figure(layer, options, pose, time, 1 / SUBFRAMES);
      }
      over(picture, layer);
    }
    if (fall) {
      const layer = new Float32Array(this.width * this.height * 4);
      for (let k = 0; k < SUBFRAMES; k++) {
        const covered = this.freshCover();
        for (const cloth of clothsAt(fall, t + ((k + 0.5) / SUBFRAMES - 0.5) * options.shutter))
          this.cloth(layer, cloth, pose, 1 / SUBFRAMES, covered);
      }
      over(picture, layer);
    }
    return encode(picture, this.width, this.height, options, t, frameNumber);
  }

  private place(x: number, y: number, depth: number, pose: CameraPose): [number, number] {
    const k = this.pixelsPerMetre(depth);
    const px = x * k * pose.scale;
    const py = (CAMERA.height - y) * k * pose.scale;
    const [c, s] = rotation(pose);
    return [this.width / 2 + px * c - py * s + pose.dx, this.height / 2 + px * s + py * c + pose.dy];
  }

  private figure(layer: Float32Array, options: TakeOptions, camera: CameraPose, t: Seconds, weight: number): void {
    const outfit = OUTFITS[options.outfit ?? 0];
    const k = this.pixelsPerMetre(PLANE_DEPTH);
    const covered = this.freshCover();
    const m = this.toMetres(PLANE_DEPTH, camera);
    for (const limb of figureLimbs(acted(options, t), outfit).reverse()) {
      const r = Math.max(limb.ra, limb.rb) * k + 2;
      const [ax, ay] = this.place(limb.a[0], limb.a[1], PLANE_DEPTH, camera);
      const [bx, by] = this.place(limb.b[0], limb.b[1], PLANE_DEPTH, camera);
      this.each(Math.min(ax, bx) - r, Math.min(ay, by) - r, Math.max(ax, bx) + r, Math.max(ay, by) + r, (x, y, at) => {
        const free = 1 - covered[at];
        if (free < 0.004) return;
        const d = limbDistance(limb, m[0] * x + m[1] * y + m[2], m[3] * x + m[4] * y + m[5]);
        const alpha = clamp(0.5 - d.distance * k, 0, 1) * free;
        if (alpha <= 0) return;
        covered[at] += alpha;
        const [r0, g0, b0] = limbLight(limb, d);
        add(layer, at, r0, g0, b0, alpha * weight);
      });
    }
  }

  private cloth(layer: Float32Array, cloth: ClothAt, camera: CameraPose, weight: number, covered: Float32Array): void {
    const m = this.toMetres(CLOTH_DEPTH, camera);
    const k = this.pixelsPerMetre(CLOTH_DEPTH);
    const [cx, cy] = this.place(cloth.x, cloth.y, CLOTH_DEPTH, camera);
    const reach = (Math.hypot(...cloth.e1) + Math.hypot(...cloth.e2)) * k;
    const det = cloth.e1[0] * cloth.e2[1] - cloth.e1[1] * cloth.e2[0];
    const l1 = Math.hypot(...cloth.e1) * k;
    const l2 = Math.abs(det / Math.hypot(...cloth.e1)) * k;
    this.each(cx - reach, cy - reach, cx + reach, cy + reach, (x, y, at) => {
      const free = 1 - covered[at];
      if (free < 0.004) return;
      const px = m[0] * x + m[1] * y + m[2] - cloth.x;
      const py = m[3] * x + m[4] * y + m[5] - cloth.y;
      let u = (px * cloth.e2[1] - py * cloth.e2[0]) / det;
      let v = (py * cloth.e1[0] - px * cloth.e1[1]) / det;
      u += 0.09 * Math.sin(v * 2.6 + cloth.pattern);
      v += 0.12 * Math.sin(u * 2.2 + cloth.pattern * 2);
      const alpha = clamp(0.5 + Math.min((1 - Math.abs(u)) * l1, (1 - Math.abs(v)) * l2), 0, 1) * free;
      if (alpha <= 0) return;
      covered[at] += alpha;
      const tint = clothColour(cloth, clamp(u, -1, 1), clamp(v, -1, 1));
      const light = cloth.light * (0.82 + 0.16 * Math.sin(u * 3.1 + v * 1.4 + cloth.pattern) + 0.1 * v);
      add(layer, at, tint[0] * light, tint[1] * light * 0.95, tint[2] * light * 0.86, alpha * weight);
    });
  }

  /** Soft shadows: a pool at the feet, and the figure's own on the machines behind. */
  private shadow(picture: Float32Array, options: TakeOptions, t: Seconds): void {
    const pose = options.pose(t);
    const limbs = figureLimbs(acted(options, t), OUTFITS[0]).filter((l) => l.ra > 0.04);
    const [fx, fy] = this.place(options.place, 0.02, PLANE_DEPTH, pose);
    const k = this.pixelsPerMetre(PLANE_DEPTH);
    const m = this.toMetres(PLANE_DEPTH, pose);
    const soft = 0.13;
    const cell = 8;
    const gw = Math.ceil(this.width / cell) + 2;
    const gh = Math.ceil(this.height / cell) + 2;
    const grid = new Float32Array(gw * gh);
    for (let j = 0; j < gh; j++) {
      for (let i = 0; i < gw; i++) {
        const mx = m[0] * i * cell + m[1] * j * cell + m[2];
        const my = m[3] * i * cell + m[4] * j * cell + m[5];
        let d = 1;
        for (const limb of limbs) d = Math.min(d, limbDistance(limb, mx + 0.2, my - 0.06).distance);
        const s = clamp(0.5 - d / (2 * soft), 0, 1);
        grid[j * gw + i] = 0.3 * s * s * (3 - 2 * s);
      }
    }
    for (let y = 0; y < this.height; y++) {
      for (let x = 0; x < this.width; x++) {
        const gx = (x + 0.5) / cell;
        const gy = (y + 0.5) / cell;
        const i = Math.floor(gx);
        const j = Math.floor(gy);
        const a = grid[j * gw + i] + (gx - i) * (grid[j * gw + i + 1] - grid[j * gw + i]);
        const b = grid[(j + 1) * gw + i] + (gx - i) * (grid[(j + 1) * gw + i + 1] - grid[(j + 1) * gw + i]);
        const pool = Math.exp(-(((x - fx) / (0.36 * k)) ** 2) - ((y - fy) / (0.075 * k)) ** 2);
        const keep = (1 - a - (gy - j) * (b - a)) * (1 - 0.62 * pool);
        const at = (y * this.width + x) * 3;
        picture[at] *= keep;
        picture[at + 1] *= keep;
        picture[at + 2] *= keep;
      }
    }
  }

  /** Frame pixel to metres in the plane at `depth`, as two rows of an affine map. */
  private toMetres(depth: number, pose: CameraPose): readonly [number, number, number, number, number, number] {
    const k = this.pixelsPerMetre(depth) * pose.scale;
    const [c, s] = rotation(pose);
    const ox = 0.5 - this.width / 2 - pose.dx;
    const oy = 0.5 - this.height / 2 - pose.dy;
    return [c / k, s / k, (ox * c + oy * s) / k, s / k, -c / k, CAMERA.height - (oy * c - ox * s) / k];
  }

  private each(x0: number, y0: number, x1: number, y1: number, visit: (x: number, y: number, at: number) => void): void {
    const left = Math.max(0, Math.floor(x0));
    const right = Math.min(this.width - 1, Math.ceil(x1));
    const bottom = Math.min(this.height - 1, Math.ceil(y1));
    for (let y = Math.max(0, Math.floor(y0)); y <= bottom; y++) for (let x = left; x <= right; x++) visit(x, y, y * this.width + x);
  }

  /** Truth: row in pixels of the cloths' median height at `t`, or null when none fall. */
  fallRow(fall: ClothFall, t: Seconds): Pixels | null {
    const height = fallHeight(fall, t);
    return height === null ? null : this.place(0, height, CLOTH_DEPTH, STILL)[1];
  }
}

/** The performer's pose at an instant of a take. */
function acted({ act, place }: TakeOptions, t: Seconds): Pose {
  return act === 'toss' ? poseAt(t, place) : handOverPose(act, t, place);
}

/** Cloths for a take, or none for an empty plate or where nothing is tossed. */
export function takeFall(options: TakeOptions): ClothFall | null {
  return options.outfit === null || options.act !== 'toss' ? null : makeFall(options.seed, options.place);
}

function rotation(pose: CameraPose): [number, number] {
  const a = (pose.turn * Math.PI) / 180;
  return [Math.cos(a), Math.sin(a)];
}

function add(layer: Float32Array, at: number, r: number, g: number, b: number, alpha: number): void {
  layer[at * 4] += r * alpha;
  layer[at * 4 + 1] += g * alpha;
  layer[at * 4 + 2] += b * alpha;
  layer[at * 4 + 3] += alpha;
}

function over(picture: Float32Array, layer: Float32Array): void {
  for (let i = 0; i < layer.length / 4; i++) {
    const keep = 1 - Math.min(1, layer[i * 4 + 3]);
    if (keep === 1) continue;
    for (let c = 0; c < 3; c++) picture[i * 3 + c] = picture[i * 3 + c] * keep + layer[i * 4 + c];
  }
}

/** Tent filter of one frame pixel's width over the oversampled picture: sub-pixel exact and free of aliasing. */
function sampleTent(base: LinearPicture, x: number, y: number, radius: number, out: Float32Array, at: number): void {
  let [r, g, b, sum] = [0, 0, 0, 0];
  const x0 = Math.max(0, Math.ceil(x - 0.5 - radius));
  const x1 = Math.min(base.width - 1, Math.floor(x - 0.5 + radius));
  const y1 = Math.min(base.height - 1, Math.floor(y - 0.5 + radius));
  for (let j = Math.max(0, Math.ceil(y - 0.5 - radius)); j <= y1; j++) {
    const wy = radius - Math.abs(j + 0.5 - y);
    for (let i = x0; i <= x1; i++) {
      const w = wy * (radius - Math.abs(i + 0.5 - x));
      const k = (j * base.width + i) * 3;
      r += base.data[k] * w;
      g += base.data[k + 1] * w;
      b += base.data[k + 2] * w;
      sum += w;
    }
  }
  out[at] = r / sum;
  out[at + 1] = g / sum;
  out[at + 2] = b / sum;
}

/** BT.709 opto-electronic transfer (ITU-R BT.709, item 1.2): linear 0..1 to signal 0..1, with a soft shoulder above 0.8. */
function transfer(light: number): number {
  const l = light > 0.8 ? 1 - 0.2 * Math.exp((0.8 - light) / 0.2) : light;
  return l < 0.018 ? 4.5 * l : 1.099 * l ** 0.45 - 0.099;
}

const CURVE = Float32Array.from({ length: 4097 }, (_, i) => transfer((i / 4096) ** 2 * 3));
/** Linear light to the coded signal 0..1 of the simulated camera. */
export const curve = (light: number) => CURVE[Math.min(4096, Math.round(Math.sqrt(Math.max(0, light) / 3) * 4096))];

function encode(picture: Float32Array, width: number, height: number, options: TakeOptions, t: Seconds, frameNumber: number): RoomFrame {
  const gain = 2 ** options.exposure(t);
  const random = randomSource(options.seed * 7919 + frameNumber);
  const y = new Uint8Array(width * height);
  const half = width >> 1;
  const u = new Uint8Array(half * (height >> 1));
  const v = new Uint8Array(half * (height >> 1));
  const blue = new Float32Array(u.length);
  const red = new Float32Array(u.length);
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) {
      const at = (j * width + i) * 3;
      const r = curve(picture[at] * gain * options.balance[0]);
      const g = curve(picture[at + 1] * gain);
      const b = curve(picture[at + 2] * gain * options.balance[1]);
      const luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
      const noise = (random() + random() + random() - 1.5) * 2 * options.noise;
      y[j * width + i] = clamp(Math.round(16 + 219 * luma + noise), 0, 255);
      const k = (j >> 1) * half + (i >> 1);
      blue[k] += (b - luma) / 1.8556 / 4;
      red[k] += (r - luma) / 1.5748 / 4;
    }
  }
  for (let k = 0; k < u.length; k++) {
    u[k] = clamp(Math.round(128 + 224 * blue[k]), 0, 255);
    v[k] = clamp(Math.round(128 + 224 * red[k]), 0, 255);
  }
  return { width, height, y, u, v };
}
