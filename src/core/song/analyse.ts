import type { BeatMap } from '../time';
import type { Seconds, Unit } from '../units';
import { say } from '../words';
import { type BandFlux, FLUX_RATE, FluxMeter } from './band-flux';
import { settled } from './beats';
import { confidenceOf } from './confidence';
import { energyCurve } from './energy';
import { type FoundBeats, findBeats } from './find-beats';
import { findHits, type Hit } from './hits';
import { type HeardOnsets, type OnsetStrength, onsetStrength, toAnalysisRate } from './onset';
import { findParts, type SongPart } from './parts';
import { swingOf } from './swing';

/** Another way to hear a song. */
export interface OtherReading {
  map: BeatMap;
  bpm: number;
  likely: Unit;
}

/** What was found in a song. `map` is null when there is no steady beat; `reason` then says why. */
export interface SongAnalysis {
  map: BeatMap | null;
  reason: string;
  bpm: number;
  /** 0..1: how likely these beats are the ones that are meant, at their tempo and on their place. */
  confidence: Unit;
  /** 0..1: how likely the bars are counted as they are meant. */
  downbeatConfidence: Unit;
  /** Other ways to hear the song, the likeliest first. */
  others: OtherReading[];
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

/** Sounds of fewer seconds have no beat to be found. */
const SHORTEST: Seconds = 4;
/** Power of a hop below which there is nothing to hear: about -80 dBFS. */
const SILENT = 1e-3;

/** Rise of all bands together below which nothing begins, decibels: a held tone has 0.01, noise 8, music 30 and more. */
const STEADY = 3;
/** Rise of a stroke below which nothing begins: a held tone has 0.02, music at -40 dBFS 0.4. */
const BEGINS = 0.06;
/** How clear a pulse must be, mean logarithm: speech and noise have -2.2 and less, music -1.4 and more. */
const CLEAR = -1.85;
/** Other readings that are offered: how many, and how likely they must be. */
const [OFFERED, LIKELY] = [3, 0.005];

/**
 * Beat map of a song from its samples (any rate, 1 or more channels, -1..1).
 * See `readings.ts` for how beats are found.
 */
export function analyseSong(channels: readonly Float32Array[], sampleRate: number): SongAnalysis {
  const meter = new FluxMeter(sampleRate);
  meter.push(channels);
  return analyseOnsets(
    onsetStrength(toAnalysisRate(channels, sampleRate)),
    hearRanges(meter.read()),
    (channels[0]?.length ?? 0) / sampleRate,
  );
}

/** The ways a song's beat may be heard in its ranges, the likeliest first: none where nothing begins or no pulse is clear. */
export interface HeardRanges {
  begins: boolean;
  ways: FoundBeats[];
}

/** The ways a song's beat may be heard, from what begins in each range of it. */
export function hearRanges(flux: BandFlux): HeardRanges {
  if (flux.length < SHORTEST * FLUX_RATE || risesOf(flux) < BEGINS) return { begins: false, ways: [] };
  const { found, clarity } = findBeats(flux);
  return { begins: true, ways: clarity < CLEAR ? [] : found.filter(({ beats }) => beats.length >= 8) };
}

/** Beat map of a song of `duration` seconds from what begins in it, as a whole and by range. */
export function analyseOnsets(onsets: OnsetStrength, { begins, ways }: HeardRanges, duration: Seconds): SongAnalysis {
  const { rate, start, all, low, mid, loud } = onsets;
  const found: SongAnalysis = {
    map: null,
    reason: '',
    bpm: 0,
    confidence: 0,
    downbeatConfidence: 0,
    others: [],
    sureness: [],
    swing: null,
    parts: [],
    hits: [],
    duration,
    energy: energyCurve(onsets, duration),
    onsets: { rate, start, all, low, mid, loud },
  };
  if (duration < SHORTEST)
    return { ...found, reason: say`This sound is shorter than four seconds: too short to find a beat in. Tap the beat instead.` };
  if (onsets.energy.every((v) => v < SILENT)) return { ...found, reason: say`This sound is silent. Tap the beat instead.` };
  if (onsets.rises < STEADY || !begins)
    return { ...found, reason: say`No steady beat found: nothing begins in this sound. Tap the beat instead.` };
  found.hits = findHits(onsets);
  const [first, ...rest] = ways;
  if (!first) return { ...found, reason: say`No steady beat found. Tap the beat instead.` };
  const mapOf = (way: FoundBeats) => {
    const beats = settled(way.beats, onsets, way.rigid);
    const { beatsPerBar, phase, sure } = way.bars;
    return { map: { beats, bar1: phase, beatsPerBar } satisfies BeatMap, sure };
  };
  const { map, sure: downbeatConfidence } = mapOf(first);
  const others = rest
    .filter(({ likely }) => likely >= LIKELY)
    .slice(0, OFFERED)
    .map((way) => ({ map: mapOf(way).map, bpm: usualTempo(way.beats), likely: way.likely }));
  return {
    ...found,
    map,
    bpm: usualTempo(map.beats),
    confidence: first.likely,
    downbeatConfidence,
    others,
    sureness: confidenceOf(map.beats, onsets).each,
    swing: swingOf(map.beats, onsets),
    parts: findParts(map, onsets),
  };
}

/** How much the ranges of a sound rise together on its strokes: what one value in fifty reaches in each. */
const risesOf = ({ flux, length }: BandFlux): number =>
  flux.reduce((sum, curve) => sum + (curve.toSorted()[Math.floor(0.98 * length)] ?? 0), 0);

/** Beats a minute by the mean of the middle half of the gaps, which a hop's rounding does not move. */
function usualTempo(beats: readonly Seconds[]): number {
  const gaps = beats.slice(1).map((t, i) => t - beats[i]);
  const middle = gaps.sort((a, b) => a - b).slice(Math.floor(gaps.length / 4), Math.ceil((3 * gaps.length) / 4));
  return (60 * middle.length) / middle.reduce((a, b) => a + b, 0);
}
