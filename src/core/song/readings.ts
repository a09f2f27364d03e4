import { clamp, median } from '../units';
import { type AccentCurves, accentCurves } from './accent-curves';
import { type BandFlux, FLUX_RATE } from './band-flux';
import { bestChain, bestGrid } from './chains';
import { mean, smoothed } from './curves';
import { type HarmonyTurn, harmonyTurns } from './harmony';
import { pulsePath } from './pulse-path';

/** Pulses beside the clearest one: twice and half as fast, in threes, and what is heard across. */
const LEVELS = [1, 2, 1 / 2, 3 / 2, 2 / 3, 4 / 3, 3 / 4, 3, 1 / 3];
/** Tempi of a beat, beats a minute. */
const [SLOWEST, FASTEST] = [50, 222];
/** A song whose period varies by less than this share has one tempo. */
const STEADY = 1.05;
/** A grid serves alone where it gathers this share of what a chain that is free does. */
const RIGID = 0.75;
/** No stroke counts more than this where a chain is judged. */
const MOST = 2.5;

/** One way to hear a song's beat: places in hundredths of a second. */
export interface Reading {
  beats: number[];
  /** Beat length at each value, the same at all where the beats are a grid. */
  period: Float32Array;
  rigid: boolean;
}

export interface Heard {
  turn: HarmonyTurn;
  accents: AccentCurves;
  /** All accents, softened: what chains and grids gather. */
  soft: Float32Array;
  readings: Reading[];
  /** First and last value at which there is anything to hear. */
  extent: [number, number];
  /** How clearly a pulse is heard at all: mean logarithm, about -2.5 for music and -3.5 for noise. */
  clarity: number;
}

/** First and last value at which there is anything to hear. */
function extentOf({ level, length }: BandFlux): [number, number] {
  const least = 0.01 * level.reduce((a, b) => Math.max(a, b), 0);
  let low = 0;
  let high = length - 1;
  while (low < high && level[low] < least) low++;
  while (high > low && level[high] < least) high--;
  return [low, high];
}

/** Every way a song's beat may be heard: at each level of its pulse, and at each place of the period that gathers accents. */
export function readingsOf(flux: BandFlux): Heard {
  const accents = accentCurves(flux);
  const soft = smoothed(accents.all, 1.3);
  const { period, held, score: clarity } = pulsePath(accents.all);
  const extent = extentOf(flux);
  const readings = [period, ...(held ? [held] : [])].flatMap((base) => readingsAt(soft, base, extent));
  return { turn: harmonyTurns(flux), accents, soft, readings: readings.filter((r) => r.beats.length > 1), extent, clarity };
}

/** The readings of one pulse, given by its period at each value. */
function readingsAt(soft: Float32Array, pulse: Float32Array, [low, high]: [number, number]): Reading[] {
  // In silence there is no tempo: that of the nearest sound goes on.
  const base = pulse.map((_, t) => pulse[clamp(t, low, high)]);
  const steady = base.reduce((a, b) => Math.max(a, b), 0) < STEADY * base.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
  const usual = median(base);
  const readings: Reading[] = [];
  for (const level of LEVELS) {
    const bpm = (60 * FLUX_RATE * level) / usual;
    if (bpm < SLOWEST || bpm > FASTEST) continue;
    const period = base.map((p) => p / level);
    const chain = bestChain(soft, period);
    const gathered = mean(chain.map((b) => Math.min(MOST, soft[b])));
    const grid = steady ? bestGrid(soft, usual / level, low, high) : null;
    if (grid) {
      for (const { at } of grid.phases) {
        const beats = Array.from({ length: Math.floor((high + 1 - at) / grid.period) + 1 }, (_, k) => at + k * grid.period);
        readings.push({ beats, period: period.map(() => grid.period), rigid: true });
      }
      if (grid.value - grid.usual > RIGID * (gathered - grid.usual)) continue;
    }
    readings.push({ beats: chain, period, rigid: false });
    // The other phase: what lies between the beats, free to settle within a fifth of a period.
    const rest = soft.slice();
    for (const b of chain) {
      const width = Math.round(0.3 * period[b]);
      rest.fill(-0.3, Math.max(0, b - width), b + width + 1);
    }
    readings.push({ beats: bestChain(rest, period), period, rigid: false });
  }
  return readings;
}
