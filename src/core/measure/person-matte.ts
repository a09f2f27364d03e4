import { type Planes, reducedPlanes } from '../picture';
import { boxMean } from './grid';
import type { Matte, Strokes } from './matte';

/** Pixels around each within which coverage follows the picture's brightness, from pass to pass. */
const PASSES = [10, 5, 5];
/** Contrast that is let pass, code values squared. */
const SMOOTH = 60;
/** Coverage under and over which a pixel is all set or all figure. */
const LOW = 0.2;
const HIGH = 0.8;

interface Line {
  slope: Float32Array;
  offset: Float32Array;
}

/** How coverage follows brightness around each pixel: the line of least squares, its mean over all it belongs to. */
function follows(guide: Float32Array, cover: Float32Array, w: number, h: number, reach: number): Line {
  const product = (a: Float32Array, b: Float32Array) => a.map((v, i) => v * b[i]);
  const mean = (values: Float32Array) => boxMean(values, w, h, reach);
  const [mg, mc] = [mean(guide), mean(cover)];
  const [gg, gc] = [mean(product(guide, guide)), mean(product(guide, cover))];
  const slope = new Float32Array(w * h);
  const offset = new Float32Array(w * h);
  for (let i = 0; i < slope.length; i++) {
    slope[i] = (gc[i] - mg[i] * mc[i]) / (gg[i] - mg[i] * mg[i] + SMOOTH);
    offset[i] = mc[i] - slope[i] * mg[i];
  }
  return { slope: mean(slope), offset: mean(offset) };
}

const steep = (a: number) => Math.max(0, Math.min(1, (a - LOW) / (HIGH - LOW)));

/**
 * A matte from how surely each pixel shows a person (0..1, of the frame's size): drawn to the edges of the picture by a guided filter (He,
 * Sun & Tang 2010) at half the frame's size, steepened, and drawn again. Painted strokes stand as in `cutOut`.
 */
export function personMatte(frame: Planes, sure: Float32Array, strokes: Strokes | null): Matte {
  const { width, height } = frame;
  const small = reducedPlanes(frame, 2);
  const [w, h] = [small.width, small.height];
  const guide = Float32Array.from(small.y);
  const cover = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      cover[y * w + x] = (sure[i] + sure[i + 1] + sure[i + width] + sure[i + width + 1]) / 4;
    }
  let line = follows(guide, cover, w, h, PASSES[0]);
  for (const reach of PASSES.slice(1)) {
    for (let i = 0; i < cover.length; i++) cover[i] = steep(line.slope[i] * guide[i] + line.offset[i]);
    line = follows(guide, cover, w, h, reach);
  }
  const alpha = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.min(h - 1, y >> 1) * w;
    for (let x = 0; x < width; x++, i++) {
      if (strokes?.[i] === 1 || strokes?.[i] === 2) {
        alpha[i] = strokes[i] === 1 ? 255 : 0;
        continue;
      }
      const at = row + Math.min(w - 1, x >> 1);
      alpha[i] = Math.round(255 * steep(line.slope[at] * frame.y[i] + line.offset[at]));
    }
  }
  return { width, height, alpha };
}
