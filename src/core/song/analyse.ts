import type { BeatMap } from '../time';
import { median, type Seconds, type Unit } from '../units';
import { accents, peakAround, steadied, trackBeats } from './beats';
import { metreOf } from './downbeats';
import { type OnsetStrength, onsetStrength, toAnalysisRate } from './onset';
import { faster, type TempoPath, tempoPath } from './tempo-path';

/** What was found in a song. `map` is null when there is no steady beat; `reason` then says why. */
export interface SongAnalysis {
  map: BeatMap | null;
  reason: string;
  bpm: number;
  /** 0..1: how far onsets on the beats stand above those between them. */
  confidence: Unit;
  /** 0..1: how clearly one beat of the bar stands out as the first. */
  downbeatConfidence: Unit;
  duration: Seconds;
  /** Loudness for drawing: square root of power, 0..1, 50 values a second. */
  energy: Float32Array;
}

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
  if (!onsets) return null;
  const duration = (channels[0]?.length ?? 0) / sampleRate;
  const energy = energyCurve(onsets, duration);
  const none = (reason: string): SongAnalysis => ({ map: null, reason, bpm: 0, confidence: 0, downbeatConfidence: 0, duration, energy });
  if (duration < 4) return none('This sound is shorter than four seconds: too short to find a beat in. Tap the beat instead.');
  if (mono.every((v) => Math.abs(v) < 1e-4)) return none('This sound is silent. Tap the beat instead.');
  const { path, beats } = likeliest(onsets);
  const { strength } = path;
  const confidence = beatConfidence(beats, onsets);
  if (beats.length < 8 || strength < 0.08 || confidence < 0.25) return none('No steady beat found. Tap the beat instead.');
  const { beatsPerBar, phase, confidence: downbeatConfidence } = metreOf(beats, onsets);
  const map: BeatMap = { beats, bar1: phase, beatsPerBar };
  return { map, reason: '', bpm: usualTempo(beats), confidence, downbeatConfidence, duration, energy };
}

/** Beats a minute by the mean of the middle half of the gaps, which a hop's rounding does not move. */
function usualTempo(beats: readonly Seconds[]): number {
  const gaps = beats.slice(1).map((t, i) => t - beats[i]);
  const middle = gaps.sort((a, b) => a - b).slice(Math.floor(gaps.length / 4), Math.ceil((3 * gaps.length) / 4));
  return (60 * middle.length) / middle.reduce((a, b) => a + b, 0);
}

/** Beats at the tempo that is heard, or at half of it where every other beat is too weak to be one. */
function likeliest(onsets: OnsetStrength): { path: TempoPath; beats: Seconds[] } {
  const path = tempoPath(accents(onsets), onsets.rate);
  const beats = steadied(trackBeats(onsets, path.period), onsets);
  if (beats.length < 16 || !everyOtherIsWeak(beats, onsets)) return { path, beats };
  const slower = faster(path, 0.5);
  return { path: slower, beats: steadied(trackBeats(onsets, slower.period), onsets) };
}

/**
 * Whether every other beat lies between two: in bass above all when the beats are quick, in everything when they are not so quick.
 * Drums and bass that mark each beat make even a quick one a beat.
 */
function everyOtherIsWeak(beats: readonly Seconds[], onsets: OnsetStrength): boolean {
  const bpm = 60 / median(beats.slice(1).map((t, i) => t - beats[i]));
  const weakest = (curve: Float32Array) => {
    const sums = [0, 0];
    for (const [i, t] of beats.entries()) sums[i % 2] += peakAround(onsets, t, curve);
    return Math.min(...sums) / (Math.max(...sums) || 1);
  };
  const [all, low, mid] = [onsets.all, onsets.low, onsets.mid].map(weakest);
  return (bpm > 145 && low < 0.72) || (bpm > 117 && Math.max(all, low, mid) < 0.6);
}

function beatConfidence(beats: readonly Seconds[], onsets: OnsetStrength): Unit {
  let on = 0;
  let off = 0;
  for (let i = 0; i + 1 < beats.length; i++) {
    const gap = beats[i + 1] - beats[i];
    on += peakAround(onsets, beats[i]);
    off += (peakAround(onsets, beats[i] + gap * 0.3) + peakAround(onsets, beats[i] + gap * 0.7)) / 2;
  }
  return Math.max(0, Math.min(1, 1 - off / (on || 1)));
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
