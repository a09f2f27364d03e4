import { FLUX_RATE } from './band-flux';
import { mean, peakNear } from './curves';
import type { Heard, Reading } from './readings';

/** Places of a beat at which its strokes are read. */
const PLACES = 12;
/** Beats before and after a place between which its harmony is compared. */
const TURNS = [
  [0, 0.9],
  [0.5, 0.9],
  [0, 1.9],
  [0, 3.8],
] as const;
/** No number is more; what brings strokes and turns to one scale. */
const [MOST, STROKE, TURN] = [2.55, 1.2, 6];
/** The usual tempo, beats a minute. */
const USUAL = 118;
/** Numbers a beat is described by: five ranges at each place, how the harmony turns, the tempo. */
export const BEAT_WIDTH = 5 * PLACES + TURNS.length + 1;

/**
 * What is heard in each beat of a reading, whatever its tempo: `BEAT_WIDTH` numbers for each beat but the last. Strokes by range at
 * each twelfth of the beat (logarithm), how the harmony turns at it, midway, and over two and four beats, and the tempo in octaves.
 */
export function beatRows({ accents, turn }: Heard, { beats, period }: Reading): Float64Array {
  const rows = new Float64Array(BEAT_WIDTH * (beats.length - 1));
  const tempo = Math.log2((60 * FLUX_RATE) / mean(period) / USUAL);
  for (let b = 0; b + 1 < beats.length; b++) {
    const gap = beats[b + 1] - beats[b];
    let k = b * BEAT_WIDTH;
    for (let place = 0; place < PLACES; place++)
      for (const band of accents.bands)
        rows[k++] = Math.min(MOST, STROKE * Math.log1p(peakNear(band, beats[b] + (place / PLACES) * gap, 1)));
    for (const [place, span] of TURNS) rows[k++] = Math.min(MOST, TURN * Math.sqrt(Math.max(0, turn(beats[b] + place * gap, span * gap))));
    rows[k] = tempo;
  }
  return rows;
}
