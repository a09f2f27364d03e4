// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain versions of these two passes stand in
// src/core/picture/resample.ts; a parity test holds them together.

/** Edge pixels repeated on each side of the row buffer, so that the inner loop needs no bounds. */
const PAD: i32 = 64;

@inline
function narrow(a: v128, b: v128): v128 {
  const round = i32x4.splat(1 << 13);
  const x = i32x4.shr_s(i32x4.add(a, round), 14);
  const y = i32x4.shr_s(i32x4.add(b, round), 14);
  return i16x8.narrow_i32x4_s(x, y);
}

/** Four neighbouring outputs of the horizontal pass, not yet rounded. */
@inline
function quad(from: usize, weights: usize, f0: i32, step: i32): v128 {
  const f1 = f0 + step;
  const f2 = f1 + step;
  const f3 = f2 + step;
  let p = v128.load32_zero(from + <usize>(f0 >> 16));
  p = v128.load32_lane(from + <usize>(f1 >> 16), p, 1);
  let q = v128.load32_zero(from + <usize>(f2 >> 16));
  q = v128.load32_lane(from + <usize>(f3 >> 16), q, 1);
  let wp = v128.load64_zero(weights + (<usize>(f0 >> 5) & 2040));
  wp = v128.load64_lane(weights + (<usize>(f1 >> 5) & 2040), wp, 1);
  let wq = v128.load64_zero(weights + (<usize>(f2 >> 5) & 2040));
  wq = v128.load64_lane(weights + (<usize>(f3 >> 5) & 2040), wq, 1);
  const a = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(p), wp);
  const b = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(q), wq);
  return i32x4.add(v128.shuffle<i32>(a, b, 0, 2, 4, 6), v128.shuffle<i32>(a, b, 1, 3, 5, 7));
}

/**
 * Horizontal cubic pass, four taps: for each row, output x reads around `fixed` / 65536 in the source row.
 * `row` is scratch of sw + 2·PAD bytes; `weights` holds 256 phases of four i16.
 */
export function horizontal(src: usize, sw: i32, rowFirst: i32, rows: i32, x0: i32, width: i32, dst: usize, weights: usize, row: usize, perX: f64, perRow: f64, base: f64): void {
  const step = <i32>Math.round(perX * 65536);
  const low = -PAD << 16;
  const high = (sw + PAD - 5) << 16;
  for (let r = 0; r < rows; r++) {
    const line = src + <usize>((rowFirst + r) * sw);
    memory.fill(row, load<u8>(line), PAD);
    memory.copy(row + PAD, line, sw);
    memory.fill(row + PAD + sw, load<u8>(line + sw - 1), PAD);
    let fixed = <i32>Math.round((base + perRow * <f64>(rowFirst + r) + perX * <f64>x0) * 65536);
    const out = dst + <usize>(r * width);
    const from = row + PAD - 1;
    let x = 0;
    if (fixed > low && fixed < high && fixed + width * step > low && fixed + width * step < high) {
      for (; x + 8 <= width; x += 8) {
        const first = quad(from, weights, fixed, step);
        const second = quad(from, weights, fixed + 4 * step, step);
        fixed += 8 * step;
        const half = narrow(first, second);
        v128.store64_lane(out + <usize>x, i8x16.narrow_i16x8_u(half, half), 0);
      }
    }
    for (; x < width; x++) {
      const f = min(max(fixed, low + 65536), high);
      fixed += step;
      const at = from + <usize>(f >> 16);
      const w = weights + ((<usize>(f >> 8) & 255) << 3);
      let sum: i32 = 1 << 13;
      for (let k: usize = 0; k < 4; k++) sum += <i32>load<u8>(at + k) * <i32>load<i16>(w + (k << 1));
      store<u8>(out + <usize>x, <u8>min(max(sum >> 14, 0), 255));
    }
  }
}

