import { parabola } from '../correlate';
import type { Seconds, Unit } from '../units';
import { type BandFlux, FLUX_RATE } from './band-flux';
import { bestWay } from './best-way';
import { chosenReadings, type JudgedReading } from './choose';
import { type Bars, barsBy } from './count';
import { beatFMeasure } from './fmeasure';
import { type Heard, readingsOf } from './readings';

/** By how many values a rise is heard after its stroke, on synthetic strokes. */
const LATE = 0.4;
/** Values to each side of a beat in which its stroke is looked for; beats to each side that it is evened with. */
const [NEAR, AMONG] = [4, 6];
/** Readings whose beats agree like this are one. */
const SAME = 0.9;

/** A song's beats as they may be heard, and how likely it is that they are meant so. */
export interface FoundBeats {
  beats: Seconds[];
  /** How its bars are counted. */
  bars: Bars;
  /** True where they are a grid of one period. */
  rigid: boolean;
  likely: Unit;
}

/** Each beat on the stroke nearest to it, then on a line through those around it: one stroke's haste goes, a change of tempo stays. */
function refined({ soft }: Heard, beats: readonly number[]): number[] {
  const strokes = beats.map((beat) => {
    let at = Math.round(beat);
    for (let t = Math.round(beat) - NEAR; t <= Math.round(beat) + NEAR; t++) if ((soft[t] ?? 0) > (soft[at] ?? 0)) at = t;
    const [before, here, after] = [soft[at - 1] ?? 0, soft[at] ?? 0, soft[at + 1] ?? 0];
    return { at: at + parabola(before, here, after), weight: here + 0.05 };
  });
  return beats.map((_, i) => {
    let [s, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
    for (let j = Math.max(0, i - AMONG); j <= Math.min(beats.length - 1, i + AMONG); j++) {
      const d = j - i;
      const w = strokes[j].weight * Math.exp(-0.5 * (d / 3) ** 2);
      s += w;
      sx += w * d;
      sy += w * strokes[j].at;
      sxx += w * d * d;
      sxy += w * d * strokes[j].at;
    }
    const spread = s * sxx - sx * sx;
    return Math.abs(spread) > 1e-9 ? (sy * sxx - sx * sxy) / spread : strokes[i].at;
  });
}

/** Beats carried on at both ends for as long as there is anything to hear, and how many are new before the first. */
function carriedOn(beats: readonly number[], [low, high]: readonly [number, number]): { places: number[]; before: number } {
  const places = [...beats];
  const first = places[1] - places[0];
  const last = places[places.length - 1] - places[places.length - 2];
  while (last > 1 && places[places.length - 1] + last <= high) places.push(places[places.length - 1] + last);
  let before = 0;
  for (; first > 1 && places[0] - first >= low - 2; before++) places.unshift(places[0] - first);
  return { places, before };
}

/** A reading's beats in seconds, and its bars from the first of those on. */
function secondsOf(heard: Heard, { beats, rigid, ways }: JudgedReading): Pick<FoundBeats, 'beats' | 'bars'> {
  const { places, before } = rigid ? { places: beats, before: 0 } : carriedOn(refined(heard, beats), heard.extent);
  const times = places.map((place) => (place - LATE) / FLUX_RATE);
  const kept = times.filter((t, i) => t >= 0 && (i === 0 || t > times[i - 1] + 0.05));
  return { beats: kept, bars: barsBy(ways, before - times.indexOf(kept[0])) };
}

/**
 * The ways a song's beats may be heard, the one to choose first and then the likeliest, and how clearly a pulse is heard in it at all
 * (see `Heard.clarity`).
 */
export function findBeats(flux: BandFlux): { found: FoundBeats[]; clarity: number } {
  const heard = readingsOf(flux);
  const found: FoundBeats[] = [];
  for (const reading of chosenReadings(heard)) {
    const { beats, bars } = secondsOf(heard, reading);
    if (beats.length < 2) continue;
    const same = found.find((f) => beatFMeasure(beats, f.beats, 0.07, 0) > SAME);
    if (same) same.likely += reading.likely;
    else found.push({ beats, bars, rigid: reading.rigid, likely: reading.likely });
  }
  const first = bestWay(found);
  const rest = found.filter((way) => way !== first).sort((a, b) => b.likely - a.likely);
  return { found: first ? [first, ...rest] : rest, clarity: heard.clarity };
}
