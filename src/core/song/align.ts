import { fftSize, gccPhat, parabola, type Spectrum, spectrumOf } from '../correlate';
import { clamp, median, type Seconds, type Unit } from '../units';
import type { HeardOnsets } from './onset';

/** A stretch of the old recording that is heard in the new one: what was at `t` is at `offset + rate * t`. */
export interface Matched {
  /** Where it begins and ends in the old recording. */
  from: Seconds;
  to: Seconds;
  offset: Seconds;
  rate: number;
}

/** How a new mix or edit of a song lies on the old one. */
export interface Alignment {
  /** In the order of the old recording; empty where the two are not the same song. */
  pieces: Matched[];
  /** Share of the old recording that is heard in the new one. */
  share: Unit;
}

/** Curves looked at, and values a second of the rough search. */
const CURVES = ['all', 'low', 'mid'] as const;
const ROUGH = 50;
/** Stretches that are looked for, and how far apart they begin. */
const WINDOW: Seconds = 12;
const STEP: Seconds = 4;
/** Speeds tried, from, to and by. */
const RATES = [0.9, 1.1, 0.0025] as const;
/** A stretch that agrees less is taken for not there; what going over to another place costs. */
const HEARD = 0.42;
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
  const middle = Math.round((place.at + WINDOW / 2 - old.start) * old.rate);
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

/** A line through where short stretches are heard exactly, by the fine curves: offset and rate of a piece. */
function refined(old: HeardOnsets, fresh: HeardOnsets, { from, to, offset, rate }: Matched): Matched {
  const { rate: hops } = old;
  const half = Math.round(1.5 * hops);
  const reach = Math.round(0.1 * hops);
  const points: { t: number; u: number }[] = [];
  for (let t = from + 1.5; t <= to - 1.5; t += Math.max(0.75, (to - from) / 400)) {
    const middle = Math.round((t - old.start) * hops);
    const time = old.start + middle / hops;
    const expected = (offset + rate * time - fresh.start) * hops;
    const scores = Array.from({ length: 2 * reach + 1 }, (_, k) => agreement(old.all, fresh.all, middle, expected + k - reach, half, rate));
    const best = scores.indexOf(Math.max(...scores));
    if (best < 1 || best > 2 * reach - 1 || scores[best] < 0.35) continue;
    const part = parabola(scores[best - 1], scores[best], scores[best + 1]);
    points.push({ t: time, u: fresh.start + (expected + best + part - reach) / hops });
  }
  if (points.length < 4) return { from, to, offset, rate };
  return { from, to, ...lineThrough(points, { offset, rate }) };
}

/** Correlation coefficient of the old curve around `middle` with the new one around `at`, which runs at `rate`. */
function agreement(a: Float32Array, b: Float32Array, middle: number, at: number, half: number, rate: number): number {
  let [sa, sb, aa, bb, ab, n] = [0, 0, 0, 0, 0, 0];
  for (let k = -half; k <= half; k++) {
    const x = a[middle + k] ?? 0;
    const place = at + k * rate;
    const i = Math.floor(place);
    const y = i < 0 || i + 1 >= b.length ? 0 : b[i] + (place - i) * (b[i + 1] - b[i]);
    sa += x;
    sb += y;
    aa += x * x;
    bb += y * y;
    ab += x * y;
    n++;
  }
  return (ab - (sa * sb) / n) / Math.sqrt(Math.max(1e-9, (aa - (sa * sa) / n) * (bb - (sb * sb) / n)));
}

/** How well a second of the old recording around `t` agrees with where a piece says it is heard. */
function agreementAt(old: HeardOnsets, fresh: HeardOnsets, { offset, rate }: Matched, t: Seconds): number {
  const middle = Math.round((t - old.start) * old.rate);
  const time = old.start + middle / old.rate;
  return agreement(old.all, fresh.all, middle, (offset + rate * time - fresh.start) * old.rate, Math.round(0.5 * old.rate), rate);
}

/** A piece made longer at both ends for as long as the recordings agree, no further than `low` and `high`. */
function grown(old: HeardOnsets, fresh: HeardOnsets, piece: Matched, low: Seconds, high: Seconds): Matched {
  const step = 0.25;
  let { from, to } = piece;
  while (from - step > low && agreementAt(old, fresh, piece, from - step) > HEARD) from -= step;
  while (to + step < high && agreementAt(old, fresh, piece, to + step) > HEARD) to += step;
  // What little is left to an end of the recordings may be quiet, and goes along.
  return { ...piece, from: from - low < WINDOW / 4 ? Math.min(from, low) : from, to: high - to < WINDOW / 4 ? Math.max(to, high) : to };
}

/** Least squares on the points that lie within three times the median distance, over and over. */
function lineThrough(points: readonly { t: number; u: number }[], first: { offset: number; rate: number }) {
  let line = first;
  let use = points;
  for (let round = 0; round < 6; round++) {
    const off = points.map((p) =>
      Math.abs(p.u - line.offset - line.rate * p.t - (round ? 0 : median(points.map((q) => q.u - line.offset - line.rate * q.t)))),
    );
    const limit = Math.max(0.002, 3 * median(off));
    use = points.filter((_, i) => off[i] <= limit);
    const mt = use.reduce((sum, p) => sum + p.t, 0) / use.length;
    const mu = use.reduce((sum, p) => sum + p.u, 0) / use.length;
    const spread = use.reduce((sum, p) => sum + (p.t - mt) ** 2, 0);
    const rate = spread > 4 ? use.reduce((sum, p) => sum + (p.t - mt) * (p.u - mu), 0) / spread : line.rate;
    line = { rate, offset: mu - rate * mt };
  }
  return line;
}

