import type { Planes } from '../picture';
import type { Mask } from './grid';

/** Pixels around one that speak with it. */
const AROUND = 3;
/** Difference of colour, code values, at which one still speaks with six tenths of its voice; chroma counts double. */
const ALIKE = 36;
const CHROMA = 2;
/** No difference is larger: three planes of bytes. */
const VOICE = Float32Array.from({ length: 256 * (1 + 2 * CHROMA) }, (_, off) => Math.exp(-((off / ALIKE) ** 2) / 2));

export const LIKE_COLOUR = { around: AROUND, chroma: CHROMA, voice: VOICE };

/**
 * Values of a frame's pixels, each of `asked` the mean over its neighbours, in which those of like colour count more (after the bilateral
 * filter, Tomasi & Manduchi 1998): what is said of one thing does not speak for the thing beside it.
 */
export function byLikeColour({ y, u, v }: Planes, values: Float32Array, { width, height, data: asked }: Mask): Float32Array {
  const out = values.slice();
  const half = width >> 1;
  for (let py = 0, i = 0; py < height; py++) {
    const [top, bottom] = [Math.max(0, py - AROUND), Math.min(height - 1, py + AROUND)];
    for (let px = 0; px < width; px++, i++) {
      if (!asked[i]) continue;
      const j = (py >> 1) * half + (px >> 1);
      const [light, blue, red] = [y[i], u[j], v[j]];
      const [left, right] = [Math.max(0, px - AROUND), Math.min(width - 1, px + AROUND)];
      let [sum, voices] = [0, 0];
      for (let qy = top; qy <= bottom; qy++) {
        const row = (qy >> 1) * half;
        for (let qx = left, k = qy * width + left; qx <= right; qx++, k++) {
          const l = row + (qx >> 1);
          const voice = VOICE[Math.abs(y[k] - light) + CHROMA * (Math.abs(u[l] - blue) + Math.abs(v[l] - red))];
          sum += voice * values[k];
          voices += voice;
        }
      }
      out[i] = sum / voices;
    }
  }
  return out;
}
