import type { Planes } from '../picture';
import { figureLimbs, limbDistance, limbLight, OUTFITS, poseAt, randomSource } from '../room';
import type { StagedOptions } from './staged-take';

/** Where a dressed figure stands: the middle of its feet and its height in pixels, and how far into its performance it is. */
export interface PersonAt {
  x: number;
  floor: number;
  tall: number;
  seconds: number;
}

/** Height of the figure with its cap, metres. */
const TALL = 1.75;

/** Coded value of linear light by ITU-R BT.709. */
const coded = (l: number) => (l < 0.018 ? 4.5 * l : 1.099 * l ** 0.45 - 0.099);

/** Draws a dressed figure with a face over a frame, in place; how much of each pixel it covers, 0..1. */
export function drawPerson(planes: Planes, { x, floor, tall, seconds }: PersonAt): Float32Array {
  const { width, height } = planes;
  const scale = tall / TALL;
  const alpha = new Float32Array(width * height);
  const light = new Float32Array(3 * alpha.length);
  // From front to back: what is covered whole stays.
  for (const limb of figureLimbs(poseAt(seconds, 0), OUTFITS[0]).reverse()) {
    const reach = Math.max(limb.ra, limb.rb) + 1 / scale;
    const [left, right] = [Math.min(limb.a[0], limb.b[0]) - reach, Math.max(limb.a[0], limb.b[0]) + reach];
    const [low, high] = [Math.min(limb.a[1], limb.b[1]) - reach, Math.max(limb.a[1], limb.b[1]) + reach];
    for (let py = Math.max(0, Math.floor(floor - high * scale)); py < Math.min(height, floor - low * scale); py++) {
      for (let px = Math.max(0, Math.floor(x + left * scale)); px < Math.min(width, x + right * scale); px++) {
        const i = py * width + px;
        if (alpha[i] === 1) continue;
        const d = limbDistance(limb, (px - x) / scale, (floor - py) / scale);
        const here = Math.max(0, Math.min(1, 0.5 - d.distance * scale));
        if (here <= alpha[i]) continue;
        alpha[i] = here;
        light.set(limbLight(limb, d), 3 * i);
      }
    }
  }
  lay(planes, alpha, light);
  return alpha;
}

/** Lays linear R, G, B over a frame, in place. */
function lay(planes: Planes, alpha: Float32Array, light: Float32Array): void {
  const { width } = planes;
  const tint = new Float32Array(alpha.length >> 1);
  const cover = new Float32Array(alpha.length >> 2);
  alpha.forEach((a, i) => {
    if (a === 0) return;
    const [r, g, b] = [coded(light[3 * i]), coded(light[3 * i + 1]), coded(light[3 * i + 2])];
    const l = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    planes.y[i] += a * (16 + 219 * l - planes.y[i]);
    const j = (Math.floor(i / width) >> 1) * (width >> 1) + ((i % width) >> 1);
    cover[j] += a / 4;
    tint[2 * j] += (a / 4) * (128 + (224 * (b - l)) / 1.8556);
    tint[2 * j + 1] += (a / 4) * (128 + (224 * (r - l)) / 1.5748);
  });
  cover.forEach((a, j) => {
    planes.u[j] = planes.u[j] * (1 - a) + tint[2 * j];
    planes.v[j] = planes.v[j] * (1 - a) + tint[2 * j + 1];
  });
}

/** A hedge of leaves as a background, always the same. */
export function hedge(width: number, height: number): StagedOptions['background'] {
  const random = randomSource(3);
  const picture = new Uint8Array(3 * width * height);
  for (let i = 0; i < width * height; i++) picture.set([50, 120, 118], 3 * i);
  for (let leaf = 0; leaf < (width * height) / 58; leaf++) {
    const [x, y, long, turn] = [width * random(), height * random(), 3 + 7 * random(), Math.PI * random()];
    const [l, u, v] = [60 + 90 * random(), 105 + 12 * random(), 105 + 14 * random()];
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    for (let py = Math.max(0, Math.ceil(y - long)); py < Math.min(height, y + long); py++) {
      for (let px = Math.max(0, Math.ceil(x - long)); px < Math.min(width, x + long); px++) {
        const [along, across] = [(c * (px - x) + s * (py - y)) / long, (c * (py - y) - s * (px - x)) / (0.4 * long)];
        if (along ** 2 + across ** 2 < 1) picture.set([l + 3 * across, u, v], 3 * (py * width + px));
      }
    }
  }
  const within = (v: number, size: number) => Math.max(0, Math.min(size - 1, Math.round(v)));
  return (x, y) => {
    const i = 3 * (within(y, height) * width + within(x, width));
    return [picture[i], picture[i + 1], picture[i + 2]];
  };
}
