import FFT from 'fft.js';
import { median, type Seconds, type Stops } from '../units';
import { boxMean } from './grid';

/** A lamp's flicker as the frames show it. */
export interface Flicker {
  /** In the frames, hertz: mains flicker is folded by the frame rate. */
  frequency: number;
  /** Half of the swing, EV. */
  amplitude: Stops;
  /** Bars that roll through the frame, or the whole frame at once. */
  kind: 'rolling bars' | 'whole frame';
}

/** Rows of the frame that light is read in apart. */
export const LIGHT_BANDS = 7;

/** A series without its slow course: less its mean over about two seconds, weighted towards the middle. */
function detrended(values: readonly number[], reach: number): number[] {
  const means = (v: readonly number[]) => [...boxMean(Float32Array.from(v), v.length, 1, reach)];
  const slow = means(means(values));
  return values.map((v, i) => v - slow[i]);
}

/** Share of a swing that `detrended` leaves: two boxes of 2·reach + 1 frames take the rest (their response is the square of a Dirichlet kernel). */
function keptOf(frequency: number, rate: number, reach: number): number {
  const wide = 2 * reach + 1;
  const half = (Math.PI * frequency) / rate;
  return 1 - (Math.sin(wide * half) / (wide * Math.sin(half))) ** 2;
}

/** What is left of each band when what all bands do together, and its own mean, are taken out: only bars that roll remain. */
function apart(bands: readonly (readonly number[])[]): number[][] {
  const together = bands[0].map((_, i) => bands.reduce((s, b) => s + b[i], 0) / bands.length);
  return bands.map((b) => {
    const own = b.map((v, i) => v - together[i]);
    const mean = own.reduce((s, v) => s + v, 0) / own.length;
    return own.map((v) => v - mean);
  });
}

/** Cosine and sine parts of each series at a frequency, by least squares without the cross term; twice the mean products. */
function partsAt(times: readonly Seconds[], series: readonly (readonly number[])[], frequency: number): [number, number][] {
  const sums = series.map((): [number, number] => [0, 0]);
  for (let i = 0; i < times.length; i++) {
    const a = 2 * Math.PI * frequency * times[i];
    const [c, s] = [Math.cos(a), Math.sin(a)];
    for (let k = 0; k < series.length; k++) {
      sums[k][0] += series[k][i] * c;
      sums[k][1] += series[k][i] * s;
    }
  }
  return sums.map(([c, s]) => [(2 * c) / times.length, (2 * s) / times.length]);
}

/** Power of all series together at a frequency, in the mean. */
const powerAt = (times: readonly Seconds[], series: readonly (readonly number[])[], frequency: number) =>
  partsAt(times, series, frequency).reduce((sum, [c, s]) => sum + c * c + s * s, 0) / series.length;

/** Cells of the even grid to one frame, and steps of frequency to one of the take's own. */
const [CELLS, FINER] = [4, 4];

/**
 * Power of all series together, in the mean, at 0, 1, 2 … steps of frequency up to half the frame rate: each value is shared by the two
 * cells of an even grid that it lies between, and the grid transformed at once (after Press & Rybicki 1989).
 */
function periodogram(times: readonly Seconds[], series: readonly (readonly number[])[]): { step: number; power: Float64Array } {
  const n = times.length;
  const cell = (times[n - 1] - times[0]) / (n - 1) / CELLS;
  const size = 2 ** Math.ceil(Math.log2(CELLS * FINER * n));
  const fft = new FFT(size);
  const power = new Float64Array(Math.floor(size / CELLS / 2) + 1);
  const [grid, out] = [new Float64Array(size), new Float64Array(2 * size)];
  for (const values of series) {
    grid.fill(0);
    for (let i = 0; i < n; i++) {
      const place = (times[i] - times[0]) / cell;
      const at = Math.floor(place);
      grid[at] += values[i] * (1 - place + at);
      grid[at + 1] += values[i] * (place - at);
    }
    fft.realTransform(out, grid);
    for (let k = 0; k < power.length; k++) power[k] += (out[2 * k] ** 2 + out[2 * k + 1] ** 2) * (4 / n / n / series.length);
  }
  // What sharing a value between two cells takes from quick swings.
  for (let k = 1; k < power.length; k++) power[k] /= (Math.sin((Math.PI * k) / size) / ((Math.PI * k) / size)) ** 4;
  return { step: 1 / (size * cell), power };
}

/**
 * Flicker in the light of a take: `bands[k]` is the exposure in EV of row band k against the reference at each of `times`. The
 * frequency is where the bands' summed periodogram stands highest (Lomb 1976, so that frames need not be evenly spaced); the
 * phase from band to band tells bars that roll from a frame that flickers whole. Null when nothing swings by what can be seen or the
 * take is shorter than a second and a half.
 */
