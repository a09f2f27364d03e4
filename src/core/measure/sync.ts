import { fftSize, gccPhat, parabola, spectrumOf } from '../correlate';
import { toAnalysisRate } from '../song';
import { median, type Seconds } from '../units';
import { say } from '../words';

/** A recording's samples, -1..1, one array a channel. */
export interface Recorded {
  channels: readonly Float32Array[];
  sampleRate: number;
}

/**
 * How one recording of a sound lies in another: what is heard at `t` seconds in the first is heard at
 * `offset + t · (1 + drift)` in the second.
 */
export interface SoundMatch {
  offset: Seconds;
  /** Clock of the second against the first, parts per million; 0 when the common stretch is too short to tell. */
  driftPpm: number;
  /** Share of the windows compared that agree, 0..1. */
  agreeing: number;
  /** Typical distance of the agreeing windows from the line, seconds: how sure the offset is. */
  spread: Seconds;
  /** The common stretch, seconds of the first recording. */
  from: Seconds;
  to: Seconds;
}

export type Sync = { ok: true; match: SoundMatch } | { ok: false; reason: string };

const FINE_RATE = 16000;
const COARSE_STEP = 4;
const COARSE_RATE = FINE_RATE / COARSE_STEP;
/** Seconds of the shorter recording that are looked for in the longer one, and seconds of a fine window. */
const PIECE = 8;
const WINDOW = 32768 / FINE_RATE;
/** Clocks of recorders differ by no more than this. */
const MOST_DRIFT = 400e-6;
/** How far a peak of the coarse search must stand out: times the correlation's own RMS. Chance reaches 5.5 in a million lags. */
const STANDS_OUT = 6.5;
/** Pieces that agree on one shift and leave no doubt. */
const ENOUGH = 5;

function decimated(samples: Float32Array): Float32Array {
  return Float32Array.from({ length: Math.floor(samples.length / COARSE_STEP) }, (_, i) => {
    let sum = 0;
    for (let k = 0; k < COARSE_STEP; k++) sum += samples[i * COARSE_STEP + k];
    return sum / COARSE_STEP;
  });
}

const rms = (v: ArrayLike<number>) => {
  let sum = 0;
  for (let i = 0; i < v.length; i++) sum += v[i] * v[i];
  return Math.sqrt(sum / Math.max(1, v.length));
};

/** Normalised correlation of a piece with what stands `lag` samples into the longer recording; 0 for the opposite. */
function likeness(part: Float32Array, haystack: Float32Array, lag: number): number {
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = Math.max(0, -lag); i < Math.min(part.length, haystack.length - lag); i++) {
    ab += part[i] * haystack[lag + i];
    aa += part[i] ** 2;
    bb += haystack[lag + i] ** 2;
  }
  return Math.max(0, ab) / Math.sqrt(aa * bb || 1);
}

interface Sighting {
  /** Middle of the piece in the needle, seconds, and where its start would lie in the haystack, less its start in the needle. */
  at: Seconds;
  shift: Seconds;
  /** How far the peak stands out, times the RMS. */
  clear: number;
  /** Plain correlation there, 0..1: tells apart the repeats of a song, in which whitened peaks are much alike. */
  alike: number;
}

/** Where pieces of the shorter recording are heard in the longer one: the three clearest places of each. */
function sightings(needle: Float32Array, haystack: Float32Array): Sighting[] {
  const piece = Math.min(needle.length, PIECE * COARSE_RATE);
  const count = Math.max(1, Math.min(12, Math.ceil(needle.length / piece) * 2 - 1));
  const size = fftSize(haystack.length + piece);
  const hay = spectrumOf(haystack, size);
  const out: Sighting[] = [];
  const loud = rms(needle);
  // Every second piece first: when those agree, the ones between have nothing to add.
  const halves = Math.ceil(count / 2);
  for (let k = 0; k < count; k++) {
    if (k === halves && halves >= ENOUGH && agreeing(out) >= ENOUGH) break;
    const n = k < halves ? 2 * k : 2 * (k - halves) + 1;
    const start = count === 1 ? 0 : Math.round((n * (needle.length - piece)) / (count - 1));
    const part = needle.subarray(start, start + piece);
    if (rms(part) < loud / 30) continue;
    const lags = gccPhat(hay, spectrumOf(part, size), 60 / COARSE_RATE, 0.45, 0.85);
    const level = rms(lags) || 1;
    for (let peak = 0; peak < 3; peak++) {
      let best = 0;
      for (let i = 1; i < size; i++) if (lags[i] > lags[best]) best = i;
      const clear = lags[best] / level;
      if (clear < STANDS_OUT) break;
      const lag = best > size - piece ? best - size : best;
      out.push({ at: (start + piece / 2) / COARSE_RATE, shift: (lag - start) / COARSE_RATE, clear, alike: likeness(part, haystack, lag) });
      for (let i = best - 40; i <= best + 40; i++) lags[(i + size) % size] = 0;
    }
  }
  return out;
}

