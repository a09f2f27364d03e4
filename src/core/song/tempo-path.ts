import type { Seconds } from '../units';

/** Tempi looked at: from, to, steps an octave. */
const SLOWEST = 46;
const FASTEST = 210;
const AN_OCTAVE = 36;
/** Seconds of sound a tempo is heard in, and from one hearing to the next. */
const WINDOW = 8;
const STEP = 0.5;
/** What a change of tempo by an octave costs, against a clear beat's weight of 1 a hearing. */
const CHANGE = 14;

export interface TempoPath {
  /** Beat length at each hop of the onset curve, seconds. */
  period: Float32Array;
  /** How clearly a beat is heard, mean over the song, 0..1. */
  strength: number;
}

/** Autocorrelation of a stretch under a Hann window at lags of 0 to `reach` hops, over lag 0. */
function correlate(onsets: Float32Array, middle: number, half: number, reach: number): Float32Array {
  const size = 2 * half;
  const part = Float32Array.from({ length: size }, (_, i) => onsets[middle - half + i] ?? 0);
  const mean = part.reduce((sum, v) => sum + v, 0) / size;
  for (let i = 0; i < size; i++) part[i] = (part[i] - mean) * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size));
  const out = new Float32Array(reach + 2);
  for (let lag = 0; lag < out.length && lag < size; lag++) {
    let sum = 0;
    for (let i = lag; i < size; i++) sum += part[i] * part[i - lag];
    out[lag] = sum;
  }
  const zero = out[0] || 1;
  return out.map((v) => v / zero);
}

/**
 * The tempo at every instant: how well each beat length and its doubles repeat in windows of eight seconds (a tempogram by
 * autocorrelation, Grosche, Müller & Kurth 2010), weighted by a log-normal prior around 120 BPM (Ellis 2007), and the path of most
 * weight through them that changes least (Viterbi). `onsets` at `rate` values a second.
 */
export function tempoPath(onsets: Float32Array, rate: number): TempoPath {
  const count = Math.round(AN_OCTAVE * Math.log2(FASTEST / SLOWEST)) + 1;
  const bpm = Float64Array.from({ length: count }, (_, k) => SLOWEST * 2 ** (k / AN_OCTAVE));
  const lags = bpm.map((b) => (60 / b) * rate);
  const prior = bpm.map((b) => Math.exp(-0.5 * (Math.log2(b / 120) / 0.9) ** 2));
  const half = Math.round((WINDOW * rate) / 2);
  const step = Math.round(STEP * rate);
  const hearings = Math.max(1, Math.ceil(onsets.length / step));
  const reach = Math.min(2 * half - 2, Math.ceil(lags[0] * 4) + 2);
  const weights: Float64Array[] = [];
  for (let h = 0; h < hearings; h++) {
    const c = correlate(onsets, h * step, half, reach);
    const at = (lag: number) => {
      const i = Math.floor(lag);
      return i + 1 > reach ? 0 : Math.max(0, c[i] + (lag - i) * (c[i + 1] - c[i]));
    };
    weights.push(lags.map((lag, k) => (at(lag) + 0.5 * at(2 * lag) + 0.25 * at(4 * lag)) * prior[k]));
  }
  const path = bestPath(weights, count);
  const period = Float32Array.from(onsets, (_, i) => {
    const x = Math.min(hearings - 1, i / step);
    const h = Math.min(hearings - 1, Math.floor(x));
    const next = Math.min(hearings - 1, h + 1);
    const octaves = path[h] + (x - h) * (path[next] - path[h]);
    return 60 / (SLOWEST * 2 ** (octaves / AN_OCTAVE));
  });
  const strength = path.reduce((sum, k, h) => sum + weights[h][k] / (1.75 * prior[k]), 0) / hearings;
  return { period, strength };
}

/** The path of most weight through rows of `count` values, a step between neighbours costing by how far it goes. */
function bestPath(weights: readonly Float64Array[], count: number): number[] {
  const from: Int16Array[] = [];
  let score = Float64Array.from(weights[0]);
  for (const row of weights.slice(1)) {
    const next = new Float64Array(count);
    const back = new Int16Array(count);
    for (let k = 0; k < count; k++) {
      let [best, at] = [Number.NEGATIVE_INFINITY, k];
      for (let j = 0; j < count; j++) {
        const value = score[j] - (CHANGE * Math.abs(k - j)) / AN_OCTAVE;
        if (value > best) [best, at] = [value, j];
      }
      next[k] = best + row[k];
      back[k] = at;
    }
    score = next;
    from.push(back);
  }
  let k = score.indexOf(Math.max(...score));
  const out = [k];
  for (let h = from.length - 1; h >= 0; h--) {
    k = from[h][k];
    out.push(k);
  }
  return out.reverse();
}

/** The same path, so many times as fast. */
export const faster = (path: TempoPath, times: number): TempoPath => ({ ...path, period: path.period.map((p: Seconds) => p / times) });
