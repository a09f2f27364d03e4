/** The score measured: a new frame of each move, a long score of many keys, and a film of all moves against ffmpeg at comparable filters. */
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { unzipSync, zipSync } from 'fflate';
import { type Project, readProject, type Shot } from '../src/core/document';
import { plainShot } from '../src/core/edit';
import { keyAt, plainLayer, remapKeyAt } from '../src/core/layer';

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];

export async function openScore(page: Page, url: string): Promise<void> {
  await page.goto(`${url}/score`);
  await page.getByTestId('score-line').first().waitFor({ timeout: 90_000 });
}

export async function layOn(page: Page, name: string, bar: number): Promise<void> {
  await page.getByLabel('Find on the score').fill(`bar ${bar}`);
  await page.keyboard.press('Enter');
  const undo = page.getByRole('button', { name: /^Undo: Lay / });
  const before = await undo.getAttribute('aria-label').catch(() => '');
  await page.getByRole('button', { name, exact: true }).click();
  await page.waitForFunction(
    (was) => (document.querySelector('[aria-label^="Undo: Lay "]')?.getAttribute('aria-label') ?? '') !== was,
    before,
    { timeout: 120_000 },
  );
}

export const MOVES = [
  ['Masked reveal', 4],
  ['Whip', 10],
  ['Freeze frame', 14],
  ['Speed ramp', 18],
  ['Split screen', 24],
] as const;

/** A new frame of each move in the preview, against a frame's time at 25 a second. */
export async function latencyRows(page: Page, url: string): Promise<[string, string, string][]> {
  const rows: [string, string, string][] = [];
  await openScore(page, url);
  for (const [name, bar] of MOVES) {
    await layOn(page, name, bar);
    await page.waitForTimeout(1500);
    await page.getByTestId('where').click();
    for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowLeft');
    await page.waitForTimeout(600);
    await page.evaluate(() => performance.clearMeasures());
    for (let i = 0; i < 16; i++) {
      await page.keyboard.press('ArrowRight');
      await page.waitForTimeout(220);
    }
    const times = (await page.evaluate(() => performance.getEntriesByName('picture').map((e) => e.duration))).sort((a, b) => a - b);
    rows.push([
      `a new frame in the middle of a ${name.toLowerCase()}, against a frame’s time at 25 fps`,
      `${(40 / median(times)).toFixed(2)}× real time`,
      `median ${median(times).toFixed(0)} ms, slowest ${times[times.length - 1].toFixed(0)} ms`,
    ]);
  }
  return rows;
}

/** The demo's project file as it is saved, and what is in it. */
export async function savedProject(
  page: Page,
  url: string,
  file: string,
): Promise<{ files: Record<string, Uint8Array>; project: Project }> {
  await page.goto(`${url}/deliver`);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the project file' }).click();
  await (await download).saveAs(file);
  const files = unzipSync(new Uint8Array(readFileSync(file)));
  const read = readProject(JSON.parse(new TextDecoder().decode(files['project.json'])));
  if (!read.ok) throw new Error(read.reason);
  return { files, project: read.project };
}

/** 120 shots over three minutes, with 5,000 keys between them. */
function crowded(project: Project): Project {
  const takes = project.takes.map((t) => t.id);
  const shots = Array.from({ length: 120 }, (_, i): Shot => {
    const keys = Array.from({ length: 42 }, (_, k) => keyAt((k * 2.6) / 42, k % 2, Math.sin(k), 'ease in and out'));
    const layer = plainLayer('shown', 'The take', i % 12, { kind: 'take', takeId: takes[i % takes.length] }, [remapKeyAt(0, 0, 1)], {
      numbers: { x: keys },
    });
    return plainShot(`shot${i}`, `Shot ${i + 1}`, { beat: i * 2.75, offset: 0 }, { beat: i * 2.75 + 2.7, offset: 0 }, { layers: [layer] });
  });
  const media = project.media.map((m) => (m.kind === 'audio' ? { ...m, duration: 180 } : m));
  return { ...project, media, shots };
}