/** The sightings that agree with each other and are most alike, within what clocks may drift. */
function likeliest(seen: readonly Sighting[]): Sighting[] {
  let best: Sighting[] = [];
  let most = 0;
  for (const s of seen) {
    const near = seen.filter((o) => Math.abs(o.shift - s.shift) < 0.012 + MOST_DRIFT * Math.abs(o.at - s.at));
    const weight = near.reduce((sum, o) => sum + o.alike, 0);
    if (weight > most) {
      most = weight;
      best = near;
    }
  }
  return best;
}

/** Pieces that agree on the likeliest shift. */
const agreeing = (seen: readonly Sighting[]) => new Set(likeliest(seen).map((s) => s.at)).size;

/** The shift most sightings agree on, within what clocks may drift; null when they disagree. */
function agreedShift(seen: readonly Sighting[], pieces: number): { shift: Seconds; slope: number } | null {
  const best = likeliest(seen);
  const places = new Set(best.map((s) => s.at)).size;
  const clear = Math.max(0, ...best.map((s) => s.clear));
  // Several pieces that agree, or for a short sound one that stands out beyond doubt.
  if (places < Math.max(2, pieces * 0.3) && clear < 2.2 * STANDS_OUT) return null;
  const [slope] = line(best.map((s) => ({ x: s.at, y: s.shift })));
  const middle = median(best.map((s) => s.shift - slope * s.at));
  return { shift: middle, slope };
}

/** Median of slopes between points (Theil 1950, Sen 1968) and the median intercept. */
function line(points: readonly { x: number; y: number }[]): [number, number] {
  const slopes: number[] = [];
  points.forEach((p, i) => {
    for (const q of points.slice(i + 1)) if (Math.abs(q.x - p.x) > 1e-6) slopes.push((q.y - p.y) / (q.x - p.x));
  });
  const slope = slopes.length ? median(slopes) : 0;
  return [slope, median(points.map((p) => p.y - slope * p.x))];
}

/** Least squares over the points near the robust line, twice. */
function refined(points: readonly { x: number; y: number }[]): {
  slope: number;
  at0: number;
  good: { x: number; y: number }[];
  spread: number;
} {
  let [slope, at0] = line(points);
  let good = points.filter(() => true);
  for (let round = 0; round < 3; round++) {
    const off = points.map((p) => Math.abs(p.y - slope * p.x - at0));
    const limit = Math.max(4 / FINE_RATE, 3 * median(off));
    good = points.filter((_, i) => off[i] <= limit);
    const mx = good.reduce((s, p) => s + p.x, 0) / good.length;
    const my = good.reduce((s, p) => s + p.y, 0) / good.length;
    const sxx = good.reduce((s, p) => s + (p.x - mx) ** 2, 0);
    const wide = Math.max(...good.map((p) => p.x)) - Math.min(...good.map((p) => p.x));
    slope = wide > 5 && sxx > 0 ? good.reduce((s, p) => s + (p.x - mx) * (p.y - my), 0) / sxx : 0;
    at0 = slope === 0 ? median(good.map((p) => p.y)) : my - slope * mx;
  }
  return { slope, at0, good, spread: median(good.map((p) => Math.abs(p.y - slope * p.x - at0))) };
}

const UNRELATED: Sync = {
  ok: false,
  reason: say`These two recordings do not hold the same sound, or it is too faint in one of them. No offset is given.`,
};

