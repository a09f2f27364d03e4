/**
 * Hears songs and keeps what each way to hear their beat is judged by, for `fit-beats.py`:
 *
 *   npx tsx bench/hear-songs.ts OUT [SONGS...]
 *
 * Songs are accompaniment patterns (see `patterns.ts`), made-up songs and clicks at changing tempi, and those of SONGS: folders with
 * `wav/NAME.wav` and `truth/NAME.json` (`beats` and `downbeats`, seconds; `group`, whose songs are to be kept out together), such as
 * `game-music.py`, `drum-songs.py`, `style-songs.py` and `sung-songs.py` make; a folder's name is the kind of its songs (`SHARE` in
 * `fit-beats.py`). Each of those is heard as it is, and what was neither played again nor sung over in another dress, too: with less of its
 * highs or lows, pressed, with some noise.
 *
 * OUT gets NAME.json and NAME.u8: `BEAT_WIDTH` bytes for each beat of each reading, hundredths (the tempo, the last of them, is in the JSON).
 */
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { randomSource, synthesiseSong } from '../src/core/room';
import { BEAT_WIDTH, beatFMeasure, beatRows, FluxMeter, figuresOf, readingsOf } from '../src/core/song';
import { clamp } from '../src/core/units';
import { PLAYED_RATE, patternFiles, playedPattern } from './patterns';
import { samplesOf } from './play';

interface Truth {
  beats: readonly number[];
  downbeats?: readonly number[];
}

/** Less of the highs or of the lows, pressed, and some noise. */
function dressed(samples: Float32Array, seed: number): Float32Array {
  const random = randomSource(seed);
  const [tilt, press, noise] = [0.6 * (2 * random() - 1), 1 + 3 * random(), 0.004 * random()];
  let low = 0;
  let most = 1e-6;
  const tilted = Float32Array.from(samples, (v) => {
    low += 0.25 * (v - low);
    const out = v + tilt * (tilt > 0 ? v - low : -low) + noise * (random() - 0.5);
    most = Math.max(most, Math.abs(out));
    return out;
  });
  return tilted.map((v) => Math.tanh((press * v) / most) / Math.tanh(press));
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

/** Hears one song and keeps it, once. */
function hear(out: string, name: string, kind: string, source: string, truth: Truth, samples: () => Float32Array, rate: number): void {
  const to = join(out, name);
  if (existsSync(`${to}.json`)) return;
  const meter = new FluxMeter(rate);
  meter.push([samples()]);
  const heard = readingsOf(meter.read());
  const rows = heard.readings.map((reading) => beatRows(heard, reading));
  const seconds = heard.readings.map(({ beats }) => beats.map((b) => Math.round(b * 10) / 1000));
  const bytes = rows.map((r) => Uint8Array.from(r, (v) => clamp(Math.round(100 * v), 0, 255)));
  writeFileSync(`${to}.u8`, Buffer.concat(bytes));
  writeFileSync(
    `${to}.json`,
    JSON.stringify({
      kind,
      source,
      figures: figuresOf(heard),
      start: heard.extent[0] / 100,
      tempo: rows.map((r) => r[BEAT_WIDTH - 1]),
      beats: seconds,
      scores: seconds.map((b) => beatFMeasure(b, truth.beats)),
      truth: truth.beats,
      downbeats: truth.downbeats ?? [],
    }),
  );
}

const [out, ...folders] = process.argv.slice(2);
mkdirSync(out, { recursive: true });
for (const folder of folders) {
  const kind = basename(folder);
  for (const file of readdirSync(join(folder, 'truth'))) {
    const name = file.replace('.json', '');
    const truth = JSON.parse(readFileSync(join(folder, 'truth', file), 'utf8')) as Truth & { group?: string };
    const wav = join(folder, 'wav', `${name}.wav`);
    const source = truth.group ?? name;
    hear(out, `${kind}-${name}`, kind, source, truth, () => samplesOf(wav, 44100), 44100);
    if (!/-again|-sung/.test(name))
      hear(out, `${kind}-${name}-dressed`, kind, source, truth, () => dressed(samplesOf(wav, PLAYED_RATE), name.length), PLAYED_RATE);
  }
}
for (let k = 0; k < 16; k++) {
  const made = (name: string, { samples, beats }: ReturnType<typeof clicks>) =>
    hear(out, `made-${name}-${k}`, 'made', `${name} ${k}`, { beats }, () => samples, PLAYED_RATE);
  made('clicks', clicks(100 + k));
  made('divided', clicks(200 + k, k % 2 ? 0.5 : 2 / 3));
  const song = synthesiseSong({ sampleRate: PLAYED_RATE, bpm: 68 + 6.7 * k, seed: k + 1 });
  hear(out, `made-song-${k}`, 'made', `song ${k}`, song, () => song.channels[0], PLAYED_RATE);
}
const random = randomSource(77);
for (const file of patternFiles())
  for (let k = 0; k < 2; k++) {
    const name = `${file.slice(0, -4)}-${k}`;
    const played = playedPattern(join(out, 'played'), file, name, random);
    if (played) hear(out, `pattern-${name}`, 'pattern', file, played, () => samplesOf(played.wav, PLAYED_RATE), PLAYED_RATE);
  }
