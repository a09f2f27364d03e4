import { parabola } from '../correlate';
import type { Seconds, Unit } from '../units';
import { type BandFlux, FLUX_RATE } from './band-flux';
import { chosenReadings } from './choose';
import { beatFMeasure } from './fmeasure';
import { type Heard, type Reading, readingsOf } from './readings';

/** By how many values a rise is heard after its stroke, on synthetic strokes. */
const LATE = 0.4;
/** Values to each side of a beat in which its stroke is looked for; beats to each side that it is evened with. */
const [NEAR, AMONG] = [4, 6];
/** Readings whose beats agree like this are one. */
const SAME = 0.9;

/** A song's beats as they may be heard, and how likely it is that they are meant so. */
export interface FoundBeats {
  beats: Seconds[];
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

/** Beats carried on at both ends for as long as there is anything to hear. */
function carriedOn(beats: readonly number[], [low, high]: readonly [number, number]): number[] {
  const out = [...beats];
  const first = out[1] - out[0];
  const last = out[out.length - 1] - out[out.length - 2];
  while (first > 1 && out[0] - first >= low - 2) out.unshift(out[0] - first);
  while (last > 1 && out[out.length - 1] + last <= high) out.push(out[out.length - 1] + last);
  return out;
}

function secondsOf(heard: Heard, { beats, rigid }: Reading): Seconds[] {
  const places = rigid ? beats : carriedOn(refined(heard, beats), heard.extent);
  const times = places.map((b) => (b - LATE) / FLUX_RATE);
  return times.filter((t, i) => t >= 0 && (i === 0 || t > times[i - 1] + 0.05));
}

/** The ways a song's beats may be heard, the likeliest first, and what they were heard in. */
export function findBeats(flux: BandFlux): { found: FoundBeats[]; heard: Heard } {
  const heard = readingsOf(flux);
  const found: FoundBeats[] = [];
  for (const { likely, ...reading } of chosenReadings(heard)) {
    const beats = secondsOf(heard, reading);
    if (beats.length < 2) continue;
    const same = found.find((f) => beatFMeasure(beats, f.beats, 0.07, 0) > SAME);
    if (same) same.likely += likely;
    else found.push({ beats, rigid: reading.rigid, likely });
  }
  return { found: found.sort((a, b) => b.likely - a.likely), heard };
}
