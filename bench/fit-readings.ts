/**
 * Fits the weights by which the readings of a song's beat are judged (`src/core/song/reading-weights.json`).
 *
 *   npx tsx bench/fit-readings.ts hear FOLDER [SONGS]   hears songs and keeps the figures of their readings, half an hour
 *   npx tsx bench/fit-readings.ts fit FOLDER [quick]    goes on from the weights there are, and says what it does to songs kept out
 *
 * Songs are accompaniment patterns (see `patterns.ts`), made-up songs and clicks at changing tempi, and, where given, those of SONGS: a folder
 * with `wav/NAME.wav` and `truth/NAME.json` (`beats`, seconds). Whole sources are kept out in turn; only what is kept out is reported.
 */
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { randomSource, synthesiseSong } from '../src/core/room';
import { beatFMeasure, FluxMeter, figuresOf, readingsOf, scoreOf } from '../src/core/song';
import { Adam } from './adam';
import { PLAYED_RATE, patternFiles, playedPattern } from './patterns';
import { samplesOf } from './play';

interface Sample {
  name: string;
  /** Songs of one source are kept out together. */
  source: string;
  figures: number[][];
  /** F of each reading against the truth. */
  scores: number[];
}

interface Weights {
  mean: number[];
  deviation: number[];
  nets: { hidden: number[][]; bias: number[]; out: number[]; straight: number[] }[];
}
const WEIGHTS = JSON.parse(readFileSync('src/core/song/reading-weights.json', 'utf8')) as Weights;
const KINDS = ['songs', 'patterns', 'made up'] as const;
type Kind = (typeof KINDS)[number];
const kindOf = ({ source }: Sample): Kind =>
  source.endsWith('.mma') ? 'patterns' : /^(clicks|made up)/.test(source) ? 'made up' : 'songs';
/** How much each kind counts. */
const SHARE: Record<Kind, number> = { songs: 0.5, patterns: 0.35, 'made up': 0.15 };
const ROUNDS = 160;
const RATE = 0.002;
/** How much the weights are held where they began. */
const HELD = 0.01;
const FOLDS = 5;

function heard(name: string, source: string, samples: Float32Array, rate: number, truth: readonly number[]): Sample {
  const meter = new FluxMeter(rate);
  meter.push([samples]);
  const found = readingsOf(meter.read());
  const scores = found.readings.map(({ beats }) =>
    beatFMeasure(
      beats.map((b) => b / 100),
      [...truth],
    ),
  );
  return { name, source, figures: figuresOf(found), scores };
}

/** Short strokes of noise at changing tempi, every second one of some louder; with softer ones between them at the share `off`, 0 for none. */
function clicks(seed: number, off = 0): { samples: Float32Array; beats: number[] } {
  const random = randomSource(seed);
  const [from, to, alternate] = [70 + 90 * random(), 0.9 + 0.2 * random(), 0.4 + 0.6 * random()];
  const beats: number[] = [];
  for (let t = 0.3 + random(); t < 58; t += 60 / (from * (1 + ((to - 1) * t) / 60))) beats.push(t);
  const samples = new Float32Array(60 * PLAYED_RATE);
  const between = off ? beats.slice(1).map((t, k) => ({ at: beats[k] + off * (t - beats[k]), gain: 0.3 + 0.3 * random() })) : [];
  for (const { at, gain } of [...beats.map((t, k) => ({ at: t, gain: k % 2 && !off ? alternate : 1 })), ...between])
    for (let i = 0; i < 0.03 * PLAYED_RATE; i++)
      samples[Math.round(at * PLAYED_RATE) + i] += gain * (random() - 0.5) * Math.exp(-i / (0.006 * PLAYED_RATE));
  return { samples, beats };
}

