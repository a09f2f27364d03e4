/** Large projects measured: many shots of many layers, and many takes. */
import { execFileSync } from 'node:child_process';
import { appendFileSync, copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { zipSync } from 'fflate';
import { newProject } from '../e2e/helpers';
import type { Project, Shot } from '../src/core/document';
import { plainShot } from '../src/core/edit';
import { keyAt, type Layer, plainLayer, plainMask, remapKeyAt, still } from '../src/core/layer';
import { openScore, savedProject } from './score';

type Row = [string, string, string];
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];

const SHOTS = 300;
const LAYERS = 40;
/** Beats from shot to shot; the song of the demo is shown as if it were long enough. */
const EVERY = 16;

/**
 * A shot of forty layers of which two or three show at a time: a third pieces of takes one after another, keyed, some masked; a
 * third let nothing through but for a moment; a third lie beneath a layer that covers all.
 */
function fullShot(takes: string[], i: number): Shot {
  const piece = (3 * EVERY) / LAYERS;
  const layers = Array.from({ length: LAYERS }, (_, k): Layer => {
    const source = { kind: 'take', takeId: takes[(i + (k >> 2)) % takes.length] } as const;
    const pins = [remapKeyAt(0, 0, 0.1 * (k % 4), 0.9)];
    const name = `Piece ${k + 1}`;
    if (k < LAYERS / 3) return plainLayer(`under-${k}`, name, k % 12, source, pins);
    if (k % 2) {
      const at = (k / LAYERS) * EVERY;
      return plainLayer(`flash-${k}`, name, k % 12, source, pins, {
        numbers: { opacity: [keyAt(0, 0, 0), keyAt(at, 0, 0), keyAt(at, 2, 80), keyAt(at, 4, 0)] },
      });
    }
    const at = ((k - LAYERS / 3) / 2) * piece;
    const mask = plainMask('line', 'line', {
      at: [keyAt(at, 0, 0), keyAt(at + piece, 0, 100)],
      angle: still(90),
      inside: still(2),
      outside: still(2),
    });
    return plainLayer(`piece-${k}`, name, k % 12, source, pins, {
      from: { beat: Math.floor(at), offset: 0 },
      to: { beat: Math.min(EVERY, Math.floor(at + piece) + 1), offset: 0 },
      numbers: { x: [keyAt(at, 0, 0, 'ease in and out'), keyAt(at + piece, 0, 2)] },
      masks: k % 4 ? [] : [mask],
    });
  });
  return plainShot(`shot${i}`, `Shot ${i + 1}`, { beat: i * EVERY, offset: 0 }, { beat: i * EVERY + EVERY, offset: 0 }, { layers });
}

/** The demo with that many shots, its song's beats gone on with at the same tempo to the last of them. */
function fullProject(project: Project): Project {
  const takes = project.takes.map((t) => t.id);
  const media = project.media.map((m) => (m.kind === 'audio' ? { ...m, duration: 4000 } : m));
  const { song } = project;
  const first = song?.map?.beats[0] ?? 0;
  const beats = Array.from({ length: SHOTS * EVERY + 32 }, (_, i) => first + i / 2);
  return {
    ...project,
    media,
    song: song?.map ? { ...song, map: { ...song.map, beats, locked: [] } } : song,
    shots: Array.from({ length: SHOTS }, (_, i) => fullShot(takes, i)),
    nestedShots: [],
    sound: { ...project.sound, clips: [] },
  };
}