/** Vertical cubic pass, four taps, eight columns at a time with one phase: for turns too small to matter within eight pixels. */
export function vertical(src: usize, width: i32, rows: i32, dst: usize, ow: i32, x0: i32, y0: i32, y1: i32, weights: usize, d: f64, e: f64, offset: f64): void {
  const last = rows - 1;
  for (let y = y0; y < y1; y++) {
    const start = (e * <f64>y + offset + d * <f64>x0) * 65536;
    const out = dst + <usize>(y * ow + x0);
    for (let x = 0; x < width; x += 8) {
      const columns = min(8, width - x);
      const fixed = <i32>Math.round(start + d * (<f64>x + <f64>(columns - 1) * 0.5) * 65536);
      const i = (fixed >> 16) - 1;
      const w = weights + ((<usize>(fixed >> 8) & 255) << 3);
      const r0 = src + <usize>(min(max(i, 0), last) * width + x);
      const r1 = src + <usize>(min(max(i + 1, 0), last) * width + x);
      const r2 = src + <usize>(min(max(i + 2, 0), last) * width + x);
      const r3 = src + <usize>(min(max(i + 3, 0), last) * width + x);
      if (columns == 8) {
        const w01 = v128.load32_splat(w);
        const w23 = v128.load32_splat(w + 4);
        const a = v128.load64_zero(r0);
        const b = v128.load64_zero(r1);
        const c = v128.load64_zero(r2);
        const g = v128.load64_zero(r3);
        const ab = v128.shuffle<u8>(a, b, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
        const cg = v128.shuffle<u8>(c, g, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
        const lo = i32x4.add(i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(ab), w01), i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(cg), w23));
        const hi = i32x4.add(i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(ab), w01), i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(cg), w23));
        const half = narrow(lo, hi);
        v128.store64_lane(out + <usize>x, i8x16.narrow_i16x8_u(half, half), 0);
      } else {
        for (let k: usize = 0; k < <usize>columns; k++) {
          const sum = (1 << 13) + <i32>load<u8>(r0 + k) * <i32>load<i16>(w) + <i32>load<u8>(r1 + k) * <i32>load<i16>(w + 2) + <i32>load<u8>(r2 + k) * <i32>load<i16>(w + 4) + <i32>load<u8>(r3 + k) * <i32>load<i16>(w + 6);
          store<u8>(out + <usize>x + k, <u8>min(max(sum >> 14, 0), 255));
        }
      }
    }
  }
}

@inline
function code(value: f32): u8 {
  return <u8>min(max(<i32>value, 0), 255);
}

/** The lowest four bytes as floats. */
@inline
function floats(bytes: v128): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(bytes)));
}

/** Eight floats to bytes, cut to 0..255; fractions are dropped, so a half has been added before. */
@inline
function codes(a: v128, b: v128): v128 {
  const both = i16x8.narrow_i32x4_s(i32x4.trunc_sat_f32x4_s(a), i32x4.trunc_sat_f32x4_s(b));
  return i8x16.narrow_i16x8_u(both, both);
}

