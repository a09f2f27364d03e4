import { median, type Seconds } from '../units';
import { peakAround } from './beats';
import { mean } from './curves';
import { hopAt, type OnsetStrength } from './onset';

/** What is heard on the beats, midway between them, and at their quarters and thirds. */
export interface HeardBeats {
  beats: readonly Seconds[];
  /** Strokes by range at each half beat: low, mid, all, loud. */
  strokes: readonly Float64Array[];
  /** Mean stroke at the quarters and at the thirds of a beat. */
  quarters: number;
  thirds: number;
  /** Harmony from beat to beat, unit length, twelve pitch classes. */
  chroma: readonly Float64Array[];
}

const unit = (sum: Float64Array) => {
  const length = Math.sqrt(sum.reduce((a, v) => a + v * v, 0)) || 1;
  return sum.map((v) => v / length);
};

/** Unit-length mean chroma between two instants. */
function chromaOver(onsets: OnsetStrength, from: Seconds, to: Seconds): Float64Array {
  const sum = new Float64Array(12);
  for (let i = Math.max(0, hopAt(onsets, from)); i < Math.min(hopAt(onsets, to), onsets.energy.length); i++)
    for (let c = 0; c < 12; c++) sum[c] += Math.sqrt(onsets.chroma[i * 12 + c]);
  return unit(sum);
}

export function hearBeats(beats: readonly Seconds[], onsets: OnsetStrength): HeardBeats {
  const gap = (i: number) => (beats[i + 1] ?? 2 * beats[i] - beats[i - 1]) - beats[i];
  const at = (share: number, curve = onsets.all) => Float64Array.from(beats, (t, i) => peakAround(onsets, t + share * gap(i), curve));
  const strokes = [onsets.low, onsets.mid, onsets.all, onsets.loud].map((curve) => {
    const [on, off] = [at(0, curve), at(0.5, curve)];
    return Float64Array.from({ length: 2 * beats.length }, (_, k) => (k % 2 ? off : on)[k >> 1]);
  });
  return {
    beats,
    strokes,
    quarters: (mean(at(0.25)) + mean(at(0.75))) / 2,
    thirds: (mean(at(1 / 3)) + mean(at(2 / 3))) / 2,
    chroma: beats.slice(0, -1).map((t, b) => chromaOver(onsets, t, beats[b + 1])),
  };
}

/** How much the harmony in the bar after each beat differs from that in the bar before. */
function harmonyTurns({ chroma, beats }: HeardBeats, beatsPerBar: number): Float64Array {
  const over = (from: number, to: number) => {
    const sum = new Float64Array(12);
    for (let b = Math.max(0, from); b < Math.min(chroma.length, to); b++) for (let c = 0; c < 12; c++) sum[c] += chroma[b][c];
    return unit(sum);
  };
  return Float64Array.from({ length: beats.length }, (_, b) => {
    if (b === 0 || b >= chroma.length) return 0;
    const [before, after] = [over(b - beatsPerBar, b), over(b, b + beatsPerBar)];
    return 1 - after.reduce((sum, v, c) => sum + v * before[c], 0);
  });
}

/** Mean of a series at each place of a bar. */
function byPlace(series: Float64Array, places: number): Float64Array {
  const out = new Float64Array(places);
  for (let k = 0; k < series.length; k++) out[k % places] += series[k];
  return out.map((v, k) => v / Math.max(1, Math.ceil((series.length - k) / places)));
}

/** How much more a series differs between the places of a bar than within them (the F ratio of an analysis of variance, Fisher 1925). */
function ratio(series: Float64Array, places: number): number {
  const means = byPlace(series, places);
  const whole = mean(series);
  let [between, within] = [0, 0];
  series.forEach((v, b) => {
    between += (means[b % places] - whole) ** 2;
    within += (v - means[b % places]) ** 2;
  });
  return between / (places - 1) / (within / Math.max(1, series.length - places) || 1e-9);
}

/**
 * The figures a way of counting is judged by, for each beat that may be the first of its bar: what is struck at each half beat of the
 * bar, where the harmony turns, how regular that is, and the tempo.
 */
export function barFigures(heard: HeardBeats, beatsPerBar: number): number[][] {
  const gaps = heard.beats.slice(1).map((t, i) => t - heard.beats[i]);
  const tempo = Math.log2(60 / median(gaps) / 120);
  const turns = harmonyTurns(heard, beatsPerBar);
  const strokes = heard.strokes.map((s) => byPlace(s, 2 * beatsPerBar));
  const turned = byPlace(turns, beatsPerBar);
  const turn = mean(turned) || 1;
  const onBeats = heard.strokes.map((s) => s.filter((_, k) => k % 2 === 0));
  const shared = [
    1,
    tempo,
    tempo * tempo,
    Math.log1p(heard.quarters),
    Math.log1p(heard.thirds),
    ...[...onBeats, turns].map((s) => Math.log1p(ratio(s, beatsPerBar))),
  ];
  return Array.from({ length: beatsPerBar }, (_, phase) => {
    const places = strokes.flatMap((p) => Array.from(p, (_, j) => Math.log1p(p[(j + 2 * phase) % p.length])));
    return [...shared, ...places, ...Array.from(turned, (_, j) => turned[(j + phase) % beatsPerBar] / turn - 1)];
  });
}

/** How many figures a bar of so many beats is judged by. */
export const figureCount = (beatsPerBar: number) => 10 + 9 * beatsPerBar;
