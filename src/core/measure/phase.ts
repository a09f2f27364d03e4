import FFT from 'fft.js';
import { parabola } from '../correlate';
import { lengthOf, type Pixels } from '../units';
import { type Luma, shrink } from './luma';

/** A whole-picture shift with how sharply it stood out (peak of the correlation, 0..1). */
export interface CoarseShift {
  dx: Pixels;
  dy: Pixels;
  peak: number;
}

const SIZE = 256;

/** Centre of the picture at `factor` reduction, windowed (Hann) and zero-mean, as interleaved complex rows. */
function windowed(luma: Luma, factor: number): Float64Array {
  const small = factor > 1 ? shrink(luma, factor) : luma;
  const out = new Float64Array(SIZE * SIZE * 2);
  const ox = (small.width - SIZE) >> 1;
  const oy = (small.height - SIZE) >> 1;
  let mean = 0;
  for (const v of small.data) mean += v / small.data.length;
  for (let y = 0; y < SIZE; y++) {
    const wy = 0.5 - 0.5 * Math.cos((2 * Math.PI * (y + 0.5)) / SIZE);
    const sy = y + oy;
    if (sy < 0 || sy >= small.height) continue;
    for (let x = 0; x < SIZE; x++) {
      const sx = x + ox;
      if (sx < 0 || sx >= small.width) continue;
      const wx = 0.5 - 0.5 * Math.cos((2 * Math.PI * (x + 0.5)) / SIZE);
      out[2 * (y * SIZE + x)] = (small.data[sy * small.width + sx] - mean) * wx * wy;
    }
  }
  return out;
}

function transform2d(data: Float64Array, fft: FFT, inverse: boolean): void {
  const line = new Float64Array(SIZE * 2);
  const out = new Float64Array(SIZE * 2);
  const run = () => (inverse ? fft.inverseTransform(out, line) : fft.transform(out, line));
  for (let y = 0; y < SIZE; y++) {
    line.set(data.subarray(y * SIZE * 2, (y + 1) * SIZE * 2));
    run();
    data.set(out, y * SIZE * 2);
  }
  for (let x = 0; x < SIZE; x++) {
    for (let y = 0; y < SIZE; y++) {
      line[2 * y] = data[2 * (y * SIZE + x)];
      line[2 * y + 1] = data[2 * (y * SIZE + x) + 1];
    }
    run();
    for (let y = 0; y < SIZE; y++) {
      data[2 * (y * SIZE + x)] = out[2 * y];
      data[2 * (y * SIZE + x) + 1] = out[2 * y + 1];
    }
  }
}

/**
 * The likeliest shifts of `other` against `reference` (same size), best first, by phase correlation of their reduced
 * centres; each to about a quarter of the reduction. There are several because a large performer has a shift of their
 * own. Positive dx: the picture moved right. Kuglin & Hines 1975; peaks refined by a parabola.
 */
export function phaseShifts(reference: Luma, other: Luma, count = 4): CoarseShift[] {
  const factor = Math.max(1, Math.floor(Math.min(reference.width, reference.height * 1.4) / SIZE));
  const fft = new FFT(SIZE);
  const a = windowed(reference, factor);
  const b = windowed(other, factor);
  transform2d(a, fft, false);
  transform2d(b, fft, false);
  for (let i = 0; i < a.length; i += 2) {
    const re = a[i] * b[i] + a[i + 1] * b[i + 1];
    const im = a[i] * b[i + 1] - a[i + 1] * b[i];
    const size = lengthOf(re, im) || 1;
    a[i] = re / size;
    a[i + 1] = im / size;
  }
  transform2d(a, fft, true);
  const surface = Float64Array.from({ length: SIZE * SIZE }, (_, i) => a[2 * i]);
  return Array.from({ length: count }, () => takePeak(surface, factor));
}

/** The highest point of the surface, refined; it and its neighbourhood are then cleared. */
function takePeak(surface: Float64Array, factor: number): CoarseShift {
  let best = 0;
  for (let i = 0; i < surface.length; i++) if (surface[i] > surface[best]) best = i;
  const px = best % SIZE;
  const py = Math.floor(best / SIZE);
  const index = (x: number, y: number) => ((y + SIZE) % SIZE) * SIZE + ((x + SIZE) % SIZE);
  const wrap = (v: number) => (v > SIZE / 2 ? v - SIZE : v);
  const peak = surface[best];
  const dx = wrap(px) + parabola(surface[index(px - 1, py)], peak, surface[index(px + 1, py)]);
  const dy = wrap(py) + parabola(surface[index(px, py - 1)], peak, surface[index(px, py + 1)]);
  for (let y = py - 3; y <= py + 3; y++) for (let x = px - 3; x <= px + 3; x++) surface[index(x, y)] = 0;
  return { dx: dx * factor, dy: dy * factor, peak };
}
