/** A take of ten minutes at 1080p from import to export: memory of the whole browser, how the page answers meanwhile, what a reload costs. */
import { execFileSync, spawn } from 'node:child_process';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { kept, newProject, saved } from '../e2e/helpers';
import { putProject } from '../e2e/stored';
import { CHROMIUM_ARGS, withEmptyScore } from '../scripts/chromium';
import type { Project } from '../src/core/document';
import { plainShot } from '../src/core/edit';
import { plainLayer, remapKeyAt } from '../src/core/layer';
import { browserMemory } from './large';

type Row = [string, string, string];
const PROFILE = 'ribbon-long-profile';

interface Answers {
  /** Milliseconds an event waited at most, and how many in a thousand waited over 100 ms. */
  longest: number;
  over: number;
}

/** A stretch of time, milliseconds of the clock. */
type Stretch = [number, number];

/**
 * Begins to watch how long the page keeps events waiting, a hundred a second; gives what was seen since it was last asked. What
 * waited while the memory was looked at is left out: the look holds the browser's memory still.
 */
async function watchAnswers(page: Page): Promise<(looks: readonly Stretch[]) => Promise<Answers>> {
  await page.evaluate(() => {
    let last = performance.now();
    const waits: [number, number][] = [];
    Object.assign(window, { waits });
    setInterval(() => {
      const now = performance.now();
      waits.push([performance.timeOrigin + last, performance.timeOrigin + now]);
      last = now;
    }, 10);
  });
  return async (looks) => {
    const seen = await page.evaluate(() => (window as unknown as { waits: [number, number][] }).waits.splice(0));
    return answersOf(seen, looks);
  };
}

/** What was waited for outside of the looks, of stretches that should last 10 ms each. */
function answersOf(seen: readonly Stretch[], looks: readonly Stretch[]): Answers {
  const own = seen.filter(([from, to]) => !looks.some((look) => look[0] < to && look[1] > from));
  const waits = own.map(([from, to]) => to - from - 10);
  return { longest: waits.reduce((a, b) => Math.max(a, b), 0), over: (1000 * waits.filter((w) => w > 100).length) / waits.length };
}

/**
 * A process that does nothing but look at the clock a hundred times a second: what it waits for, this machine makes everybody wait for.
 * Gives what it saw since it was last asked, as for the page.
 */
function watchIdle(): { since: (looks: readonly Stretch[]) => Promise<Answers>; stop: () => void } {
  const code = `let last = Date.now(); let waits = []; setInterval(() => { const now = Date.now(); waits.push([last, now]); last = now; }, 10);
    process.on('message', () => process.send(waits.splice(0)));`;
  const idle = spawn(process.execPath, ['-e', code], { stdio: ['ignore', 'ignore', 'inherit', 'ipc'] });
  return {
    since: async (looks) => {
      const waits = new Promise<Stretch[]>((resolve) => idle.once('message', (m) => resolve(m as Stretch[])));
      idle.send('now');
      return answersOf(await waits, looks);
    },
    stop: () => void idle.kill(),
  };
}

const told = ({ longest, over }: Answers) => `${longest.toFixed(0)} ms (${over.toFixed(1)} in 1000 over 100 ms)`;

/** Waits for something while the memory is watched; gives the most it came to, bytes, and when it was looked at. */
async function watched(work: Promise<unknown>): Promise<{ most: number; looks: Stretch[] }> {
  let most = 0;
  const looks: Stretch[] = [];
  let going = true;
  const end = work.finally(() => {
    going = false;
  });
  end.catch(() => undefined);
  while (going) {
    const from = Date.now();
    most = Math.max(most, browserMemory(PROFILE));
    looks.push([from - 1, Date.now() + 1]);
    await Promise.race([end.catch(() => undefined), new Promise((r) => setTimeout(r, 1000))]);
  }
  await end;
  return { most, looks };
}

/** The take on a shot as long as itself, at its own size. */
export function withShot(project: Project): Project {
  const [take] = project.takes;
  const layer = plainLayer('take', 'The take', 0, { kind: 'take', takeId: take.id }, [remapKeyAt(0, 0, 0)], { sound: 'kept' });
  const shot = plainShot('long', 'The take', { beat: 0, offset: 0 }, { beat: 1196, offset: 0 }, { layers: [layer] });
  return { ...project, frame: { ...project.frame, width: 1920, height: 1080 }, shots: [shot] };
}

