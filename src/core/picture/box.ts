import type { Pixels } from '../units';

/** Rows and columns of a part of a plane, ends excluded. */
export interface Box {
  left: Pixels;
  top: Pixels;
  right: Pixels;
  bottom: Pixels;
}

/** The box outside which a plane is 0; null where it is 0 all over. */
export function boundsOf(plane: ArrayLike<number>, width: Pixels, height: Pixels): Box | null {
  const box = { left: width, top: height, right: 0, bottom: 0 };
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let first = 0;
    while (first < width && plane[row + first] === 0) first++;
    if (first === width) continue;
    let last = width - 1;
    while (plane[row + last] === 0) last--;
    box.top = Math.min(box.top, y);
    box.bottom = y + 1;
    box.left = Math.min(box.left, first);
    box.right = Math.max(box.right, last + 1);
  }
  return box.bottom > 0 ? box : null;
}
