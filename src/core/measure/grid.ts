/** A yes-or-no picture, one byte a pixel (0 or 1). */
export interface Mask {
  width: number;
  height: number;
  data: Uint8Array;
}

export function emptyMask(width: number, height: number): Mask {
  return { width, height, data: new Uint8Array(width * height) };
}

/** Grows (`by` over 0) or shrinks (under 0) a mask by whole pixels, square-wise; outside counts as what is at the edge. */
export function grow(mask: Mask, by: number): Mask {
  const reach = Math.abs(by);
  const want = by > 0 ? 1 : 0;
  let { data } = mask;
  const { width, height } = mask;
  for (const [count, stride, other, step] of [
    [width, 1, height, width],
    [height, width, width, 1],
  ] as const) {
    const out = data.slice();
    for (let line = 0; line < other; line++) {
      const start = line * step;
      let last = -Infinity;
      for (let i = 0; i < count; i++) {
        if (data[start + i * stride] === want) last = i;
        if (i - last <= reach) out[start + i * stride] = want;
      }
      last = Infinity;
      for (let i = count - 1; i >= 0; i--) {
        if (data[start + i * stride] === want) last = i;
        if (last - i <= reach) out[start + i * stride] = want;
      }
    }
    data = out;
  }
  return { width, height, data };
}

/** A connected part of a mask (four neighbours). */
export interface Part {
  /** Indices of its pixels. */
  pixels: number[];
  touchesEdge: boolean;
}

/** The connected parts whose value is `value`. */
export function partsOf(mask: Mask, value: 0 | 1): Part[] {
  const { width, height, data } = mask;
  const seen = new Uint8Array(data.length);
  const parts: Part[] = [];
  for (let first = 0; first < data.length; first++) {
    if (data[first] !== value || seen[first]) continue;
    const pixels = [first];
    let touchesEdge = false;
    seen[first] = 1;
    for (let k = 0; k < pixels.length; k++) {
      const at = pixels[k];
      const x = at % width;
      const y = (at - x) / width;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) touchesEdge = true;
      for (const [inside, next] of [
        [x > 0, at - 1],
        [x < width - 1, at + 1],
        [y > 0, at - width],
        [y < height - 1, at + width],
      ] as const) {
        if (inside && !seen[next] && data[next] === value) {
          seen[next] = 1;
          pixels.push(next);
        }
      }
    }
    parts.push({ pixels, touchesEdge });
  }
  return parts;
}

/** Removes specks smaller than `least` pixels and fills holes smaller than `hole`, in place. */
export function tidy(mask: Mask, least: number, hole: number): Mask {
  for (const part of partsOf(mask, 1)) if (part.pixels.length < least) for (const i of part.pixels) mask.data[i] = 0;
  for (const part of partsOf(mask, 0)) if (!part.touchesEdge && part.pixels.length < hole) for (const i of part.pixels) mask.data[i] = 1;
  return mask;
}

export function countOf(mask: Mask): number {
  let n = 0;
  for (const v of mask.data) n += v;
  return n;
}

/** The box around a mask, right and bottom past its last pixels, and its share of the whole; null when it is empty. */
export function boxOf({ width, height, data }: Mask): { left: number; top: number; right: number; bottom: number; share: number } | null {
  let [left, top, right, bottom, n] = [width, height, 0, 0, 0];
  for (let i = 0; i < data.length; i++) {
    if (!data[i]) continue;
    const x = i % width;
    const y = (i - x) / width;
    n++;
    left = Math.min(left, x);
    right = Math.max(right, x + 1);
    top = Math.min(top, y);
    bottom = y + 1;
  }
  return n ? { left, top, right, bottom, share: n / data.length } : null;
}

/** Packs a mask into bits, eight pixels a byte. */
export function packed(mask: Mask): Uint8Array {
  const out = new Uint8Array(Math.ceil(mask.data.length / 8));
  for (let i = 0; i < mask.data.length; i++) if (mask.data[i]) out[i >> 3] |= 1 << (i & 7);
  return out;
}

export function unpacked(bits: Uint8Array, width: number, height: number): Mask {
  const mask = emptyMask(width, height);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = (bits[i >> 3] >> (i & 7)) & 1;
  return mask;
}

/** Mean over a square of `2·reach + 1` pixels around each pixel, by running sums; the square is cut at the edges. */
export function boxMean(values: Float32Array, width: number, height: number, reach: number): Float32Array {
  const rows = new Float32Array(values.length);
  const out = new Float32Array(values.length);
  for (const [from, to, count, stride, other, step] of [
    [values, rows, width, 1, height, width],
    [rows, out, height, width, width, 1],
  ] as const) {
    for (let line = 0; line < other; line++) {
      const start = line * step;
      let sum = 0;
      let n = 0;
      for (let i = 0; i < Math.min(reach, count); i++, n++) sum += from[start + i * stride];
      for (let i = 0; i < count; i++) {
        if (i + reach < count) {
          sum += from[start + (i + reach) * stride];
          n++;
        }
        if (i - reach - 1 >= 0) {
          sum -= from[start + (i - reach - 1) * stride];
          n--;
        }
        to[start + i * stride] = sum / n;
      }
    }
  }
  return out;
}
