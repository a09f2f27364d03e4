/**
 * Prints a table of ratios, each side by side in one run: the two sides are interleaved and medians of 5 are compared.
 * Needs a build (`npm run build`) and ffmpeg. `npm run bench`.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { launchChromium, withEmptyScore } from '../scripts/chromium';
import { startServer } from '../scripts/server';
import { LiveMeter } from '../src/core/measure';
import { valueAt } from '../src/core/motion';
import { BT709 } from '../src/core/picture';
import { newPlannedShot, planDay, RECIPES } from '../src/core/plan';
import { accuracyRows } from './accuracy';
import { alongRow } from './along';
import { answeringRows } from './answering';
import { coresRow } from './cores';
import { cutOutRows, trackedRows } from './cut-outs';
import { effectRows } from './effects';
import { elsewhereRows } from './elsewhere';
import { largeRows, manyTakesRow, otherBytes } from './large';
import { longRow } from './long';
import { playingRows } from './playing';
import { crowdedRow, filmRow, latencyRows } from './score';
import { songRows } from './songs';

const RUNS = 5;
/** `--only=measuring,live` runs these rows alone; with `--docs` they take the place of their like in docs/performance.md and docs/accuracy.md. */
const only = process.argv
  .find((a) => a.startsWith('--only='))
  ?.slice(7)
  .split(',');
const scratch = mkdtempSync(join(tmpdir(), 'ribbon-bench-'));
const DEMO = join(process.cwd(), 'public/demo');
const rows: [string, string, string][] = [];

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-y', '-v', 'error', ...args]);

async function timed(work: () => unknown): Promise<number> {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
}

/** A project file whose one shot is ten seconds of reveal, with or without a corrected take. */
async function makeProject(page: Page, url: string, corrected: boolean): Promise<string> {
  await page.goto(`${url}/takes`);
  await page.getByRole('heading', { name: 'Takes' }).waitFor({ timeout: 90_000 });
  if (corrected) await page.getByTestId('take-two').getByRole('button', { name: 'Correct this take' }).click({ timeout: 90_000 });
  await page.goto(`${url}/score`);
  const lay = page.getByRole('button', { name: 'Masked reveal' });
  await lay.waitFor();
  if ((await page.getByTestId('shot-strip').count()) === 0) await lay.click();
  await page.getByTestId('shot-strip').first().waitFor({ timeout: 60_000 });
  await page.goto(`${url}/deliver`);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the project file' }).click();
  const zip = join(scratch, corrected ? 'corrected.zip' : 'plain.zip');
  await (await download).saveAs(zip);
  return zip;
}

async function render(page: Page, zip: string): Promise<{ frames: number; seconds: number }> {
  await page.getByTestId('batch-files').setInputFiles(zip);
  return page.evaluate(async () => {
    const made = await window.fickleRibbonDoor?.render('mp4');
    if (!made) throw new Error('not ready');
    return made;
  });
}

/** ffmpeg at the same composite: two takes, a soft line moving down, the song; decode and encode included. */
function ffmpegComposite(frames: number): void {
  const length = String(frames / 25);
  const line = `color=white:s=1280x720:r=25:d=${length},format=gray,geq=lum='clip(255*(0.5-(Y-720*T/${length})/130),0,255)'`;
  if (!existsSync(join(scratch, 'mask.mp4')))
    ffmpeg('-f', 'lavfi', '-i', line, '-c:v', 'libx264', '-preset', 'veryfast', '-qp', '8', join(scratch, 'mask.mp4'));
  const inputs = [
    '-t',
    length,
    '-i',
    join(DEMO, 'take-2-outfit-one.mp4'),
    '-t',
    length,
    '-i',
    join(DEMO, 'take-3-outfit-two.mp4'),
    '-i',
    join(scratch, 'mask.mp4'),
    '-t',
    length,
    '-i',
    join(DEMO, 'half-load.m4a'),
  ];
  const graph = '[2:v]format=gray[m];[1:v]format=yuva420p[b];[b][m]alphamerge[t];[0:v][t]overlay=format=yuv420,format=yuv420p[v]';
  ffmpeg(
    ...inputs,
    '-filter_complex',
    graph,
    '-map',
    '[v]',
    '-map',
    '3:a',
    '-c:v',
    'libx264',
    '-preset',
    'veryfast',
    '-b:v',
    '7M',
    '-c:a',
    'aac',
    '-shortest',
    join(scratch, 'reference.mp4'),
  );
}

