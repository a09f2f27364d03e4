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
  const limbs = figureLimbs(poseAt(seconds, 0), OUTFITS[0]).reverse();
  const alpha = new Float32Array(width * height);
  const tint = new Float32Array(alpha.length >> 1);
  const cover = new Float32Array(alpha.length >> 2);
  const scale = tall / TALL;
  for (let i = 0; i < alpha.length; i++) {
    const px = i % width;
    const py = (i - px) / width;
    let rgb: readonly number[] = [0, 0, 0];
    for (const limb of limbs) {
      const d = limbDistance(limb, (px - x) / scale, (floor - py) / scale);
      const here = Math.max(0, Math.min(1, 0.5 - d.distance * scale));
      if (here <= alpha[i]) continue;
      alpha[i] = here;
      rgb = limbLight(limb, d).map(coded);
      if (here === 1) break;
    }
    const a = alpha[i];
    if (a === 0) continue;
    const l = 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
    planes.y[i] += a * (16 + 219 * l - planes.y[i]);
    const j = (py >> 1) * (width >> 1) + (px >> 1);
    cover[j] += a / 4;
    tint[2 * j] += (a / 4) * (128 + (224 * (rgb[2] - l)) / 1.8556);
    tint[2 * j + 1] += (a / 4) * (128 + (224 * (rgb[0] - l)) / 1.5748);
  }
  cover.forEach((a, j) => {
    planes.u[j] = planes.u[j] * (1 - a) + tint[2 * j];
    planes.v[j] = planes.v[j] * (1 - a) + tint[2 * j + 1];
  });
  return alpha;
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
