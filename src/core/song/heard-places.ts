import { fftSize, gccPhat, type Spectrum, spectrumOf } from '../correlate';
import { clamp, type Seconds } from '../units';
import { agreement } from './agreement';
import { type HeardOnsets, hopAt } from './onset';

/** Curves looked at, and values a second of the rough search. */
const CURVES = ['all', 'low', 'mid'] as const;
const ROUGH = 50;
/** Stretches that are looked for, and how far apart they begin. */
export const WINDOW: Seconds = 12;
const STEP: Seconds = 4;
/** Speeds tried, from, to and by. */
const RATES = [0.9, 1.1, 0.0025] as const;
/** A stretch that agrees less is taken for not there; what going over to another place costs. */
export const HEARD = 0.42;
const JUMP = 0.9;
/** Candidates kept for each stretch. */
const PLACES = 10;

/** Curves at the rough rate, each value the mean of those it covers, blurred by one each way, at so many times the speed. */
function rough(onsets: HeardOnsets, rate: number): Float64Array[] {
  const n = Math.floor(((onsets.all.length / onsets.rate) * ROUGH) / rate);
  const step = (onsets.rate / ROUGH) * rate;
  return CURVES.map((name) => {
    const curve = onsets[name];
    const sums = new Float64Array(curve.length + 1);
    for (let i = 0; i < curve.length; i++) sums[i + 1] = sums[i] + curve[i];
    return Float64Array.from({ length: n }, (_, i) => {
      const from = clamp(Math.round((i - 1) * step), 0, curve.length);
      const to = clamp(Math.round((i + 2) * step), 0, curve.length);
      return (sums[to] - sums[from]) / Math.max(1, to - from);
    });
  });
}

/** The new recording made ready to be searched: spectra of its curves, and running sums for their spread. */
class Searched {
  readonly size: number;
  readonly length: number;
  private readonly spectra: Spectrum[];
  private readonly sums: Float64Array[];
  private readonly squares: Float64Array[];

  constructor(curves: readonly Float64Array[]) {
    this.length = curves[0].length;
    this.size = fftSize(this.length + 2 * WINDOW * ROUGH);
    this.spectra = curves.map((c) => spectrumOf(c, this.size));
    const running = (pick: (v: number) => number) =>
      curves.map((c) => {
        const out = new Float64Array(c.length + 1);
        for (let i = 0; i < c.length; i++) out[i + 1] = out[i] + pick(c[i]);
        return out;
      });
    this.sums = running((v) => v);
    this.squares = running((v) => v * v);
  }

  /** Correlation coefficient of a stretch with the recording at each place it fits in, mean over the curves. */
  correlate(parts: readonly Float64Array[]): Float64Array {
    const width = parts[0].length;
    const out = new Float64Array(Math.max(0, this.length - width + 1));
    parts.forEach((part, c) => {
      const mean = part.reduce((a, v) => a + v, 0) / width;
      const centred = part.map((v) => v - mean);
      const power = centred.reduce((a, v) => a + v * v, 0);
      const lags = gccPhat(this.spectra[c], spectrumOf(centred, this.size), 0, 0.5, 0);
      for (let i = 0; i < out.length; i++) {
        const sum = this.sums[c][i + width] - this.sums[c][i];
        const spread = this.squares[c][i + width] - this.squares[c][i] - (sum * sum) / width;
        out[i] += lags[i] / Math.sqrt(Math.max(1e-9, spread * power)) / parts.length;
      }
    });
    return out;
  }
}

interface Place {
  /** Song time of the window's start in the old recording, and of where it is heard in the new one. */
  at: Seconds;
  heard: Seconds;
  score: number;
}

/** The best places of each window at a speed; none for windows without anything that begins. */
function placesAt(old: HeardOnsets, searched: Searched, rate: number, starts: readonly Seconds[], keep: number): Place[][] {
  const curves = rough(old, 1 / rate);
  return starts.map((at) => {
    const from = Math.round(at * rate * ROUGH);
    const parts = curves.map((c) => c.subarray(from, from + Math.round(WINDOW * rate * ROUGH)));
    if (parts[0].length < (WINDOW * ROUGH) / 2 || parts[0].every((v) => v < 1e-3)) return [];
    const found = searched.correlate(parts);
    const order: Place[] = [];
    for (let k = 0; k < keep; k++) {
      let best = -1;
      for (let i = 0; i < found.length; i++) if (best < 0 || found[i] > found[best]) best = i;
      if (best < 0 || found[best] < 0.1) break;
      order.push({ at, heard: best / ROUGH, score: found[best] });
      found.fill(-1, Math.max(0, best - 6), best + 7);
    }
    return order;
  });
}

