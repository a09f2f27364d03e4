// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain versions stand in src/core/measure/occupancy.ts and
// grid.ts; a parity test holds them together.
import { four } from './lanes';

/** Two bytes of chroma as four floats about zero, each twice: the pixels of a row share them in pairs. */
@inline
function chroma(at: usize): v128 {
  const pair = <i32>load<u16>(at);
  const a = <f32>((pair & 255) - 128);
  const b = <f32>((pair >> 8) - 128);
  return f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(a), 2, b), 3, b);
}

/** Distances of a frame from its backdrop: of brightness, its ratio, and of colour with and without the darkening. Width a multiple of four. */
export function distances(fy: usize, fu: usize, fv: usize, by: usize, bu: usize, bv: usize, width: i32, height: i32, values: usize, ratio: usize, colour: usize, plain: usize): void {
  const least = f32x4.splat(4);
  const black = f32x4.splat(10);
  const most = f32x4.splat(1.2);
  const half = width >> 1;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x += 4) {
      const i = <usize>(y * width + x);
      const j = <usize>((y >> 1) * half + (x >> 1));
      const is = four(fy + i);
      const was = four(by + i);
      const r = f32x4.div(f32x4.max(least, f32x4.sub(is, black)), f32x4.max(least, f32x4.sub(was, black)));
      const dim = f32x4.min(r, most);
      const tu = chroma(bu + j);
      const tv = chroma(bv + j);
      const du = chroma(fu + j);
      const dv = chroma(fv + j);
      const eu = f32x4.sub(du, f32x4.mul(dim, tu));
      const ev = f32x4.sub(dv, f32x4.mul(dim, tv));
      const pu = f32x4.sub(du, tu);
      const pv = f32x4.sub(dv, tv);
      const at = i << 2;
      v128.store(values + at, f32x4.abs(f32x4.sub(is, was)));
      v128.store(ratio + at, r);
      v128.store(colour + at, f32x4.sqrt(f32x4.add(f32x4.mul(eu, eu), f32x4.mul(ev, ev))));
      v128.store(plain + at, f32x4.sqrt(f32x4.add(f32x4.mul(pu, pu), f32x4.mul(pv, pv))));
    }
  }
}

@inline
function byContrast(table: usize, contrast: usize): v128 {
  let v = f32x4.splat(load<f32>(table + (<usize>load<u8>(contrast) << 2)));
  v = f32x4.replace_lane(v, 1, load<f32>(table + (<usize>load<u8>(contrast, 1) << 2)));
  v = f32x4.replace_lane(v, 2, load<f32>(table + (<usize>load<u8>(contrast, 2) << 2)));
  return f32x4.replace_lane(v, 3, load<f32>(table + (<usize>load<u8>(contrast, 3) << 2)));
}

/** `least`, or what is usual, up to `widest` times as much. */
@inline
function widened(least: v128, usual: v128, widest: f32): v128 {
  return f32x4.max(least, f32x4.min(f32x4.mul(f32x4.splat(widest), least), usual));
}

/** Distances as multiples of their limits, in place: `bright` and `tinted` hold what is usual at each contrast. `n` a multiple of four. */
export function weighed(values: usize, colour: usize, plain: usize, stray: usize, contrast: usize, bright: usize, tinted: usize, widest: f32, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const at = i << 2;
    const s = v128.load(stray + at);
    const limit = widened(f32x4.add(f32x4.splat(4), f32x4.mul(f32x4.splat(3.5), s)), byContrast(bright, contrast + i), widest);
    const tint = widened(f32x4.add(f32x4.splat(3.2), f32x4.mul(f32x4.splat(0.4), s)), byContrast(tinted, contrast + i), widest);
    v128.store(colour + at, f32x4.div(v128.load(colour + at), tint));
    v128.store(values + at, f32x4.max(f32x4.div(v128.load(values + at), limit), f32x4.div(v128.load(plain + at), tint)));
  }
}

/** Standard deviation over squares as a share of their mean (at least 0.2), from the means of values and of their squares, into `squares`. */
export function unevenness(means: usize, squares: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>(n * 4); i += 4) {
    const m = load<f32>(means + i);
    const v = load<f32>(squares + i) - m * m;
    store<f32>(squares + i, sqrt<f32>(max<f32>(0, v)) / max<f32>(0.2, m));
  }
}
