import { type Planes, reducedPlanes } from '../picture';
import { guidedLine } from './guided';
import type { Matte, Strokes } from './matte';

/** Pixels around each within which coverage follows the picture's brightness, from pass to pass. */
const PASSES = [10, 5, 5];
/** Contrast that is let pass, code values squared. */
const SMOOTH = 60;
/** Coverage under and over which a pixel is all set or all figure. */
const LOW = 0.2;
const HIGH = 0.8;

/** Steps that each of Y, U and V is told apart in. */
const STEPS = 16;
/** Coverage from which on a pixel speaks for the figure's colours, and under which for the set's. */
const FIGURE = 0.75;
const SET = 0.15;
/** Coverage is never so sure that colour has nothing to say, but beyond these. */
const OPEN = { low: 0.02, high: 0.98 };

/** The colour of each pixel as a number of its step in all three; U and V at half the picture's size. */
function colourSteps({ width, height, y, u, v }: Planes): Uint16Array {
  const out = new Uint16Array(width * height);
  for (let row = 0, i = 0; row < height; row++) {
    const half = (row >> 1) * (width >> 1);
    for (let x = 0; x < width; x++, i++) {
      const j = half + (x >> 1);
      // Chroma keeps to the middle of its range: it is told apart twice as finely.
      const [cu, cv] = [Math.max(0, Math.min(15, (u[j] - 64) >> 3)), Math.max(0, Math.min(15, (v[j] - 64) >> 3))];
      out[i] = ((y[i] >> 4) * STEPS + cu) * STEPS + cv;
    }
  }
  return out;
}

/** How often each colour is seen, over itself and its neighbours. */
function spread(counts: Float32Array): Float32Array {
  let now = counts;
  for (const stride of [1, STEPS, STEPS * STEPS]) {
    const next = new Float32Array(now.length);
    for (let i = 0; i < now.length; i++) {
      const at = Math.floor(i / stride) % STEPS;
      next[i] = 0.5 * now[i] + 0.25 * ((at > 0 ? now[i - stride] : now[i]) + (at < STEPS - 1 ? now[i + stride] : now[i]));
    }
    now = next;
  }
  return now;
}

/** Coverage with what the colours of the figure and of the set say of each pixel (a Bayesian step, as in Chuang et al. 2001); in place. */
function byColour(cover: Float32Array, steps: Uint16Array): void {
  const [figure, set] = [new Float32Array(STEPS ** 3), new Float32Array(STEPS ** 3)];
  let [n, m] = [0, 0];
  for (let i = 0; i < cover.length; i++) {
    if (cover[i] > FIGURE) [figure[steps[i]], n] = [figure[steps[i]] + 1, n + 1];
    else if (cover[i] < SET) [set[steps[i]], m] = [set[steps[i]] + 1, m + 1];
  }
  if (n === 0 || m === 0) return;
  const [own, other] = [spread(figure), spread(set)];
  for (let i = 0; i < cover.length; i++) {
    const prior = Math.max(OPEN.low, Math.min(OPEN.high, cover[i]));
    if (cover[i] < OPEN.low || cover[i] > OPEN.high) continue;
    // A colour that is seen in neither says nothing.
    const [p, q] = [own[steps[i]] / n + 1e-5, other[steps[i]] / m + 1e-5];
    cover[i] = (prior * p) / (prior * p + (1 - prior) * q);
  }
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
  const steps = colourSteps(small);
  for (let round = 0; round < 2; round++) byColour(cover, steps);
  let line = guidedLine(guide, cover, w, h, PASSES[0], SMOOTH);
  for (const reach of PASSES.slice(1)) {
    for (let i = 0; i < cover.length; i++) cover[i] = steep(line.slope[i] * guide[i] + line.offset[i]);
    line = guidedLine(guide, cover, w, h, reach, SMOOTH);
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
