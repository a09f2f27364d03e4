/** What further cores are worth when a film is made that is slow to draw. */
import { chmodSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { kept } from '../e2e/helpers';
import { putProject } from '../e2e/stored';
import { CHROMIUM, launchChromium } from '../scripts/chromium';
import { heavy } from './playing';
import { openScore } from './score';

/** Seconds that the film takes on the first so many cores. */
async function made(url: string, scratch: string, cores: number): Promise<number> {
  const program = join(scratch, `chromium-${cores}`);
  writeFileSync(program, `#!/bin/sh\nexec taskset -c 0-${cores - 1} ${CHROMIUM} "$@"\n`);
  chmodSync(program, 0o755);
  const browser = await launchChromium(program);
  try {
    const page = await browser.newPage();
    // What tsx writes around named functions, for those that run in the page.
    await page.addInitScript('globalThis.__name ??= (f) => f');
    page.setDefaultTimeout(300_000);
    await openScore(page, url);
    // On one core the demo takes its time.
    await page.locator('[data-saved=true]').waitFor();
    await page.waitForTimeout(20_000);
    await putProject(page, heavy(await kept(page)));
    await page.getByRole('link', { name: 'Deliver', exact: true }).first().click();
    await page.waitForTimeout(8000);
    const began = performance.now();
    const download = page.waitForEvent('download', { timeout: 600_000 });
    await page.getByRole('button', { name: /Make MP4/ }).click();
    const file = join(scratch, `cores-${cores}.mp4`);
    await (await download).saveAs(file);
    return (performance.now() - began) / 1000;
  } finally {
    await browser.close();
  }
}

export async function coresRow(url: string, scratch: string): Promise<[string, string, string]> {
  const count = Math.min(4, cpus().length);
  const [one, all] = [await made(url, scratch, 1), await made(url, scratch, count)];
  return [
    `making a film of six layers and four effects, ${count} cores against one`,
    (one / all).toFixed(2),
    `${one.toFixed(1)} s against ${all.toFixed(1)} s`,
  ];
}
