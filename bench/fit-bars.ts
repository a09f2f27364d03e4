/**
 * Fits the weights by which a way of counting a song is judged (`src/core/song/bar-weights.json`): renders accompaniment patterns of
 * the Debian package `mma` with `fluidsynth`, none of those the bench keeps unseen, hears every pulse in each, and fits a small network
 * (one hidden layer) so that the counting that scores best against the MIDI file's own beats is the likeliest.
 *
 *   npx tsx bench/fit-bars.ts FOLDER
 *
 * takes about half an hour. Needs mma, fluidsynth and fluid-soundfont-gm.
 */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { randomSource, synthesiseSong } from '../src/core/room';
import { BAR_LENGTHS, beatFMeasure, countings, figureCount, inputAt, onsetStrength, toAnalysisRate } from '../src/core/song';
import { Adam } from './adam';
import { PLAYED_RATE, patternFiles, playedPattern } from './patterns';
import { samplesOf } from './play';

const HIDDEN = 24;
const [ROUNDS, RATE, DECAY, DROPPED] = [450, 0.01, 0.01, 0.1];
const random = randomSource(21);

interface Sample {
  /** Figures of each way of counting, at the place of its kind of bar in the network's input. */
  rows: { at: number; figures: number[] }[];
  /** How good each is: 1 all in all. */
  wanted: number[];
}

/** Every way of counting a sound at 22 050 Hz, and how good it is against the truth; null where none is any good. */
function sampleOf(channels: readonly Float32Array[], truth: { beats: number[]; downbeats: number[] }): Sample | null {
  const onsets = onsetStrength(toAnalysisRate(channels, 22050));
  const rows: Sample['rows'] = [];
  const scores: number[] = [];
  for (const { beatsPerBar, figures } of onsets ? countings(truth.beats, onsets) : [])
    figures.forEach((row, phase) => {
      rows.push({ at: inputAt(beatsPerBar), figures: row });
      const bars = truth.beats.filter((_, i) => i >= phase && (i - phase) % beatsPerBar === 0);
      scores.push(1 + beatFMeasure(bars, truth.downbeats));
    });
  const best = scores.reduce((a, b) => Math.max(a, b), 0);
  if (best < 1) return null;
  const weights = scores.map((s) => Math.exp(12 * (s - best)));
  const sum = weights.reduce((a, b) => a + b, 0);
  return { rows, wanted: weights.map((w) => w / sum) };
}

/** Fits the network: the counting that is wanted shall be the likeliest of its song (softmax, cross entropy). */
function trained(samples: readonly Sample[], scale: Float64Array) {
  const size = scale.length;
  const start = (n: number) => Float64Array.from({ length: n }, () => 0.2 * (random() - 0.5));
  const [hidden, bias, out, straight] = [start(HIDDEN * size), new Float64Array(HIDDEN), start(HIDDEN), new Float64Array(size)].map(
    (w) => new Adam(w, RATE),
  );
  for (let round = 1; round <= ROUNDS; round++) {
    const dropped = Float64Array.from({ length: size }, () => (random() < DROPPED ? 0 : 1 / (1 - DROPPED)));
    const slopes = [hidden, bias, out, straight].map((w) => new Float64Array(w.weights.length));
    for (const { rows, wanted } of samples) {
      const inputs = rows.map(({ at, figures }) => figures.map((v, k) => v * scale[at + k] * dropped[at + k]));
      const active = rows.map(({ at }, r) =>
        Float64Array.from({ length: HIDDEN }, (_, h) => {
          let sum = bias.weights[h];
          const row = h * size + at;
          for (let k = 0; k < inputs[r].length; k++) sum += inputs[r][k] * hidden.weights[row + k];
          return Math.tanh(sum);
        }),
      );
      const scores = rows.map(({ at }, r) => {
        let sum = 0;
        for (let h = 0; h < HIDDEN; h++) sum += out.weights[h] * active[r][h];
        for (let k = 0; k < inputs[r].length; k++) sum += straight.weights[at + k] * inputs[r][k];
        return sum;
      });
      const most = Math.max(...scores);
      const shares = scores.map((s) => Math.exp(s - most));
      const all = shares.reduce((a, b) => a + b, 0);
      rows.forEach(({ at }, r) => {
        const off = (shares[r] / all - wanted[r]) / samples.length;
        for (let k = 0; k < inputs[r].length; k++) slopes[3][at + k] += off * inputs[r][k];
        for (let h = 0; h < HIDDEN; h++) {
          slopes[2][h] += off * active[r][h];
          const inner = off * out.weights[h] * (1 - active[r][h] ** 2);
          slopes[1][h] += inner;
          for (let k = 0; k < inputs[r].length; k++) slopes[0][h * size + at + k] += inner * inputs[r][k];
        }
      });
    }
    for (const [i, w] of [hidden, bias, out, straight].entries()) {
      if (i !== 1) for (let k = 0; k < slopes[i].length; k++) slopes[i][k] += DECAY * (i === 3 ? 0.1 : 1) * w.weights[k];
      w.step(slopes[i], round);
    }
    if (round % 50 === 0) console.log(`round ${round} of ${ROUNDS}`);
  }
  const list = (w: Adam) => [...w.weights];
  return {
    hidden: Array.from({ length: HIDDEN }, (_, h) => list(hidden).slice(h * size, (h + 1) * size)),
    bias: list(bias),
    out: list(out),
    straight: list(straight),
  };
}

const folder = process.argv[2];
const samples: Sample[] = [];
for (const file of patternFiles()) {
  const count = /waltz/.test(file) ? 9 : 5;
  for (let k = 0; k < count; k++) {
    const played = playedPattern(folder, file, `${file.slice(0, -4)}-${k}`, random);
    const sample = played && sampleOf([samplesOf(played.wav, PLAYED_RATE)], played);
    if (sample) samples.push(sample);
  }
  console.log(`${file}: ${samples.length} samples`);
}
for (let bpm = 64; bpm < 180; bpm += 9.3) {
  const song = synthesiseSong({ sampleRate: 22050, bpm, seed: Math.round(bpm) });
  const sample = sampleOf(song.channels, song);
  if (sample) samples.push(sample);
}
const size = BAR_LENGTHS.reduce((sum, m) => sum + figureCount(m), 0);
const sums = [new Float64Array(size), new Float64Array(size)];
let count = 0;
for (const { rows } of samples)
  for (const { at, figures } of rows) {
    count++;
    for (const [k, v] of figures.entries()) {
      sums[0][at + k] += v;
      sums[1][at + k] += v * v;
    }
  }
const scale = sums[0].map((sum, k) => 1 / (Math.sqrt(Math.max(0, sums[1][k] / count - (sum / count) ** 2)) + 1e-6));
const short = (_: string, v: unknown) => (typeof v === 'number' ? Number(v.toPrecision(4)) : v);
const WEIGHTS = 'src/core/song/bar-weights.json';
writeFileSync(WEIGHTS, JSON.stringify({ patterns: samples.length, scale: [...scale], ...trained(samples, scale) }, short));
execFileSync('npx', ['biome', 'check', '--write', WEIGHTS]);
