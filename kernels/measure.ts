// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version of this search stands in
// src/core/measure/blocks.ts; a parity test holds them together.
import { four } from './lanes';

/** Numbers of one block, f64: x, y, guess x, guess y, inverse (3), energy, tx, ty; then what was found: dx, dy, fit (-2 for none). */
const HEAD: usize = 13 * 8;

@inline
function sumOf(v: v128): f64 {
  return <f64>f32x4.extract_lane(v, 0) + <f64>f32x4.extract_lane(v, 1) + <f64>f32x4.extract_lane(v, 2) + <f64>f32x4.extract_lane(v, 3);
}

/** Cubic B-spline weights at phase `t`, one a call. */
@inline
function spline(k: i32, t: f64): f32 {
  const u = 1 - t;
  if (k == 0) return <f32>((u * u * u) / 6);
  if (k == 1) return <f32>((4 - 6 * t * t + 3 * t * t * t) / 6);
  if (k == 2) return <f32>((4 - 6 * u * u + 3 * u * u * u) / 6);
  return <f32>((t * t * t) / 6);
}

/**
 * Each of `count` blocks of `size`×`size` (a multiple of four) followed in a plane by inverse compositional Gauss-Newton. `heads` holds
 * their numbers, `values` template, gx and gy of each, one after another; `rows` is scratch of size·(size+3) + size + 4 floats.
 */
export function follow(luma: usize, width: i32, height: i32, heads: usize, values: usize, count: i32, size: i32, reach: f64, rows: usize): void {
  const n = size * size;
  for (let b = 0; b < count; b++) {
    const head = heads + <usize>b * HEAD;
    const template = values + <usize>(b * 3 * n * 4);
    const gx = template + <usize>(n * 4);
    const gy = gx + <usize>(n * 4);
    const left = load<f64>(head);
    const top = load<f64>(head, 8);
    const guessX = load<f64>(head, 16);
    const guessY = load<f64>(head, 24);
    const energy = load<f64>(head, 56);
    let dx = guessX;
    let dy = guessY;
    let fit: f64 = -2;
    for (let round = 0; round < 8; round++) {
      const x = left + dx;
      const y = top + dy;
      const ix = <i32>Math.floor(x);
      const iy = <i32>Math.floor(y);
      if (ix < 1 || iy < 1 || ix + size + 2 > width || iy + size + 2 > height) {
        fit = -2;
        break;
      }
      const tx = x - <f64>ix;
      const ty = y - <f64>iy;
      const h0 = f32x4.splat(spline(0, tx));
      const h1 = f32x4.splat(spline(1, tx));
      const h2 = f32x4.splat(spline(2, tx));
      const h3 = f32x4.splat(spline(3, tx));
      // Counted from a pixel of the patch, so that single precision holds the small differences that matter.
      const base = f32x4.splat(<f32>load<u8>(luma + <usize>((iy + (size >> 1)) * width + ix + (size >> 1))));
      for (let j = 0; j < size + 3; j++) {
        const line = luma + <usize>((iy - 1 + j) * width + ix - 1);
        const out = rows + <usize>(j * size * 4);
        // The line as floats once, in the room of the row after this one.
        const floats = out + <usize>(size * 4);
        for (let i = 0; i < size + 4; i += 4) v128.store(floats + <usize>(i * 4), four(line + <usize>i));
        for (let i = 0; i < size; i += 4) {
          const at = floats + <usize>(i * 4);
          const sum = f32x4.add(
            f32x4.add(f32x4.mul(h0, v128.load(at)), f32x4.mul(h1, v128.load(at, 4))),
            f32x4.add(f32x4.mul(h2, v128.load(at, 8)), f32x4.mul(h3, v128.load(at, 12))),
          );
          v128.store(out + <usize>(i * 4), f32x4.sub(sum, base));
        }
      }
      const v0 = f32x4.splat(spline(0, ty));
      const v1 = f32x4.splat(spline(1, ty));
      const v2 = f32x4.splat(spline(2, ty));
      const v3 = f32x4.splat(spline(3, ty));
      const line = <usize>(size * 4);
      let sums = f32x4.splat(0);
      let owns = f32x4.splat(0);
      let crosses = f32x4.splat(0);
      let alongX = f32x4.splat(0);
      let alongY = f32x4.splat(0);
      for (let k: usize = 0; k < <usize>(n * 4); k += 16) {
        const at = rows + k;
        const v = f32x4.add(
          f32x4.add(f32x4.mul(v0, v128.load(at)), f32x4.mul(v1, v128.load(at + line))),
          f32x4.add(f32x4.mul(v2, v128.load(at + 2 * line)), f32x4.mul(v3, v128.load(at + 3 * line))),
        );
        sums = f32x4.add(sums, v);
        owns = f32x4.add(owns, f32x4.mul(v, v));
        crosses = f32x4.add(crosses, f32x4.mul(v, v128.load(template + k)));
        alongX = f32x4.add(alongX, f32x4.mul(v, v128.load(gx + k)));
        alongY = f32x4.add(alongY, f32x4.mul(v, v128.load(gy + k)));
      }
      const sum = sumOf(sums);
      const own = sumOf(owns) - (sum * sum) / <f64>n;
      const cross = sumOf(crosses);
      if (own <= 0 || cross <= 0) {
        fit = -2;
        break;
      }
      fit = cross / Math.sqrt(own * energy);
      const gain = energy / cross;
      const ex = sumOf(alongX) * gain - load<f64>(head, 64);
      const ey = sumOf(alongY) * gain - load<f64>(head, 72);
      const stepX = load<f64>(head, 32) * ex + load<f64>(head, 40) * ey;
      const stepY = load<f64>(head, 40) * ex + load<f64>(head, 48) * ey;
      dx -= stepX;
      dy -= stepY;
      if (Math.abs(dx - guessX) > reach || Math.abs(dy - guessY) > reach) {
        fit = -2;
        break;
      }
      if (stepX * stepX + stepY * stepY < 1.6e-3) break;
      if (round == 2 && fit < 0.5) {
        fit = -2;
        break;
      }
    }
    store<f64>(head, dx, 80);
    store<f64>(head, dy, 88);
    store<f64>(head, fit, 96);
  }
}