/** A 3×4 colour matrix (twelve f32 at `m`) over 4:2:0 planes in place, columns `x0` to `x1` of rows `from` to `to` (all even). */
export function recolour(y: usize, u: usize, v: usize, width: i32, x0: i32, x1: i32, from: i32, to: i32, m: usize): void {
  const half = width >> 1;
  const m0 = load<f32>(m), m1 = load<f32>(m, 4), m2 = load<f32>(m, 8), m3 = load<f32>(m, 12) + 0.5;
  const m4 = load<f32>(m, 16), m5 = load<f32>(m, 20), m6 = load<f32>(m, 24), m7 = load<f32>(m, 28) + 0.5;
  const m8 = load<f32>(m, 32), m9 = load<f32>(m, 36), ma = load<f32>(m, 40), mb = load<f32>(m, 44) + 0.5;
  for (let row = from; row < to; row += 2) {
    const line = y + <usize>(row * width);
    const chroma = <usize>((row >> 1) * half);
    const last = x1 >> 1;
    let x = x0 >> 1;
    for (; x + 4 <= last; x += 4) {
      const k = chroma + <usize>x;
      const cu = floats(v128.load32_zero(u + k));
      const cv = floats(v128.load32_zero(v + k));
      const add = f32x4.add(f32x4.add(f32x4.mul(f32x4.splat(m1), cu), f32x4.mul(f32x4.splat(m2), cv)), f32x4.splat(m3));
      const near = v128.shuffle<f32>(add, add, 0, 0, 1, 1);
      const far = v128.shuffle<f32>(add, add, 2, 2, 3, 3);
      const at = line + <usize>(2 * x);
      const below = at + <usize>width;
      const a = v128.load64_zero(at);
      const b = v128.load64_zero(below);
      const gain = f32x4.splat(m0);
      v128.store64_lane(at, codes(f32x4.add(f32x4.mul(gain, floats(a)), near), f32x4.add(f32x4.mul(gain, floats(v128.shuffle<i32>(a, a, 1, 1, 1, 1))), far)), 0);
      v128.store64_lane(below, codes(f32x4.add(f32x4.mul(gain, floats(b)), near), f32x4.add(f32x4.mul(gain, floats(v128.shuffle<i32>(b, b, 1, 1, 1, 1))), far)), 0);
      const sums = i16x8.add(i16x8.extend_low_i8x16_u(a), i16x8.extend_low_i8x16_u(b));
      const mean = f32x4.mul(f32x4.convert_i32x4_s(i32x4.extadd_pairwise_i16x8_s(sums)), f32x4.splat(0.25));
      const nu = f32x4.add(f32x4.add(f32x4.mul(f32x4.splat(m4), mean), f32x4.mul(f32x4.splat(m5), cu)), f32x4.add(f32x4.mul(f32x4.splat(m6), cv), f32x4.splat(m7)));
      const nv = f32x4.add(f32x4.add(f32x4.mul(f32x4.splat(m8), mean), f32x4.mul(f32x4.splat(m9), cu)), f32x4.add(f32x4.mul(f32x4.splat(ma), cv), f32x4.splat(mb)));
      v128.store32_lane(u + k, codes(nu, nu), 0);
      v128.store32_lane(v + k, codes(nv, nv), 0);
    }
    for (; x < last; x++) {
      const k = <usize>((row >> 1) * half + x);
      const at = y + <usize>(row * width + 2 * x);
      const below = at + <usize>width;
      const cu = <f32>load<u8>(u + k);
      const cv = <f32>load<u8>(v + k);
      const a = <f32>load<u8>(at), b = <f32>load<u8>(at + 1), c = <f32>load<u8>(below), d = <f32>load<u8>(below + 1);
      const add = m1 * cu + m2 * cv + m3;
      const mean = (a + b + c + d) * 0.25;
      store<u8>(at, code(m0 * a + add));
      store<u8>(at + 1, code(m0 * b + add));
      store<u8>(below, code(m0 * c + add));
      store<u8>(below + 1, code(m0 * d + add));
      store<u8>(u + k, code(m4 * mean + m5 * cu + m6 * cv + m7));
      store<u8>(v + k, code(m8 * mean + m9 * cu + ma * cv + mb));
    }
  }
}

@inline
function mirrored(i: i32, size: i32): i32 {
  const period = 2 * size;
  let k = i % period;
  if (k < 0) k += period;
  return k < size ? k : period - 1 - k;
}

/** A plane with each row followed by itself turned round, so that a mirrored row is read straight on. */
export function tile(src: usize, sw: i32, sh: i32, dst: usize): void {
  for (let y = 0; y < sh; y++) {
    const from = src + <usize>(y * sw);
    const to = dst + <usize>(2 * y * sw);
    memory.copy(to, from, sw);
    for (let x = 0; x < sw; x++) store<u8>(to + <usize>(2 * sw - 1 - x), load<u8>(from + <usize>x));
  }
}

