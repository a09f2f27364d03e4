// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain versions stand in src/core/measure/figure-edge.ts and soft-edge.ts; a parity
// test holds them together.

@inline
function square(v: f32): f32 {
  return v * v;
}

/** Half of how much likelier one of its channels makes a pixel the figure's, but for the spread's logarithm. */
@inline
function strays(value: f32, own: usize, c: usize, spread: f32): f32 {
  return square(value - load<f32>(own + (c << 2))) / spread;
}

@inline
function spreadOf(own: usize, c: usize, wider: f32, granted: f32): f32 {
  return wider * load<f32>(own + ((c + 3) << 2)) + granted;
}

/**
 * How much likelier each pixel of `asked` is the figure's than the set's, as a logarithm, `most` at most for either; the others say `most` where
 * `otherwise` is 1, and -`most` where it is 0. `far` is how far each pixel of the set strays, `usual` what is usual at each contrast, `own` seven
 * numbers for each place of the chroma; `bright`, `tinted` and `figure` are granted, `unknown` is said where no colour of the figure is near.
 */
export function saidBy(fy: usize, fu: usize, fv: usize, by: usize, bu: usize, bv: usize, far: usize, contrast: usize, usual: usize, own: usize, asked: usize, otherwise: usize, width: i32, height: i32, bright: f32, tinted: f32, figure: f32, wider: f32, unknown: f32, most: f32, out: usize): void {
  const tints: f32 = 2 * Mathf.log(tinted);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = <usize>(y * width + x);
      const at = out + (i << 2);
      if (!load<u8>(asked + i)) {
        store<f32>(at, load<u8>(otherwise + i) ? most : -most);
        continue;
      }
      const j = <usize>((y >> 1) * (width >> 1) + (x >> 1));
      const light = <f32>load<u8>(fy + i);
      const blue = <f32>load<u8>(fu + j);
      const red = <f32>load<u8>(fv + j);
      const spread = square(load<f32>(far + (i << 2))) + bright + square(load<f32>(usual + (<usize>load<u8>(contrast + i) << 2)));
      const tint = square(blue - <f32>load<u8>(bu + j)) + square(red - <f32>load<u8>(bv + j));
      const set = square(light - <f32>load<u8>(by + i)) / spread + Mathf.log(spread) + tint / tinted + tints;
      const place = own + j * 28;
      let said = set / 2 - unknown;
      if (load<f32>(place, 24) != 0) {
        const a = spreadOf(place, 0, wider, figure);
        const b = spreadOf(place, 1, wider, figure);
        const c = spreadOf(place, 2, wider, figure);
        const off = strays(light, place, 0, a) + strays(blue, place, 1, b) + strays(red, place, 2, c);
        said = (set - off - Mathf.log(a * b * c)) / 2;
      }
      store<f32>(at, max<f32>(-most, min<f32>(most, said)));
    }
  }
}

/**
 * The share of figure in each pixel of `asked`, into `out`, where the others stay: by least squares over the channels, each weighted by how steady
 * the figure's colour is in it. Where figure and plate are alike `otherwise` stands, the more so the more `trusted`.
 */
export function shares(fy: usize, fu: usize, fv: usize, by: usize, bu: usize, bv: usize, own: usize, asked: usize, otherwise: usize, width: i32, height: i32, trusted: f32, out: usize): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = <usize>(y * width + x);
      if (!load<u8>(asked + i)) continue;
      const j = <usize>((y >> 1) * (width >> 1) + (x >> 1));
      const place = own + j * 28;
      const thought = load<f32>(otherwise + (i << 2));
      let share = thought;
      if (load<f32>(place, 24) != 0) {
        let along: f32 = 0;
        let size: f32 = 0;
        for (let c = 0; c < 3; c++) {
          const above = <f32>load<u8>(c == 0 ? fy + i : c == 1 ? fu + j : fv + j);
          const below = <f32>load<u8>(c == 0 ? by + i : c == 1 ? bu + j : bv + j);
          const at = place + (<usize>c << 2);
          const d = load<f32>(at) - below;
          const weight = d / (load<f32>(at, 12) + 4);
          along += weight * (above - below);
          size += weight * d;
        }
        const trust = size / (size + trusted);
        share = trust * max<f32>(0, min<f32>(1, size > 0 ? along / size : along)) + (1 - trust) * thought;
      }
      store<f32>(out + (i << 2), share);
    }
  }
}

/** Takes out of a mask what has a value under `least`. */
export function keptFrom(mask: usize, values: usize, least: f32, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i++) if (load<f32>(values + (i << 2)) < least) store<u8>(mask + i, 0);
}

/** 1 where a value is over `limit`. */
export function beyond(values: usize, limit: f32, out: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i++) store<u8>(out + i, load<f32>(values + (i << 2)) > limit ? 1 : 0);
}

/** 1 where a mask is 1 and a value under `limit`. */
export function within(mask: usize, values: usize, limit: f32, out: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i++) store<u8>(out + i, load<u8>(mask + i) & (load<f32>(values + (i << 2)) < limit ? 1 : 0));
}

/** Bytes of one mask that are not in another, of 0 and 1 both; up to fifteen more than `n` are written. */
export function without(mask: usize, other: usize, out: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i += 16) v128.store(out + i, v128.andnot(v128.load(mask + i), v128.load(other + i)));
}

/** The pixels whose side is asked: of `wide`, but of what is shade only where the figure was found; up to fifteen more than `n` are written. */
export function askedIn(wide: usize, found: usize, shade: usize, out: usize, n: i32): void {
  const one = i8x16.splat(1);
  for (let i: usize = 0; i < <usize>n; i += 16) {
    const free = v128.or(v128.load(found + i), v128.xor(v128.load(shade + i), one));
    v128.store(out + i, v128.and(v128.load(wide + i), free));
  }
}

/** Gives what lies deep in the figure and is no gap to it: it says `most` and is not asked. */
export function settled(deep: usize, open: usize, values: usize, asked: usize, most: f32, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    if (!load<u8>(deep + i) || load<u8>(open + i)) continue;
    store<f32>(values + (i << 2), most);
    store<u8>(asked + i, 0);
  }
}

/**
 * Coverage in bytes: 255 in `core`, 0 outside of `wide`; in between `own` of a pixel's value and for the rest the mean of `even` along `count`
 * steps from it, two i32 each in `taps` (none: of its own).
 */
export function covered(core: usize, wide: usize, raw: usize, even: usize, own: f32, taps: usize, count: i32, w: i32, h: i32, out: usize): void {
  let i: usize = 0;
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++, i++) {
      if (load<u8>(core + i)) {
        store<u8>(out + i, 255);
        continue;
      }
      if (!load<u8>(wide + i)) {
        store<u8>(out + i, 0);
        continue;
      }
      let mean = load<f32>(even + (i << 2));
      if (count) {
        mean = 0;
        for (let k = 0; k < count; k++) {
          const step = taps + <usize>(k << 3);
          const px = max(0, min(w - 1, x + load<i32>(step)));
          const py = max(0, min(h - 1, y + load<i32>(step, 4)));
          mean += load<f32>(even + <usize>((py * w + px) << 2));
        }
        mean /= <f32>count;
      }
      const value = own * load<f32>(raw + (i << 2)) + (1 - own) * mean;
      store<u8>(out + i, <u8>(255 * value + 0.5));
    }
  }
}
