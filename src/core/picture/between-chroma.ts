import type { Pixels } from '../units';

/** Values at chroma samples (half as many each way) at every pixel of a picture, mixed from the four about it. */
export function betweenChroma(coarse: ArrayLike<number>, width: Pixels, height: Pixels): Float64Array {
  const [half, tall] = [width >> 1, height >> 1];
  const out = new Float64Array(width * height);
  for (let y = 0; y < height; y++) {
    const fy = Math.min(tall - 1, Math.max(0, (y - 0.5) / 2));
    const j = Math.min(Math.max(0, tall - 2), Math.floor(fy));
    for (let x = 0; x < width; x++) {
      const fx = Math.min(half - 1, Math.max(0, (x - 0.5) / 2));
      const i = Math.min(Math.max(0, half - 2), Math.floor(fx));
      const [p, q] = [fx - i, fy - j];
      const at = j * half + i;
      // A picture of one sample a side has no next one.
      const [right, below] = [half > 1 ? 1 : 0, tall > 1 ? half : 0];
      out[y * width + x] =
        (coarse[at] * (1 - p) + coarse[at + right] * p) * (1 - q) + (coarse[at + below] * (1 - p) + coarse[at + below + right] * p) * q;
    }
  }
  return out;
}
