import type { Seconds, Unit } from '../units';
import { peakAround } from './beats';
import type { OnsetStrength } from './onset';

export interface Metre {
  beatsPerBar: number;
  /** Which of the first beats opens a bar. */
  phase: number;
  /** 0..1: how clearly one beat of the bar stands out as the first. */
  confidence: Unit;
}

/** How much the harmony in the bar after each beat differs from that in the bar before; `chroma` from beat to beat. */
function harmonyTurns(chroma: readonly Float64Array[], beats: number, beatsPerBar: number): Float64Array {
  const over = (from: number, to: number) => {
    const sum = new Float64Array(12);
    for (let b = Math.max(0, from); b < Math.min(chroma.length, to); b++) for (let c = 0; c < 12; c++) sum[c] += chroma[b][c];
    return unit(sum);
  };
  return Float64Array.from({ length: beats }, (_, b) => {
    if (b === 0 || b >= chroma.length) return 0;
    const [before, after] = [over(b - beatsPerBar, b), over(b, b + beatsPerBar)];
    return 1 - after.reduce((sum, v, c) => sum + v * before[c], 0);
  });
}

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / (values.length || 1);

/** Mean of a series at each place of a bar. */
function byPlace(series: Float64Array, beatsPerBar: number): number[] {
  return Array.from({ length: beatsPerBar }, (_, k) => mean([...series].filter((_, b) => b % beatsPerBar === k)));
}

/** How much more a series differs between the places of a bar than within them (the F ratio of an analysis of variance, Fisher 1925). */
function ratio(series: Float64Array, beatsPerBar: number): number {
  const means = byPlace(series, beatsPerBar);
  const whole = mean([...series]);
  let [between, within] = [0, 0];
  series.forEach((v, b) => {
    between += (means[b % beatsPerBar] - whole) ** 2;
    within += (v - means[b % beatsPerBar]) ** 2;
  });
  return between / (beatsPerBar - 1) / (within / Math.max(1, series.length - beatsPerBar) || 1e-9);
}

/**
 * How many beats make a bar, three or four, and which of them opens it: by what comes round with them over the whole song. A bar
 * opens where bass strokes are strongest and where harmony changes most between the bar before and the one after (common practice).
 */
export function metreOf(beats: readonly Seconds[], onsets: OnsetStrength): Metre {
  const strokes = [onsets.low, onsets.mid, onsets.loud].map((curve) => Float64Array.from(beats, (t) => peakAround(onsets, t, curve)));
  const chroma = beats.slice(0, -1).map((t, b) => chromaOver(onsets, t, beats[b + 1]));
  const [four, three] = [4, 3].map((m) => ({ m, turns: harmonyTurns(chroma, beats.length, m) }));
  const clear = ({ m, turns }: typeof four) => [...strokes, turns].reduce((sum, s) => sum + Math.log1p(ratio(s, m)), 0);
  const { m, turns } = clear(three) > clear(four) ? three : four;
  const scaled = (series: Float64Array) => {
    const places = byPlace(series, m);
    return places.map((v) => v / (mean(places) || 1));
  };
  const [low, turn] = [scaled(strokes[0]), scaled(turns)];
  const score = low.map((v, k) => v + 1.5 * turn[k]);
  const order = [...score.keys()].sort((a, b) => score[b] - score[a]);
  const gap = (score[order[0]] - score[order[1]]) / (score[order[0]] || 1);
  return { beatsPerBar: m, phase: order[0], confidence: Math.min(1, gap * 4) };
}

const unit = (sum: Float64Array) => {
  const length = Math.sqrt(sum.reduce((a, v) => a + v * v, 0)) || 1;
  return sum.map((v) => v / length);
};

/** Unit-length mean chroma between two instants. */
function chromaOver(onsets: OnsetStrength, from: Seconds, to: Seconds): Float64Array {
  const sum = new Float64Array(12);
  const hop = (t: Seconds) => Math.round((t - onsets.start) * onsets.rate);
  for (let i = Math.max(0, hop(from)); i < Math.min(hop(to), onsets.energy.length); i++)
    for (let c = 0; c < 12; c++) sum[c] += Math.sqrt(onsets.chroma[i * 12 + c]);
  return unit(sum);
}
