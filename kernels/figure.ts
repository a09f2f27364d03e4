// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/measure/figure-found.ts; a parity
// test holds them together.

/** Sixteen answers of four lanes each as bytes of 0 and -1. */
@inline
function bytesOf(a: v128, b: v128, c: v128, d: v128): v128 {
  return i8x16.narrow_i16x8_s(i16x8.narrow_i32x4_s(a, b), i16x8.narrow_i32x4_s(c, d));
}

@inline
function compared(at: usize, limit: v128, over: bool): v128 {
  const values = v128.load(at);
  return over ? f32x4.gt(values, limit) : f32x4.lt(values, limit);
}

/** Which of sixteen floats are over a limit, or under it. */
@inline
function sixteen(at: usize, limit: v128, over: bool): v128 {
  return bytesOf(compared(at, limit, over), compared(at + 16, limit, over), compared(at + 32, limit, over), compared(at + 48, limit, over));
}

/** Squares of `n` values; up to three more are written. */
export function squared(values: usize, out: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>(n << 2); i += 16) {
    const v = v128.load(values + i);
    v128.store(out + i, f32x4.mul(v, v));
  }
}

/** 1 where a ratio lies between two bounds, a colour under 1 and a roughness under `even`; up to fifteen more than `n` are written. */
export function shaded(ratio: usize, colour: usize, rough: usize, dark: f32, light: f32, even: f32, out: usize, n: i32): void {
  const low = f32x4.splat(dark);
  const high = f32x4.splat(light);
  const same = f32x4.splat(1);
  const smooth = f32x4.splat(even);
  for (let i: usize = 0; i < <usize>n; i += 16) {
    const at = i << 2;
    const dim = v128.and(sixteen(ratio + at, low, true), sixteen(ratio + at, high, false));
    v128.store(out + i, v128.and(v128.and(dim, i8x16.splat(1)), v128.and(sixteen(colour + at, same, false), sixteen(rough + at, smooth, false))));
  }
}

/** 1 where a value is over a limit and no shade lies; up to fifteen more than `n` are written. */
export function surely(values: usize, shade: usize, limit: f32, out: usize, n: i32): void {
  const least = f32x4.splat(limit);
  const one = i8x16.splat(1);
  for (let i: usize = 0; i < <usize>n; i += 16)
    v128.store(out + i, v128.andnot(v128.and(sixteen(values + (i << 2), least, true), one), v128.load(shade + i)));
}

/** Of each square of four by four pixels the sum of the values, each `most` at most, and 1 where the mask has any. `w` a multiple of four. */
export function coarsened(values: usize, mask: usize, w: i32, h: i32, most: f32, sums: usize, any: usize): void {
  const limit = f32x4.splat(most);
  for (let y = 0; y < h; y += 4) {
    const rows = min(4, h - y);
    for (let x = 0; x < w; x += 4) {
      let sum = f32x4.splat(0);
      let bits: u32 = 0;
      for (let r = 0; r < rows; r++) {
        const i = <usize>((y + r) * w + x);
        sum = f32x4.add(sum, f32x4.min(v128.load(values + (i << 2)), limit));
        bits |= load<u32>(mask + i);
      }
      store<f32>(sums, f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1) + f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3));
      store<u8>(any, bits ? 1 : 0);
      sums += 4;
      any++;
    }
  }
}

/**
 * How far apart each pixel is: its smoothed value by the limit of its square of four by four; and 1 in `mask` where that is over 1, its own value
 * 0.4 of the limit and no shade lies. `w` a multiple of four.
 */
export function apartFrom(smooth: usize, values: usize, shade: usize, limits: usize, w: i32, h: i32, apart: usize, mask: usize): void {
  const one = f32x4.splat(1);
  const times = f32x4.splat(2.5);
  for (let y = 0; y < h; y++) {
    const row = limits + <usize>((y >> 2) * w);
    for (let x = 0; x < w; x += 4) {
      const limit = v128.load32_splat(row + <usize>x);
      const i = <usize>(y * w + x);
      const far = f32x4.div(v128.load(smooth + (i << 2)), limit);
      v128.store(apart + (i << 2), far);
      const on = v128.and(f32x4.gt(far, one), f32x4.gt(f32x4.mul(v128.load(values + (i << 2)), times), limit));
      const bytes = bytesOf(on, on, on, on);
      store<u32>(mask + i, <u32>i32x4.extract_lane(bytes, 0) & 0x01010101 & ~load<u32>(shade + i));
    }
  }
}