export function findFlicker(times: readonly Seconds[], bands: readonly (readonly number[])[]): Flicker | null {
  const n = times.length;
  const span = n > 1 ? times[n - 1] - times[0] : 0;
  const known = bands.filter((b) => b.every(Number.isFinite));
  if (span < 1.5 || n < 30 || known.length === 0) return null;
  const rate = (n - 1) / span;
  const reach = Math.round(rate / 2);
  const quick = strongest(
    times,
    known.map((b) => detrended(b, reach)),
    1,
    rate / 2,
  );
  if (quick) return { ...quick, amplitude: quick.amplitude / keptOf(quick.frequency, rate, reach) };
  if (known.length < 3) return null;
  // Under 1 Hz a flicker looks like a drift of the light, but for bars that roll: they are not the same in all rows.
  const rest = apart(known);
  const slow = strongest(times, rest, 1 / span, 1);
  // It must be most of what differs from row to row: a lamp that is dimmed on one side of the set is no flicker.
  const all = rest.reduce((sum, b) => sum + b.reduce((q, v) => q + v * v, 0) / n, 0) / rest.length;
  return slow?.kind === 'rolling bars' && slow.amplitude >= 0.01 && slow.amplitude ** 2 / 2 > 0.7 * all ? slow : null;
}

/** Half of a swing that the eye can just see: half a per cent of the light at 8 to 10 Hz (de Lange 1958, from memory). */
const SEEN: Stops = 0.007;
/** How far a swing's power must stand over the median: of noise alone the highest of a thousand stands ten times over it (Scargle 1982). */
const STANDS = 20;

/** The strongest swing of all series together between two frequencies; null when it does not stand out. */
function strongest(times: readonly Seconds[], series: readonly number[][], low: number, high: number): Flicker | null {
  const { step, power } = periodogram(times, series);
  const [from, to] = [Math.ceil(low / step), Math.min(power.length - 1, Math.floor(high / step))];
  if (to < from) return null;
  const all = power.subarray(from, to + 1);
  let best = (from + all.indexOf(all.reduce((a, b) => Math.max(a, b)))) * step;
  let most = powerAt(times, series, best);
  for (let width = step; width > 1e-4; width /= 2) {
    for (const f of [best - width / 2, best + width / 2]) {
      const p = powerAt(times, series, f);
      if (p > most) {
        most = p;
        best = f;
      }
    }
  }
  const amplitude = Math.sqrt(most);
  const stands = all.length > 12 ? most > STANDS * median(all) : true;
  if (amplitude < SEEN || !stands) return null;
  return { frequency: best, amplitude, kind: rolls(times, series, best) ? 'rolling bars' : 'whole frame' };
}

/** Whether the phase goes on evenly from band to band, by more than a sixth of a turn over the frame. */
function rolls(times: readonly Seconds[], series: readonly number[][], frequency: number): boolean {
  const phases = partsAt(times, series, frequency).map(([c, s]) => Math.atan2(s, c));
  const steps = phases.slice(1).map((p, k) => Math.atan2(Math.sin(p - phases[k]), Math.cos(p - phases[k])));
  return Math.abs(median(steps)) * steps.length > Math.PI / 3;
}

/** A series of exposures (null where not measured) without the swing of a flicker: what is left is the light's own course. */
export function withoutFlicker(
  times: readonly Seconds[],
  exposures: readonly (Stops | null)[],
  flicker: Pick<Flicker, 'frequency'> | null,
): (Stops | null)[] {
  const known = exposures.flatMap((value, i) => (value === null ? [] : [{ time: times[i], value }]));
  if (!flicker || known.length < 8) return [...exposures];
  const [[c, s]] = partsAt(
    known.map((p) => p.time),
    [
      detrended(
        known.map((p) => p.value),
        Math.max(1, Math.round((known.length - 1) / Math.max(0.1, known[known.length - 1].time - known[0].time) / 2)),
      ),
    ],
    flicker.frequency,
  );
  const swing = (time: Seconds) => {
    const a = 2 * Math.PI * flicker.frequency * time;
    return c * Math.cos(a) + s * Math.sin(a);
  };
  return exposures.map((value, i) => (value === null ? null : value - swing(times[i])));
}

/** A change of light that lasts: at once, or over a while. */
export interface LightChange {
  kind: 'step' | 'fade';
  from: Seconds;
  to: Seconds;
  size: Stops;
}

/**
 * Steps and fades in a series of exposures (EV; null where not measured) that change it by `least` or more: stretches over which
 * the running median keeps going one way.
 */
export function lightChanges(times: readonly Seconds[], exposures: readonly (Stops | null)[], least: Stops = 0.03): LightChange[] {
  const known = exposures.map((value, i) => ({ value, time: times[i] })).filter((p) => p.value !== null) as {
    value: number;
    time: number;
  }[];
  const smooth = known.map((_, i) => median(known.slice(Math.max(0, i - 2), i + 3).map((p) => p.value)));
  const out: LightChange[] = [];
  const slack = least / 6;
  for (let i = 0; i + 1 < smooth.length; ) {
    const way = Math.sign(smooth[i + 1] - smooth[i]);
    let end = i + 1;
    let peak = smooth[end];
    let at = end;
    // Goes on while no value falls back from the furthest by more than the noise, nor stands still for a second.
    while (way !== 0 && end + 1 < smooth.length && way * (smooth[end + 1] - peak) > -slack && known[end + 1].time - known[at].time < 1) {
      end++;
      if (way * (smooth[end] - peak) > slack / 4) {
        peak = smooth[end];
        at = end;
      }
    }
    const size = peak - smooth[i];
    if (Math.abs(size) >= least) {
      let first = i;
      while (first < at && Math.abs(smooth[first + 1] - smooth[i]) < slack) first++;
      const quick = known[at].time - known[first].time < 0.25;
      out.push({ kind: quick ? 'step' : 'fade', from: known[first].time, to: known[at].time, size });
      i = at;
    } else i++;
  }
  return out;
}