/** Adds a tiled plane moved by whole pixels to 16-bit sums: output (x, y) reads source (x + x0, y + y0), mirrored at the edges. */
export function addShifted(tiled: usize, sw: i32, sh: i32, dst: usize, ow: i32, oh: i32, x0: i32, y0: i32): void {
  const tw = 2 * sw;
  let start = x0 % tw;
  if (start < 0) start += tw;
  for (let y = 0; y < oh; y++) {
    const row = tiled + <usize>(mirrored(y + y0, sh) * tw);
    let to = dst + <usize>(2 * y * ow);
    let at = start;
    let left = ow;
    while (left > 0) {
      const run = min(left, tw - at);
      let from = row + <usize>at;
      let x = 0;
      for (; x + 16 <= run; x += 16) {
        const bytes = v128.load(from);
        v128.store(to, i16x8.add(v128.load(to), i16x8.extend_low_i8x16_u(bytes)));
        v128.store(to, i16x8.add(v128.load(to, 16), i16x8.extend_high_i8x16_u(bytes)), 16);
        from += 16;
        to += 32;
      }
      for (; x < run; x++) {
        store<u16>(to, load<u16>(to) + <u16>load<u8>(from));
        from += 1;
        to += 2;
      }
      left -= run;
      at = 0;
    }
  }
}

/** First and one past the last x in 0..n for which 0 <= start + x·step < size, as far as can be told without rounding errors. */
@inline
function firstInside(start: f64, step: f64, size: i32, n: i32): i32 {
  if (Math.abs(step) < 1e-9) return start >= 0 && start < <f64>size ? 0 : n;
  const p = -start / step;
  const q = (<f64>size - start) / step;
  return <i32>max(0.0, min(<f64>n, Math.ceil(min(p, q)) + 1.0));
}
@inline
function lastInside(start: f64, step: f64, size: i32, n: i32): i32 {
  if (Math.abs(step) < 1e-9) return start >= 0 && start < <f64>size ? n : 0;
  const p = -start / step;
  const q = (<f64>size - start) / step;
  return <i32>max(0.0, min(<f64>n, Math.floor(max(p, q)) - 1.0));
}

@inline
function addNearest(src: usize, sw: i32, sh: i32, to: usize, u: f64, v: f64): void {
  const i = <i32>Math.floor(u);
  const j = <i32>Math.floor(v);
  const p = i >= 0 && i < sw ? i : mirrored(i, sw);
  const q = j >= 0 && j < sh ? j : mirrored(j, sh);
  store<u16>(to, load<u16>(to) + <u16>load<u8>(src + <usize>(q * sw + p)));
}

/** Adds the source pixel nearest to each output pixel under any affine map, mirrored at the edges. Source sides below 8192. */
export function addMapped(src: usize, sw: i32, sh: i32, dst: usize, ow: i32, oh: i32, a: f64, b: f64, c: f64, d: f64, e: f64, f: f64): void {
  const du = <i32>Math.round(a * 262144);
  const dv = <i32>Math.round(d * 262144);
  for (let y = 0; y < oh; y++) {
    const u = a * 0.5 + b * (<f64>y + 0.5) + c;
    const v = d * 0.5 + e * (<f64>y + 0.5) + f;
    const row = dst + <usize>(2 * y * ow);
    const from = max(firstInside(u, a, sw, ow), firstInside(v, d, sh, ow));
    const end = max(from, min(lastInside(u, a, sw, ow), lastInside(v, d, sh, ow)));
    for (let x = 0; x < from; x++) addNearest(src, sw, sh, row + <usize>(2 * x), u + a * <f64>x, v + d * <f64>x);
    let i = <i32>Math.floor((u + a * <f64>from) * 262144);
    let j = <i32>Math.floor((v + d * <f64>from) * 262144);
    let to = row + <usize>(2 * from);
    for (let x = from; x < end; x++) {
      store<u16>(to, load<u16>(to) + <u16>load<u8>(src + <usize>((j >> 18) * sw + (i >> 18))));
      i += du;
      j += dv;
      to += 2;
    }
    for (let x = end; x < ow; x++) addNearest(src, sw, sh, row + <usize>(2 * x), u + a * <f64>x, v + d * <f64>x);
  }
}

