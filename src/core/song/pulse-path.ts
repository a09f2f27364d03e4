import FFT from 'fft.js';
import { FLUX_RATE } from './band-flux';
import { mean, smoothed, valueAt } from './curves';
import { TwoSpectra } from './two-spectra';

/** Tempi looked at, beats a minute, and steps an octave. */
const [SLOWEST, FASTEST, AN_OCTAVE] = [55, 215, 60];
/** Values to each side that a tempo is heard in, and from one hearing to the next. */
const WINDOW = 8 * FLUX_RATE;
const HOP = FLUX_RATE;
/** Repetitions of a beat that count, and how much. */
const COMB = [
  [1, 1],
  [2, 0.8],
  [4, 0.8],
] as const;
/** The usual tempo and how far one is from it in octaves, and how much that counts. */
const [USUAL, SPREAD, PRIOR] = [112, 0.75, 0.4];
/** What a jump of tempo costs, and a slide by a step (times its square); steps a slide may go at most. */
const [JUMP, SLIDE, FURTHEST] = [5, 1, 10];
/** What a slide costs where the tempo is held. */
const HELD = 100;

/** Autocorrelations of stretches, two from one transform and one back: power spectra are even, so each comes back as a part of its own. */
class Autocorrelation {
  private readonly spectra: TwoSpectra;
  private readonly fft: FFT;
  private readonly powers: readonly [Float64Array, Float64Array];
  private readonly both: number[];
  private readonly back: number[];

  /** Of stretches of up to `longest` values, at lags from 0 to `reach`. */
  constructor(
    longest: number,
    private readonly reach: number,
  ) {
    const size = 2 ** Math.ceil(Math.log2(longest + reach));
    this.spectra = new TwoSpectra(size);
    this.fft = new FFT(size);
    this.powers = [new Float64Array(size / 2 + 1), new Float64Array(size / 2 + 1)];
    this.both = this.fft.createComplexArray();
    this.back = this.fft.createComplexArray();
  }

  /** As shares of the power, made up for the fewer values that meet at a longer lag. */
  of(first: Float64Array, second: Float64Array): [Float64Array, Float64Array] {
    const { spectra, fft, powers, both, back, reach } = this;
    const { size, windows } = spectra;
    windows.fill(0);
    for (let i = 0; i < first.length; i++) windows[2 * i] = first[i];
    for (let i = 0; i < second.length; i++) windows[2 * i + 1] = second[i];
    spectra.powers(...powers);
    for (let k = 0; k < size; k++) {
      const at = Math.min(k, size - k);
      both[2 * k] = powers[0][at];
      both[2 * k + 1] = powers[1][at];
    }
    fft.transform(back, both);
    const share = ({ length }: Float64Array, part: 0 | 1) =>
      Float64Array.from(
        { length: reach + 1 },
        (_, lag) => (back[2 * lag + part] / (back[part] || 1)) * (length / (length - Math.min(lag, 0.7 * length))),
      );
    return [share(first, 0), share(second, 1)];
  }
}

const TEMPI = Array.from({ length: Math.floor(AN_OCTAVE * Math.log2(FASTEST / SLOWEST)) + 1 }, (_, i) => SLOWEST * 2 ** (i / AN_OCTAVE));

/** How well each tempo's beats repeat, second by second. */
function tempogram(accents: Float32Array): Float32Array[] {
  const soft = smoothed(accents, 1.5);
  const usual = mean(soft);
  const reach = Math.ceil((60 / SLOWEST) * FLUX_RATE * 8) + 2;
  const weight = COMB.reduce((sum, [, w]) => sum + w, 0);
  const parts = Array.from({ length: Math.max(1, Math.ceil(accents.length / HOP)) }, (_, k) => {
    const middle = k * HOP + HOP / 2;
    const from = Math.max(0, middle - WINDOW);
    const to = Math.min(accents.length, middle + WINDOW);
    return Float64Array.from({ length: to - from }, (_, i) => {
      const hann = 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / (to - from));
      return (soft[from + i] - usual) * (0.15 + 0.85 * hann);
    });
  });
  const autocorrelation = new Autocorrelation(2 * WINDOW, reach);
  const repeats = parts.flatMap((part, k) => (k % 2 ? [] : autocorrelation.of(part, parts[k + 1] ?? part)));
  return parts.map((_, k) =>
    Float32Array.from(TEMPI, (bpm) => {
      const lag = (60 / bpm) * FLUX_RATE;
      return Math.max(0, COMB.reduce((sum, [times, w]) => sum + w * valueAt(repeats[k], times * lag), 0) / weight);
    }),
  );
}

