import type { Pixels } from '../units';

/** A way across the picture. */
export interface Way {
  dx: Pixels;
  dy: Pixels;
}

/** A way of so many per cent of the height at an angle; null where there is none. */
export function wayOf({ amount, angle }: Readonly<Record<string, number>>, { height }: { height: Pixels }): Way | null {
  const [far, a] = [(amount / 100) * height, (angle * Math.PI) / 180];
  return far > 0 ? { dx: far * Math.cos(a), dy: far * Math.sin(a) } : null;
}

/** The same on a picture drawn at `factor` of its size. */
export const scaledWay = ({ dx, dy }: Way, factor: number): Way => ({ dx: dx * factor, dy: dy * factor });
