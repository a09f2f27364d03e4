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
  pixels: Int32Array;
  touchesEdge: boolean;
}

/** The connected parts whose value is `value`. */
export function partsOf(mask: Mask, value: 0 | 1): Part[] {
  const { width, height, data } = mask;
  const size = width * height;
  const todo = data.map((v) => (v === value ? 1 : 0));
  // All parts lie one after another in one list, in the order they are walked through.
  const list = new Int32Array(size);
  const parts: Part[] = [];
  let end = 0;
  const add = (at: number) => {
    todo[at] = 0;
    list[end++] = at;
  };
  for (let first = todo.indexOf(1); first >= 0; first = todo.indexOf(1, first + 1)) {
    const start = end;
    let touchesEdge = false;
    add(first);
    for (let k = start; k < end; k++) {
      const at = list[k];
      const x = at % width;
      const inner = x > 0 && x < width - 1 && at >= width && at < size - width;
      if (!inner) touchesEdge = true;
      if (x > 0 && todo[at - 1]) add(at - 1);
      if (x < width - 1 && todo[at + 1]) add(at + 1);
      if (at >= width && todo[at - width]) add(at - width);
      if (at < size - width && todo[at + width]) add(at + width);
    }
    parts.push({ pixels: list.subarray(start, end), touchesEdge });
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
