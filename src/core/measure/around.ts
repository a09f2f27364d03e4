import type { Planes } from '../picture';
import type { Pixels } from '../units';

/** A part of a picture: left, top, width and height are even, so that chroma is cut where brightness is. */
export interface Box {
  left: Pixels;
  top: Pixels;
  width: Pixels;
  height: Pixels;
}

/** The box around all that is not 0 in any of some planes, `margin` pixels wider on every side; null where there is nothing. */
export function boxAround(planes: readonly (Uint8Array | null)[], width: number, height: number, margin: Pixels): Box | null {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (const plane of planes) {
    if (!plane) continue;
    const rows = plane.byteOffset % 4 === 0 && width % 4 === 0 ? new Uint32Array(plane.buffer, plane.byteOffset, plane.length / 4) : plane;
    const [line, each] = [rows.length / height, plane.length / rows.length];
    for (let y = 0; y < height; y++) {
      const [begin, end] = [y * line, (y + 1) * line];
      let [first, last] = [begin, end - 1];
      while (first < end && rows[first] === 0) first++;
      if (first === end) continue;
      while (rows[last] === 0) last--;
      // To the pixel within four of them.
      [first, last] = [first * each, (last + 1) * each - 1];
      while (plane[first] === 0) first++;
      while (plane[last] === 0) last--;
      [left, right] = [Math.min(left, first - y * width), Math.max(right, last - y * width + 1)];
      [top, bottom] = [Math.min(top, y), Math.max(bottom, y + 1)];
    }
  }
  if (right <= left) return null;
  const [x, y] = [Math.max(0, left - margin) & ~1, Math.max(0, top - margin) & ~1];
  return {
    left: x,
    top: y,
    width: even(Math.min(width, right + margin) - x, width - x),
    height: even(Math.min(height, bottom + margin) - y, height - y),
  };
}

/** The even number at or above a length, as far as there is room. */
const even = (length: number, room: number) => Math.min((length + 1) & ~1, room);

/** The part of a plane within a box. */
export function cropped<T extends Uint8Array | Float32Array>(plane: T, width: number, box: Box): T {
  const out = new (plane.constructor as new (length: number) => T)(box.width * box.height);
  for (let y = 0; y < box.height; y++) {
    const at = (box.top + y) * width + box.left;
    out.set(plane.subarray(at, at + box.width), y * box.width);
  }
  return out;
}

/** A picture within a box. */
export function croppedPlanes({ width, y, u, v }: Planes, box: Box): Planes {
  const half = { left: box.left >> 1, top: box.top >> 1, width: box.width >> 1, height: box.height >> 1 };
  return {
    width: box.width,
    height: box.height,
    y: cropped(y, width, box),
    u: cropped(u, width >> 1, half),
    v: cropped(v, width >> 1, half),
  };
}

/** Puts a part back where it was cut from. */
export function pasted(part: Uint8Array, into: Uint8Array, width: number, box: Box): void {
  for (let y = 0; y < box.height; y++) into.set(part.subarray(y * box.width, (y + 1) * box.width), (box.top + y) * width + box.left);
}