async function openFile(page: Page, file: string): Promise<void> {
  await page.getByRole('button', { name: /Night laundrette/ }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('menuitem', { name: /Open a project file/ }).click();
  await (await chooser).setFiles(file);
}

/** Milliseconds from pressing on a thing to the picture after what it asked for is there. */
async function answered(page: Page, button: string, done: string): Promise<number> {
  await page.evaluate((done) => {
    const taken = new Promise<number>((resolve) =>
      addEventListener(
        'pointerdown',
        async () => {
          const began = performance.now();
          do await new Promise(requestAnimationFrame);
          while (!document.querySelector(done));
          setTimeout(() => resolve(performance.now() - began));
        },
        { capture: true, once: true },
      ),
    );
    Object.assign(window, { taken });
  }, done);
  await page.locator(button).first().click();
  return page.evaluate(() => (window as unknown as { taken: Promise<number> }).taken);
}

/** Opens the large project; gives the demo's files and document as well. */
export async function openLarge(page: Page, url: string, scratch: string) {
  await openScore(page, url);
  const { files, project } = await savedProject(page, url, join(scratch, 'demo.zip'));
  const zip = join(scratch, 'large.zip');
  writeFileSync(zip, zipSync({ ...files, 'project.json': new TextEncoder().encode(JSON.stringify(fullProject(project))) }, { level: 0 }));
  await openFile(page, zip);
  await page.waitForTimeout(8000);
  return { files, project };
}

export async function largeRows(fresh: () => Promise<Page>, url: string, scratch: string): Promise<Row[]> {
  const page = await fresh();
  const { files, project } = await openLarge(page, url, scratch);
  const opened: number[] = [];
  for (let i = 0; i < 3; i++) {
    const began = performance.now();
    await page.goto(`${url}/score`);
    await page.getByTestId('shot-strip').nth(5).waitFor();
    opened.push((performance.now() - began) / 1000);
  }
  await page.waitForTimeout(5000);
  const clicks: number[] = [];
  for (let i = 1; i < 8; i++)
    clicks.push(await answered(page, `[aria-label^="Shot ${i + 1},"]`, `[aria-label^="Shot ${i + 1},"][aria-pressed=true]`));
  const ticks: number[] = [];
  for (let i = 0; i < 6; i++) {
    await page.getByLabel('Find on the score').fill(`bar ${101 + 8 * i}`);
    const began = performance.now();
    await page.keyboard.press('Enter');
    await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => setTimeout(r))));
    ticks.push(performance.now() - began);
  }
  const unfolded: number[] = [];
  for (let i = 0; i < 3; i++) {
    unfolded.push(await answered(page, 'button[data-testid=unfold]', '[data-testid=unfolded]'));
    await answered(page, 'button[data-testid=unfold]', 'button[data-testid=unfold][aria-pressed=false]');
  }
  const edits: number[] = [];
  await page.locator('[data-testid=layer] summary').first().click();
  const tick = '[data-testid=layer][open] input[type=checkbox]';
  for (let i = 0; i < 6; i++) edits.push(await answered(page, tick, i % 2 ? `${tick}:checked` : `${tick}:not(:checked)`));
  await page.goto(`${url}/batch`);
  await page.waitForFunction(() => window.fickleRibbonDoor !== undefined);
  const few = { ...fullProject(project), shots: fullProject(project).shots.slice(0, 5) };
  const short = join(scratch, 'large-short.zip');
  writeFileSync(short, zipSync({ ...files, 'project.json': new TextEncoder().encode(JSON.stringify(few)) }, { level: 0 }));
  await page.getByTestId('batch-files').setInputFiles(short);
  const made = await page.evaluate(() => window.fickleRibbonDoor?.render('mp4'));
  await page.context().close();
  if (!made) throw new Error('no film');
  const rate = made.frames / made.seconds;
  const of = `${SHOTS} shots of ${LAYERS} layers`;
  return [
    [
      `opening ${of}, against 3 s`,
      `${(3 / median(opened)).toFixed(2)}× as soon`,
      `${median(opened).toFixed(2)} s from the address to the strips`,
    ],
    [
      `a click on one of ${of}, against 200 ms`,
      `${(200 / median(clicks)).toFixed(2)}× as soon`,
      `median ${median(clicks).toFixed(0)} ms, slowest ${Math.max(...clicks).toFixed(0)} ms; to another bar ${median(ticks).toFixed(0)} ms, an edit ${median(edits).toFixed(0)} ms`,
    ],
    [
      `unfolding one of ${of}, against 1 s`,
      `${(1000 / median(unfolded)).toFixed(2)}× as soon`,
      `median ${median(unfolded).toFixed(0)} ms, slowest ${Math.max(...unfolded).toFixed(0)} ms`,
    ],
    [
      `export of shots of ${LAYERS} layers, two showing, 720p, against 20 frames a second`,
      `${(rate / 20).toFixed(2)}× that`,
      `${rate.toFixed(0)} frames a second`,
    ],
  ];
}

/** Bytes of all processes of a browser, each page of memory counted once; `profile` is part of its profile's path. */
export function browserMemory(profile = 'playwright_chromiumdev_profile'): number {
  const pids = execFileSync('pgrep', ['-f', `chromium.*${profile}`], { encoding: 'utf8' })
    .trim()
    .split('\n');
  let sum = 0;
  for (const pid of pids) {
    try {
      const text = readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8');
      sum += 1024 * Number(/^Pss:\s+(\d+)/m.exec(text)?.[1] ?? 0);
    } catch {
      // Ended meanwhile.
    }
  }
  return sum;
}

/** Makes a film another file of the same picture: a free box at its end with a number in it. */
export function otherBytes(file: string, number: number): void {
  const box = Buffer.alloc(64);
  box.writeUInt32BE(64, 0);
  box.write('free', 4);
  box.writeUInt32BE(number + 1, 8);
  appendFileSync(file, box);
}

/** Two hundred takes: how soon the score stands and what all the browser's processes take then, beyond the idle page. */
export async function manyTakesRow(fresh: () => Promise<Page>, url: string, demo: string, scratch: string): Promise<Row[]> {
  const page = await fresh();
  await openScore(page, url);
  await page.waitForTimeout(5000);
  const idle = browserMemory();
  const short = join(scratch, 'short.mp4');
  execFileSync('ffmpeg', ['-y', '-v', 'error', '-t', '8', '-i', join(demo, 'take-3-outfit-two.mp4'), '-c', 'copy', short]);
  const takes = Array.from({ length: 200 }, (_, i) => {
    const file = join(scratch, `many-${i}.mp4`);
    copyFileSync(short, file);
    otherBytes(file, i);
    return file;
  });
  await newProject(page);
  await page.getByRole('link', { name: 'Shoot', exact: true }).first().click();
  const began = performance.now();
  await page.getByTestId('media-files').setInputFiles([...takes, join(demo, 'half-load.m4a')]);
  await page.getByText('Song half-load.m4a').waitFor({ timeout: 600_000 });
  const imported = (performance.now() - began) / 1000;
  const at = performance.now();
  await page.goto(`${url}/score`);
  await page.getByTestId('score-line').first().waitFor();
  const opened = (performance.now() - at) / 1000;
  let most = 0;
  for (let i = 0; i < 30; i++) {
    await page.waitForTimeout(1000);
    most = Math.max(most, browserMemory());
  }
  await page.context().close();
  const more = (most - idle) / 1e6;
  return [
    [
      `memory of 200 takes on the score, against 1 GB beyond the idle page`,
      `${(more / 1000).toFixed(2)} of it`,
      `${more.toFixed(0)} MB; taken in within ${imported.toFixed(0)} s; the score within ${opened.toFixed(1)} s`,
    ],
  ];
}
