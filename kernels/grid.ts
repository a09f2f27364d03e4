// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/measure/grid.ts; a parity test holds
// them together.
import { four } from './lanes';

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
function joined(bytes: usize, further: usize, n: usize): void {
  for (let i: usize = 0; i < n; i += 16) v128.store(bytes + i, v128.or(v128.load(bytes + i), v128.load(bytes + i + further)));
}

/** Joins each byte with the `window`-1 ones that follow it `apart` by `apart`, over twice as many with each round. */
function reached(bytes: usize, size: usize, apart: usize, window: i32): void {
  let length = 1;
  for (; 2 * length <= window; length *= 2) joined(bytes, <usize>length * apart, size - <usize>length * apart);
  const rest = <usize>(window - length) * apart;
  if (rest) joined(bytes, rest, size - rest);
}

/** Copies `n` bytes, each the other of 0 and 1 where `flip` is 1. */
@inline
function copied(from: usize, to: usize, n: i32, flip: i32): void {
  const turn = i8x16.splat(<i8>flip);
  let i: usize = 0;
  for (; i + 16 <= <usize>n; i += 16) v128.store(to + i, v128.xor(v128.load(from + i), turn));
  for (; i < <usize>n; i++) store<u8>(to + i, load<u8>(from + i) ^ <u8>flip);
}

/**
 * A mask grown (`by` over 0) or shrunk (under 0) by whole pixels, square-wise; outside counts as what is at the edge. `pad` is scratch of
 * (w + 2·reach + 15)·(h + 2·reach) + 64 bytes. `out` may be the mask itself.
 */
export function grown(mask: usize, w: i32, h: i32, by: i32, pad: usize, out: usize): void {
  const reach = abs(by);
  const flip = by < 0 ? 1 : 0;
  const stride = (w + 2 * reach + 15) & ~15;
  const size = <usize>(stride * (h + 2 * reach));
  memory.fill(pad, 0, size + 64);
  for (let y = 0; y < h; y++) copied(mask + <usize>(y * w), pad + <usize>((y + reach) * stride + reach), w, flip);
  // Each byte now holds what is within reach of the one that far below it and to its right: the first stands for the mask's first.
  reached(pad, size, 1, 2 * reach + 1);
  reached(pad, size, <usize>stride, 2 * reach + 1);
  for (let y = 0; y < h; y++) copied(pad + <usize>(y * stride), out + <usize>(y * w), w, flip);
}

/** Bytes as floats; up to three more than `n` are written. */
export function floats(bytes: usize, out: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i += 4) v128.store(out + (i << 2), four(bytes + i));
}

/** How far each byte is off another one, as floats; up to three more than `n` are written. */
export function changes(a: usize, b: usize, out: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i += 4) v128.store(out + (i << 2), f32x4.abs(f32x4.sub(four(a + i), four(b + i))));
}

/**
 * Evens bytes in place: each goes `kept` of its way to the one before, all of it while the change stays under `limit`, none from twice that on.
 * Up to three more than `n` are written.
 */
export function evened(now: usize, before: usize, change: usize, limit: f32, kept: f32, n: i32): void {
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const own = four(now + i);
    const old = four(before + i);
    const still = f32x4.max(zero, f32x4.min(one, f32x4.sub(f32x4.splat(2), f32x4.div(v128.load(change + (i << 2)), f32x4.splat(limit)))));
    const value = f32x4.add(own, f32x4.mul(f32x4.mul(f32x4.splat(kept), still), f32x4.sub(old, own)));
    const whole = i32x4.trunc_sat_f32x4_s(f32x4.add(value, f32x4.splat(0.5)));
    const half = i16x8.narrow_i32x4_s(whole, whole);
    v128.store32_lane(now + i, i8x16.narrow_i16x8_u(half, half), 0);
  }
}
