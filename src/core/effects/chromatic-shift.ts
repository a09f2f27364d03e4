import { numberKind } from '../motion';
import { say } from '../words';
import type { EffectKind } from './kind';
import { scaledWay, type Way, wayOf } from './way';

/** A chroma plane shifted by whole samples, its edge repeated. */
function shifted(plane: Uint8Array, width: number, height: number, dx: number, dy: number): Uint8Array {
  const out = new Uint8Array(plane.length);
  for (let y = 0; y < height; y++) {
    const from = Math.min(height - 1, Math.max(0, y - dy)) * width;
    for (let x = 0; x < width; x++) out[y * width + x] = plane[from + Math.min(width - 1, Math.max(0, x - dx))];
  }
  return out;
}

/** Red goes one way and blue the other, as through a poor lens or a worn tape. */
export const chromaticShift: EffectKind<Way> = {
  kind: 'chromatic shift',
  name: say`Chromatic shift`,
  about: say`Pulls red and blue apart towards the edges, as a cheap lens does.`,
  numbers: { amount: numberKind(say`Apart, of the height`, '%', 0, 10, 0, 0.1, 2), angle: numberKind('Angle', '°', -360, 360, 0) },
  usual: { amount: 0.5 },
  resolve: wayOf,
  scale: scaledWay,
  reach: ({ dx, dy }) => Math.hypot(dx, dy),
  apply: (planes, { dx, dy }) => {
    const [half, tall] = [planes.width >> 1, planes.height >> 1];
    const [x, y] = [Math.round(dx / 2), Math.round(dy / 2)];
    return { ...planes, u: shifted(planes.u, half, tall, -x, -y), v: shifted(planes.v, half, tall, x, y) };
  },
};
