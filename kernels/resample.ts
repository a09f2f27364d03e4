// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`: the two passes for any number of taps and any turn, to the bit those of
// src/core/picture/resample.ts, which are their definition.

/** Bytes repeated on each side of a row; more than any filter reaches. */
const SIDE: i32 = 64;

@inline
function byte(sum: i32): u8 {
  return <u8>min(max(sum >> 14, 0), 255);
}

/** Rows filtered across by `taps` weights, of which `stride` (a multiple of eight, the rest zero) stand to a phase. */
export function across(
  src: usize, sw: i32, rowFirst: i32, rows: i32, x0: i32, width: i32, dst: usize,
  weights: usize, taps: i32, stride: i32, row: usize, perX: f64, perRow: f64, base: f64,
): void {
  const step = <i32>Math.round(perX * 65536);
  const before = taps / 2 - 1;
  for (let r = 0; r < rows; r++) {
    const line = src + <usize>(r * sw);
    memory.fill(row, load<u8>(line), SIDE);
    memory.copy(row + SIDE, line, sw);
    memory.fill(row + SIDE + sw, load<u8>(line + sw - 1), SIDE);
    let fixed = <i32>Math.round((base + perRow * <f64>(rowFirst + r) + perX * <f64>x0) * 65536);
    const out = dst + <usize>(r * width);
    for (let x = 0; x < width; x++, fixed += step) {
      const i = min(max((fixed >> 16) - before, -taps), sw);
      const at = row + <usize>(SIDE + i);
      const w = weights + <usize>(((fixed >> 8) & 255) * stride * 2);
      let sums = i32x4.splat(0);
      for (let k: usize = 0; k < <usize>stride; k += 8)
        sums = i32x4.add(sums, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(v128.load64_zero(at + k)), v128.load(w + 2 * k)));
      const pairs = i32x4.add(sums, v128.shuffle<i32>(sums, sums, 2, 3, 0, 1));
      store<u8>(out + <usize>x, byte((1 << 13) + i32x4.extract_lane(pairs, 0) + i32x4.extract_lane(pairs, 1)));
    }
  }
}

/** Columns filtered down, rows `y0` to `y1`; each column has a phase of its own where the picture is turned. */
export function down(
  src: usize, width: i32, rows: i32, dst: usize, y0: i32, y1: i32,
  weights: usize, taps: i32, stride: i32, d: f64, e: f64, f: f64, dx0: f64, rowFirst: f64,
): void {
  const step = <i32>Math.round(d * 65536);
  const before = taps / 2 - 1;
  const last = rows - 1;
  for (let y = y0; y < y1; y++) {
    let fixed = <i32>Math.round((e * <f64>y + f + dx0 - rowFirst) * 65536);
    const out = dst + <usize>((y - y0) * width);
    let x = 0;
    if (step == 0) {
      const i = (fixed >> 16) - before;
      const w = weights + <usize>(((fixed >> 8) & 255) * stride * 2);
      const half = i32x4.splat(1 << 13);
      for (; x + 8 <= width; x += 8) {
        let low = half;
        let high = half;
        for (let k = 0; k < taps; k++) {
          const line = src + <usize>(min(max(i + k, 0), last) * width + x);
          const values = i16x8.extend_low_i8x16_u(v128.load64_zero(line));
          const weight = i16x8.splat(load<i16>(w + <usize>(2 * k)));
          low = i32x4.add(low, i32x4.extmul_low_i16x8_s(values, weight));
          high = i32x4.add(high, i32x4.extmul_high_i16x8_s(values, weight));
        }
        const narrow = i16x8.narrow_i32x4_s(i32x4.shr_s(low, 14), i32x4.shr_s(high, 14));
        v128.store64_lane(out + <usize>x, i8x16.narrow_i16x8_u(narrow, narrow), 0);
      }
    }
    fixed += x * step;
    for (; x < width; x++, fixed += step) {
      const i = (fixed >> 16) - before;
      const w = weights + <usize>(((fixed >> 8) & 255) * stride * 2);
      let sum: i32 = 1 << 13;
      for (let k = 0; k < taps; k++)
        sum += <i32>load<u8>(src + <usize>(min(max(i + k, 0), last) * width + x)) * <i32>load<i16>(w + <usize>(2 * k));
      store<u8>(out + <usize>x, byte(sum));
    }
  }
}
