// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/measure/grid.ts; a parity test holds
// them together.

/** Mean of `n` floats from one on. */
@inline
function meanFrom(at: usize, n: i32): f32 {
  let sum: f32 = 0;
  for (let i = 0; i < n; i++) sum += load<f32>(at + <usize>(i << 2));
  return sum / <f32>n;
}

/**
 * Means over squares of 2·reach+1 pixels around each, cut at the edges, for a small reach: every square is summed anew. `rows` is scratch of
 * w·h floats; it and `out` have room for four floats more.
 */
export function smallBoxMean(values: usize, w: i32, h: i32, reach: i32, rows: usize, out: usize): void {
  const line = <usize>(w << 2);
  const window = 2 * reach + 1;
  const share = f32x4.splat(1 / <f32>window);
  for (let y = 0; y < h; y++) {
    const from = values + <usize>y * line;
    const to = rows + <usize>y * line;
    // Four at a time may write past the last whole window, which the edge then writes over.
    for (let x = reach; x < w - reach; x += 4) {
      let at = from + <usize>((x - reach) << 2);
      let sum = v128.load(at);
      for (let k = 1; k < window; k++) {
        at += 4;
        sum = f32x4.add(sum, v128.load(at));
      }
      v128.store(to + <usize>(x << 2), f32x4.mul(sum, share));
    }
    for (let x = 0; x < min(reach, w); x++) store<f32>(to + <usize>(x << 2), meanFrom(from, min(w, x + reach + 1)));
    for (let x = max(reach, w - reach); x < w; x++)
      store<f32>(to + <usize>(x << 2), meanFrom(from + <usize>((x - reach) << 2), w - x + reach));
  }
  for (let y = 0; y < h; y++) {
    const first = max(0, y - reach);
    const n = min(h - 1, y + reach) - first + 1;
    const part = f32x4.splat(1 / <f32>n);
    const from = rows + <usize>first * line;
    const to = out + <usize>y * line;
    for (let x: usize = 0; x < line; x += 16) {
      let at = from + x;
      let sum = v128.load(at);
      for (let k = 1; k < n; k++) {
        at += line;
        sum = f32x4.add(sum, v128.load(at));
      }
      v128.store(to + x, f32x4.mul(sum, part));
    }
  }
}

/** Joins each of `n` bytes with the one `further` on, in place, sixteen at a time: there is room for that many more. */
export function joined(bytes: usize, further: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i += 16) v128.store(bytes + i, v128.or(v128.load(bytes + i), v128.load(bytes + i + further)));
}
