// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/measure/like-colour.ts; a parity test holds
// them together.

/** How far a byte is off another one. */
@inline
function off(at: usize, from: i32): i32 {
  return abs<i32>(<i32>load<u8>(at) - from);
}

/**
 * Means of values over the `around` pixels on each side, of those pixels whose byte of `asked` is not 0: each neighbour counts by the table
 * `voice` of how far its colour is off, chroma (at half the size) `chroma` times. The others stay as they are in `out`.
 */
export function byLikeColour(y: usize, u: usize, v: usize, values: usize, asked: usize, width: i32, height: i32, around: i32, voice: usize, chroma: i32, out: usize): void {
  const half = width >> 1;
  let i: usize = 0;
  for (let py = 0; py < height; py++) {
    const top = max(0, py - around);
    const bottom = min(height - 1, py + around);
    for (let px = 0; px < width; px++, i++) {
      if (!load<u8>(asked + i)) continue;
      const j = <usize>((py >> 1) * half + (px >> 1));
      const light = <i32>load<u8>(y + i);
      const blue = <i32>load<u8>(u + j);
      const red = <i32>load<u8>(v + j);
      const left = max(0, px - around);
      const right = min(width - 1, px + around);
      let sum: f32 = 0;
      let voices: f32 = 0;
      for (let qy = top; qy <= bottom; qy++) {
        const row = <usize>((qy >> 1) * half);
        let k = <usize>(qy * width + left);
        for (let qx = left; qx <= right; qx++, k++) {
          const l = row + <usize>(qx >> 1);
          const own = load<f32>(voice + <usize>((off(y + k, light) + chroma * (off(u + l, blue) + off(v + l, red))) << 2));
          sum += own * load<f32>(values + (k << 2));
          voices += own;
        }
      }
      store<f32>(out + (i << 2), sum / voices);
    }
  }
}