/** One output pixel of a cubic filter of 4×4 taps at the sample (u, v), indices mirrored or held at the edges. */
@inline
function cubicAt(src: usize, sw: i32, sh: i32, u: f64, v: f64, weights: usize, mirror: i32): u8 {
  const x0 = <i32>Math.floor(u);
  const y0 = <i32>Math.floor(v);
  const wx = weights + (<usize>((u - <f64>x0) * 256.0) << 3);
  const wy = weights + (<usize>((v - <f64>y0) * 256.0) << 3);
  let sum: f32 = 0;
  for (let k = 0; k < 4; k++) {
    const q = y0 - 1 + k;
    const line = mirror ? mirrored(q, sh) : min(max(q, 0), sh - 1);
    let across: f32 = 0;
    for (let m = 0; m < 4; m++) {
      const p = x0 - 1 + m;
      const column = mirror ? mirrored(p, sw) : min(max(p, 0), sw - 1);
      across += <f32>load<u8>(src + <usize>(line * sw + column)) * <f32>load<i16>(wx + <usize>(2 * m));
    }
    sum += across * <f32>load<i16>(wy + <usize>(2 * k));
  }
  return <u8>min(max(sum * (1.0 / 268435456.0) + 0.5, 0), 255);
}

/**
 * A plane through any affine map by a cubic filter of 4×4 taps (256 phases of four i16 at `weights`), columns `x0` to `x1` of rows `y0` to
 * `y1`; beyond the source mirrored, or its edge held.
 */
export function cubicMapped(src: usize, sw: i32, sh: i32, dst: usize, ow: i32, x0: i32, x1: i32, y0: i32, y1: i32, weights: usize, mirror: i32, a: f64, b: f64, c: f64, d: f64, e: f64, f: f64): void {
  const share = f32x4.splat(1.0 / 268435456.0);
  for (let y = y0; y < y1; y++) {
    const u0 = a * 0.5 + b * (<f64>y + 0.5) + c - 0.5;
    const v0 = d * 0.5 + e * (<f64>y + 0.5) + f - 0.5;
    const row = dst + <usize>(y * ow);
    for (let x = x0; x < x1; x++) {
      const u = u0 + a * <f64>x;
      const v = v0 + d * <f64>x;
      const i = <i32>Math.floor(u);
      const j = <i32>Math.floor(v);
      if (i < 1 || j < 1 || i + 2 >= sw || j + 2 >= sh) {
        store<u8>(row + <usize>x, cubicAt(src, sw, sh, u, v, weights, mirror));
        continue;
      }
      const from = src + <usize>((j - 1) * sw + i - 1);
      const wx = v128.load64_splat(weights + (<usize>((u - <f64>i) * 256.0) << 3));
      const wy = f32x4.convert_i32x4_s(v128.load16x4_s(weights + (<usize>((v - <f64>j) * 256.0) << 3)));
      let p = v128.load32_zero(from);
      p = v128.load32_lane(from + <usize>sw, p, 1);
      let q = v128.load32_zero(from + <usize>(2 * sw));
      q = v128.load32_lane(from + <usize>(3 * sw), q, 1);
      const g = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(p), wx);
      const h = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(q), wx);
      const lines = i32x4.add(v128.shuffle<i32>(g, h, 0, 2, 4, 6), v128.shuffle<i32>(g, h, 1, 3, 5, 7));
      const parts = f32x4.mul(f32x4.mul(f32x4.convert_i32x4_s(lines), wy), share);
      const pairs = f32x4.add(parts, v128.shuffle<f32>(parts, parts, 2, 3, 0, 1));
      const sum = f32x4.extract_lane(pairs, 0) + f32x4.extract_lane(pairs, 1);
      store<u8>(row + <usize>x, <u8>min(max(sum + 0.5, 0), 255));
    }
  }
}