/**
 * Sums over every `step`th row of a plane, from the middle of the first step on, without their first and last pixels: energy of second
 * differences, brightness, its square, how many pixels are at or above `high`, at or below `low`, and how many there are; f64 each.
 */
export function rowSums(luma: usize, width: i32, height: i32, step: i32, high: i32, low: i32, out: usize): void {
  let fine: f64 = 0;
  let sum: f64 = 0;
  let square: f64 = 0;
  let above: i32 = 0;
  let below: i32 = 0;
  let n: i32 = 0;
  const highest = i8x16.splat(<i8>high);
  const lowest = i8x16.splat(<i8>low);
  for (let y = step >> 1; y < height; y += step) {
    const row = luma + <usize>(y * width);
    let fines = i32x4.splat(0);
    let sums = i32x4.splat(0);
    let squares = i32x4.splat(0);
    let i = 1;
    for (; i + 16 < width; i += 16) {
      const at = row + <usize>i;
      const here = v128.load(at);
      const before = v128.load(at - 1);
      const after = v128.load(at + 1);
      const hereLow = i16x8.extend_low_i8x16_u(here);
      const hereHigh = i16x8.extend_high_i8x16_u(here);
      const first = i16x8.sub(
        i16x8.add(i16x8.extend_low_i8x16_u(before), i16x8.extend_low_i8x16_u(after)),
        i16x8.shl(hereLow, 1),
      );
      const second = i16x8.sub(
        i16x8.add(i16x8.extend_high_i8x16_u(before), i16x8.extend_high_i8x16_u(after)),
        i16x8.shl(hereHigh, 1),
      );
      fines = i32x4.add(fines, i32x4.add(i32x4.dot_i16x8_s(first, first), i32x4.dot_i16x8_s(second, second)));
      squares = i32x4.add(squares, i32x4.add(i32x4.dot_i16x8_s(hereLow, hereLow), i32x4.dot_i16x8_s(hereHigh, hereHigh)));
      sums = i32x4.add(sums, i32x4.extadd_pairwise_i16x8_u(i16x8.extadd_pairwise_i8x16_u(here)));
      above += popcnt(i8x16.bitmask(i8x16.ge_u(here, highest)));
      below += popcnt(i8x16.bitmask(i8x16.le_u(here, lowest)));
    }
    fine += wholeSum(fines);
    square += wholeSum(squares);
    sum += wholeSum(sums);
    for (; i < width - 1; i++) {
      const here = <i32>load<u8>(row + <usize>i);
      const second = <i32>load<u8>(row + <usize>(i - 1)) - 2 * here + <i32>load<u8>(row + <usize>(i + 1));
      fine += <f64>(second * second);
      sum += <f64>here;
      square += <f64>(here * here);
      if (here >= high) above++;
      if (here <= low) below++;
    }
    n += width - 2;
  }
  store<f64>(out, fine);
  store<f64>(out, sum, 8);
  store<f64>(out, square, 16);
  store<f64>(out, <f64>above, 24);
  store<f64>(out, <f64>below, 32);
  store<f64>(out, <f64>n, 40);
}

@inline
function wholeSum(v: v128): f64 {
  return (
    <f64>i32x4.extract_lane(v, 0) + <f64>i32x4.extract_lane(v, 1) + <f64>i32x4.extract_lane(v, 2) + <f64>i32x4.extract_lane(v, 3)
  );
}

/** A plane reduced by a whole factor from 4 on, by four pixels of each box, half a box apart. */
export function thinned(luma: usize, sw: i32, factor: i32, out: usize, width: i32, height: i32): void {
  const start = (factor - 2) >> 2;
  const apart = factor >> 1;
  const below = <usize>(apart * sw);
  const low = i16x8.splat(255);
  const two = i32x4.splat(2);
  for (let y = 0; y < height; y++) {
    let at = luma + <usize>((y * factor + start) * sw + start);
    const to = out + <usize>(y * width);
    let x = 0;
    if (factor == 4) {
      for (; x + 4 <= width; x += 4, at += 16) {
        const a = i32x4.extadd_pairwise_i16x8_u(v128.and(v128.load(at), low));
        const b = i32x4.extadd_pairwise_i16x8_u(v128.and(v128.load(at + below), low));
        const mean = i32x4.shr_u(i32x4.add(i32x4.add(a, b), two), 2);
        const half = i16x8.narrow_i32x4_s(mean, mean);
        v128.store32_lane(to + <usize>x, i8x16.narrow_i16x8_u(half, half), 0);
      }
    }
    for (; x < width; x++, at += <usize>factor) {
      const side = at + <usize>apart;
      const sum = <i32>load<u8>(at) + <i32>load<u8>(side) + <i32>load<u8>(at + below) + <i32>load<u8>(side + below);
      store<u8>(to + <usize>x, (sum + 2) >> 2);
    }
  }
}
