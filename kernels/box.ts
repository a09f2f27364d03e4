// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version is `boxMean` in src/core/measure/grid.ts; a parity test
// holds them together.

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

/** How far a byte is off another one. */
@inline
function off(at: usize, from: i32): i32 {
  return abs<i32>(<i32>load<u8>(at) - from);
}

/**
 * Means of values over the `around` pixels on each side, of those pixels whose byte of `asked` is not 0: each neighbour counts by the table
 * `voice` of how far its colour is off, chroma (at half the size) `chroma` times. The others stay as they are in `out`.
 */
export function byLikeColour(y: usize, u: usize, v: usize, values: usize, asked: usize, width: i32, height: i32, around: i32, voice: usize, chroma: i32, out: usize): void {
  const half = width >> 1;
  let i: usize = 0;
  for (let py = 0; py < height; py++) {
    const top = max(0, py - around);
    const bottom = min(height - 1, py + around);
    for (let px = 0; px < width; px++, i++) {
      if (!load<u8>(asked + i)) continue;
      const j = <usize>((py >> 1) * half + (px >> 1));
      const light = <i32>load<u8>(y + i);
      const blue = <i32>load<u8>(u + j);
      const red = <i32>load<u8>(v + j);
      const left = max(0, px - around);
      const right = min(width - 1, px + around);
      let sum: f32 = 0;
      let voices: f32 = 0;
      for (let qy = top; qy <= bottom; qy++) {
        const row = <usize>((qy >> 1) * half);
        let k = <usize>(qy * width + left);
        for (let qx = left; qx <= right; qx++, k++) {
          const l = row + <usize>(qx >> 1);
          const own = load<f32>(voice + <usize>((off(y + k, light) + chroma * (off(u + l, blue) + off(v + l, red))) << 2));
          sum += own * load<f32>(values + (k << 2));
          voices += own;
        }
      }
      store<f32>(out + (i << 2), sum / voices);
    }
  }
}
