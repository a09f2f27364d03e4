// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/song/layer.ts; a parity test holds
// them together.

/**
 * Four outputs at a time of a layer along `count` rows of `width` floats: bias, and the weights of the rows from there on, `taps` of them
 * `apart` from one another. `weights` are by four outputs, tap and input; `input` has the rows beyond the last one too.
 */
export function layer(input: usize, width: i32, count: i32, weights: usize, bias: usize, fours: i32, taps: i32, apart: i32, out: usize): void {
  const row = <usize>(width << 2);
  for (let four = 0; four < fours; four++) {
    const first = v128.load(bias + <usize>(four << 4));
    const own = weights + <usize>((four * taps * width) << 4);
    for (let b = 0; b < count; b++) {
      let sum = first;
      let other = f32x4.splat(0);
      let weight = own;
      for (let t = 0; t < taps; t++) {
        let at = input + <usize>(b + t * apart) * row;
        const last = at + row - 4;
        for (; at < last; at += 8) {
          sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(at), v128.load(weight)));
          other = f32x4.add(other, f32x4.mul(v128.load32_splat(at, 4), v128.load(weight, 16)));
          weight += 32;
        }
        if (at == last) {
          sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(at), v128.load(weight)));
          weight += 16;
        }
      }
      v128.store(out + <usize>((b * fours + four) << 4), f32x4.add(sum, other));
    }
  }
}