/** The speed at which stretches from all over the old recording are heard best. */
function rateOf(old: HeardOnsets, searched: Searched, duration: Seconds): number {
  const probes = Math.min(6, Math.max(1, Math.floor(duration / WINDOW)));
  const starts = Array.from({ length: probes }, (_, k) => ((k + 0.5) / probes) * Math.max(0, duration - WINDOW));
  const score = (rate: number) => placesAt(old, searched, rate, starts, 1).reduce((sum, [p]) => sum + (p?.score ?? 0) ** 2, 0);
  let [best, most] = [1, score(1)];
  // As it was is tried first, and believed at once when it fits.
  if (most > 0.6 * probes) return 1;
  const [slowest, fastest, step] = RATES;
  const look = (from: number, to: number, by: number) => {
    for (let rate = from; rate <= to + 1e-9; rate += by) {
      const value = score(rate);
      if (value > most) [best, most] = [rate, value];
    }
  };
  look(slowest, fastest, 2 * step);
  look(best - step, best + step, 2 * step);
  return best;
}

/** A place brought to a hop, and judged by the fine curve as well: bars that come again differ only there. */
function heardExactly(old: HeardOnsets, fresh: HeardOnsets, rate: number, place: Place): Place {
  const half = Math.round((WINDOW / 2) * old.rate);
  const middle = hopAt(old, place.at + WINDOW / 2);
  const time = old.start + middle / old.rate;
  let [best, score] = [place.heard, Number.NEGATIVE_INFINITY];
  for (let k = -6; k <= 6; k++) {
    const heard = place.heard + k / old.rate;
    const value = agreement(old.all, fresh.all, middle, (heard + rate * (time - place.at) - fresh.start) * old.rate, half, rate);
    if (value > score) [best, score] = [heard, value];
  }
  return { ...place, heard: best, score: (place.score + score) / 2 };
}

/** One place for each window, or none: the most that is heard with the fewest jumps (Viterbi). */
function likeliest(places: readonly Place[][], rate: number): (Place | null)[] {
  const states = places.map((p) => [null, ...p]);
  const shift = (p: Place) => p.heard - rate * p.at;
  const worth = (p: Place | null) => p?.score ?? HEARD;
  const step = (a: Place | null, b: Place | null) =>
    a && b ? (Math.abs(shift(a) - shift(b)) < 0.12 ? 0 : b.heard + 0.5 < a.heard ? 4 * JUMP : JUMP) : a === b ? 0 : JUMP / 2;
  let scores = states[0].map(worth);
  const from: number[][] = [];
  for (let k = 1; k < states.length; k++) {
    const back: number[] = [];
    scores = states[k].map((b) => {
      let best = 0;
      for (let j = 1; j < scores.length; j++)
        if (scores[j] - step(states[k - 1][j], b) > scores[best] - step(states[k - 1][best], b)) best = j;
      back.push(best);
      return scores[best] - step(states[k - 1][best], b) + worth(b);
    });
    from.push(back);
  }
  let at = scores.indexOf(Math.max(...scores));
  const out = [states[states.length - 1][at]];
  for (let k = from.length - 1; k >= 0; k--) {
    at = from[k][at];
    out.push(states[k][at]);
  }
  return out.reverse();
}

/**
 * Where stretches of twelve seconds of the old recording are heard in the new one, and how much faster the new one is (90 to 110 %):
 * the likeliest places in order, null where a stretch is not heard. Correlation of onset curves; common practice.
 */
export function heardPlaces(old: HeardOnsets, fresh: HeardOnsets, duration: Seconds): { places: (Place | null)[]; rate: number } {
  const searched = new Searched(rough(fresh, 1));
  const rate = rateOf(old, searched, duration);
  const starts = Array.from({ length: Math.floor((duration - WINDOW) / STEP) + 1 }, (_, k) => k * STEP);
  const found = placesAt(old, searched, rate, starts, PLACES).map((all) => all.map((p) => heardExactly(old, fresh, rate, p)));
  return { places: likeliest(found, rate), rate };
}
