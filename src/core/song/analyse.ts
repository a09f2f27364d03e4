import type { BeatMap } from '../time';
import type { Seconds, Unit } from '../units';
import { confidenceOf } from './confidence';
import { bestCount, FALLS_ON } from './count';
import { findHits, type Hit } from './hits';
import { type HeardOnsets, type OnsetStrength, onsetStrength, toAnalysisRate } from './onset';
import { findParts, type SongPart } from './parts';
import { swingOf } from './swing';

/** What was found in a song. `map` is null when there is no steady beat; `reason` then says why. */
export interface SongAnalysis {
  map: BeatMap | null;
  reason: string;
  bpm: number;
  /** 0..1: how far onsets on the beats stand above those between them. */
  confidence: Unit;
  /** 0..1: how clearly one beat of the bar stands out as the first. */
  downbeatConfidence: Unit;
  /** 0..1 for each beat: the same among its neighbours. */
  sureness: Unit[];
  /** Where the off beats fall between the beats: 0.5 straight, 0.67 in triplets; null where there are none. */
  swing: Unit | null;
  parts: SongPart[];
  hits: Hit[];
  duration: Seconds;
  /** Loudness for drawing: square root of power, 0..1, 50 values a second. */
  energy: Float32Array;
  /** What it was all heard in, for hearing it again. */
  onsets: HeardOnsets;
}

/** Power of a hop below which there is nothing to hear: about -80 dBFS. */
const SILENT = 1e-3;

/** Rise of all bands together below which nothing begins, decibels: a held tone has 0.01, noise 8, music 30 and more. */
const STEADY = 3;
/** How clear a pulse must be: speech and noise have 0.05, music 0.2 and more. */
const CLEAR = 0.08;

/** Values a second of `SongAnalysis.energy`. */
export const ENERGY_RATE = 50;

/**
 * Beat map of a song from its samples (any rate, 1 or more channels, -1..1).
 * `onProgress` gets 0..1; returning false cancels with null. Ellis 2007; see onset, tempo, beats.
 */
export function analyseSong(
  channels: readonly Float32Array[],
  sampleRate: number,
  onProgress?: (done: number) => boolean,
): SongAnalysis | null {
  const mono = toAnalysisRate(channels, sampleRate);
  const onsets = onsetStrength(mono, onProgress);
  return onsets && analyseOnsets(onsets, (channels[0]?.length ?? 0) / sampleRate);
}

/** Beat map of a song of `duration` seconds from what begins in it. */
export function analyseOnsets(onsets: OnsetStrength, duration: Seconds): SongAnalysis {
  const { rate, start, all, low, mid, loud } = onsets;
  const found: SongAnalysis = {
    map: null,
    reason: '',
    bpm: 0,
    confidence: 0,
    downbeatConfidence: 0,
    sureness: [],
    swing: null,
    parts: [],
    hits: [],
    duration,
    energy: energyCurve(onsets, duration),
    onsets: { rate, start, all, low, mid, loud },
  };
  if (duration < 4)
    return { ...found, reason: 'This sound is shorter than four seconds: too short to find a beat in. Tap the beat instead.' };
  if (onsets.energy.every((v) => v < SILENT)) return { ...found, reason: 'This sound is silent. Tap the beat instead.' };
  if (onsets.rises < STEADY) return { ...found, reason: 'No steady beat found: nothing begins in this sound. Tap the beat instead.' };
  found.hits = findHits(onsets);
  const heard = bestCount(onsets);
  const { all: confidence, each: sureness } = confidenceOf(heard.beats, onsets);
  if (heard.beats.length < 8 || heard.strength < CLEAR || confidence < FALLS_ON)
    return { ...found, reason: 'No steady beat found. Tap the beat instead.' };
  const { beats, beatsPerBar, phase, sure: downbeatConfidence } = heard;
  const map: BeatMap = { beats, bar1: phase, beatsPerBar };
  const swing = swingOf(beats, onsets);
  return { ...found, map, bpm: usualTempo(beats), confidence, downbeatConfidence, sureness, swing, parts: findParts(map, onsets) };
}

/** Beats a minute by the mean of the middle half of the gaps, which a hop's rounding does not move. */
function usualTempo(beats: readonly Seconds[]): number {
  const gaps = beats.slice(1).map((t, i) => t - beats[i]);
  const middle = gaps.sort((a, b) => a - b).slice(Math.floor(gaps.length / 4), Math.ceil((3 * gaps.length) / 4));
  return (60 * middle.length) / middle.reduce((a, b) => a + b, 0);
}

function energyCurve(onsets: OnsetStrength, duration: Seconds): Float32Array {
  const out = new Float32Array(Math.ceil(duration * ENERGY_RATE));
  const counts = new Float32Array(out.length);
  for (let i = 0; i < onsets.energy.length; i++) {
    const at = Math.floor((onsets.start + i / onsets.rate) * ENERGY_RATE);
    if (at < out.length) {
      out[at] += Math.sqrt(onsets.energy[i]);
      counts[at]++;
    }
  }
  let top = 0;
  for (let i = 0; i < out.length; i++) {
    out[i] /= counts[i] || 1;
    top = Math.max(top, out[i]);
  }
  return out.map((v) => v / (top || 1));
}
