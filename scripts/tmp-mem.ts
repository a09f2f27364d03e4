import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { kept, saved } from '../e2e/helpers';
import { putProject } from '../e2e/stored';
import { CHROMIUM_ARGS, withEmptyScore } from './chromium';
import { withShot } from '../bench/long';
import { browserMemory } from '../bench/large';
const url = process.env.RIBBON_URL as string;
const secs = Number(process.env.SECS ?? 90);
const scratch = mkdtempSync('/tmp/mem-');
const P = scratch.split('/').pop() as string + '-profile';
const [once, long] = ['once.mp4', 'long.mp4'].map((n) => join(scratch, n));
execFileSync('ffmpeg', ['-y', '-v', 'error', '-i', 'public/demo/take-3-outfit-two.mp4', '-vf', 'scale=1920:1080', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-c:a', 'copy', once]);
execFileSync('ffmpeg', ['-y', '-v', 'error', '-stream_loop', '59', '-i', once, '-c', 'copy', '-t', String(secs), long]);
const ctx = await chromium.launchPersistentContext(join(scratch, P), { executablePath: '/usr/bin/chromium', args: CHROMIUM_ARGS, acceptDownloads: true, viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
await withEmptyScore(ctx);
await ctx.addInitScript('globalThis.__name ??= (f) => f');
const page = await ctx.newPage();
await page.goto(`${url}/plan`);
await page.getByText('1 filmed').nth(2).waitFor({ timeout: 90_000 });
await page.getByRole('button', { name: /Night laundrette/ }).click();
await page.getByRole('menuitem', { name: 'New project' }).click();
await page.getByRole('link', { name: 'Shoot', exact: true }).first().click();
await page.waitForTimeout(5000);
const idle = browserMemory(P);
await page.getByTestId('media-files').setInputFiles(long);
while ((await kept(page)).takes.length < 1) await page.waitForTimeout(500);
await putProject(page, withShot(await kept(page)));
await saved(page);
await page.goto(`${url}/deliver`);
await page.waitForTimeout(4000);
console.log('deliver before', ((browserMemory(P) - idle) / 1e6).toFixed(0));
const t0 = Date.now();
const film = page.waitForEvent('download', { timeout: 900_000 });
await page.getByRole('button', { name: /Make MP4/ }).click();
let going = true;
film.finally(() => { going = false; });
const seen: number[] = [];
const perProc = () => {
  const out: Record<string, number> = {};
  for (const pid of readdirSync('/proc')) {
    if (!/^\d+$/.test(pid)) continue;
    try {
      const cmd = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
      if (!cmd.includes(P)) continue;
      const type = /--type=([a-z-]+)/.exec(cmd)?.[1] ?? 'browser';
      const pss = Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0) / 1000;
      out[type] = Math.round((out[type] ?? 0) + pss);
    } catch {}
  }
  return out;
};
while (going) { seen.push(Math.round((browserMemory(P) - idle) / 1e6)); if (seen.length % 10 === 5) console.log(seen.at(-1), JSON.stringify(perProc())); await new Promise((r) => setTimeout(r, 700)); }
console.log('most', Math.max(...seen), 'secs', (Date.now() - t0) / 1000, seen.join(' '));
await ctx.close();
