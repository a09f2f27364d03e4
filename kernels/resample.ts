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

/** A place in 65536ths of a pixel, no further out than a picture can reach. */
@inline
function fixedPlace(at: f64): i32 {
  return <i32>Math.floor(min(max(at, -30000.0), 30000.0) * 65536.0 + 0.5);
}

@inline
function nearest(at: i32, last: i32): i32 {
  return min(max((at + 32768) >> 16, 0), last);
}

/** A plane as seen through a homography, to the bit `planeThroughPlainly` of src/core/picture/perspective.ts; `below` 0 where nothing lies there. */
export function perspective(
  src: usize, width: i32, height: i32, dst: usize, weights: usize, below: usize,
  a: f64, b: f64, c: f64, d: f64, e: f64, f: f64, g: f64, h: f64,
): void {
  const right = width - 1;
  const bottom = height - 1;
  const halfWide = <f64>width / 2;
  const halfHigh = <f64>height / 2;
  const farRight = (right << 16) + 32768;
  const farDown = (bottom << 16) + 32768;
  let at: usize = 0;
  for (let row = 0; row < height; row++) {
    const y = <f64>row + 0.5 - halfHigh;
    const bc = b * y + c;
    const ef = e * y + f;
    const h1 = h * y + 1.0;
    let x = 0.5 - halfWide;
    let w = g * x + h1;
    let u = w > 0 ? fixedPlace((a * x + bc) / w + halfWide - 0.5) : fixedPlace(-30000.0);
    let v = w > 0 ? fixedPlace((d * x + ef) / w + halfHigh - 0.5) : fixedPlace(-30000.0);
    for (let column = 0; column < width; column += 16) {
      x += 16.0;
      w = g * x + h1;
      const nextU = w > 0 ? fixedPlace((a * x + bc) / w + halfWide - 0.5) : fixedPlace(-30000.0);
      const nextV = w > 0 ? fixedPlace((d * x + ef) / w + halfHigh - 0.5) : fixedPlace(-30000.0);
      const stepU = (nextU - u) >> 4;
      const stepV = (nextV - v) >> 4;
      const end = min(column + 16, width);
      for (let k = column; k < end; k++, at++, u += stepU, v += stepV) {
        if (u <= -32768 || v <= -32768 || u >= farRight || v >= farDown) {
          store<u8>(dst + at, below ? load<u8>(below + at) : load<u8>(src + <usize>(nearest(v, bottom) * width + nearest(u, right))));
          continue;
        }
        const left = u >> 16;
        const top = v >> 16;
        const across = weights + <usize>(((u >> 8) & 255) << 4);
        const down = weights + <usize>(((v >> 8) & 255) << 4);
        let sum: i32 = 1 << 21;
        if (left >= 1 && top >= 1 && left + 2 <= right && top + 2 <= bottom) {
          const taps = v128.load(across);
          const from = src + <usize>((top - 1) * width + left - 1);
          const p = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(v128.load32_zero(from)), taps);
          const q = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(v128.load32_zero(from + width)), taps);
          const r = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(v128.load32_zero(from + 2 * width)), taps);
          const s = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(v128.load32_zero(from + 3 * width)), taps);
          const upper = v128.shuffle<i32>(p, q, 0, 4, 1, 5);
          const lower = v128.shuffle<i32>(r, s, 0, 4, 1, 5);
          const halves = i32x4.add(v128.shuffle<i32>(upper, lower, 0, 1, 4, 5), v128.shuffle<i32>(upper, lower, 2, 3, 6, 7));
          const lines = i32x4.shr_s(i32x4.add(halves, i32x4.splat(32)), 6);
          const parts = i32x4.mul(lines, i32x4.extend_low_i16x8_s(v128.load64_zero(down)));
          const pairs = i32x4.add(parts, v128.shuffle<i32>(parts, parts, 2, 3, 0, 1));
          sum += i32x4.extract_lane(pairs, 0) + i32x4.extract_lane(pairs, 1);
        } else {
          for (let j = 0; j < 4; j++) {
            const from = src + <usize>(min(max(top - 1 + j, 0), bottom) * width);
            let line: i32 = 32;
            for (let i = 0; i < 4; i++)
              line += <i32>load<i16>(across + <usize>(2 * i)) * <i32>load<u8>(from + <usize>min(max(left - 1 + i, 0), right));
            sum += (line >> 6) * <i32>load<i16>(down + <usize>(2 * j));
          }
        }
        store<u8>(dst + at, <u8>min(max(sum >> 22, 0), 255));
      }
      u = nextU;
      v = nextV;
    }
  }
}
