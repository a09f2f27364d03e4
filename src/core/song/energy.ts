import type { Seconds } from '../units';
import type { OnsetStrength } from './onset';

/** Values a second of a song's loudness for drawing. */
export const ENERGY_RATE = 50;

/** Loudness for drawing: square root of power, 0..1 of the loudest, `ENERGY_RATE` values a second. */
export function energyCurve(onsets: OnsetStrength, duration: Seconds): Float32Array {
  const out = new Float32Array(Math.ceil(duration * ENERGY_RATE));
  const counts = new Float32Array(out.length);
  for (let i = 0; i < onsets.energy.length; i++) {
    const at = Math.floor((onsets.start + i / onsets.rate) * ENERGY_RATE);
    if (at < out.length) {
      out[at] += Math.sqrt(onsets.energy[i]);
      counts[at]++;
    }
  }
  let top = 0;
  for (let i = 0; i < out.length; i++) {
    out[i] /= counts[i] || 1;
    top = Math.max(top, out[i]);
  }
  return out.map((v) => v / (top || 1));
}