export async function longRow(url: string, demo: string, scratch: string): Promise<Row[]> {
  const [once, long] = ['once.mp4', 'ten-minutes.mp4'].map((name) => join(scratch, name));
  const larger = ['-vf', 'scale=1920:1080', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-c:a', 'copy'];
  execFileSync('ffmpeg', ['-y', '-v', 'error', '-i', join(demo, 'take-3-outfit-two.mp4'), ...larger, once]);
  execFileSync('ffmpeg', ['-y', '-v', 'error', '-stream_loop', '59', '-i', once, '-c', 'copy', '-t', '600', long]);
  // A profile on disk, as users have: without one the browser keeps every stored file in memory.
  const context = await chromium.launchPersistentContext(join(scratch, PROFILE), {
    executablePath: '/usr/bin/chromium',
    args: CHROMIUM_ARGS,
    acceptDownloads: true,
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
  });
  await withEmptyScore(context);
  await context.addInitScript('globalThis.__name ??= (f) => f');
  const page = await context.newPage();
  await page.goto(`${url}/plan`);
  await page.getByText('1 filmed').nth(2).waitFor({ timeout: 90_000 });
  await newProject(page);
  await page.getByRole('link', { name: 'Shoot', exact: true }).first().click();
  await page.waitForTimeout(5000);
  const idle = browserMemory(PROFILE);
  const more = (bytes: number) => `${((bytes - idle) / 1e6).toFixed(0)} MB`;
  const answers = await watchAnswers(page);
  const others = watchIdle();
  const began = performance.now();
  await page.getByTestId('media-files').setInputFiles(long);
  const taken = async () => {
    while ((await kept(page)).takes.length < 1) await page.waitForTimeout(500);
  };
  const importing = await watched(taken());
  const imported = (performance.now() - began) / 1000;
  const importWait = await answers(importing.looks);
  const importIdle = await others.since(importing.looks);
  await page.getByRole('link', { name: 'Takes', exact: true }).first().click();
  const corner = page.getByRole('button', { name: /Measuring in the background/ });
  const start = performance.now();
  await page.getByText(/^Measuring ten-minutes/).waitFor({ timeout: 30_000 });
  await page.getByRole('link', { name: 'Score', exact: true }).first().click();
  await corner.waitFor();
  // Half of it, then a reload: what was measured is gone on from.
  const half = async () => {
    while (performance.now() - start < 60_000) await page.waitForTimeout(1000);
  };
  const measuring = [await watched(half())];
  const measureWait = await answers(measuring[0].looks);
  const measureIdle = await others.since(measuring[0].looks);
  await page.reload();
  await page.getByRole('link', { name: 'Takes', exact: true }).first().click();
  const seen = await page.getByText(/^Measuring ten-minutes/).textContent();
  measuring.push(await watched(corner.waitFor({ state: 'detached', timeout: 900_000 })));
  await page.getByText(/^Measuring ten-minutes/).waitFor({ state: 'detached', timeout: 900_000 });
  const measured = (performance.now() - start) / 1000;
  await putProject(page, withShot(await kept(page)));
  await saved(page);
  await page.goto(`${url}/deliver`);
  const again = await watchAnswers(page);
  await others.since([]);
  const made = performance.now();
  const film = page.waitForEvent('download', { timeout: 1_800_000 });
  await page.getByRole('button', { name: /Make MP4/ }).click();
  const exporting = await watched(film);
  const exported = (performance.now() - made) / 1000;
  const exportWait = await again(exporting.looks);
  const exportIdle = await others.since(exporting.looks);
  others.stop();
  await context.close();
  const measuringMost = Math.max(...measuring.map((m) => m.most));
  const most = Math.max(importing.most, measuringMost, exporting.most) - idle;
  return [
    [
      'memory of a 10-minute 1080p take from import to export, against 400 MB beyond the idle page',
      `${(most / 4e8).toFixed(2)} of it`,
      `taking in ${more(importing.most)}, measuring ${more(measuringMost)}, export ${more(exporting.most)}`,
    ],
    [
      'the same take: the longest an event waits, against 100 ms',
      `${(Math.max(importWait.longest, measureWait.longest, exportWait.longest) / 100).toFixed(2)} of it`,
      `taking in ${told(importWait)}, measuring ${told(measureWait)}, export ${told(exportWait)}`,
    ],
    [
      'a process beside it that does nothing: the longest it waits for a core meanwhile, against the page',
      `${(Math.max(importIdle.longest, measureIdle.longest, exportIdle.longest) / Math.max(importWait.longest, measureWait.longest, exportWait.longest)).toFixed(2)} of it`,
      `taking in ${told(importIdle)}, measuring ${told(measureIdle)}, export ${told(exportIdle)}`,
    ],
    [
      'the same take: measuring and export, against real time',
      `${(600 / measured).toFixed(1)}× and ${(600 / exported).toFixed(1)}×`,
      `taken in within ${imported.toFixed(0)} s, measured in ${measured.toFixed(0)} s with a reload after 60 s (then “${seen}”), export in ${exported.toFixed(0)} s`,
    ],
  ];
}