/** Sums divided by how many were added, rounded. */
export function mean(sums: usize, count: i32, dst: usize, added: i32): void {
  const share: f32 = 1.0 / <f32>added;
  for (let i = 0; i < count; i++) store<u8>(dst + <usize>i, <u8>(<f32>load<u16>(sums + <usize>(2 * i)) * share + 0.5));
}

/** Entries along each side of a colour table, and bytes from one to the next along each. */
const TABLE_SIDE: i32 = 33;

/** The four entries about a chroma in one slice of a table of four f32 an entry, mixed. */
@inline
function slice(table: usize, i: i32, j: i32, k: i32, fj: v128, fk: v128): v128 {
  const at = table + (<usize>((i * TABLE_SIDE + j) * TABLE_SIDE + k) << 4);
  const a = v128.load(at), b = v128.load(at, 16), c = v128.load(at, 528), d = v128.load(at, 544);
  const near = f32x4.add(a, f32x4.mul(fk, f32x4.sub(b, a)));
  const far = f32x4.add(c, f32x4.mul(fk, f32x4.sub(d, c)));
  return f32x4.add(near, f32x4.mul(fj, f32x4.sub(far, near)));
}

/** 4:2:0 planes through a table of 33 entries a side (four f32 each: Y, Cb, Cr, unused), in place; linear between. The four of a square share their chroma. */
export function throughTable(y: usize, u: usize, v: usize, width: i32, height: i32, table: usize): void {
  const half = width >> 1;
  for (let row = 0; row < height; row += 2) {
    for (let x = 0; x < half; x++) {
      const c = <usize>((row >> 1) * half + x);
      const at = y + <usize>(row * width + 2 * x);
      const below = at + <usize>width;
      const cb = <i32>load<u8>(u + c), cr = <i32>load<u8>(v + c);
      const j = cb >> 3, k = cr >> 3;
      const fj = f32x4.splat(<f32>(cb & 7) * 0.125), fk = f32x4.splat(<f32>(cr & 7) * 0.125);
      const p = <i32>load<u8>(at), q = <i32>load<u8>(at, 1), r = <i32>load<u8>(below), s = <i32>load<u8>(below, 1);
      const m = (p + q + r + s + 2) >> 2;
      let i = p >> 3;
      let low = slice(table, i, j, k, fj, fk), rise = f32x4.sub(slice(table, i + 1, j, k, fj, fk), low);
      store<u8>(at, code(f32x4.extract_lane(low, 0) + <f32>(p & 7) * 0.125 * f32x4.extract_lane(rise, 0) + 0.5));
      if (q >> 3 != i) {
        i = q >> 3;
        low = slice(table, i, j, k, fj, fk);
        rise = f32x4.sub(slice(table, i + 1, j, k, fj, fk), low);
      }
      store<u8>(at, code(f32x4.extract_lane(low, 0) + <f32>(q & 7) * 0.125 * f32x4.extract_lane(rise, 0) + 0.5), 1);
      if (r >> 3 != i) {
        i = r >> 3;
        low = slice(table, i, j, k, fj, fk);
        rise = f32x4.sub(slice(table, i + 1, j, k, fj, fk), low);
      }
      store<u8>(below, code(f32x4.extract_lane(low, 0) + <f32>(r & 7) * 0.125 * f32x4.extract_lane(rise, 0) + 0.5));
      if (s >> 3 != i) {
        i = s >> 3;
        low = slice(table, i, j, k, fj, fk);
        rise = f32x4.sub(slice(table, i + 1, j, k, fj, fk), low);
      }
      store<u8>(below, code(f32x4.extract_lane(low, 0) + <f32>(s & 7) * 0.125 * f32x4.extract_lane(rise, 0) + 0.5), 1);
      if (m >> 3 != i) {
        i = m >> 3;
        low = slice(table, i, j, k, fj, fk);
        rise = f32x4.sub(slice(table, i + 1, j, k, fj, fk), low);
      }
      const mixed = f32x4.add(low, f32x4.mul(rise, f32x4.splat(<f32>(m & 7) * 0.125)));
      store<u8>(u + c, code(f32x4.extract_lane(mixed, 1) + 0.5));
      store<u8>(v + c, code(f32x4.extract_lane(mixed, 2) + 0.5));
    }
  }
}

