import type { ColourMatrix } from './colour';
import { KERNEL_BASE64 } from './kernel-bytes';
import type { Planes } from './planes';
import { type Affine, fourTapWeights, passesOf, usesFourTaps } from './resample';

/** The parts of WebAssembly used here; the core's own library settings know nothing of the browser's. */
interface WasmMemory {
  readonly buffer: ArrayBuffer;
  grow(pages: number): number;
}
interface Wasm {
  Memory: new (descriptor: { initial: number; maximum?: number }) => WasmMemory;
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { exports: unknown };
}
interface Kernel {
  horizontal(
    src: number,
    sw: number,
    rowFirst: number,
    rows: number,
    x0: number,
    width: number,
    dst: number,
    weights: number,
    row: number,
    perX: number,
    perRow: number,
    base: number,
  ): void;
  vertical(
    src: number,
    width: number,
    rows: number,
    dst: number,
    ow: number,
    x0: number,
    y0: number,
    y1: number,
    weights: number,
    d: number,
    e: number,
    offset: number,
  ): void;
  recolour(y: number, u: number, v: number, width: number, from: number, to: number, m: number): void;
}

const WEIGHTS = 0;
const MATRIX = 2048;
const ROW = 4096;
const DATA = 32768;
/** Above this slope eight columns no longer share a phase to within a sixtieth of a pixel. */
const STEEPEST = 0.004;

let loaded: { kernel: Kernel; memory: WasmMemory } | null | undefined;

function bytesOf(base64: string): Uint8Array {
  const alphabet = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
  const clean = base64.replace(/=+$/, '');
  const out = new Uint8Array((clean.length * 3) >> 2);
  let [bits, held, at] = [0, 0, 0];
  for (const c of clean) {
    held = (held << 6) | alphabet.indexOf(c);
    bits += 6;
    if (bits >= 8) {
      bits -= 8;
      out[at++] = (held >> bits) & 255;
    }
  }
  return out;
}

/** The compiled passes, or null where WebAssembly with SIMD is not to be had; then the plain ones serve. */
function load(): { kernel: Kernel; memory: WasmMemory } | null {
  if (loaded !== undefined) return loaded;
  loaded = null;
  const wasm = (globalThis as unknown as { WebAssembly?: Wasm }).WebAssembly;
  try {
    if (wasm) {
      const memory = new wasm.Memory({ initial: 64, maximum: 16384 });
      const instance = new wasm.Instance(new wasm.Module(bytesOf(KERNEL_BASE64)), { env: { memory } });
      new Int16Array(memory.buffer, WEIGHTS, 1024).set(fourTapWeights());
      loaded = { kernel: instance.exports as Kernel, memory };
    }
  } catch {
    loaded = null;
  }
  return loaded;
}

const aligned = (n: number) => (n + 63) & ~63;

/**
 * Resamples and recolours planes onto a `width`×`height` grid for the rows given, in compiled code. The planes returned
 * are views that hold until the next call. Null when this map, or this machine, needs the plain passes.
 */
export function placeByKernel(
  planes: Planes,
  map: Affine,
  colour: ColourMatrix | null,
  width: number,
  height: number,
  rows: readonly [number, number],
): Planes | null {
  if (!usesFourTaps(map) || Math.abs(map.d) > STEEPEST || planes.width + 128 > DATA - ROW) return null;
  const at = load();
  if (!at) return null;
  const { kernel, memory } = at;
  const luma = width * height;
  const chroma = luma / 4;
  const source = aligned(planes.width * planes.height);
  const scratch = aligned(width * (planes.height + 8));
  const target = DATA + source + scratch;
  const need = target + aligned(luma) + 2 * aligned(chroma);
  if (memory.buffer.byteLength < need) memory.grow(Math.ceil((need - memory.buffer.byteLength) / 65536));
  const bytes = new Uint8Array(memory.buffer);
  const offsets = { y: target, u: target + aligned(luma), v: target + aligned(luma) + aligned(chroma) };
  for (const name of ['y', 'u', 'v'] as const) {
    const scale = name === 'y' ? 1 : 2;
    const [sw, sh, ow] = [planes.width / scale, planes.height / scale, width / scale];
    const region = { x0: 0, x1: ow, y0: rows[0] / scale, y1: rows[1] / scale };
    const passes = passesOf({ ...map, c: map.c / scale, f: map.f / scale }, region, sh, 4);
    const count = passes.rowLast - passes.rowFirst + 1;
    bytes.set(planes[name].subarray(passes.rowFirst * sw, (passes.rowLast + 1) * sw), DATA);
    // Only the rows needed are copied in, so row numbers start at rowFirst.
    const base = passes.base + passes.perRow * passes.rowFirst;
    kernel.horizontal(DATA, sw, 0, count, 0, ow, DATA + source, WEIGHTS, ROW, passes.perX, passes.perRow, base);
    kernel.vertical(
      DATA + source,
      ow,
      count,
      offsets[name],
      ow,
      0,
      region.y0,
      region.y1,
      WEIGHTS,
      passes.d,
      passes.e,
      passes.f - passes.rowFirst,
    );
  }
  if (colour) {
    new Float32Array(memory.buffer, MATRIX, 12).set(colour);
    kernel.recolour(offsets.y, offsets.u, offsets.v, width, rows[0], rows[1], MATRIX);
  }
  return {
    width,
    height,
    y: bytes.subarray(offsets.y, offsets.y + luma),
    u: bytes.subarray(offsets.u, offsets.u + chroma),
    v: bytes.subarray(offsets.v, offsets.v + chroma),
  };
}