/** How soon a three-minute score of 120 shots and 5,000 keys stands, and how smoothly it scrolls. */
export async function crowdedRow(page: Page, url: string, scratch: string): Promise<[string, string, string][]> {
  await openScore(page, url);
  const { files, project } = await savedProject(page, url, join(scratch, 'demo.zip'));
  const zip = join(scratch, 'crowded.zip');
  writeFileSync(zip, zipSync({ ...files, 'project.json': new TextEncoder().encode(JSON.stringify(crowded(project))) }, { level: 0 }));
  await page.getByRole('button', { name: /Night laundrette/ }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('menuitem', { name: /Open a project file/ }).click();
  await (await chooser).setFiles(zip);
  await page.waitForTimeout(4000);
  const opened: number[] = [];
  for (let i = 0; i < 3; i++) {
    const began = performance.now();
    await page.goto(`${url}/score`);
    await page.getByTestId('shot-strip').nth(8).waitFor();
    opened.push((performance.now() - began) / 1000);
  }
  await page.waitForTimeout(5000);
  const fps = await page.evaluate(async () => {
    const inner = [...document.querySelectorAll<HTMLElement>('div')].find(
      (e) => e.scrollHeight > e.clientHeight + 200 && e.querySelector('[data-testid=score-line]'),
    );
    if (!inner) return 0;
    // Once through, so that every strip has been drawn; then counted.
    let frames = 0;
    for (const _ of [0, 1]) {
      frames = 0;
      const began = performance.now();
      while (performance.now() - began < 3000) {
        await new Promise((r) => requestAnimationFrame(r));
        inner.scrollTop = ((Math.sin((performance.now() - began) / 700) + 1) / 2) * (inner.scrollHeight - inner.clientHeight);
        frames++;
      }
    }
    return frames / 3;
  });
  return [
    [
      'scrolling a three-minute score of 120 shots and 5,000 keys, against 50 fps',
      `${(fps / 50).toFixed(2)} of it`,
      `${fps.toFixed(0)} frames a second (a screen shows 60)`,
    ],
    [
      'opening that score, against 2 s',
      `${(2 / median(opened)).toFixed(2)}× as soon`,
      `${median(opened).toFixed(2)} s from the address to the strips`,
    ],
  ];
}

/** ffmpeg at comparable work of the same length: a soft line over two takes; a smeared pan; cut-outs turned and laid over a still; speed and zoom; three panels. */
function ffmpegFilm(demo: string, out: string, seconds: number): void {
  const part = seconds / 5;
  const take = (name: string) => ['-stream_loop', '3', '-t', String(part * 2), '-i', join(demo, name)];
  const inputs = [...take('take-2-outfit-one.mp4'), ...take('take-3-outfit-two.mp4'), ...take('clones-the-hand-over-place-p1.mp4')];
  const cut = `trim=0:${part},setpts=PTS-STARTPTS`;
  const graph = [
    '[0:v]split=5[a0][a1][a2][a3][a4]',
    '[1:v]split=3[b0][b1][b2]',
    '[2:v]split=2[c0][c1]',
    `color=white:s=64x36:r=25:d=${part},format=gray,geq=lum='clip(255*(0.5-(Y-36*T/${part})/6),0,255)',scale=1280:720[m]`,
    '[b0][m]alphamerge[bm]',
    `[a0][bm]overlay,${cut}[one]`,
    `[a1][b1]hstack,scroll=h=0.004,crop=1280:720:0:0,tmix=frames=12,${cut}[two]`,
    `[a2]loop=loop=-1:size=1,${cut}[still]`,
    `[c0]crop=300:560:480:140,format=yuva420p,rotate=a='0.6*sin(3*t)':c=none,${cut}[cut]`,
    `[still][cut]overlay=x='500-200*sin(2*t)':y=120,${cut}[three]`,
    `[a3]setpts=0.7*PTS,fps=25,zoompan=z='1.04+0.04*sin(on/20)':d=1:s=1280x720:fps=25,tblend=all_mode=average,${cut}[four]`,
    '[a4]crop=420:720[p0];[b2]crop=430:720[p1];[c1]crop=430:720[p2]',
    `[p0][p1][p2]hstack=inputs=3,${cut}[five]`,
    '[one]format=yuv420p,setsar=1[o1];[two]format=yuv420p,setsar=1[o2];[three]format=yuv420p,setsar=1[o3];[four]format=yuv420p,setsar=1[o4];[five]format=yuv420p,setsar=1[o5]',
    '[o1][o2][o3][o4][o5]concat=n=5[v]',
  ].join(';');
  execFileSync('ffmpeg', [
    '-y',
    '-v',
    'error',
    ...inputs,
    '-filter_complex',
    graph,
    '-map',
    '[v]',
    '-t',
    String(seconds),
    '-c:v',
    'libx264',
    '-preset',
    'veryfast',
    '-b:v',
    '7M',
    out,
  ]);
}

/** A film of all five moves, export against ffmpeg. */
export async function filmRow(page: Page, url: string, demo: string, scratch: string, runs: number): Promise<[string, string, string][]> {
  await openScore(page, url);
  if ((await page.getByTestId('shot-strip').count()) === 0) for (const [name, bar] of MOVES) await layOn(page, name, bar);
  const zip = join(scratch, 'film.zip');
  await savedProject(page, url, zip);
  await page.goto(`${url}/batch`);
  await page.waitForFunction(() => window.fickleRibbonDoor !== undefined);
  await page.getByTestId('batch-files').setInputFiles(zip);
  const [ours, theirs]: [number[], number[]] = [[], []];
  let count = 0;
  for (let i = 0; i < runs; i++) {
    await page.getByTestId('batch-files').setInputFiles(zip);
    const made = await page.evaluate(() => window.fickleRibbonDoor?.render('mp4'));
    if (!made) throw new Error('no film');
    count = made.frames;
    ours.push(made.seconds);
    const began = performance.now();
    ffmpegFilm(demo, join(scratch, 'chain.mp4'), count / 25);
    theirs.push((performance.now() - began) / 1000);
  }
  return [
    [
      'export of a film of all five moves, against ffmpeg at an equally long chain of comparable filters',
      `${(median(theirs) / median(ours)).toFixed(2)}× ffmpeg’s speed`,
      `${(count / median(ours)).toFixed(0)} frames a second, ffmpeg ${(count / median(theirs)).toFixed(0)}`,
    ],
  ];
}
