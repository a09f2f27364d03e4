import { type BeatMap, tempo } from '../time';
import type { Seconds, Unit } from '../units';
import { peakAround, steadied, trackBeats } from './beats';
import { downbeatPhase } from './downbeats';
import { type OnsetStrength, onsetStrength, toAnalysisRate } from './onset';
import { estimateTempo } from './tempo';

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
  const { bpm, strength } = estimateTempo(onsets.all, onsets.rate);
  const beats = steadied(trackBeats(onsets, bpm), onsets);
  const confidence = beatConfidence(beats, onsets);
  if (beats.length < 8 || strength < 0.04 || confidence < 0.25) return none('No steady beat found. Tap the beat instead.');
  const beatsPerBar = 4;
  const { phase, confidence: downbeatConfidence } = downbeatPhase(beats, onsets, beatsPerBar);
  const map: BeatMap = { beats, bar1: phase, beatsPerBar };
  return { map, reason: '', bpm: tempo(map), confidence, downbeatConfidence, duration, energy };
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