/**
 * Offset and clock drift between two recordings of one sound: pieces of the shorter are looked for in the longer by
 * GCC-PHAT (Knapp & Carter 1976), then windows of two seconds are compared and a line laid through their offsets. Refuses
 * recordings that are unrelated, silent or shorter than half a second.
 */
export function syncSounds(first: Recorded, second: Recorded): Sync {
  const [a, b] = [first, second].map((r) => toAnalysisRate(r.channels, r.sampleRate));
  if (Math.min(a.length, b.length) < FINE_RATE / 2) return { ok: false, reason: say`One of the recordings is shorter than half a second.` };
  if (rms(a) < 1e-5 || rms(b) < 1e-5) return { ok: false, reason: say`One of the recordings is silent.` };
  const swap = a.length > b.length;
  const [needle, haystack] = swap ? [b, a] : [a, b];
  const coarse = decimated(needle);
  const seen = sightings(coarse, decimated(haystack));
  const rough = agreedShift(seen, new Set(seen.map((s) => s.at)).size);
  if (!rough) return UNRELATED;
  const points = fineOffsets(needle, haystack, rough);
  if (points.tried === 0) return UNRELATED;
  const { slope, at0, good, spread } = refined(points.found.length ? points.found : [{ x: 0, y: rough.shift }]);
  const agreeing = good.length / points.tried;
  if (agreeing < 0.25) return UNRELATED;
  // The line is y = shift of the haystack against the needle at needle time x.
  const [from, to] = [Math.max(0, -at0), Math.min(needle.length / FINE_RATE, haystack.length / FINE_RATE - at0)];
  if (!swap) return { ok: true, match: { offset: at0, driftPpm: slope * 1e6, agreeing, spread, from, to } };
  const back = 1 / (1 + slope);
  return {
    ok: true,
    match: { offset: -at0 * back, driftPpm: (back - 1) * 1e6, agreeing, spread, from: from + at0, to: to * (1 + slope) + at0 },
  };
}

/** Offsets of windows all along the common stretch, each to a part of a sample. */
function fineOffsets(
  needle: Float32Array,
  haystack: Float32Array,
  rough: { shift: Seconds; slope: number },
): { found: { x: Seconds; y: Seconds }[]; tried: number } {
  const length = Math.min(WINDOW * FINE_RATE, 2 ** Math.floor(Math.log2(needle.length)));
  const size = 2 * length;
  const step = Math.max(length / 2, Math.floor((needle.length - length) / 120));
  const reach = Math.round(0.02 * FINE_RATE);
  const found: { x: Seconds; y: Seconds }[] = [];
  const loud = rms(needle);
  let tried = 0;
  for (let start = 0; start + length <= needle.length; start += step) {
    const middle = (start + length / 2) / FINE_RATE;
    const there = start + Math.round((rough.shift + rough.slope * middle) * FINE_RATE);
    if (there < 0 || there + length > haystack.length) continue;
    const part = needle.subarray(start, start + length);
    if (rms(part) < loud / 30) continue;
    tried++;
    const lags = gccPhat(
      spectrumOf(tapered(haystack.subarray(there, there + length)), size),
      spectrumOf(tapered(part), size),
      80 / FINE_RATE,
      0.45,
      0.9,
    );
    let best = 0;
    for (let k = -reach; k <= reach; k++) if (lags[(k + size) % size] > lags[(best + size) % size]) best = k;
    const at = (k: number) => lags[(best + k + size) % size];
    if (at(0) < 6 * rms(lags) || Math.abs(best) === reach) continue;
    found.push({ x: middle, y: (there - start + best + parabola(at(-1), at(0), at(1))) / FINE_RATE });
  }
  return { found, tried };
}

const tapers = new Map<number, Float64Array>();

function tapered(part: Float32Array): Float64Array {
  const n = part.length;
  const taper = tapers.get(n) ?? Float64Array.from({ length: n }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / n));
  tapers.set(n, taper);
  const out = new Float64Array(n);
  for (let i = 0; i < n; i++) out[i] = part[i] * taper[i];
  return out;
}