function* allHeard(folder: string, songs: string | undefined): Generator<Sample> {
  for (const file of songs ? readdirSync(join(songs, 'truth')) : []) {
    const name = file.replace('.json', '');
    const truth = JSON.parse(readFileSync(join(songs as string, 'truth', file), 'utf8'));
    // Each song with another cut-off and speed stands for more of its kind.
    for (const rate of [44100, PLAYED_RATE])
      yield heard(name, name, samplesOf(join(songs as string, 'wav', `${name}.wav`), rate), rate, truth.beats);
  }
  for (let k = 0; k < 16; k++) {
    const { samples, beats } = clicks(100 + k);
    yield heard(`clicks ${k}`, `clicks ${k}`, samples, PLAYED_RATE, beats);
    const divided = clicks(200 + k, k % 2 ? 0.5 : 2 / 3);
    yield heard(`clicks divided ${k}`, `clicks divided ${k}`, divided.samples, PLAYED_RATE, divided.beats);
    const song = synthesiseSong({ sampleRate: PLAYED_RATE, bpm: 68 + 6.7 * k, seed: k + 1 });
    yield heard(`made up ${k}`, `made up ${k}`, song.channels[0], PLAYED_RATE, song.beats);
  }
  const random = randomSource(77);
  for (const file of patternFiles())
    for (let k = 0; k < 2; k++) {
      const played = playedPattern(join(folder, 'patterns'), file, `${file.slice(0, -4)}-${k}`, random);
      if (played) yield heard(`${file} ${k}`, file, samplesOf(played.wav, PLAYED_RATE), PLAYED_RATE, played.beats);
    }
}

type Net = Weights['nets'][number];
const flat = ({ hidden, bias, out, straight }: Net) => Float64Array.from([...hidden.flat(), ...bias, ...out, ...straight]);
function unflat(all: Float64Array, { hidden, bias, straight }: Net): Net {
  const [h, n] = [bias.length, straight.length];
  const part = (from: number, count: number) => [...all.subarray(from, from + count)];
  return {
    hidden: hidden.map((_, i) => part(i * n, n)),
    bias: part(h * n, h),
    out: part(h * n + h, h),
    straight: part(h * n + 2 * h, n),
  };
}

/** One network brought nearer to what is wanted of some songs: softmax over each one's readings, cross entropy. */
function fitted(net: Net, samples: readonly Sample[]): Net {
  const [h, n] = [net.bias.length, net.straight.length];
  const begin = flat(net);
  const adam = new Adam(begin.slice(), RATE);
  const inputs = samples.map(({ figures }) =>
    figures.map((f) => f.map((v, k) => ((Number.isFinite(v) ? v : 0) - WEIGHTS.mean[k]) / WEIGHTS.deviation[k])),
  );
  const wanted = samples.map(({ scores }) => {
    const best = Math.max(...scores);
    const weights = scores.map((s) => Math.exp(20 * (s - best)));
    const whole = weights.reduce((a, b) => a + b, 0);
    return weights.map((w) => w / whole);
  });
  // Each source counts the same among its kind, however many songs it has, and a generator's patterns no more than songs do.
  const counts = new Map<string, number>();
  for (const { source } of samples) counts.set(source, (counts.get(source) ?? 0) + 1);
  const sources = (kind: Kind) => new Set(samples.filter((s) => kindOf(s) === kind).map((s) => s.source)).size;
  const each = Object.fromEntries(KINDS.map((kind) => [kind, SHARE[kind] / Math.max(1, sources(kind))]));
  for (let round = 1; round <= ROUNDS; round++) {
    const slope = adam.weights.map((w, k) => HELD * (w - begin[k]));
    const w = adam.weights;
    inputs.forEach((rows, s) => {
      const share = each[kindOf(samples[s])] / (counts.get(samples[s].source) ?? 1);
      const active = rows.map((x) =>
        Array.from({ length: h }, (_, i) => {
          let sum = w[h * n + i];
          for (let k = 0; k < n; k++) sum += x[k] * w[i * n + k];
          return Math.tanh(sum);
        }),
      );
      const scores = rows.map((x, r) => {
        let sum = 0;
        for (let i = 0; i < h; i++) sum += w[h * n + h + i] * active[r][i];
        for (let k = 0; k < n; k++) sum += w[h * n + 2 * h + k] * x[k];
        return sum;
      });
      const most = Math.max(...scores);
      const shares = scores.map((v) => Math.exp(v - most));
      const whole = shares.reduce((a, b) => a + b, 0);
      rows.forEach((x, r) => {
        const off = share * (shares[r] / whole - wanted[s][r]);
        for (let k = 0; k < n; k++) slope[h * n + 2 * h + k] += off * x[k];
        for (let i = 0; i < h; i++) {
          slope[h * n + h + i] += off * active[r][i];
          const back = off * w[h * n + h + i] * (1 - active[r][i] ** 2);
          slope[h * n + i] += back;
          for (let k = 0; k < n; k++) slope[i * n + k] += back * x[k];
        }
      });
    });
    adam.step(slope, round);
  }
  return unflat(adam.weights, net);
}

