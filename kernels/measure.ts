// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version of this search stands in
// src/core/measure/blocks.ts; a parity test holds them together.

/** Numbers of one block, f64: x, y, guess x, guess y, inverse (3), energy, tx, ty; then what was found: dx, dy, fit (-2 for none). */
const HEAD: usize = 13 * 8;

/** Four bytes as floats. */
@inline
function four(at: usize): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at))));
}

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
 * their numbers, `values` template, gx and gy of each, one after another; `rows` is scratch of size·(size+3) floats.
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
        for (let i = 0; i < size; i += 4) {
          const at = line + <usize>i;
          const sum = f32x4.add(
            f32x4.add(f32x4.mul(h0, four(at)), f32x4.mul(h1, four(at + 1))),
            f32x4.add(f32x4.mul(h2, four(at + 2)), f32x4.mul(h3, four(at + 3))),
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
