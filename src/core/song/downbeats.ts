import type { Seconds } from '../units';
import type { OnsetStrength } from './onset';

/**
 * Which of the first `beatsPerBar` beats opens a bar: the phase at which bass onsets are strongest and harmony
 * changes most, each compared over the whole song. Common practice (low-frequency accent and chord change on the one).
 */
export function downbeatPhase(
  beats: readonly Seconds[],
  onsets: OnsetStrength,
  beatsPerBar: number,
): { phase: number; confidence: number } {
  const accent = new Float64Array(beatsPerBar);
  const change = new Float64Array(beatsPerBar);
  const counts = new Float64Array(beatsPerBar);
  let before: Float64Array | null = null;
  for (let b = 0; b + 1 < beats.length; b++) {
    const phase = b % beatsPerBar;
    const from = Math.round((beats[b] - onsets.start) * onsets.rate);
    const to = Math.round((beats[b + 1] - onsets.start) * onsets.rate);
    let peak = 0;
    for (let i = Math.max(0, from - 4); i < Math.min(onsets.low.length, from + 6); i++) peak = Math.max(peak, onsets.low[i]);
    accent[phase] += peak;
    const now = chromaOver(onsets, from, to);
    if (before) change[phase] += 1 - now.reduce((sum, v, i) => sum + v * (before as Float64Array)[i], 0);
    before = now;
    counts[phase]++;
  }
  const mean = (a: Float64Array) => a.reduce((x, y) => x + y, 0) / a.length || 1;
  const accents = accent.map((v, i) => v / (counts[i] || 1));
  const changes = change.map((v, i) => v / (counts[i] || 1));
  const score = accents.map((v, i) => v / mean(accents) + 1.5 * (changes[i] / mean(changes)));
  const order = [...score.keys()].sort((a, b) => score[b] - score[a]);
  const gap = (score[order[0]] - score[order[1]]) / (score[order[0]] || 1);
  return { phase: order[0], confidence: Math.min(1, gap * 4) };
}

/** Unit-length mean chroma between two hops. */
function chromaOver(onsets: OnsetStrength, from: number, to: number): Float64Array {
  const sum = new Float64Array(12);
  for (let i = Math.max(0, from); i < Math.min(to, onsets.energy.length); i++)
    for (let c = 0; c < 12; c++) sum[c] += Math.sqrt(onsets.chroma[i * 12 + c]);
  const length = Math.sqrt(sum.reduce((a, v) => a + v * v, 0)) || 1;
  return sum.map((v) => v / length);
}