const chosen = (samples: readonly Sample[], nets: Net[]) =>
  samples.map(({ figures, scores, name }) => {
    const judged = figures.map((f) => scoreOf(f, { ...WEIGHTS, nets }));
    const top = Math.max(...judged);
    const sure = 1 / judged.reduce((sum, v) => sum + Math.exp(v - top), 0);
    return { name, score: scores[judged.indexOf(top)], best: Math.max(...scores), sure };
  });
const report = (label: string, list: ReturnType<typeof chosen>) => {
  const mean = (pick: (c: (typeof list)[number]) => number) => (list.reduce((sum, c) => sum + pick(c), 0) / list.length).toFixed(3);
  const right = (from: number, to: number) => {
    const some = list.filter((c) => c.sure >= from && c.sure < to);
    return `${some.filter((c) => c.score > 0.85).length}/${some.length}`;
  };
  console.log(
    `${label}: ${list.length} songs, F ${mean((c) => c.score)} of ${mean((c) => c.best)}; right when sure over 0.9: ${right(0.9, 2)}, 0.7 to 0.9: ${right(0.7, 0.9)}, less: ${right(0, 0.7)}`,
  );
};

const [what, folder, songs] = process.argv.slice(2);
/** Without the folds: for the weights alone. */
const quick = songs === 'quick';
const file = join(folder, 'readings.json');
if (what === 'hear') {
  mkdirSync(folder, { recursive: true });
  const all: Sample[] = [];
  for (const sample of allHeard(folder, songs)) {
    all.push(sample);
    if (all.length % 20 === 0) console.log(all.length, sample.name);
  }
  writeFileSync(file, JSON.stringify(all));
} else if (existsSync(file)) {
  const all = (JSON.parse(readFileSync(file, 'utf8')) as Sample[]).filter((s) => Math.max(...s.scores) > 0.8);
  for (const k of KINDS)
    report(
      `${k}, before`,
      chosen(
        all.filter((s) => kindOf(s) === k),
        WEIGHTS.nets,
      ),
    );
  const sources = [...new Set(all.map((s) => s.source))].sort();
  const out: ReturnType<typeof chosen>[] = [];
  const held: Sample[] = [];
  for (let fold = 0; fold < (quick ? 0 : FOLDS); fold++) {
    const kept = new Set(sources.filter((_, i) => i % FOLDS === fold));
    const nets = WEIGHTS.nets.map((net) =>
      fitted(
        net,
        all.filter((s) => !kept.has(s.source)),
      ),
    );
    const apart = all.filter((s) => kept.has(s.source));
    held.push(...apart);
    out.push(chosen(apart, nets));
  }
  const kepts = out.flat();
  for (const k of quick ? [] : KINDS)
    report(
      `${k}, kept out`,
      kepts.filter((_, i) => kindOf(held[i]) === k),
    );
  const nets = WEIGHTS.nets.map((net) => fitted(net, all));
  for (const k of KINDS)
    report(
      `${k}, fitted`,
      chosen(
        all.filter((s) => kindOf(s) === k),
        nets,
      ),
    );
  const short = (_: string, v: unknown) => (typeof v === 'number' ? Number(v.toPrecision(4)) : v);
  writeFileSync(join(folder, 'reading-weights.json'), JSON.stringify({ ...WEIGHTS, nets }, short));
}
