import { clamp } from '../units';

/** One tempo candidate: `bpm`, and its share of the weight of the best. */
export interface TempoEstimate {
  bpm: number;
  /** 0..1: height of the autocorrelation at this tempo against lag zero. Under about 0.1 there is no steady beat. */
  strength: number;
}

/**
 * Tempo by autocorrelation of the onset strength, weighted by a log-normal prior around 120 BPM of 0.9 octave
 * (Ellis 2007, section 3), the lag refined to a fraction by a parabola and then by its multiples.
 */
export function estimateTempo(onsets: Float32Array, rate: number, low = 50, high = 210): TempoEstimate {
  const longest = Math.ceil((60 / low) * rate);
  const shortest = Math.floor((60 / high) * rate);
  const reach = longest * 4 + 8;
  const correlation = new Float64Array(reach + 2);
  for (let lag = 0; lag <= Math.min(reach, onsets.length - 1); lag++) {
    let sum = 0;
    for (let i = lag; i < onsets.length; i++) sum += onsets[i] * onsets[i - lag];
    correlation[lag] = sum / (onsets.length - lag);
  }
  const at = (lag: number) => {
    const i = Math.floor(lag);
    return i + 1 > reach ? 0 : correlation[i] + (lag - i) * (correlation[i + 1] - correlation[i]);
  };
  let best = 0;
  let bestScore = Number.NEGATIVE_INFINITY;
  for (let lag = shortest; lag <= longest; lag++) {
    const prior = Math.exp(-0.5 * (Math.log2((60 * rate) / lag / 120) / 0.9) ** 2);
    const score = (at(lag) + 0.5 * Math.max(at(2 * lag - 1), at(2 * lag), at(2 * lag + 1)) + 0.25 * at(4 * lag)) * prior;
    if (score > bestScore) {
      bestScore = score;
      best = lag;
    }
  }
  let lag = best;
  for (const multiple of [1, 2, 4]) lag = peakNear(correlation, lag * multiple, Math.max(1, multiple)) / multiple;
  return { bpm: (60 * rate) / lag, strength: clamp(correlation[best] / (correlation[0] || 1), 0, 1) };
}

/** Position of the highest value within `reach` of `guess`, to a fraction by a parabola through its neighbours. */
function peakNear(values: Float64Array, guess: number, reach: number): number {
  const centre = Math.round(guess);
  let peak = centre;
  for (let i = Math.max(1, centre - reach); i <= Math.min(values.length - 2, centre + reach); i++) if (values[i] > values[peak]) peak = i;
  if (peak < 1 || peak > values.length - 2) return guess;
  const [a, b, c] = [values[peak - 1], values[peak], values[peak + 1]];
  const bend = a - 2 * b + c;
  return bend < 0 ? peak + (0.5 * (a - c)) / bend : peak;
}
