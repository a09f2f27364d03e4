import { bytesFor, places, START } from '../compiled';
import { ownPasses } from './passes';
import { TwoSpectra } from './two-spectra';

/** Windows that are heard together. */
export const AT_ONCE = 8;
/** Bytes of a complex value of four transforms. */
const VALUE = 32;

/** Frequencies of a spectrum that count together: the first of them, and how much each counts. */
export interface Band {
  first: number;
  weights: Float64Array;
}

/** What is heard of windows of sound. */
export interface Hearing {
  /** The weights of a window's samples. */
  hann: Float64Array;
  /** Values that are transformed, a power of two: the window's and silence. */
  size: number;
  /** What of the frequencies is summed; there are `size` / 2 + 1, from none to half the sample rate. */
  given: 'power' | 'magnitude';
  bands: readonly Band[];
}

/**
 * For up to `AT_ONCE` windows that begin at these samples, all within the sound: sum of each band, and last the mean square of the samples.
 * Good until the next windows are heard.
 */
export type BandSums = (samples: Float32Array, starts: readonly number[]) => readonly Float32Array[];

/** The place of each of `size` values with its bits reversed. */
function reversed(size: number): Int32Array {
  const out = new Int32Array(size);
  for (let i = 1; i < size; i++) out[i] = (out[i >> 1] >> 1) | (i & 1 ? size / 2 : 0);
  return out;
}

const meanSquare = (samples: Float32Array) => samples.reduce((sum, v) => sum + v * v, 0) / samples.length;

/** Two windows at a time. */
export function plainBandSums({ hann, size, given, bands }: Hearing): BandSums {
  const two = new TwoSpectra(size);
  const spectra = [0, 1].map(() => new Float64Array(size / 2 + 1));
  const rows = Array.from({ length: AT_ONCE }, () => new Float32Array(bands.length + 1));
  return (samples, starts) => {
    for (let w = 0; w < starts.length; w += 2) {
      const windows = starts.slice(w, w + 2).map((start) => samples.subarray(start, start + hann.length));
      two.windows.fill(0);
      windows.forEach((window, k) => {
        for (let i = 0; i < hann.length; i++) two.windows[2 * i + k] = window[i] * hann[i];
      });
      two.powers(spectra[0], spectra[1]);
      windows.forEach((window, k) => {
        const spectrum = given === 'power' ? spectra[k] : spectra[k].map(Math.sqrt);
        const row = rows[w + k];
        bands.forEach(({ first, weights }, b) => {
          row[b] = weights.reduce((sum, weight, j) => sum + weight * spectrum[first + j], 0);
        });
        row[bands.length] = meanSquare(window);
      });
    }
    return rows.slice(0, starts.length);
  };
}

/** Eight windows at a time, in compiled code; null where it is not to be had. */
export function compiledBandSums({ hann, size, given, bands }: Hearing): BandSums | null {
  const pass = ownPasses();
  if (!pass) return null;
  const { kernel, memory } = pass;
  const [n, width] = [hann.length, bands.length + 1];
  const weights = bands.flatMap((band) => [...band.weights]);
  const turns = Array.from({ length: size / 2 }, (_, k) => -(2 * Math.PI * k) / size).flatMap((t) => [Math.cos(t), Math.sin(t)]);
  const counts = [n, size, turns.length, bands.length, bands.length, weights.length, (VALUE / 4) * size, width * AT_ONCE, n * AT_ONCE];
  const {
    at: [hanns, order, turned, firsts, sizes, weighing, values, out, sound],
    end,
  } = places(
    START,
    counts.map((count) => 4 * count),
  );
  const { buffer } = bytesFor(memory, end);
  new Float32Array(buffer, hanns).set(hann);
  new Int32Array(buffer, order).set(reversed(size));
  new Float32Array(buffer, turned).set(turns);
  new Int32Array(buffer, firsts).set(bands.map(({ first }) => first));
  new Int32Array(buffer, sizes).set(bands.map((band) => band.weights.length));
  new Float32Array(buffer, weighing).set(weights);
  const held = new Float32Array(buffer, sound, n * AT_ONCE);
  const rows = Array.from({ length: AT_ONCE }, (_, w) => new Float32Array(buffer, out + 4 * width * w, width));
  const root = given === 'power' ? 0 : 1;
  return (samples, starts) => {
    starts.forEach((start, w) => {
      held.set(samples.subarray(start, start + n), w * n);
    });
    kernel.bandSums(sound, hanns, n, size, order, turned, root, firsts, sizes, weighing, bands.length, values, out);
    return rows.slice(0, starts.length);
  };
}

export const bandSums = (hearing: Hearing): BandSums => compiledBandSums(hearing) ?? plainBandSums(hearing);
