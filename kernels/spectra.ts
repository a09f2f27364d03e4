// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/song/band-sums.ts; a parity
// test holds them together.

/** Bytes of a complex value of four transforms: the real parts, then the imaginary ones. */
const VALUE = 32;

/** A sample of four windows of sound that lie one after the other, each of `window` bytes. */
@inline
function ofFour(at: usize, window: usize): v128 {
  let four = v128.load32_splat(at);
  four = v128.load32_lane(at + window, four, 1);
  four = v128.load32_lane(at + 2 * window, four, 2);
  return v128.load32_lane(at + 3 * window, four, 3);
}

/** The transform of `size` complex values whose places have their bits reversed, in place (Press et al. 1992, 12.2). */
@inline
function transform(values: usize, size: i32, turns: usize): void {
  const end = values + <usize>(size * VALUE);
  for (let half = 1; half < size; half <<= 1) {
    const reach = <usize>(half * VALUE);
    const step = <usize>((size / (2 * half)) << 3);
    for (let from = values; from < end; from += 2 * reach) {
      let turn = turns;
      for (let at = from; at < from + reach; at += VALUE) {
        const c = v128.load32_splat(turn);
        const s = v128.load32_splat(turn, 4);
        const far = at + reach;
        const re = v128.load(far);
        const im = v128.load(far, 16);
        const x = f32x4.sub(f32x4.mul(re, c), f32x4.mul(im, s));
        const y = f32x4.add(f32x4.mul(re, s), f32x4.mul(im, c));
        const u = v128.load(at);
        const v = v128.load(at, 16);
        v128.store(at, f32x4.add(u, x));
        v128.store(at, f32x4.add(v, y), 16);
        v128.store(far, f32x4.sub(u, x));
        v128.store(far, f32x4.sub(v, y), 16);
        turn += step;
      }
    }
  }
}

/** Power of four values, or magnitude. */
@inline
function strength(re: v128, im: v128, root: i32): v128 {
  const power = f32x4.mul(f32x4.splat(0.25), f32x4.add(f32x4.mul(re, re), f32x4.mul(im, im)));
  return root ? f32x4.sqrt(power) : power;
}

/** A value of each of four windows into their rows of `row` bytes. */
@inline
function intoRows(four: v128, out: usize, row: usize): void {
  v128.store32_lane(out, four, 0);
  v128.store32_lane(out + row, four, 1);
  v128.store32_lane(out + 2 * row, four, 2);
  v128.store32_lane(out + 3 * row, four, 3);
}

/**
 * Sums over `count` bands of the spectra (powers, or magnitudes if `root`) of eight windows of `length` samples under the weights `hann`,
 * and after them the mean of the squares of the samples as they are: a row of `count` + 1 floats for each window. Four windows are the real
 * parts of four transforms, four their imaginary ones. `places` holds the place of each sample with its bits reversed, `turns` cosine and
 * sine of each of size / 2 turns, `firsts` and `counts` the bands' frequencies, `weights` theirs one after another; `values` is scratch of
 * `size` values.
 */
export function bandSums(samples: usize, hann: usize, length: i32, size: i32, places: usize, turns: usize, root: i32, firsts: usize, counts: usize, weights: usize, count: i32, values: usize, out: usize): void {
  memory.fill(values, 0, <usize>(size * VALUE));
  const row = <usize>((count + 1) << 2);
  const window = <usize>(length << 2);
  let square = f32x4.splat(0);
  let otherSquare = f32x4.splat(0);
  for (let i = 0; i < length; i++) {
    const sample = samples + <usize>(i << 2);
    const weight = v128.load32_splat(hann + <usize>(i << 2));
    const at = values + <usize>(load<i32>(places + <usize>(i << 2)) * VALUE);
    const four = ofFour(sample, window);
    const other = ofFour(sample + 4 * window, window);
    square = f32x4.add(square, f32x4.mul(four, four));
    otherSquare = f32x4.add(otherSquare, f32x4.mul(other, other));
    v128.store(at, f32x4.mul(weight, four));
    v128.store(at, f32x4.mul(weight, other), 16);
  }
  const share = f32x4.splat(1 / <f32>length);
  intoRows(f32x4.mul(share, square), out + row - 4, row);
  intoRows(f32x4.mul(share, otherSquare), out + 5 * row - 4, row);
  transform(values, size, turns);
  for (let k = 0; k <= size / 2; k++) {
    const at = values + <usize>(k * VALUE);
    const back = values + <usize>((k == 0 ? 0 : size - k) * VALUE);
    const re = f32x4.add(v128.load(at), v128.load(back));
    const im = f32x4.sub(v128.load(at, 16), v128.load(back, 16));
    const otherRe = f32x4.add(v128.load(at, 16), v128.load(back, 16));
    const otherIm = f32x4.sub(v128.load(back), v128.load(at));
    v128.store(at, strength(re, im, root));
    v128.store(at, strength(otherRe, otherIm, root), 16);
  }
  for (let b = 0; b < count; b++) {
    let at = values + <usize>(load<i32>(firsts + <usize>(b << 2)) * VALUE);
    let sum = f32x4.splat(0);
    let otherSum = f32x4.splat(0);
    for (let left = load<i32>(counts + <usize>(b << 2)); left > 0; left--) {
      const weight = v128.load32_splat(weights);
      sum = f32x4.add(sum, f32x4.mul(weight, v128.load(at)));
      otherSum = f32x4.add(otherSum, f32x4.mul(weight, v128.load(at, 16)));
      weights += 4;
      at += VALUE;
    }
    intoRows(sum, out + <usize>(b << 2), row);
    intoRows(otherSum, out + 4 * row + <usize>(b << 2), row);
  }
}
