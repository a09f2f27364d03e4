// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/measure/own-colour.ts; a parity test
// holds them together.

/** Bytes that the sums of one place take: of Y, U, V and their squares, of the share, and one that is not used. */
const PLACE: usize = 32;

/** Sums over the four pixels of each place, of those in `core`: w by h places, a mask and a brightness twice as wide and high. */
function summed(y: usize, u: usize, v: usize, core: usize, width: i32, w: i32, h: i32, sums: usize): void {
  const below = <usize>width;
  for (let row = 0; row < h; row++) {
    let i = <usize>(2 * row * width);
    for (let x = 0; x < w; x++, i += 2, sums += PLACE) {
      const at = core + i;
      const a = <f32>load<u8>(at);
      const b = <f32>load<u8>(at, 1);
      const c = <f32>load<u8>(at + below);
      const d = <f32>load<u8>(at + below, 1);
      const n = (a + b + c + d) / 4;
      if (n == 0) {
        v128.store(sums, f32x4.splat(0));
        v128.store(sums, f32x4.splat(0), 16);
        continue;
      }
      const here = y + i;
      const p = a * <f32>load<u8>(here);
      const q = b * <f32>load<u8>(here, 1);
      const r = c * <f32>load<u8>(here + below);
      const s = d * <f32>load<u8>(here + below, 1);
      const j = <usize>(row * w + x);
      const blue = <f32>load<u8>(u + j);
      const red = <f32>load<u8>(v + j);
      store<f32>(sums, (p + q + r + s) / 4);
      store<f32>(sums, n * blue, 4);
      store<f32>(sums, n * red, 8);
      store<f32>(sums, (p * p + q * q + r * r + s * s) / 4, 12);
      store<f32>(sums, n * blue * blue, 16);
      store<f32>(sums, n * red * red, 20);
      store<f32>(sums, n, 24);
      store<f32>(sums, 0, 28);
    }
  }
}

/** The mean of `n` places, each `step` bytes after the one before. */
@inline
function meanOf(from: usize, n: i32, step: usize, to: usize): void {
  let first = v128.load(from);
  let second = v128.load(from, 16);
  for (let k = 1; k < n; k++) {
    from += step;
    first = f32x4.add(first, v128.load(from));
    second = f32x4.add(second, v128.load(from, 16));
  }
  const share = f32x4.splat(1 / <f32>n);
  v128.store(to, f32x4.mul(first, share));
  v128.store(to, f32x4.mul(second, share), 16);
}

/**
 * Seven numbers of each place of two by two pixels: means of Y, U and V of the pixels of `core` within `reach` places, their variances, and the
 * share of `core` there; all 0 where that is under 1e-4. `sums` and `rows` are scratch of eight floats for each place.
 */
export function ownColour(y: usize, u: usize, v: usize, core: usize, width: i32, h: i32, reach: i32, sums: usize, rows: usize, out: usize): void {
  const w = width >> 1;
  summed(y, u, v, core, width, w, h, sums);
  const line = <usize>w * PLACE;
  for (let row = 0; row < h; row++) {
    const from = sums + <usize>row * line;
    const to = rows + <usize>row * line;
    for (let x = 0; x < w; x++) {
      const first = max(0, x - reach);
      meanOf(from + <usize>first * PLACE, min(w - 1, x + reach) - first + 1, PLACE, to + <usize>x * PLACE);
    }
  }
  const near = sums;
  for (let row = 0; row < h; row++) {
    const first = max(0, row - reach);
    const n = min(h - 1, row + reach) - first + 1;
    for (let x = 0; x < w; x++, out += 28) {
      meanOf(rows + <usize>first * line + <usize>x * PLACE, n, line, near);
      const share = load<f32>(near, 24);
      const some = share >= 1e-4;
      store<f32>(out, some ? share : 0, 24);
      for (let c: usize = 0; c < 12; c += 4) {
        const mean = load<f32>(near + c) / share;
        store<f32>(out + c, some ? mean : 0);
        store<f32>(out + c, some ? max<f32>(0, load<f32>(near + c, 12) / share - mean * mean) : 0, 12);
      }
    }
  }
}