/** The path of tempi that repeats best and changes least (Viterbi): small slides are cheap, jumps cost the same however far. */
function bestPath(rows: readonly Float32Array[], jump = JUMP, slide = SLIDE): { path: number[]; score: number } {
  const count = TEMPI.length;
  const prior = TEMPI.map((bpm) => -0.5 * (Math.log2(bpm / USUAL) / SPREAD) ** 2 * PRIOR);
  const seen = (k: number, i: number) => Math.log(0.02 + rows[k][i]) + prior[i];
  let score = Float64Array.from({ length: count }, (_, i) => seen(0, i));
  const back: Int16Array[] = [];
  for (let k = 1; k < rows.length; k++) {
    const next = new Float64Array(count);
    const from = new Int16Array(count);
    let top = 0;
    for (let i = 1; i < count; i++) if (score[i] > score[top]) top = i;
    for (let i = 0; i < count; i++) {
      let best = score[top] - jump;
      let at = top;
      for (let j = Math.max(0, i - FURTHEST); j <= Math.min(count - 1, i + FURTHEST); j++) {
        const value = score[j] - (slide * (i - j) ** 2) / AN_OCTAVE;
        if (value > best) {
          best = value;
          at = j;
        }
      }
      next[i] = best + seen(k, i);
      from[i] = at;
    }
    score = next;
    back.push(from);
  }
  let i = score.indexOf(Math.max(...score));
  const whole = score[i] / rows.length;
  const path = [i];
  for (let k = back.length - 1; k >= 0; k--) {
    i = back[k][i];
    path.push(i);
  }
  return { path: path.reverse(), score: whole };
}

/** The period of a path of tempi at each of `length` values of the accents. */
function periodOf(rows: readonly Float32Array[], path: readonly number[], length: number): Float32Array {
  const tempi = path.map((i, k) => {
    const row = rows[k];
    if (i === 0 || i === TEMPI.length - 1 || row[i] < row[i - 1] || row[i] < row[i + 1]) return TEMPI[i];
    const off = (row[i - 1] - row[i + 1]) / (2 * (row[i - 1] - 2 * row[i] + row[i + 1]) || 1);
    return TEMPI[i] * 2 ** (Math.max(-1, Math.min(1, off)) / AN_OCTAVE);
  });
  return Float32Array.from({ length }, (_, t) => {
    const place = (t - HOP / 2) / HOP;
    const k = Math.max(0, Math.min(tempi.length - 1, Math.floor(place)));
    const [here, next] = [tempi[k], tempi[Math.min(tempi.length - 1, k + 1)]];
    const share = Math.max(0, Math.min(1, place - k));
    // A jump is one; a slide goes evenly.
    const jumps = Math.abs(Math.log2(here / next)) > 0.12;
    return (60 / (jumps ? (share < 0.5 ? here : next) : here * (1 - share) + next * share)) * FLUX_RATE;
  });
}

/**
 * The clearest pulse: its period at every value of the accents, in values, and how clearly it is heard (logarithm, mean over the song);
 * where that pulse jumps, `held` is the clearest one that does not: a song that keeps its tempo may be heard in threes for a while.
 */
export function pulsePath(accents: Float32Array): { period: Float32Array; held: Float32Array | null; score: number } {
  const rows = tempogram(accents);
  const { path, score } = bestPath(rows);
  const jumps = path.some((i, k) => k > 0 && Math.abs(i - path[k - 1]) > FURTHEST / 4);
  return {
    period: periodOf(rows, path, accents.length),
    held: jumps ? periodOf(rows, bestPath(rows, Number.POSITIVE_INFINITY, HELD).path, accents.length) : null,
    score,
  };
}
