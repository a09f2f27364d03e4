/** Compiled passes: WebAssembly modules that ship as base64 text, each with a memory of its own. */

/** The parts of WebAssembly used here; the core's own library settings know nothing of the browser's. */
export interface WasmMemory {
  readonly buffer: ArrayBuffer;
  grow(pages: number): number;
}
interface Wasm {
  Memory: new (descriptor: { initial: number; maximum?: number }) => WasmMemory;
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { exports: unknown };
}
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

/**
 * A function giving the passes of a module and its memory, made when first asked for; null where WebAssembly with SIMD is not to be
 * had: then the plain passes serve. `prepare` fills the memory once.
 */
export function compiled<Passes>(
  base64: string,
  prepare: (memory: WasmMemory) => void = () => undefined,
): () => { kernel: Passes; memory: WasmMemory } | null {
  let loaded: { kernel: Passes; memory: WasmMemory } | null | undefined;
  return () => {
    if (loaded !== undefined) return loaded;
    loaded = null;
    const wasm = (globalThis as unknown as { WebAssembly?: Wasm }).WebAssembly;
    try {
      if (wasm) {
        const memory = new wasm.Memory({ initial: 64, maximum: 16384 });
        const instance = new wasm.Instance(new wasm.Module(bytesOf(base64)), { env: { memory } });
        prepare(memory);
        loaded = { kernel: instance.exports as Passes, memory };
      }
    } catch {
      loaded = null;
    }
    return loaded;
  };
}

/** Room for `need` bytes in the memory of the compiled passes. */
export function bytesFor(memory: WasmMemory, need: number): Uint8Array {
  if (memory.buffer.byteLength < need) memory.grow(Math.ceil((need - memory.buffer.byteLength) / 65536));
  return new Uint8Array(memory.buffer);
}

/** Where there is room from on in the memory of compiled passes. */
export const START = 1024;
/** Bytes that some of them read and write past an end. */
export const PAST = 64;

/** The next place in memory that starts a line of 64 bytes. */
export const aligned = (n: number): number => (n + 63) & ~63;

/** Places for stretches of these many bytes one after another from `start` on, and where the last one ends. */
export function places(start: number, sizes: readonly number[]): { at: number[]; end: number } {
  let end = start;
  const at = sizes.map((size) => {
    const here = end;
    end += aligned(size);
    return here;
  });
  return { at, end };
}

/** As `places`, for stretches with names. */
export function placesFor<Name extends string>(
  start: number,
  sizes: Readonly<Record<Name, number>>,
): { at: Record<Name, number>; end: number } {
  const names = Object.keys(sizes) as Name[];
  const { at, end } = places(
    start,
    names.map((name) => sizes[name]),
  );
  return { at: Object.fromEntries(names.map((name, k) => [name, at[k]])) as Record<Name, number>, end };
}

/** Puts lists where there is room for them. */
export function putIn<Name extends string>(
  bytes: Uint8Array,
  at: Readonly<Record<Name, number>>,
  lists: Readonly<Partial<Record<Name, Uint8Array | Float32Array>>>,
): void {
  for (const name of Object.keys(lists) as Name[]) {
    const list = lists[name];
    if (list) bytes.set(new Uint8Array(list.buffer, list.byteOffset, list.byteLength), at[name]);
  }
}
