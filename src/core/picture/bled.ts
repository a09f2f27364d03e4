/** How far colour is carried beyond an edge, pixels. */
const REACH = 4;

/**
 * Colour carried from where a picture (RGBA, in place) is seen into where it is clear, a few pixels far: what is mixed from both at an edge
 * then keeps its colour instead of turning dark.
 */
export function bleedIntoClear(rgba: Uint8ClampedArray, width: number, height: number): void {
  const known = Uint8Array.from({ length: width * height }, (_, i) => (rgba[4 * i + 3] > 0 ? 1 : 0));
  /** Calls `each` with the neighbours of a pixel. */
  const around = (i: number, each: (k: number) => void) => {
    const x = i % width;
    if (x > 0) each(i - 1);
    if (x + 1 < width) each(i + 1);
    if (i >= width) each(i - width);
    if (i + width < known.length) each(i + width);
  };
  let edge: number[] = [];
  for (let i = 0; i < known.length; i++) {
    if (known[i]) continue;
    let near = false;
    around(i, (k) => {
      near ||= known[k] === 1;
    });
    if (near) edge.push(i);
  }
  for (let turn = 0; turn < REACH && edge.length > 0; turn++) {
    for (const i of edge) {
      let [n, r, g, b] = [0, 0, 0, 0];
      around(i, (k) => {
        if (known[k] !== 1) return;
        n++;
        r += rgba[4 * k];
        g += rgba[4 * k + 1];
        b += rgba[4 * k + 2];
      });
      rgba.set([r / n, g / n, b / n], 4 * i);
    }
    for (const i of edge) known[i] = 1;
    const next = new Set<number>();
    for (const i of edge) around(i, (k) => known[k] === 0 && next.add(k));
    edge = [...next];
  }
}
