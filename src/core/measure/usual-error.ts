import type { Planes } from '../picture';

const OCTAVES = 8;
/** With fewer pixels of a contrast nothing is said of it. */
const FEW = 300;
/** Of a large picture one pixel in so many is looked at, that about this many are; the number is odd, so that columns take turns. */
const ENOUGH = 100_000;
/** Distances are counted in steps of this, code values. */
const STEP = 0.25;

/** How contrasty a picture is around each pixel: the larger step of brightness to its neighbours, in octaves. */
export function contrastOf({ y, width, height }: Planes): Uint8Array {
  const out = new Uint8Array(width * height);
  for (let row = 0; row < height; row++) {
    for (let x = 0; x < width; x++) {
      const i = row * width + x;
      const across = Math.abs(y[i] - y[x + 1 < width ? i + 1 : i - 1]);
      const down = Math.abs(y[i] - y[row + 1 < height ? i + width : i - width]);
      out[i] = Math.min(OCTAVES - 1, Math.floor(Math.log2(1 + Math.max(across, down))));
    }
  }
  return out;
}

/**
 * How far a frame usually is from its backdrop, by contrast: the median of the distances (0 or more, code values) at each octave;
 * 0 where there are too few. A codec's errors stand still within one clip, so the plate's own straying does not show them, and a
 * shift of a tenth of a pixel makes a step where the set has an edge. A median (Rousseeuw & Croux 1993) does not mind somebody
 * who hides less than half of the set.
 */
export function usualError(distances: Float32Array, contrast: Uint8Array): Float32Array {
  const bins = 256 / STEP;
  const counts = new Uint32Array(OCTAVES * bins);
  const one = Math.floor(contrast.length / ENOUGH) | 1;
  for (let i = 0; i < contrast.length; i += one) {
    const bin = (distances[i] * (1 / STEP)) | 0;
    counts[contrast[i] * bins + (bin < bins ? bin : bins - 1)]++;
  }
  return Float32Array.from({ length: OCTAVES }, (_, octave) => {
    const count = counts.subarray(octave * bins, (octave + 1) * bins);
    let n = 0;
    for (let v = 0; v < bins; v++) n += count[v];
    if (n * one < FEW) return 0;
    let [below, v] = [0, 0];
    while (below + count[v] < n / 2) below += count[v++];
    return STEP * (v + (n / 2 - below) / count[v]);
  });
}