async function exportRows(page: Page, url: string): Promise<void> {
  for (const corrected of [false, true]) {
    const zip = await makeProject(page, url, corrected);
    await page.goto(`${url}/batch`);
    await page.waitForFunction(() => window.fickleRibbonDoor !== undefined);
    const { frames } = await render(page, zip);
    ffmpegComposite(frames);
    const [ours, theirs]: [number[], number[]] = [[], []];
    for (let i = 0; i < RUNS; i++) {
      ours.push((await render(page, zip)).seconds);
      theirs.push(await timed(() => ffmpegComposite(frames)));
    }
    const ratio = median(theirs) / median(ours);
    rows.push([
      corrected
        ? 'the same with take two stabilised, enlarged and matched in light (ffmpeg does not)'
        : `export of ${(frames / 25).toFixed(1)} s of the reveal, 720p, with sound, against ffmpeg`,
      `${ratio.toFixed(2)}× ffmpeg’s speed`,
      `${(frames / median(ours)).toFixed(0)} against ${(frames / median(theirs)).toFixed(0)} fps`,
    ]);
  }
}

async function measuringRow(page: Page, url: string): Promise<void> {
  const demo = join(DEMO, 'take-3-outfit-two.mp4');
  const larger = ['-vf', 'scale=1920:1080', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-c:a', 'copy'];
  await page.goto(`${url}/batch`);
  await page.waitForFunction(() => window.fickleRibbonDoor !== undefined);
  // A plate has nobody in it: of it only lock, light, fall and quality are measured.
  for (const [name, size, args] of [
    ['plate', '720p', ['-c', 'copy']],
    ['acted', '720p', ['-c', 'copy']],
    ['plate', '1080p', larger],
  ] as const) {
    const long = join(scratch, `${name}.mp4`);
    ffmpeg('-stream_loop', '11', '-i', demo, ...args, long);
    const seconds: number[] = [];
    let frames = 0;
    for (let i = 0; i < 2; i++) {
      // Another file each time, for what is known is not measured again.
      otherBytes(long, i);
      await page.getByTestId('batch-files').setInputFiles(long);
      seconds.push(
        await timed(async () => {
          const report = await page.evaluate(() => window.fickleRibbonDoor?.takes());
          frames = report?.takes[0].frames ?? 0;
        }),
      );
    }
    const rate = frames / median(seconds);
    rows.push([
      `measuring a ${size} take: lock, light, fall, quality${name === 'acted' ? ', empty set and performer' : ''}, against real time`,
      `${(rate / 25).toFixed(1)}× real time`,
      `${rate.toFixed(0)} fps; 5 min in ${(7500 / rate).toFixed(0)} s`,
    ]);
  }
}

async function beatsRow(page: Page, url: string): Promise<void> {
  const song = join(DEMO, 'half-load.m4a');
  const three = join(scratch, 'three-minutes.mp3');
  ffmpeg('-stream_loop', '2', '-i', song, '-t', '180', '-c:a', 'libmp3lame', three);
  await page.goto(`${url}/batch`);
  await page.waitForFunction(() => window.fickleRibbonDoor !== undefined);
  const [ours, theirs]: [number[], number[]] = [[], []];
  for (let i = 0; i < RUNS; i++) {
    await page.getByTestId('batch-files').setInputFiles(three);
    ours.push(await timed(() => page.evaluate(() => window.fickleRibbonDoor?.beats())));
    theirs.push(await timed(() => spawnSync('aubiotrack', [three])));
  }
  rows.push([
    'beats of a 3-minute MP3, from file to map, against aubiotrack',
    `${(median(theirs) / median(ours)).toFixed(2)}× aubio’s speed`,
    `${median(ours).toFixed(2)} s; ${(median(ours) / 3).toFixed(2)} s a minute of song`,
  ]);
}

async function scrubRow(page: Page, url: string): Promise<void> {
  await page.goto(`${url}/score`);
  await page.getByTestId('shot-strip').first().waitFor({ timeout: 60_000 });
  await page.waitForTimeout(4000);
  await page
    .getByTestId('score-line')
    .nth(0)
    .locator('div.relative')
    .first()
    .click({ position: { x: 4, y: 70 } });
  await page.waitForTimeout(1000);
  await page.evaluate(() => performance.clearMeasures());
  for (let i = 0; i < 60; i++) {
    await page.keyboard.press(i % 20 === 19 ? 'Shift+ArrowRight' : 'ArrowRight');
    await page.waitForTimeout(150);
  }
  const times = await page.evaluate(() => performance.getEntriesByName('picture').map((e) => e.duration));
  const sorted = times.sort((a, b) => a - b);
  const middle = median(sorted);
  rows.push([
    'a new frame while scrubbing, against one frame’s time at 25 fps',
    `${(40 / middle).toFixed(2)}× real time`,
    `median ${middle.toFixed(0)} ms, 9 in 10 within ${sorted[Math.floor(sorted.length * 0.9)].toFixed(0)} ms`,
  ]);
}

function tracksRow(): void {
  const track = Array.from({ length: 1000 }, (_, i) => ({ frame: i * 3, value: Math.sin(i), easing: 'ease' as const }));
  const two = track.slice(0, 2);
  const run = (keys: typeof track) => {
    const began = performance.now();
    let sum = 0;
    for (let k = 0; k < 200_000; k++) sum += valueAt(keys, (k * 7) % 3000);
    return (performance.now() - began) / 200 + sum * 0;
  };
  const [many, few]: [number[], number[]] = [[], []];
  for (let i = 0; i < RUNS; i++) {
    many.push(run(track));
    few.push(run(two));
  }
  rows.push([
    'evaluating a track of 1,000 keys, against one of two',
    `${(median(many) / median(few)).toFixed(2)}× its time`,
    `${median(many).toFixed(2)} µs a value`,
  ]);
}

function orderRow(): void {
  const recipe = RECIPES.find((r) => r.id === 'things arrive') ?? RECIPES[0];
  const shot = (objects: number) => {
    const made = newPlannedShot('bench', recipe, '2026-11-27');
    return {
      ...made,
      inputs: { ...made.inputs, objects: Array.from({ length: objects }, (_, i) => `thing ${i}`).join(), thread: Math.floor(objects / 2) },
    };
  };
  const run = (objects: number) => {
    const began = performance.now();
    planDay(shot(objects), { barSeconds: 2, beatSeconds: 0.5 }, 25);
    return performance.now() - began;
  };
  const [many, few]: [number[], number[]] = [[], []];
  for (let i = 0; i < RUNS; i++) {
    many.push(run(12));
    few.push(run(5));
  }
  rows.push([
    'exact order and timetable of 14 slots, against 7 slots',
    `${(median(many) / median(few)).toFixed(0)}× its time`,
    `${median(many).toFixed(0)} ms and ${median(few).toFixed(0)} ms`,
  ]);
}

/** Memory of page and workers while the simulated camera records: after 100 seconds against after 20. */
async function recordingRow(page: Page, url: string): Promise<void> {
  await page.goto(`${url}/shoot`);
  await page.getByRole('tab', { name: 'Film' }).click();
  await page.getByRole('button', { name: 'Simulated camera' }).click();
  await page
    .getByTestId('live-figures')
    .getByText(/^0\.\d\d px/)
    .waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Record by hand' }).click();
  const memory = () =>
    page.evaluate(async () => {
      const measure = (performance as unknown as { measureUserAgentSpecificMemory(): Promise<{ bytes: number }> })
        .measureUserAgentSpecificMemory;
      return (await measure.call(performance)).bytes / 1e6;
    });
  await page.waitForTimeout(20_000);
  const early = await memory();
  // Ten minutes of recording. Measuring memory waits for the next collection, so the clock in the picture is what is asked for.
  await page
    .getByTestId('recorded')
    .getByText(/^6\d\d\.\d s/)
    .waitFor({ timeout: 900_000 });
  const late = await memory();
  await page.getByRole('button', { name: 'End the recording' }).click();
  rows.push([
    'memory of a recording that runs, after ten minutes against 20 s',
    `${(late / early).toFixed(2)}× as much`,
    `${late.toFixed(0)} against ${early.toFixed(0)} MB`,
  ]);
}

/** Cost of the live figures at 720p, six readings a second, as a share of one core. */
function liveRow(): void {
  const [width, height] = [1280, 720];
  const raw = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', join(DEMO, 'take-2-outfit-one.mp4'), '-frames:v', '60', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-'],
    { maxBuffer: 2e8 },
  );
  const size = (width * height * 3) / 2;
  const frames = Array.from({ length: 60 }, (_, i) => {
    const at = i * size;
    const luma = width * height;
    return {
      width,
      height,
      y: raw.subarray(at, at + luma),
      u: raw.subarray(at + luma, at + luma * 1.25),
      v: raw.subarray(at + luma * 1.25, at + size),
    };
  });
  const meter = new LiveMeter(frames.slice(0, 5), BT709);
  const costs: number[] = [];
  for (let i = 0; i < RUNS; i++) {
    const began = performance.now();
    for (const [k, frame] of frames.entries()) meter.read(frame, k / 6);
    costs.push((performance.now() - began) / frames.length);
  }
  rows.push([
    'live lock, light and clipping of a 720p camera, six readings a second',
    `${((100 * median(costs) * 6) / 1000).toFixed(1)} % of one core`,
    `${median(costs).toFixed(1)} ms a reading`,
  ]);
}

