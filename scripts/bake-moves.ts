/**
 * Makes the small moving picture of every move: each laid on the demo's takes through the page, a few seconds of it from around the frame
 * it is best looked at. `npx tsx scripts/bake-moves.ts [KIND …]` after a build writes `public/moves/KIND.webp` and a still of each. Needs ffmpeg.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { kept } from '../e2e/helpers';
import { posterFrame } from '../src/core/edit';
import { shotFrames } from '../src/core/evaluate';
import { MOVES } from '../src/core/moves';
import { launchChromium, withEmptyScore } from './chromium';
import { startServer } from './server';

const OUT = 'public/moves';
const [WIDE, TALL] = [192, 108];
/** Every second frame of the film's 25, for so long at most. */
const [STEP, SECONDS] = [2, 3.2];
const wanted = process.argv.slice(2);

/** The film's picture at the playhead made small, once it shows that frame. */
async function pictureAt(page: Page, frame: number): Promise<Buffer> {
  await page.locator(`[data-testid=film-picture][data-frame="${frame}"]`).waitFor({ timeout: 30_000 });
  const url = await page.getByTestId('film-picture').evaluate(
    (from: HTMLCanvasElement, [width, height]) => {
      const to = document.createElement('canvas');
      Object.assign(to, { width, height });
      const page = to.getContext('2d');
      if (page) page.imageSmoothingQuality = 'high';
      page?.drawImage(from, 0, 0, width, height);
      return to.toDataURL('image/png');
    },
    [WIDE, TALL] as const,
  );
  return Buffer.from(url.slice(url.indexOf(',') + 1), 'base64');
}

/** Steps the playhead to a film frame by its keys. */
async function go(page: Page, from: number, to: number): Promise<void> {
  for (let n = from; n < to; n++) await page.keyboard.press('ArrowRight');
  for (let n = from; n > to; n--) await page.keyboard.press('ArrowLeft');
}

/** The frame that the picture rests on, all of it drawn. */
async function shown(page: Page): Promise<number> {
  const frame = async () => Number(await page.getByTestId('film-picture').getAttribute('data-frame'));
  let was = await frame();
  for (let still = 0; still < 20; still++) {
    await page.waitForTimeout(200);
    const now = await frame();
    if (now !== was) still = 0;
    was = now;
  }
  return was;
}

async function bake(page: Page, kind: (typeof MOVES)[number]): Promise<void> {
  await page.getByLabel('Find on the score').fill('bar 9');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'All moves…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: kind.words.name, exact: true }).click();
  await page.getByTestId('shot-strip').first().waitFor({ timeout: 180_000 });
  await page.waitForTimeout(800);
  const project = await kept(page);
  const [shot] = project.shots;
  const [first, end] = shotFrames(project, shot);
  const poster = posterFrame(project, shot);
  const length = Math.min(end - first, Math.round(SECONDS * 25));
  // More of what leads there than of what comes after.
  const begin = Math.max(first, Math.min(end - length, poster - Math.round(0.7 * length)));
  await page.getByTestId('where').click();
  let at = await shown(page);
  const folder = mkdtempSync(join(tmpdir(), 'move-'));
  const still = Math.min(Math.round((poster - begin) / STEP), Math.ceil(length / STEP) - 1);
  for (let k = 0; k * STEP < length; k++) {
    await go(page, at, begin + k * STEP);
    at = begin + k * STEP;
    writeFileSync(join(folder, `${String(k).padStart(3, '0')}.png`), await pictureAt(page, at));
  }
  const rate = String(25 / STEP);
  const webp = ['-c:v', 'libwebp_anim', '-lossless', '0', '-q:v', '45', '-compression_level', '6', '-loop', '0'];
  const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-y', '-v', 'error', ...args]);
  ffmpeg('-framerate', rate, '-i', join(folder, '%03d.png'), ...webp, join(OUT, `${kind.kind}.webp`));
  ffmpeg('-i', join(folder, `${String(still).padStart(3, '0')}.png`), '-q:v', '6', join(OUT, `${kind.kind}.jpg`));
  rmSync(folder, { recursive: true });
  await page.getByRole('button', { name: /^Undo: Lay/ }).click();
  await page.getByTestId('shot-strip').waitFor({ state: 'detached' });
}

mkdirSync(OUT, { recursive: true });
const server = await startServer();
const browser = await launchChromium();
const failed: string[] = [];
try {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })).newPage();
  page.setDefaultTimeout(30_000);
  await page.addInitScript('globalThis.__name ??= (f) => f');
  await withEmptyScore(page);
  await page.goto(`${server.url}/plan`);
  await page.getByText('1 filmed').nth(2).waitFor({ timeout: 120_000 });
  await page.getByRole('link', { name: 'Score', exact: true }).first().click();
  await page.getByTestId('film-picture').waitFor();
  for (const kind of MOVES) {
    if (wanted.length > 0 && !wanted.includes(kind.kind)) continue;
    try {
      await bake(page, kind);
    } catch (error) {
      failed.push(`${kind.kind}: ${String(error).slice(0, 200)}`);
      await page.reload();
      await page.getByTestId('film-picture').waitFor();
      for (const undo = page.getByRole('button', { name: /^Undo: Lay/ }); await undo.isVisible(); ) await undo.click();
    }
    console.log(kind.kind, failed.some((f) => f.startsWith(`${kind.kind}:`)) ? 'failed' : 'made');
  }
} finally {
  await browser.close();
  server.stop();
}
if (failed.length > 0) throw new Error(failed.join('\n'));
