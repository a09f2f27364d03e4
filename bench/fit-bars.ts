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
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { randomSource, synthesiseSong } from '../src/core/room';
import { BAR_LENGTHS, beatFMeasure, countings, figureCount, inputAt, onsetStrength, toAnalysisRate } from '../src/core/song';
import { beatsOf, SOUNDS, UNSEEN } from './songs';

const LIBRARY = '/usr/share/mma/lib/stdlib';
const PROGRESSIONS = ['C Am F G Em Am Dm G7', 'A A D E7', 'Dm7 G7 CM7 A7', 'G D Em C', 'C C C C F F C C G7 F C C'];
const HIDDEN = 24;
const [ROUNDS, RATE, DECAY, DROPPED] = [450, 0.01, 0.01, 0.1];
const random = randomSource(21);
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];

interface Sample {
  /** Figures of each way of counting, at the place of its kind of bar in the network's input. */
  rows: { at: number; figures: number[] }[];
  /** How good each is: 1 all in all. */
  wanted: number[];
}

/** A pattern at a tempo and in a key, with or without drums, in the words of `mma`; null for files that are no patterns. */
function pattern(file: string): { text: string; meter: number; beat: number; bars: number } | null {
  const source = readFileSync(join(LIBRARY, file), 'latin1');
  const names = [...source.matchAll(/^\s*DefGroove\s+(\S+)/gm)].map((m) => m[1]).filter((n) => !/Intro|End|Fill|Sus/.test(n));
  const meter = Number(/^\s*Time\s+(\d+)/m.exec(source)?.[1] ?? 4);
  if (!names.length || /^(metronome|none)/.test(file)) return null;
  const slow = /slow|ballad|lullaby|hymn|spirit|128|bolero/.test(file);
  const fast = /fast|bebop|viene|bluegrass|quick|jive|charleston|polka/.test(file);
  const [low, high] = meter === 6 ? [150, 230] : slow ? [58, 95] : fast ? [130, 182] : [70, 165];
  const dress = pick(['', '', '', 'Drum Off', 'bare']);
  const chords = pick(PROGRESSIONS).split(' ');
  const each = pick([1, 1, 2]);
  const bars = 20;
  const lines = [
    `Time ${meter}`,
    `Tempo ${Math.round(low + (high - low) * random())}`,
    `Groove ${pick(names)}`,
    `Transpose ${Math.floor(12 * random()) - 5}`,
  ];
  if (dress === 'bare') lines.push('Drum Off', 'Bass Off');
  else if (dress) lines.push(dress);
  for (let bar = 1; bar <= bars; bar++) {
    if (dress === 'bare' && bar === 6) lines.push('Drum On', 'Bass On');
    lines.push(`${bar} ${chords[Math.floor((bar - 1) / each) % chords.length]}`);
  }
  return { text: `${lines.join('\n')}\n`, meter, beat: meter === 6 ? 3 : 1, bars };
}

function rendered(folder: string, name: string, made: NonNullable<ReturnType<typeof pattern>>): Sample | null {
  const [mma, mid, wav] = ['mma', 'mid', 'wav'].map((e) => join(folder, `${name}.${e}`));
  if (!existsSync(wav)) {
    writeFileSync(mma, made.text);
    try {
      execFileSync('mma', [mma, '-f', mid], { stdio: 'ignore', timeout: 60_000 });
      execFileSync('fluidsynth', ['-ni', '-r', '22050', '-F', wav, SOUNDS, mid], { stdio: 'ignore', timeout: 120_000 });
    } catch {
      return null;
    }
  }
  const pcm = execFileSync('ffmpeg', ['-v', 'error', '-i', wav, '-ac', '1', '-f', 'f32le', '-'], { maxBuffer: 1e9 });
  return sampleOf([new Float32Array(new Uint8Array(pcm).buffer)], beatsOf(mid, made.bars, { meter: made.meter, beat: made.beat }));
}

/** Every way of counting a sound at 22 050 Hz, and how good it is against the truth; null where none is any good. */
function sampleOf(channels: readonly Float32Array[], truth: { beats: number[]; downbeats: number[] }): Sample | null {
  const onsets = onsetStrength(toAnalysisRate(channels, 22050));
  const rows: Sample['rows'] = [];
  const scores: number[] = [];
  for (const { beats, beatsPerBar, figures } of onsets ? countings(onsets).countings : [])
    figures.forEach((row, phase) => {
      rows.push({ at: inputAt(beatsPerBar), figures: row });
      const bars = beats.filter((_, i) => i >= phase && (i - phase) % beatsPerBar === 0);
      scores.push(beatFMeasure(beats, truth.beats) + beatFMeasure(bars, truth.downbeats));
    });
  const best = scores.reduce((a, b) => Math.max(a, b), 0);
  if (best < 1) return null;
  const weights = scores.map((s) => Math.exp(12 * (s - best)));
  const sum = weights.reduce((a, b) => a + b, 0);
  return { rows, wanted: weights.map((w) => w / sum) };
}

/** Adam (Kingma & Ba 2015) for one array of weights. */
class Adam {
  private readonly first: Float64Array;
  private readonly second: Float64Array;

  constructor(readonly weights: Float64Array) {
    this.first = new Float64Array(weights.length);
    this.second = new Float64Array(weights.length);
  }

  step(slope: Float64Array, round: number): void {
    const [a, b] = [1 - 0.9 ** round, 1 - 0.999 ** round];
    for (let i = 0; i < slope.length; i++) {
      this.first[i] = 0.9 * this.first[i] + 0.1 * slope[i];
      this.second[i] = 0.999 * this.second[i] + 0.001 * slope[i] ** 2;
      this.weights[i] -= (RATE * (this.first[i] / a)) / (Math.sqrt(this.second[i] / b) + 1e-8);
    }
  }
}

/** Fits the network: the counting that is wanted shall be the likeliest of its song (softmax, cross entropy). */
function trained(samples: readonly Sample[], scale: Float64Array) {
  const size = scale.length;
  const start = (n: number) => Float64Array.from({ length: n }, () => 0.2 * (random() - 0.5));
  const [hidden, bias, out, straight] = [start(HIDDEN * size), new Float64Array(HIDDEN), start(HIDDEN), new Float64Array(size)].map(
    (w) => new Adam(w),
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
mkdirSync(folder, { recursive: true });
const kept = new Set(UNSEEN.map((p) => p.groove.toLowerCase()));
const samples: Sample[] = [];
for (const file of readdirSync(LIBRARY).filter((f) => f.endsWith('.mma') && !kept.has(f.slice(0, -4)))) {
  const count = /waltz/.test(file) ? 9 : 5;
  for (let k = 0; k < count; k++) {
    const made = pattern(file);
    const sample = made && rendered(folder, `${file.slice(0, -4)}-${k}`, made);
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
