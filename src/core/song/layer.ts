import { bytesFor, places, START, type WasmMemory } from '../compiled';
import { hearing } from './passes';

/** A layer of a network along rows: each output hears the rows around its own. */
export interface Layer {
  /** A list for each output: row by row, and input by input. */
  weights: readonly Float64Array[];
  bias: readonly number[];
  /** How far the rows that are heard are from one another. */
  apart: number;
}

/** Rows with silence beyond both ends, for as many rows around each. */
function padded(input: ArrayLike<number>, width: number, taps: number, apart: number): Float32Array {
  const beyond = (taps >> 1) * apart;
  const out = new Float32Array(input.length + 2 * beyond * width);
  out.set(input, beyond * width);
  return out;
}

/** Sums of each output at each row. */
export function plainLayer(input: ArrayLike<number>, width: number, { weights, bias, apart }: Layer): Float32Array {
  const [count, size] = [input.length / width, weights.length];
  const taps = weights[0].length / width;
  const rows = padded(input, width, taps, apart);
  const out = new Float32Array(count * size);
  weights.forEach((own, o) => {
    for (let b = 0; b < count; b++) {
      let sum = bias[o];
      for (let t = 0, w = 0; t < taps; t++) for (let i = 0, at = (b + t * apart) * width; i < width; i++) sum += own[w++] * rows[at++];
      out[b * size + o] = sum;
    }
  });
  return out;
}

/** Where the weights of known layers lie in memory, and where there is room for more. */
const known = new WeakMap<Layer, { weights: number; bias: number }>();
let free = START;

/** Lays a layer's weights out in memory, by four outputs; those beyond the last are nothing. */
function laidOut(layer: Layer, memory: WasmMemory): { weights: number; bias: number } {
  const found = known.get(layer);
  if (found) return found;
  const fours = Math.ceil(layer.weights.length / 4);
  const n = layer.weights[0].length;
  const { at, end } = places(free, [16 * fours * n, 16 * fours]);
  const { buffer } = bytesFor(memory, end);
  const laid = new Float32Array(buffer, at[0], 4 * fours * n);
  layer.weights.forEach((own, o) => {
    for (let i = 0; i < n; i++) laid[4 * ((o >> 2) * n + i) + (o & 3)] = own[i];
  });
  new Float32Array(buffer, at[1], 4 * fours).set(layer.bias);
  free = end;
  const made = { weights: at[0], bias: at[1] };
  known.set(layer, made);
  return made;
}

/** The same in compiled code; null where it is not to be had. */
export function compiledLayer(input: ArrayLike<number>, width: number, layer: Layer): Float32Array | null {
  const pass = hearing();
  if (!pass) return null;
  const { kernel, memory } = pass;
  const [count, size] = [input.length / width, layer.weights.length];
  const fours = Math.ceil(size / 4);
  const taps = layer.weights[0].length / width;
  const rows = padded(input, width, taps, layer.apart);
  const laid = laidOut(layer, memory);
  const { at, end } = places(free, [4 * rows.length, 16 * fours * count]);
  const { buffer } = bytesFor(memory, end);
  new Float32Array(buffer, at[0], rows.length).set(rows);
  kernel.layer(at[0], width, count, laid.weights, laid.bias, fours, taps, layer.apart, at[1]);
  const out = new Float32Array(buffer, at[1], 4 * fours * count);
  return size % 4 === 0
    ? out.slice()
    : Float32Array.from({ length: count * size }, (_, i) => out[4 * fours * Math.floor(i / size) + (i % size)]);
}

/** Sums of each output of a layer at each of the rows of `width` values; nothing is heard beyond the ends. */
export const alongRows = (input: ArrayLike<number>, width: number, layer: Layer): Float32Array =>
  compiledLayer(input, width, layer) ?? plainLayer(input, width, layer);
