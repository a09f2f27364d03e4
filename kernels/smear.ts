// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/picture/weighted.ts; a
// parity test holds them together.

@inline
function within(i: i32, size: i32, mirror: i32): i32 {
  if (i >= 0 && i < size) return i;
  if (!mirror) return i < 0 ? 0 : size - 1;
  const period = 2 * size;
  let k = i % period;
  if (k < 0) k += period;
  return k < size ? k : period - 1 - k;
}

/**
 * Lays luma through a map (a to f) with coverage seen through a ride (p to u) into weighted sums, rows `y0` to `y1`; `columns` holds first and one past
 * the last column of each row. `alpha` is left with the weight of each pixel.
 */
export function layLuma(
  src: usize, sw: i32, sh: i32, plane: usize, width: i32, height: i32, y0: i32, y1: i32, columns: usize,
  alpha: usize, cover: usize, sum: usize, mirror: i32,
  a: f64, b: f64, c: f64, d: f64, e: f64, f: f64,
  p: f64, q: f64, r: f64, s: f64, t: f64, u: f64,
): void {
  memory.fill(alpha + <usize>(2 * y0 * width), 0, <usize>(2 * (y1 - y0) * width));
  for (let y = y0; y < y1; y++) {
    const from = load<i32>(columns + <usize>(8 * (y - y0)));
    const to = load<i32>(columns + <usize>(8 * (y - y0)), 4);
    const line = <f64>y + 0.5;
    for (let x = from; x < to; x++) {
      const across = <f64>x + 0.5;
      const ru = p * across + q * line + r;
      const rv = s * across + t * line + u;
      if (ru < 0 || rv < 0 || ru >= <f64>width || rv >= <f64>height) continue;
      const weight = <u32>load<u16>(plane + <usize>(2 * (<i32>rv * width + <i32>ru)));
      if (weight == 0) continue;
      const i = <i32>Math.floor(a * across + b * line + c);
      const j = <i32>Math.floor(d * across + e * line + f);
      if (!mirror && (i < 0 || j < 0 || i >= sw || j >= sh)) continue;
      const at = <usize>(y * width + x);
      store<u16>(alpha + 2 * at, <u16>weight);
      store<u32>(cover + 4 * at, load<u32>(cover + 4 * at) + weight);
      const code = <u32>load<u8>(src + <usize>(within(j, sh, mirror) * sw + within(i, sw, mirror)));
      store<f32>(sum + 4 * at, <f32>(<f64>load<f32>(sum + 4 * at) + <f64>(weight * code)));
    }
  }
}

/** Lays chroma through a map of half the size, weighted by the four pixels of luma over each. */
export function layChroma(
  blue: usize, red: usize, sw: i32, sh: i32, width: i32, y0: i32, y1: i32,
  alpha: usize, chroma: usize, sumU: usize, sumV: usize, mirror: i32,
  a: f64, b: f64, c: f64, d: f64, e: f64, f: f64,
): void {
  const half = width >> 1;
  for (let y = y0 >> 1; y < y1 >> 1; y++) {
    const line = <f64>y + 0.5;
    for (let x = 0; x < half; x++) {
      const at = alpha + <usize>(2 * (2 * y * width + 2 * x));
      const weight = <u32>load<u16>(at) + <u32>load<u16>(at, 2) + <u32>load<u16>(at + <usize>(2 * width)) + <u32>load<u16>(at + <usize>(2 * width), 2);
      if (weight == 0) continue;
      const across = <f64>x + 0.5;
      const i = within(<i32>Math.floor(a * across + b * line + c), sw, mirror);
      const j = within(<i32>Math.floor(d * across + e * line + f), sh, mirror);
      const k = <usize>(4 * (y * half + x));
      const from = <usize>(j * sw + i);
      store<f32>(chroma + k, <f32>(<f64>load<f32>(chroma + k) + <f64>weight));
      store<f32>(sumU + k, <f32>(<f64>load<f32>(sumU + k) + <f64>(weight * <u32>load<u8>(blue + from))));
      store<f32>(sumV + k, <f32>(<f64>load<f32>(sumV + k) + <f64>(weight * <u32>load<u8>(red + from))));
    }
  }
}
