// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/picture/upright.ts;
// a parity test holds them together.

/** Averages boxes of `by`×`by` (2 to 256) bytes; `columns` is scratch of 2·(w·by + 16) bytes. */
export function reduce(src: usize, sw: i32, by: i32, dst: usize, w: i32, h: i32, columns: usize): void {
  const count = w * by;
  const area = by * by;
  const part = (0x100000000 + <u64>area - 1) / <u64>area;
  for (let y = 0; y < h; y++) {
    const out = dst + <usize>(y * w);
    // Down the columns first, sixteen at once.
    for (let x = 0; x < count; x += 16) {
      let at = src + <usize>(y * by * sw + x);
      let low = i16x8.splat(0);
      let high = i16x8.splat(0);
      for (let j = 0; j < by; j++, at += <usize>sw) {
        const v = v128.load(at);
        low = i16x8.add(low, i16x8.extend_low_i8x16_u(v));
        high = i16x8.add(high, i16x8.extend_high_i8x16_u(v));
      }
      v128.store(columns + <usize>(x * 2), low);
      v128.store(columns + <usize>(x * 2), high, 16);
    }
    let x = 0;
    if (by == 2) {
      for (; x + 8 <= w; x += 8) {
        const at = columns + <usize>(x * 4);
        const two = i32x4.splat(2);
        const a = i32x4.shr_u(i32x4.add(i32x4.extadd_pairwise_i16x8_u(v128.load(at)), two), 2);
        const b = i32x4.shr_u(i32x4.add(i32x4.extadd_pairwise_i16x8_u(v128.load(at, 16)), two), 2);
        const means = i16x8.narrow_i32x4_s(a, b);
        v128.store64_lane(out + <usize>x, i8x16.narrow_i16x8_u(means, means), 0);
      }
    } else if (by == 3) {
      for (; x + 8 <= w; x += 8) {
        const at = columns + <usize>(x * 6);
        const a = v128.load(at);
        const b = v128.load(at, 16);
        const c = v128.load(at, 32);
        // Every third of 24 sums, three times.
        const first = v128.shuffle<i16>(v128.shuffle<i16>(a, b, 0, 3, 6, 9, 12, 15, 0, 0), c, 0, 1, 2, 3, 4, 5, 10, 13);
        const second = v128.shuffle<i16>(v128.shuffle<i16>(a, b, 1, 4, 7, 10, 13, 0, 0, 0), c, 0, 1, 2, 3, 4, 8, 11, 14);
        const third = v128.shuffle<i16>(v128.shuffle<i16>(a, b, 2, 5, 8, 11, 14, 0, 0, 0), c, 0, 1, 2, 3, 4, 9, 12, 15);
        const sums = i16x8.add(i16x8.add(first, second), i16x8.add(third, i16x8.splat(4)));
        // A ninth: exact for sums of nine bytes.
        const ninth = i16x8.splat(7282);
        const low = i32x4.shr_u(i32x4.extmul_low_i16x8_u(sums, ninth), 16);
        const high = i32x4.shr_u(i32x4.extmul_high_i16x8_u(sums, ninth), 16);
        const means = i16x8.narrow_i32x4_s(low, high);
        v128.store64_lane(out + <usize>x, i8x16.narrow_i16x8_u(means, means), 0);
      }
    } else if (by == 4) {
      for (; x + 4 <= w; x += 4) {
        const at = columns + <usize>(x * 8);
        const a = i32x4.extadd_pairwise_i16x8_u(v128.load(at));
        const b = i32x4.extadd_pairwise_i16x8_u(v128.load(at, 16));
        const sums = i32x4.add(v128.shuffle<i32>(a, b, 0, 2, 4, 6), v128.shuffle<i32>(a, b, 1, 3, 5, 7));
        const means = i32x4.shr_u(i32x4.add(sums, i32x4.splat(8)), 4);
        const half = i16x8.narrow_i32x4_s(means, means);
        v128.store32_lane(out + <usize>x, i8x16.narrow_i16x8_u(half, half), 0);
      }
    }
    for (; x < w; x++) {
      let sum: u32 = <u32>area >> 1;
      const at = columns + <usize>(x * by * 2);
      for (let i = 0; i < by; i++) sum += <u32>load<u16>(at + <usize>(i * 2));
      // Exact while sum times area is under 2 to the 32nd.
      store<u8>(out + <usize>x, by <= 64 ? <u8>((<u64>sum * part) >> 32) : <u8>(sum / <u32>area));
    }
  }
}
