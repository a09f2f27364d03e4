import { lengthOf, type Pixels, type Unit } from '../units';
import { type Luma, shrink } from './luma';

/** How well a live picture fits a ghost. */
export interface PoseMatch {
  /** 0 nothing alike, 1 the same outline. */
  match: Unit;
  /** Shift of the live outline that would fit best, pixels of the full picture: positive dx means move right. */
  dx: Pixels;
  dy: Pixels;
}

const WIDE = 160;
const REACH = 6;

/** Where a picture differs from the empty set, or its edges when there is none: the outline to compare, blurred. */
function outline(picture: Luma, empty: Luma | null): Float32Array {
  const { width, height, data } = picture;
  const raw = new Float32Array(width * height);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      raw[i] = empty
        ? Math.max(0, Math.abs(data[i] - empty.data[i]) - 10)
        : lengthOf(data[i + 1] - data[i - 1], data[i + width] - data[i - width]);
    }
  }
  const out = new Float32Array(raw.length);
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2; x < width - 2; x++) {
      let sum = 0;
      for (let j = -2; j <= 2; j++) for (let i = -2; i <= 2; i++) sum += raw[(y + j) * width + x + i];
      out[y * width + x] = Math.min(60, sum / 25);
    }
  }
  return out;
}

const small = (l: Luma) => shrink(l, Math.max(1, Math.round(l.width / WIDE)));

function cropped({ width, data }: Luma, w: Pixels, h: Pixels): Luma {
  const out = new Uint8Array(w * h);
  for (let y = 0; y < h; y++) out.set(data.subarray(y * width, y * width + w), y * w);
  return { width: w, height: h, data: out };
}

/**
 * Fit of a live picture's outline to a ghost's, by normalised correlation (Lewis 1995) of blurred differences from the
 * empty set, best over shifts of up to 6 of 160 parts of the width. With `empty` null the edges are compared. The pictures
 * may differ in size but not in shape; shifts are in pixels of the live one. 0 when there is nobody in either.
 */
export function poseMatch(live: Luma, ghost: Luma, empty: Luma | null): PoseMatch {
  const factor = Math.max(1, Math.round(live.width / WIDE));
  const [here, there] = [small(live), small(ghost)];
  const e = empty && small(empty);
  const width = Math.min(here.width, there.width, e?.width ?? here.width);
  const height = Math.min(here.height, there.height, e?.height ?? here.height);
  const cut = (l: Luma) => cropped(l, width, height);
  const [a, b] = [outline(cut(here), e && cut(e)), outline(cut(there), e && cut(e))];
  let best: PoseMatch = { match: 0, dx: 0, dy: 0 };
  for (let dy = -REACH; dy <= REACH; dy++) {
    for (let dx = -REACH; dx <= REACH; dx++) {
      let [ab, aa, bb] = [0, 0, 0];
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y += 2) {
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x += 2) {
          const p = a[y * width + x];
          const q = b[(y + dy) * width + x + dx];
          ab += p * q;
          aa += p * p;
          bb += q * q;
        }
      }
      const match = aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
      if (match > best.match + 1e-6) best = { match, dx: dx * factor, dy: dy * factor };
    }
  }
  return best;
}