/** Running mean over 2·reach + 1 bytes along each row, the edge repeated. */
export function boxRows(src: usize, dst: usize, width: i32, height: i32, reach: i32): void {
  // A share in parts of 2^22: sums of up to 255 times the width of the mean stay within 32 bits.
  const share: u32 = ((1 << 22) + reach) / (2 * reach + 1);
  const from = min(reach, width), to = max(from, width - reach - 1);
  for (let y = 0; y < height; y++) {
    const line = src + <usize>(y * width);
    const out = dst + <usize>(y * width);
    const last = line + <usize>(width - 1);
    let sum: u32 = <u32>load<u8>(line) * (reach + 1);
    for (let k = 1; k <= reach; k++) sum += <u32>load<u8>(line + <usize>min(k, width - 1));
    let i = 0;
    for (; i < from; i++) {
      store<u8>(out + <usize>i, <u8>((sum * share + (1 << 21)) >> 22));
      sum += <u32>load<u8>(line + <usize>min(i + reach + 1, width - 1)) - <u32>load<u8>(line);
    }
    for (; i < to; i++) {
      store<u8>(out + <usize>i, <u8>((sum * share + (1 << 21)) >> 22));
      sum += <u32>load<u8>(line + <usize>(i + reach + 1)) - <u32>load<u8>(line + <usize>(i - reach));
    }
    for (; i < width; i++) {
      store<u8>(out + <usize>i, <u8>((sum * share + (1 << 21)) >> 22));
      sum += <u32>load<u8>(last) - <u32>load<u8>(line + <usize>max(i - reach, 0));
    }
  }
}

/** The same down each column, four columns at once; `sums` is room for an i32 a column. */
export function boxColumns(src: usize, dst: usize, width: i32, height: i32, reach: i32, sums: usize): void {
  const share = 1.0 / <f64>(2 * reach + 1);
  const shares = f32x4.splat(<f32>share), half = f32x4.splat(0.5);
  for (let x = 0; x < width; x++) {
    let sum: i32 = <i32>load<u8>(src + <usize>x) * (reach + 1);
    for (let k = 1; k <= reach; k++) sum += <i32>load<u8>(src + <usize>(min(k, height - 1) * width + x));
    store<i32>(sums + (<usize>x << 2), sum);
  }
  for (let y = 0; y < height; y++) {
    const add = src + <usize>(min(y + reach + 1, height - 1) * width);
    const take = src + <usize>(max(y - reach, 0) * width);
    const out = dst + <usize>(y * width);
    let x = 0;
    for (; x + 4 <= width; x += 4) {
      const at = sums + (<usize>x << 2);
      const sum = v128.load(at);
      const mean = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(sum), shares), half);
      v128.store32_lane(out + <usize>x, codes(mean, mean), 0);
      const more = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(add + <usize>x)));
      const less = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(take + <usize>x)));
      v128.store(at, i32x4.add(sum, i32x4.sub(more, less)));
    }
    for (; x < width; x++) {
      const at = sums + (<usize>x << 2);
      const sum = load<i32>(at);
      store<u8>(out + <usize>x, <u8>(<f64>sum * share + 0.5));
      store<i32>(at, sum + <i32>load<u8>(add + <usize>x) - <i32>load<u8>(take + <usize>x));
    }
  }
}
