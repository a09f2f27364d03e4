// AssemblyScript, compiled to WebAssembly SIMD by `npm run kernels`. The plain version stands in src/core/measure/grid.ts; a parity test holds
// them together.

/** The first of the bytes from `i` to `end` that is `value` (0 or 1), sixteen at a time; `end` where none is. The others are 0 or 1 too. */
@inline
function next(mask: usize, i: i32, end: i32, value: i32): i32 {
  const wanted = i8x16.splat(<i8>value);
  while (i + 16 <= end) {
    const bits = i8x16.bitmask(i8x16.eq(v128.load(mask + <usize>i), wanted));
    if (bits) return i + ctz(bits);
    i += 16;
  }
  while (i < end && <i32>load<u8>(mask + <usize>i) != value) i++;
  return i;
}

@inline
function at(list: usize, k: i32): i32 {
  return load<i32>(list + <usize>(k << 2));
}

@inline
function put(list: usize, k: i32, value: i32): void {
  store<i32>(list + <usize>(k << 2), value);
}

@inline
function root(part: usize, k: i32): i32 {
  let p = at(part, k);
  while (p != k) {
    const above = at(part, p);
    put(part, k, above);
    k = above;
    p = at(part, k);
  }
  return k;
}

/**
 * Runs of `value` along the rows of a mask and the connected part (four neighbours) each belongs to, named by its first run (Rosenfeld & Pfaltz
 * 1966): first and one past the last index of each in `runs`, the part in `part`, its pixels at that run in `size`, and 1 in `edge` where it
 * touches the mask's edge. The lists have room for (w+1)/2 runs a row. How many there are is given back.
 */
export function labelled(mask: usize, w: i32, h: i32, value: i32, runs: usize, part: usize, size: usize, edge: usize): i32 {
  let count = 0;
  let above = 0;
  for (let row = 0; row < w * h; row += w) {
    const end = row + w;
    const first = count;
    for (let i = next(mask, row, end, value); i < end; i = next(mask, i, end, value)) {
      const from = i;
      i = next(mask, i, end, 1 - value);
      put(runs, 2 * count, from);
      put(runs, 2 * count + 1, i);
      put(part, count, count);
      // Against those of the row before, both in order.
      while (above < first && at(runs, 2 * above + 1) <= from - w) above++;
      for (let a = above; a < first && at(runs, 2 * a) < i - w; a++) {
        const p = root(part, a);
        const q = root(part, count);
        if (p < q) put(part, q, p);
        else if (q < p) put(part, p, q);
      }
      put(size, count, 0);
      store<u8>(edge + <usize>count, 0);
      count++;
    }
    above = first;
  }
  for (let k = 0; k < count; k++) {
    const from = at(runs, 2 * k);
    const to = at(runs, 2 * k + 1);
    const r = root(part, k);
    put(part, k, r);
    put(size, r, at(size, r) + to - from);
    if (from % w == 0 || to % w == 0 || from < w || from >= w * (h - 1)) store<u8>(edge + <usize>r, 1);
  }
  return count;
}

/** Gives runs of parts under `least` pixels the other value; those at the mask's edge stay with `inner`. */
export function turned(mask: usize, value: i32, runs: usize, part: usize, size: usize, edge: usize, count: i32, least: i32, inner: i32): void {
  for (let k = 0; k < count; k++) {
    const r = at(part, k);
    if (at(size, r) >= least || (inner && load<u8>(edge + <usize>r))) continue;
    const from = at(runs, 2 * k);
    memory.fill(mask + <usize>from, <u8>(1 - value), <usize>(at(runs, 2 * k + 1) - from));
  }
}

/** Counts into `size` how many pixels of each part another mask has. */
export function among(mask: usize, runs: usize, part: usize, size: usize, count: i32): void {
  for (let k = 0; k < count; k++) put(size, k, 0);
  for (let k = 0; k < count; k++) {
    let n = 0;
    for (let i = at(runs, 2 * k); i < at(runs, 2 * k + 1); i++) n += <i32>load<u8>(mask + <usize>i);
    const r = at(part, k);
    put(size, r, at(size, r) + n);
  }
}
