import type { Pixels } from '../units';
import { blackPlanes, type Planes } from './planes';
import { resamplePlane } from './resample';

/** Planes drawn to another size (even), both ways by themselves: for pixels that are not square. */
export function stretched(planes: Planes, width: Pixels, height: Pixels): Planes {
  const out = blackPlanes(width, height);
  const map = { a: planes.width / width, b: 0, c: 0, d: 0, e: planes.height / height, f: 0 };
  resamplePlane(planes.y, planes.width, planes.height, out.y, width, { x0: 0, y0: 0, x1: width, y1: height }, map);
  const half = { x0: 0, y0: 0, x1: width / 2, y1: height / 2 };
  resamplePlane(planes.u, planes.width / 2, planes.height / 2, out.u, width / 2, half, map);
  resamplePlane(planes.v, planes.width / 2, planes.height / 2, out.v, width / 2, half, map);
  return out;
}
