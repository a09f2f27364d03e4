/** How far colour is carried beyond an edge, pixels. */
const REACH = 4;

/**
 * Colour carried from where a picture (RGBA, in place) is seen into where it is clear, a few pixels far: what is mixed from both at an edge
 * then keeps its colour instead of turning dark.
 */
export function bleedIntoClear(rgba: Uint8ClampedArray, width: number, height: number): void {
  let known = Uint8Array.from({ length: width * height }, (_, i) => (rgba[4 * i + 3] > 0 ? 1 : 0));
  for (let turn = 0; turn < REACH; turn++) {
    const next = known.slice();
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        if (known[i]) continue;
        let [n, r, g, b] = [0, 0, 0, 0];
        for (const [dx, dy] of [
          [-1, 0],
          [1, 0],
          [0, -1],
          [0, 1],
        ]) {
          const [u, v] = [x + dx, y + dy];
          if (u < 0 || v < 0 || u >= width || v >= height || !known[v * width + u]) continue;
          const k = 4 * (v * width + u);
          n++;
          r += rgba[k];
          g += rgba[k + 1];
          b += rgba[k + 2];
        }
        if (n === 0) continue;
        rgba[4 * i] = r / n;
        rgba[4 * i + 1] = g / n;
        rgba[4 * i + 2] = b / n;
        next[i] = 1;
      }
    known = next;
  }
}