async function firstScreenRow(page: Page, url: string): Promise<void> {
  // The very first start also brings in the demo and its workers; the screen itself is what a second visit asks for.
  await page.goto(`${url}/plan`);
  await page.getByText('1 filmed').nth(2).waitFor({ timeout: 90_000 });
  const sizes = new Map<string, number>();
  page.on('response', async (response) => {
    if (response.url().includes('/_next/static/') && /\.js($|\?)/.test(response.url()))
      sizes.set(response.url(), gzipSync(await response.body().catch(() => Buffer.alloc(0))).length);
  });
  const sum = () => [...sizes.values()].reduce((a, b) => a + b, 0);
  // What comes in later is fetched while one looks.
  await page.goto(`${url}/`, { waitUntil: 'load' });
  const first = sum();
  sizes.clear();
  await page.goto(`${url}/plan`, { waitUntil: 'networkidle' });
  const stage = sum();
  const folder = '.next/static/chunks';
  const all = readdirSync(folder)
    .filter((f) => f.endsWith('.js') && statSync(join(folder, f)).isFile())
    .reduce((sum, f) => sum + gzipSync(readFileSync(join(folder, f))).length, 0);
  rows.push([
    'JavaScript for the first screen, gzipped, against 250 kB',
    `${(first / 250e3).toFixed(2)} of it`,
    `${(first / 1000).toFixed(0)} kB; a stage opened by its address ${(stage / 1000).toFixed(0)} kB, of ${(all / 1000).toFixed(0)} kB there are`,
  ]);
}