/** Where one piece ends and the next begins: where the one agrees no longer and the other does. */
function joined(old: HeardOnsets, fresh: HeardOnsets, a: Matched, b: Matched): [Matched, Matched] {
  const at = (piece: Matched, t: Seconds) => agreementAt(old, fresh, piece, t);
  // A stretch that is gone: the two pieces meet at one instant of the new recording; one that was put in: at one of the old.
  const onward = b.offset + b.rate * b.to > a.offset + a.rate * a.to;
  const gone = onward ? Math.max(0, (a.offset - b.offset) / b.rate) : 0;
  const [low, high] = [a.from + 0.5, Math.min(b.to - gone, a.to + WINDOW) - 0.5];
  const step = 0.05;
  const cuts = Array.from({ length: Math.max(1, Math.floor((high - low) / step)) }, (_, k) => low + k * step);
  // Chosen so that what lies before it agrees with the one, and what lies after it with the other.
  const gains = cuts.map((t) => at(a, t) - at(b, t + gone));
  let [best, most, sum] = [0, Number.NEGATIVE_INFINITY, 0];
  gains.forEach((gain, k) => {
    sum += gain;
    if (sum > most) [best, most] = [k, sum];
  });
  const cut = cuts[best] + step / 2;
  return [
    { ...a, to: cut },
    { ...b, from: cut + gone },
  ];
}

/**
 * Where a new mix or edit of a song has what was in the old one: stretches of twelve seconds of the old recording's onset strength are
 * looked for in the new one by correlation at the one speed that fits best (90 to 110 %), the likeliest places in order are joined to
 * pieces, and each piece is laid exactly by a line through short stretches. A piece keeps its length to the ends of both recordings.
 * Durations in seconds. Correlation of onset curves is common practice.
 */
export function alignSongs(old: HeardOnsets, fresh: HeardOnsets, oldDuration: Seconds, freshDuration: Seconds): Alignment {
  const none: Alignment = { pieces: [], share: 0 };
  if (oldDuration < WINDOW || freshDuration < WINDOW / 2) return none;
  const searched = new Searched(rough(fresh, 1));
  const rate = rateOf(old, searched, oldDuration);
  const starts = Array.from({ length: Math.floor((oldDuration - WINDOW) / STEP) + 1 }, (_, k) => k * STEP);
  const places = likeliest(
    placesAt(old, searched, rate, starts, PLACES).map((all) => all.map((p) => heardExactly(old, fresh, rate, p))),
    rate,
  );
  const pieces: Matched[] = [];
  for (const place of places) {
    if (!place) continue;
    const offset = place.heard - rate * place.at;
    const open = pieces.at(-1);
    if (open && Math.abs(open.offset - offset) < 0.12) open.to = place.at + WINDOW;
    else pieces.push({ from: place.at, to: place.at + WINDOW, offset, rate });
  }
  if (!pieces.length) return none;
  const exact: Matched[] = [];
  const once = pieces.filter((p) => !pieces.some((q) => q !== p && hidesBehind(p, q)));
  for (const piece of once.map((p) => refined(old, fresh, p))) {
    const before = exact.at(-1);
    const meets = before && before.to > piece.from - WINDOW;
    if (meets) exact.splice(-1, 1, ...joined(old, fresh, before, piece));
    else exact.push(piece);
  }
  const ends = exact.map((p, k) => {
    const before = exact[k - 1];
    const taken = before ? before.offset + before.rate * before.to : 0;
    const low = Math.max(before?.to ?? 0, taken < p.offset + p.rate * p.to ? (taken - p.offset) / p.rate : 0, -p.offset / p.rate);
    const high = Math.min(exact[k + 1]?.from ?? oldDuration, (freshDuration - p.offset) / p.rate);
    return grown(old, fresh, p, low, high);
  });
  const kept = ends.filter((p) => p.to - p.from > 1);
  return { pieces: kept, share: kept.reduce((sum, p) => sum + p.to - p.from, 0) / oldDuration };
}

/** Whether most of where a piece is heard is where a longer one is: a part that comes again is not both of them. */
function hidesBehind(p: Matched, longer: Matched): boolean {
  const [a, b] = [p, longer].map((m) => [m.offset + m.rate * m.from, m.offset + m.rate * m.to]);
  return longer.to - longer.from > p.to - p.from && Math.min(a[1], b[1]) - Math.max(a[0], b[0]) > (a[1] - a[0]) / 2;
}

/** Where an instant of the old recording is in the new one; null where it is no longer there. */
export function slid({ pieces }: Alignment, time: Seconds): Seconds | null {
  const piece = pieces.find((p) => time >= p.from - 1e-6 && time <= p.to + 1e-6);
  return piece ? piece.offset + piece.rate * time : null;
}
