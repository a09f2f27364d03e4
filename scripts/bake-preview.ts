/**
 * Makes the demo's film as the first page plays it: exported by the application itself, made smaller. `npx tsx scripts/bake-preview.ts`
 * after a build, and whenever `scripts/bake-film.ts` has made another film.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launchChromium } from './chromium';
import { startServer } from './server';

const OUT = 'public/demo/film';
/** The second whose picture stands there until the film plays. */
const POSTER = '12';
const server = await startServer();
const browser = await launchChromium();
try {
  const page = await (await browser.newContext({ acceptDownloads: true, viewport: { width: 1280, height: 800 } })).newPage();
  await page.goto(`${server.url}/plan`);
  await page.getByText('1 filmed').nth(2).waitFor({ timeout: 120_000 });
  await page.getByRole('link', { name: 'Deliver', exact: true }).first().click();
  const download = page.waitForEvent('download', { timeout: 900_000 });
  await page.getByRole('button', { name: /Make MP4/ }).click();
  const film = join(mkdtempSync(join(tmpdir(), 'preview-')), 'film.mp4');
  await (await download).saveAs(film);
  const picture = ['-vf', 'scale=640:360:flags=area', '-c:v', 'libx264', '-preset', 'veryslow', '-crf', '27', '-pix_fmt', 'yuv420p'];
  const sound = ['-c:a', 'aac', '-b:a', '96k', '-movflags', '+faststart', '-map_metadata', '-1'];
  execFileSync('ffmpeg', ['-y', '-v', 'error', '-i', film, ...picture, ...sound, `${OUT}.mp4`]);
  execFileSync('ffmpeg', [
    '-y',
    '-v',
    'error',
    '-ss',
    POSTER,
    '-i',
    film,
    '-frames:v',
    '1',
    '-vf',
    'scale=640:-1',
    '-q:v',
    '4',
    `${OUT}.jpg`,
  ]);
  console.log(`${OUT}.mp4: ${(statSync(`${OUT}.mp4`).size / 1e6).toFixed(1)} MB`);
} finally {
  await browser.close();
  server.stop();
}