const server = await startServer();
const browser = await launchChromium();
try {
  const fresh = async () => {
    const context = await browser.newContext({ acceptDownloads: true, viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
    await withEmptyScore(context);
    // What tsx writes around named functions, for those that run in the page.
    await context.addInitScript('globalThis.__name ??= (f) => f');
    return context.newPage();
  };
  const page = await fresh();
  const all: Record<string, () => unknown> = {
    export: () => exportRows(page, server.url),
    measuring: () => measuringRow(page, server.url),
    beats: () => beatsRow(page, server.url),
    scrub: () => scrubRow(page, server.url),
    recording: () => recordingRow(page, server.url),
    tracks: tracksRow,
    order: orderRow,
    live: liveRow,
    moves: async () => rows.push(...(await latencyRows(await fresh(), server.url))),
    playing: async () => rows.push(...(await playingRows(browser, fresh, server.url, DEMO, scratch))),
    film: async () => rows.push(...(await filmRow(await fresh(), server.url, DEMO, scratch, 3))),
    crowded: async () => rows.push(...(await crowdedRow(await fresh(), server.url, scratch))),
    large: async () => rows.push(...(await largeRows(fresh, server.url, scratch))),
    answering: async () => rows.push(...(await answeringRows(fresh, server.url, DEMO, scratch))),
    along: async () => rows.push(await alongRow(await fresh(), server.url)),
    takes: async () => rows.push(...(await manyTakesRow(fresh, server.url, DEMO, scratch))),
    effects: async () => rows.push(...effectRows()),
    cores: async () => rows.push(await coresRow(server.url, scratch)),
    long: async () => rows.push(...(await longRow(server.url, DEMO, scratch))),
    screen: async () => firstScreenRow(await fresh(), server.url),
  };
  for (const [name, row] of Object.entries(all)) if (!only || only.includes(name)) await row();
} finally {
  await browser.close();
  server.stop();
}
const machine = `${cpus().length} × ${cpus()[0].model.trim()}, ${(totalmem() / 2 ** 30).toFixed(0)} GiB, no GPU, Node ${process.versions.node}`;
const accuracy =
  !only || only.includes('accuracy') ? [...(await accuracyRows()), ...(await elsewhereRows()), ...cutOutRows(), ...trackedRows()] : [];
const songs = !only || only.includes('songs') ? songRows(join(tmpdir(), 'ribbon-songs')) : [];
const head = `Machine: ${machine}. Medians of ${RUNS}, interleaved.`;
/** The tables of the documents they stand in. */
const tables = {
  'docs/performance.md': [
    'From `npm run bench`: ratios taken side by side in one run, interleaved.',
    '',
    head,
    '',
    '| what | ratio | in figures |',
    '| --- | --- | --- |',
    ...rows.map((r) => `| ${r.join(' | ')} |`),
  ].join('\n'),
  'docs/accuracy.md': [
    'Errors of the measures on generated takes of exact truth, beside what general-purpose libraries reach with care:',
    '',
    '| what | measured | floor |',
    '| --- | --- | --- |',
    ...accuracy.map((r) => `| ${r.join(' | ')} |`),
    '',
    'Beats of accompaniment patterns (Debian’s mma, played by fluidsynth), F-measure at ±70 ms as mir_eval has it:',
    '',
    '| what | ours | aubio |',
    '| --- | --- | --- |',
    ...(songs ?? [['not measured', 'needs mma, fluidsynth and fluid-soundfont-gm', '']]).map((r) => `| ${r.join(' | ')} |`),
  ].join('\n'),
};
const table = Object.values(tables).join('\n\n');
console.log(table);
writeFileSync('bench/latest.md', `${table}\n`);
/** A document's tables with the rows measured now in place of those of the same name; new ones after the last of the first table. */
function withRows(text: string, measured: readonly (readonly string[])[]): string {
  const named = new Map(measured.map((r) => [r[0], `| ${r.join(' | ')} |`]));
  const lines = text.split('\n').map((line) => {
    const name = /^\| (.*?) +\|/.exec(line)?.[1] ?? '';
    const now = named.get(name);
    named.delete(name);
    return now ?? line;
  });
  const end = lines.findIndex((line, i) => i > 0 && line === '' && lines[i - 1].startsWith('|'));
  return lines.toSpliced(end, 0, ...named.values()).join('\n');
}

if (process.argv.includes('--docs')) {
  for (const [file, now] of Object.entries(tables)) {
    const text = readFileSync(file, 'utf8').replace(
      /(<!-- bench -->\n\n)([\s\S]*?)(\n<!-- \/bench -->)/,
      (_, begin, old, end) =>
        `${begin}${only ? withRows(old, file.includes('performance') ? rows : [...accuracy, ...(songs ?? [])]) : `${now}\n`}${end}`,
    );
    writeFileSync(file, text);
  }
  spawnSync('npx', ['biome', 'format', '--write', ...Object.keys(tables)]);
}
