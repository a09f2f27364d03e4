import { randomAt, randomSource } from '../room';

const SIDE = 64;

/**
 * Smooth noise over the plane, -1 to 1, one value a unit with a smooth way between (value noise, Perlin's fade 6t⁵ − 15t⁴ + 10t³);
 * it repeats after 64. The same for the same seed and step.
 */
export function fieldAt(seed: number, step: number): (u: number, v: number) => number {
  const random = randomSource(1 + Math.floor(randomAt(seed, step)() * 1e9));
  const values = Float32Array.from({ length: SIDE * SIDE }, () => 2 * random() - 1);
  const fade = (t: number) => t * t * t * (t * (6 * t - 15) + 10);
  return (u, v) => {
    const i = Math.floor(u);
    const j = Math.floor(v);
    const s = fade(u - i);
    const t = fade(v - j);
    const x0 = i & (SIDE - 1);
    const x1 = (i + 1) & (SIDE - 1);
    const y0 = (j & (SIDE - 1)) * SIDE;
    const y1 = ((j + 1) & (SIDE - 1)) * SIDE;
    const top = values[y0 + x0] + s * (values[y0 + x1] - values[y0 + x0]);
    const bottom = values[y1 + x0] + s * (values[y1 + x1] - values[y1 + x0]);
    return top + t * (bottom - top);
  };
}
